"""The Atom Publishing Protocol (RFC 5023): documents as values, read from XML and written as XML (RFC 4287)."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any
from xml.etree import ElementTree as tree

from mobbet.core.document.characters import UNPRINTABLE
from mobbet.core.errors import BadInput
from mobbet.core.safe_xml import read_xml

ATOM, APP, XHTML = "http://www.w3.org/2005/Atom", "http://www.w3.org/2007/app", "http://www.w3.org/1999/xhtml"
HISTORY = "http://purl.org/syndication/history/1.0"
ENTRY_TYPE, FEED_TYPE = (
    "application/atom+xml;type=entry;charset=utf-8",
    "application/atom+xml;type=feed;charset=utf-8",
)
SERVICE_TYPE, CATEGORIES_TYPE = (
    "application/atomsvc+xml;charset=utf-8",
    "application/atomcat+xml;charset=utf-8",
)
ENTRY_ACCEPTED = "application/atom+xml;type=entry"
MEDIA_ACCEPTED = ("image/*", "audio/*", "video/*", "application/pdf")
MOST_CATEGORIES = 200
tree.register_namespace("", ATOM)
tree.register_namespace("app", APP)


@dataclass(frozen=True)
class Entry:
    """What a client sends of a post: `html` or `text` is its content (None for none), categories are names, `published` an RFC 3339 date or ''."""

    title: str = ""
    html: str | None = None
    text: str | None = None
    summary: str = ""
    categories: tuple[str, ...] = ()
    published: str = ""
    is_draft: bool = False


@dataclass(frozen=True)
class Link:
    """A link of an entry or a feed."""

    rel: str
    href: str
    type: str = ""


@dataclass(frozen=True)
class Member:
    """An entry as a client gets it; instants are RFC 3339. `content_src` is where a file is, with its type, instead of a text."""

    id: str
    title: str
    updated: str
    author: str
    links: tuple[Link, ...]
    published: str = ""
    summary: str = ""
    html: str = ""
    categories: tuple[str, ...] = ()
    is_draft: bool | None = None
    content_src: tuple[str, str] | None = None


def read_entry(data: bytes) -> Entry:
    """The entry of a request. Raises BadInput for what is no entry."""
    root = _parsed(data)
    if root.tag != f"{{{ATOM}}}entry":
        raise BadInput("This is no Atom entry: send an element “entry” of the namespace of Atom.", "entry")
    content = root.find(f"{{{ATOM}}}content")
    html, text = _content(content) if content is not None else (None, None)
    draft = root.find(f"{{{APP}}}control/{{{APP}}}draft")
    categories = [one.get("term", "").strip() for one in root.iterfind(f"{{{ATOM}}}category")][
        :MOST_CATEGORIES
    ]
    return Entry(
        _plain(root.find(f"{{{ATOM}}}title")), html, text, _plain(root.find(f"{{{ATOM}}}summary")), tuple(dict.fromkeys(filter(None, categories))),
        (root.findtext(f"{{{ATOM}}}published") or "").strip(), draft is not None and (draft.text or "").strip().lower() == "yes",
    )  # fmt: skip


def _parsed(data: bytes) -> Any:
    root = read_xml(data)
    if root is None:
        raise BadInput("This is no XML; send an Atom entry.", "entry")
    if root.getroottree().docinfo.doctype:
        raise BadInput("The entry has a document type, which no Atom entry has; leave it out.", "entry")
    return root


def _content(element: Any) -> tuple[str | None, str | None]:
    """(HTML, text) of a content: one of them."""
    kind = element.get("type", "text").lower()
    if element.get("src"):
        raise BadInput("The content of the entry is elsewhere (src); send it in the entry.", "entry")
    if kind in ("html", "text/html"):
        return element.text or "", None
    if kind == "xhtml":
        return _inner(element), None
    if kind in ("text", "text/plain"):
        return None, element.text or ""
    raise BadInput(f"Content of the type “{kind[:40]}” is not read; send text, html or xhtml.", "entry")


def _inner(element: Any) -> str:
    """The markup inside the `div` of an XHTML content."""
    from lxml import etree

    box = element.find(f"{{{XHTML}}}div")
    if box is None:
        return ""
    for one in box.iter():
        if isinstance(one.tag, str) and one.tag.startswith("{"):
            one.tag = one.tag.rpartition("}")[2]
    etree.cleanup_namespaces(box)
    return (box.text or "") + "".join(etree.tostring(one, encoding="unicode", method="html") for one in box)


def _plain(element: Any) -> str:
    """A text construct as plain text."""
    if element is None:
        return ""
    kind = element.get("type", "text").lower()
    if kind == "html":
        from selectolax.lexbor import LexborHTMLParser

        text = LexborHTMLParser(element.text or "").text()
    else:
        text = "".join(element.itertext())
    return " ".join(text.split())


def _clean(text: str) -> str:
    return UNPRINTABLE.sub("", text)


def _add(parent: Any, name: str, text: str = "", space: str = ATOM, **attributes: str) -> Any:
    element = tree.SubElement(
        parent, f"{{{space}}}{name}", {key: _clean(value) for key, value in attributes.items() if value}
    )
    if text:
        element.text = _clean(text)
    return element


def _fill(root: Any, member: Member) -> None:
    _add(root, "id", member.id)
    _add(root, "title", member.title)
    _add(root, "updated", member.updated)
    _add(root, "edited", member.updated, APP)
    if member.published:
        _add(root, "published", member.published)
    _add(_add(root, "author"), "name", member.author)
    for link in member.links:
        _add(root, "link", rel=link.rel, href=link.href, type=link.type)
    for name in member.categories:
        _add(root, "category", term=name)
    if member.summary or member.content_src:
        _add(root, "summary", member.summary, type="text")
    if member.content_src:
        _add(root, "content", src=member.content_src[0], type=member.content_src[1])
    elif member.html:
        _add(root, "content", member.html, type="html")
    if member.is_draft is not None:
        _add(_add(root, "control", space=APP), "draft", "yes" if member.is_draft else "no", APP)


def _written(root: Any) -> bytes:
    text: str = tree.tostring(root, encoding="unicode")
    return f'<?xml version="1.0" encoding="utf-8"?>\n{text}\n'.encode()


def entry_document(member: Member) -> bytes:
    """The document of an entry."""
    root = tree.Element(f"{{{ATOM}}}entry")
    _fill(root, member)
    return _written(root)


def feed_document(
    id: str, title: str, updated: str, links: Iterable[Link], members: Iterable[Member], history: str = ""
) -> bytes:
    """A part of a collection, or a feed; `history` is 'complete' for one that has all entries there are, 'archive' for one that
    changes no more (RFC 5005)."""
    root = tree.Element(f"{{{ATOM}}}feed")
    _add(root, "id", id)
    _add(root, "title", title)
    _add(root, "updated", updated)
    for link in links:
        _add(root, "link", rel=link.rel, href=link.href, type=link.type)
    for member in members:
        _fill(_add(root, "entry"), member)
    if history:
        _add(root, history, space=HISTORY)
    return _written(root)


def service_document(workspace: str, collections: Iterable[tuple[str, str, tuple[str, ...], str]]) -> bytes:
    """(title, address, what it accepts, address of its categories) of each collection."""
    root = tree.Element(f"{{{APP}}}service")
    space = _add(root, "workspace", space=APP)
    _add(space, "title", workspace)
    for title, href, accepts, categories in collections:
        collection = _add(space, "collection", space=APP, href=href)
        _add(collection, "title", title)
        for one in accepts:
            _add(collection, "accept", one, APP)
        if categories:
            _add(collection, "categories", space=APP, href=categories)
    return _written(root)


def categories_document(names: Iterable[str]) -> bytes:
    """The names under which posts are filed; others may be used too."""
    root = tree.Element(f"{{{APP}}}categories", {"fixed": "no"})
    for name in names:
        _add(root, "category", term=name)
    return _written(root)
