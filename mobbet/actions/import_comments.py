"""Imports the comments of an older site (RFC 4685), once their posts are there."""

from __future__ import annotations

from collections.abc import Iterator

from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput
from mobbet.core.importing.item import Item, NotRead, Reply
from mobbet.core.timing import read_instant
from mobbet.core.web_addresses import split_address
from mobbet.store import comments, imports, stale
from mobbet.store.blogs import Blog
from mobbet.store.comments import Comment
from mobbet.store.people import Person

MOST, BATCH = 200_000, 500


class Replies:
    """Comments that a source has among its posts. They are written at the end, since a feed may name them first."""

    def __init__(self, workshop: Workshop, person: Person, blog: Blog) -> None:
        self._workshop, self._person, self._blog = workshop, person, blog
        self._found: list[Reply] = []
        self._posts: dict[str, int] = dict(imports.known(workshop.db, blog.id))

    def apart(self, items: Iterator[Item | NotRead | Reply]) -> Iterator[Item | NotRead]:
        """The posts alone; comments are kept for later."""
        for item in items:
            if not isinstance(item, Reply):
                yield item
            elif len(self._found) < MOST:
                self._found.append(item)

    def know(self, key: str, post: int, addresses: tuple[str, ...]) -> None:
        """Notes which post a key and addresses of the source are."""
        if post:
            self._posts |= dict.fromkeys((key, *addresses), post)

    def write(self) -> Iterator[str]:
        """Writes the comments on posts that are there, and those that answer them, each once; the key of each."""
        made: dict[str, tuple[int, int | None]] = {}
        for start in range(0, len(self._found), BATCH):
            written = []
            with changing(self._workshop, self._person, "comments of an older site were imported"):
                for one in self._found[start : start + BATCH]:
                    if self._write(one, made):
                        written.append(one.key)
            yield from written

    def _write(self, one: Reply, made: dict[str, tuple[int, int | None]]) -> bool:
        db = self._workshop.db
        above = next((made[to] for to in one.to if to in made), None)
        post = above[0] if above else next((number for to in one.to if (number := self._post_at(to))), None)
        if post is None or not one.text or comments.is_there(db, post, one.name, one.text):
            return False
        number = comments.add(
            db,
            Comment(
                id=0, blog_id=self._blog.id, post_id=post, answers=above[1] if above else None, person_id=None, is_ours=0, name=one.name or "Somebody", email="",
                text=one.text, state="shown", made_at=self._instant(one.published), settled_by=self._person.id,
            ),
        )  # fmt: skip
        made[one.key] = (post, number if above is None else above[1])
        stale.mark_fact(db, self._blog.id, "comments", post)
        return True

    def _post_at(self, to: str) -> int | None:
        return self._posts.get(to) or self._posts.get(split_address(to).path if "://" in to else to)

    def _instant(self, published: str) -> int:
        try:
            return read_instant(published, self._blog.zone) if published else self._workshop.clock()
        except BadInput:
            return self._workshop.clock()
