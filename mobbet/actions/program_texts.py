"""The text of a post that a program sends as properties of microformats2: what it is about, its files, its content."""

from __future__ import annotations

from typing import Any

from mobbet.actions import library
from mobbet.actions.imports import FILE_SECONDS, read_with_pictures
from mobbet.actions.program_posts import ProgramPictures, media_at
from mobbet.actions.programs import Grant
from mobbet.actions.workshop import Workshop
from mobbet.core.document import schema
from mobbet.core.document.from_plain import from_plain
from mobbet.core.document.links import clean_address, media_src
from mobbet.core.document.text import plain
from mobbet.core.errors import MobbetError
from mobbet.core.micropub import Properties, invalid, text_of, texts_of
from mobbet.core.names import one_line
from mobbet.core.web_addresses import split_address

ABOUT = {
    "in-reply-to": "In reply to",
    "bookmark-of": "Bookmark:",
    "like-of": "Liked:",
    "repost-of": "Repost of",
}
"""{property of what a post is about: the words before the link}."""
LONGEST_TITLE, MOST_PICTURES, LARGEST_PICTURE = 80, 50, 50_000_000


def title_of(properties: Properties, document: dict[str, Any]) -> str:
    """The name, or the first words of the text."""
    name = one_line(text_of(properties, "name") or "")
    if name:
        return name
    words = " ".join(plain({"type": "doc", "content": document["content"]}).split())
    return words if len(words) <= LONGEST_TITLE else words[:LONGEST_TITLE].rpartition(" ")[0] + " …"


def text_of_properties(workshop: Workshop, grant: Grant, properties: Properties) -> dict[str, Any]:
    """The text of properties: what it is about, its files, its content."""
    content = _content(workshop, grant, (properties.get("content") or [""])[0])
    blocks = [
        _about(words, one_line(address))
        for name, words in ABOUT.items()
        for address in texts_of(properties, name) or []
    ]
    told = texts_of(properties, "mp-photo-alt") or []
    for at, value in enumerate(properties.get("photo", [])[:MOST_PICTURES]):
        blocks.append(_picture(workshop, grant, value, told[at] if at < len(told) else ""))
    for name, kind in (("video", "video"), ("audio", "sound")):
        blocks += [
            _recording(workshop, grant, kind, value) for value in properties.get(name, [])[:MOST_PICTURES]
        ]
    if blocks and content["content"] == [{"type": "paragraph", "attrs": {"align": "start"}}]:
        content = {"type": "doc", "content": []}
    return schema.check({"type": "doc", "content": [*blocks, *content["content"]]})


def _content(workshop: Workshop, grant: Grant, value: Any) -> dict[str, Any]:
    if isinstance(value, dict) and isinstance(value.get("html"), str):
        pictures = ProgramPictures(workshop, grant)
        return dict(
            read_with_pictures(
                workshop,
                "html",
                value["html"].encode("utf-8", "replace"),
                pictures,
                FILE_SECONDS,
                "The content",
            ).document
        )
    text = value.get("value", "") if isinstance(value, dict) else value
    if not isinstance(text, str) or len(text) > 2_000_000:
        raise invalid("“content” has a value that is neither text nor an object with “html”.")
    document: dict[str, Any] = workshop.services.heavy(
        from_plain, text, seconds=FILE_SECONDS, what="The content"
    )
    return document


def _about(words: str, address: str) -> dict[str, Any]:
    """A paragraph that leads to what a post is about."""
    if clean_address(address) != address or not address.startswith(("http://", "https://")):
        raise invalid(f"“{address[:80]}” is no address that a post can be about.")
    parts = split_address(address)
    shown = f"{parts.hostname}{parts.path.rstrip('/')}"[:120]
    link = {"type": "link", "attrs": {"href": address}}
    return {
        "type": "paragraph",
        "content": [{"type": "text", "text": f"{words} "}, {"type": "text", "text": shown, "marks": [link]}],
    }


def _picture(workshop: Workshop, grant: Grant, value: Any, alt: str) -> dict[str, Any]:
    """A picture with what it shows, from its own value or from beside it."""
    if isinstance(value, dict):
        value, alt = value.get("value", ""), str(value.get("alt", ""))
    return {"type": "picture", "attrs": {"src": _item(workshop, grant, value), "alt": one_line(alt)[:2000]}}


def _recording(workshop: Workshop, grant: Grant, kind: str, value: Any) -> dict[str, Any]:
    src = _item(workshop, grant, value.get("value", "") if isinstance(value, dict) else value)
    return {"type": kind, "attrs": {"src": src}} if src.startswith("media:") else _about("Recording:", src)


def _item(workshop: Workshop, grant: Grant, value: Any) -> str:
    """The address in a text of a file: of the library, or of elsewhere, from where a picture is brought."""
    if isinstance(value, int):
        return media_src(value)
    address = str(value)
    known = media_at(workshop, grant.blog, address)
    if known is not None:
        return media_src(known)
    if clean_address(address) != address or not address.startswith(("http://", "https://")):
        raise invalid(f"“{address[:80]}” is no address of a file.")
    try:
        body = workshop.services.fetch(address, LARGEST_PICTURE).body
        name = split_address(address).path.rpartition("/")[2] or "picture"
        return media_src(library.add_picture(workshop, grant.person, grant.blog, name, body).id)
    except MobbetError:
        return address
