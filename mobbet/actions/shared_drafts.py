"""A draft of what another program shares: a title, words or an address, and files."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any, BinaryIO

from mobbet.actions import library, posts
from mobbet.actions.access import blog_for
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.document.links import media_src
from mobbet.core.errors import BadInput
from mobbet.core.media.kinds import FILE
from mobbet.store import posts as post_store
from mobbet.store.media import Media
from mobbet.store.people import Person
from mobbet.store.posts import Post

MOST_FILES = 30


def make(
    workshop: Workshop, person: Person, blog_slug: str, title: str, words: str, files: Iterable[tuple[str, BinaryIO]],
) -> Post:  # fmt: skip
    """A new draft with the words as a paragraph and the files below it, each kept in the library. Raises BadInput for a file it does not keep."""
    blog = blog_for(workshop, person, blog_slug)
    given = list(files)
    if len(given) > MOST_FILES:
        raise BadInput(f"{len(given)} files are too many at once; share at most {MOST_FILES}.", "files")
    with changing(workshop, person):
        kept = [library.add_stream(workshop, person, blog, name, stream) for name, stream in given]
        blocks = [*_paragraphs(words), *map(_block, kept)]
        post = posts.begin_post(workshop, person, blog_slug)
        body = {"type": "doc", "content": blocks or [{"type": "paragraph"}]}
        posts.save_text(
            workshop, person, post.id, base=post.revision, title=title[:300], subtitle="", body=body
        )
    return post_store.again(workshop.db, post)


def _paragraphs(words: str) -> list[dict[str, Any]]:
    """The words as text; an address in them becomes a link, and nothing else is read as notation."""
    return [{"type": "paragraph", "content": [_linked(part) for part in _parts(words)]}] if words else []


def _parts(words: str) -> list[str]:
    parts: list[str] = []
    for word in words.split(" "):
        if parts and not _is_address(word) and not _is_address(parts[-1].strip()):
            parts[-1] += f" {word}"
        else:
            parts.append(f" {word}" if parts else word)
    return parts


def _is_address(word: str) -> bool:
    return word.startswith(("https://", "http://")) and len(word) > 10


def _linked(part: str) -> dict[str, Any]:
    if not _is_address(part.strip()):
        return {"type": "text", "text": part}
    return {"type": "text", "text": part, "marks": [{"type": "link", "attrs": {"href": part.strip()}}]}


def _block(item: Media) -> dict[str, Any]:
    words = {"words": item.name} if item.kind == FILE else {}
    return {"type": item.kind, "attrs": {"src": media_src(item.id), **words}}
