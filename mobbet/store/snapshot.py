"""The facts of one blog as they stand at one instant, asked for piece by piece."""

from __future__ import annotations

import json
from collections.abc import Iterator
from functools import cached_property
from typing import Any

from mobbet.core.document import schema
from mobbet.core.facts import House, OutPost, PictureFile, Subject
from mobbet.store import blogs, filing, media
from mobbet.store.database import Database, Row

_POST = """
SELECT placement.post_id AS id, placement.revision, path, audience, title, subtitle, name AS author,
    zone, goes_out, shows_from, excerpt, description, categories, tags, media
FROM placement JOIN revision ON revision.post_id = placement.post_id AND number = placement.revision
    JOIN person ON person.id = placement.author_id
"""


class SiteSnapshot:
    """Answers `publish.plan`'s questions with indexed queries; costs nothing for what is not asked."""

    def __init__(self, db: Database, blog_id: int, instant: int) -> None:
        self._db = db
        self._blog = blogs.by_id(db, blog_id)
        self.instant = instant
        self._counts: dict[str, int] = {}

    @cached_property
    def house(self) -> House:
        blog = self._blog
        return House(blog.name, blog.tagline, blog.zone, blog.language, blog.home, blog.design, blog.posts_on_page)

    def post(self, post_id: int) -> OutPost | None:
        """The post as it is out at the instant, for whatever audience."""
        return _out(self._db.one(
            _POST + " WHERE placement.post_id = ? AND shows_from <= ? AND shows_until > ? ORDER BY placement.id DESC LIMIT 1",
            post_id, self.instant, self.instant,
        ))  # fmt: skip

    def body(self, post: OutPost) -> dict[str, Any]:
        return schema.load(self._db.value("SELECT body FROM revision WHERE post_id = ? AND number = ?", post.id, post.revision))

    def post_ids(self) -> Iterator[int]:
        """Every post that is out at the instant, for whatever audience."""
        rows = self._db.all(
            "SELECT DISTINCT post_id FROM placement WHERE blog_id = ? AND shows_from <= ? AND shows_until > ? ORDER BY goes_out, post_id",
            self._blog.id, self.instant, self.instant,
        )  # fmt: skip
        return (row[0] for row in rows)

    def count(self, key: str) -> int:
        """How many posts stand on a list; counted once."""
        if key not in self._counts:
            self._counts[key] = self._db.value(
                "SELECT COUNT(*) FROM listing WHERE blog_id = ? AND list = ? AND shows_from <= ? AND shows_until > ?",
                self._blog.id, key, self.instant, self.instant,
            )  # fmt: skip
        return self._counts[key]

    def has_any(self, key: str) -> bool:
        return self._db.value(
            "SELECT 1 FROM listing WHERE blog_id = ? AND list = ? AND shows_from <= ? AND shows_until > ? LIMIT 1",
            self._blog.id, key, self.instant, self.instant,
        ) is not None  # fmt: skip

    def rank(self, key: str, goes_out: int, post_id: int) -> int:
        """How many posts of a list stand before that place; the fewer after it, the quicker."""
        return self.count(key) - self._db.value(
            "SELECT COUNT(*) FROM listing WHERE blog_id = ? AND list = ? AND (goes_out, post_id) >= (?, ?) AND shows_from <= ? AND shows_until > ?",
            self._blog.id, key, goes_out, post_id, self.instant, self.instant,
        )  # fmt: skip

    def window(self, key: str, start: int, most: int) -> list[OutPost]:
        """Posts of a list from the oldest on, beginning with number `start` (from 0)."""
        count = self.count(key)
        end = min(start + most, count)
        if 2 * start > count:  # nearer to the newest: walked from there
            return self._listed("ORDER BY goes_out DESC, post_id DESC LIMIT ? OFFSET ?", key, max(0, end - start), count - end)[::-1]
        return self._listed("ORDER BY goes_out, post_id LIMIT ? OFFSET ?", key, most, start)

    def newest(self, key: str, most: int) -> list[OutPost]:
        """The newest posts of a list, newest first."""
        return self._listed("ORDER BY goes_out DESC, post_id DESC LIMIT ?", key, most)

    def older(self, goes_out: int, post_id: int) -> OutPost | None:
        """The post of the blog's list just before that place."""
        found = self._listed("AND (goes_out, post_id) < (?, ?) ORDER BY goes_out DESC, post_id DESC LIMIT 1", "all", goes_out, post_id)
        return found[0] if found else None

    def newer(self, goes_out: int, post_id: int) -> OutPost | None:
        """The post of the blog's list just after that place."""
        found = self._listed("AND (goes_out, post_id) > (?, ?) ORDER BY goes_out, post_id LIMIT 1", "all", goes_out, post_id)
        return found[0] if found else None

    def lists(self, start: str = "") -> list[str]:
        """The lists with that beginning on which a post stands now, in alphabetical order."""
        found = []
        key = start
        operator = ">="
        while True:
            key = self._db.value(
                f"SELECT list FROM listing WHERE blog_id = ? AND list {operator} ? ORDER BY list LIMIT 1", self._blog.id, key
            )
            if key is None or not key.startswith(start):
                return found
            if self.has_any(key):
                found.append(key)
            operator = ">"

    @cached_property
    def categories(self) -> dict[int, Subject]:
        rows = filing.categories(self._db, self._blog.id)
        return {row.id: Subject(row.id, row.name, row.slug, row.parent_id) for row in rows}

    def tags(self, numbers: tuple[int, ...]) -> list[Subject]:
        return [Subject(tag.id, tag.name, tag.slug) for tag in filing.tags(self._db, list(numbers))]

    def picture_files(self, media_id: int) -> list[PictureFile]:
        return media.files(self._db, media_id)

    def media_audiences(self, media_id: int) -> list[str]:
        """The audiences of the posts that show a picture at the instant."""
        return [
            row[0]
            for row in self._db.all(
                "SELECT DISTINCT audience FROM placement_media JOIN placement ON placement.id = placement_id"
                " WHERE media_id = ? AND shows_from <= ? AND shows_until > ?",
                media_id, self.instant, self.instant,
            )
        ]  # fmt: skip

    def former_paths(self, post_id: int) -> list[str]:
        """The addresses a post has had up to the instant."""
        return [row[0] for row in self._db.all("SELECT path FROM address WHERE post_id = ? AND since <= ? ORDER BY path", post_id, self.instant)]

    def owner_of(self, path: str) -> int | None:
        """The post that has, or had, that address at the instant."""
        return self._db.value("SELECT post_id FROM address WHERE blog_id = ? AND path = ? AND since <= ?", self._blog.id, path, self.instant)

    def _listed(self, rest: str, key: str, *values: int) -> list[OutPost]:
        rows = self._db.all(
            "SELECT placement_id FROM listing WHERE blog_id = ? AND list = ? AND shows_from <= ? AND shows_until > ? " + rest,
            self._blog.id, key, self.instant, self.instant, *values,
        )  # fmt: skip
        return [_out(self._db.one(_POST + " WHERE placement.id = ?", row[0])) for row in rows]


def _out(row: Row | None) -> OutPost | None:
    if row is None:
        return None
    values = dict(row)
    values["updated"] = max(values.pop("shows_from"), values["goes_out"])
    for name in ("categories", "tags", "media"):
        values[name] = tuple(json.loads(values[name]))
    return OutPost(**values)
