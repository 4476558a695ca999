"""Reads and writes the filing of posts: in the database, or in memory for a dry run."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from mobbet.core.keys import ListName
from mobbet.store import addresses, filed, stale
from mobbet.store.database import Database
from mobbet.store.filed import FiledPlacement, Numbers

Owner = tuple[str, int]
Docket = tuple[Numbers, Numbers]
"""The categories of a post, the main one first, and its tags."""
Pair = tuple[FiledPlacement, FiledPlacement]
"""A placement as it is, and as it shall be."""


class FilingWriter:
    """The filing of one data folder, in its database."""

    def __init__(self, db: Database) -> None:
        self._db = db

    def dockets(self, post_ids: Iterable[int]) -> dict[int, Docket]:
        return filed.dockets(self._db, post_ids)

    def rows(self, post_ids: Iterable[int]) -> list[FiledPlacement]:
        """Every placement of these posts, by post and in the order they were made."""
        return filed.of_posts(self._db, post_ids)

    def owners(self, blog_id: int, paths: list[str]) -> dict[str, Owner]:
        """What has, or ever had, these addresses."""
        return addresses.owners(self._db, blog_id, paths)

    def set_dockets(self, before: Mapping[int, Docket], dockets: Mapping[int, Docket], now: int) -> None:
        filed.set_dockets(self._db, before, dockets, now)

    def put(self, pairs: list[Pair], lists: Mapping[Numbers, tuple[ListName, ...]] | None, now: int) -> None:
        """Writes placements with their addresses, and with the lists that follow from their categories; with None, those stay."""
        filed.refile(self._db, pairs)
        filed.take_addresses(self._db, [new for old, new in pairs if new.path != old.path], now)
        if lists is not None:
            wanted = [line for _, new in pairs for line in filed.listing_rows(new, lists[new.categories])]
            filed.set_listings(self._db, [new.id for _, new in pairs], wanted, now)

    def mark(self, blog_id: int, post_ids: Iterable[int]) -> None:
        """Notes posts for the next edition."""
        stale.mark_posts(self._db, blog_id, *post_ids)


class FilingDryRun(FilingWriter):
    """The same while a change is tried: what is written stays in memory, beside how it stood before."""

    def __init__(self, db: Database) -> None:
        super().__init__(db)
        self._before: dict[int, FiledPlacement] = {}
        self._after: dict[int, FiledPlacement] = {}
        self._dockets: dict[int, Docket] = {}
        self._taken: dict[str, Owner] = {}

    def shown(self, instant: int) -> tuple[dict[int, FiledPlacement], dict[int, FiledPlacement]]:
        """{post: what shows of it at an instant} of the posts that the change concerns, before and after it."""
        before, after = (
            {row.post_id: row for row in rows.values() if row.shows_from <= instant < row.shows_until}
            for rows in (self._before, self._after)
        )
        return before, after

    def dockets(self, post_ids: Iterable[int]) -> dict[int, Docket]:
        return {
            post_id: self._dockets.get(post_id, docket)
            for post_id, docket in super().dockets(post_ids).items()
        }

    def rows(self, post_ids: Iterable[int]) -> list[FiledPlacement]:
        return [self._after.get(row.id, row) for row in super().rows(post_ids)]

    def owners(self, blog_id: int, paths: list[str]) -> dict[str, Owner]:
        return {
            **super().owners(blog_id, paths),
            **{path: self._taken[path] for path in paths if path in self._taken},
        }

    def set_dockets(self, before: Mapping[int, Docket], dockets: Mapping[int, Docket], now: int) -> None:
        self._dockets.update(dockets)

    def put(self, pairs: list[Pair], lists: Mapping[Numbers, tuple[ListName, ...]] | None, now: int) -> None:
        for old, new in pairs:
            self._before.setdefault(old.id, old)
            self._after[new.id] = new
            if new.path != old.path:
                self._taken[new.path] = ("post", new.post_id)

    def mark(self, blog_id: int, post_ids: Iterable[int]) -> None:
        known = {row.post_id for row in self._after.values()}
        self.put(
            [(row, row) for row in self.rows([post_id for post_id in post_ids if post_id not in known])],
            None,
            0,
        )
