"""What of an earlier edition readers may get again: restrictions as they are now always win.

A post that is restricted now, was set aside or removed, does not come back, and neither does a page of the earlier edition that names it: those
stay as they are, and so does the page of a post below which a comment was taken off since. A file of the library gets the audience that the posts which show it have now.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from html import escape
from urllib.parse import quote

from mobbet.core.audience import EVERYONE, audience_of, covers, widest
from mobbet.core.facts import Comment
from mobbet.core.keys import PageKey
from mobbet.core.permalinks import short_path
from mobbet.core.values import existing
from mobbet.store import editions, placements, posts
from mobbet.store.database import Database
from mobbet.store.editions import PageRow
from mobbet.store.snapshot import SiteSnapshot

MOST_LETTERS = 2_000
"""How far into an address the path of a post may begin."""
_COMMENT = re.compile(rb'<li id="comment-(\d{1,18})"[ >]')
_ADDRESS = re.compile(rb"""(?<!<)/[^\s"'<>#?]*""")


@dataclass(frozen=True)
class Restoration:
    """The rows that come back, the keys that end, and the rows that do not come back, each with the posts that are the reason."""

    rows: list[PageRow]
    ended: list[PageKey]
    withheld: dict[PageKey, set[int]]

    @property
    def reasons(self) -> set[int]:
        """The posts because of which something does not come back."""
        return set().union(*self.withheld.values())


def restoration(
    db: Database, blog_id: int, number: int, read: Callable[[PageRow], bytes | None], instant: int
) -> Restoration:
    """What putting an edition back comes to now; `read` answers with the bytes of a page."""
    current = editions.current_number(db, blog_id)
    old = editions.differing(db, blog_id, number, current)
    now = editions.differing(db, blog_id, current, number)
    then = existing(editions.by_number(db, blog_id, number)).instant
    snapshot = SiteSnapshot(db, blog_id, instant)
    restricted = {
        post_id: row
        for post_id, row in editions.post_pages_at(db, blog_id, number).items()
        if not _is_open(db, blog_id, post_id, row, then, instant)
    }
    named = _Named(restricted)
    rows, withheld = [], {}
    for key, row in old.items():
        reasons = _reasons(db, snapshot, row, restricted, named, read)
        if reasons:
            withheld[key] = reasons
        else:
            rows.append(_with_audience(snapshot, row))
    return Restoration(rows, [key for key in now if key not in withheld], withheld)


def _is_open(db: Database, blog_id: int, post_id: int, was: PageRow, then: int, instant: int) -> bool:
    """Whether everybody who could read a post in an edition, and find it in lists, still may."""
    post = posts.by_id(db, post_id)
    if post is None or post.blog_id != blog_id or post.aside_at is not None:
        return False
    rows = placements.of_post(db, post_id)
    live, before = (placements.shown_at(rows, at) for at in (instant, then))
    audience = live.audience if live else audience_of(post.visibility, post.author_id, post_id)
    if audience.startswith("password:"):
        return (live is not None and before is not None) and (audience, live.listed) == (
            was.audience,
            before.listed,
        )
    return covers(audience, was.audience)


def _reasons(
    db: Database,
    snapshot: SiteSnapshot,
    row: PageRow,
    restricted: dict[int, PageRow],
    named: _Named,
    read: Callable[[PageRow], bytes | None],
) -> set[int]:
    """The restricted posts that a page is of, or names."""
    if row.key.kind == "post" and row.key.number not in restricted:
        if _comments_of(read(row) or b"") - {one.id for one in _flat(snapshot.comments(row.key.number))}:
            return {row.key.number}
    if not restricted:
        return set()
    if row.key.kind in ("post", "short", "card"):
        if row.key.number in restricted:
            return {row.key.number}
    if row.leads_to is not None:
        return named.at(row.path) | named.at(row.leads_to)
    if row.key.kind == "media":
        if snapshot.media_audiences(row.key.number):
            return set()
        return restricted.keys() & set(placements.that_showed(db, row.key.number))
    if row.shelf != "pages" or row.is_made_on_request:
        return set()
    return named.in_page(read(row) or b"")


def _comments_of(body: bytes) -> set[int]:
    """The comments that a page shows."""
    return {int(number) for number in _COMMENT.findall(body)}


def _flat(shown: list[Comment]) -> Iterator[Comment]:
    for one in shown:
        yield one
        yield from one.answers


def _with_audience(snapshot: SiteSnapshot, row: PageRow) -> PageRow:
    """A file of the library for those who may see one of the posts that show it now."""
    audience = widest(snapshot.media_audiences(row.key.number)) if row.key.kind == "media" else None
    return row._replace(audience=audience) if audience not in (None, EVERYONE) else row


class _Named:
    """Finds the restricted posts that a page names, by their addresses in that edition."""

    def __init__(self, restricted: dict[int, PageRow]) -> None:
        self._posts = {row.path: post_id for post_id, row in restricted.items()}
        self._spelled = {
            spelling.encode(): post_id
            for path, post_id in self._posts.items()
            for spelling in (path, quote(path), escape(path), short_path(post_id))
        }

    def at(self, path: str) -> set[int]:
        return {self._posts[path]} if path in self._posts else set()

    def in_page(self, body: bytes) -> set[int]:
        """The posts whose addresses a page has. They may begin with the site's own address and the folder that it lies in."""
        return {
            self._spelled[end]
            for address in set(_ADDRESS.findall(body))
            for end in _ends(address[:MOST_LETTERS])
            if end in self._spelled
        }


def _ends(address: bytes) -> Iterator[bytes]:
    """What an address is from each of its slashes on."""
    at = 0
    while at >= 0:
        yield address[at:]
        at = address.find(b"/", at + 1)
