"""The render cache in the database, one row a post."""

from __future__ import annotations

import json
from collections.abc import Iterable
from typing import NamedTuple

from mobbet.store.database import Database


class Cached(NamedTuple):
    """A post's card, and its text for its page, packed; each with the digest of all it follows from ('' where there is none yet)."""

    post_id: int
    card_key: str = ""
    card: bytes = b""
    page_key: str = ""
    page: bytes = b""


def of_posts(db: Database, posts: Iterable[int]) -> dict[int, Cached]:
    """{post: what is kept of it}, of those of which something is."""
    rows = db.all(
        "SELECT * FROM cached WHERE post_id IN (SELECT value FROM JSON_EACH(?))", json.dumps(list(posts))
    )
    return {row[0]: Cached(*row) for row in rows}


def put(db: Database, rows: Iterable[Cached]) -> None:
    """Keeps these in the place of what was kept of the same posts; a post that is gone by now is left out.

    One process may have computed only the card of a post and another one its text too: an empty value never replaces one.
    """
    db.run_many(
        "INSERT INTO cached SELECT ?1, ?2, ?3, ?4, ?5 WHERE EXISTS (SELECT 1 FROM post WHERE id = ?1)"
        " ON CONFLICT (post_id) DO UPDATE SET"
        " card_key = IIF(excluded.card_key = '', card_key, excluded.card_key), card = IIF(excluded.card_key = '', card, excluded.card),"
        " page_key = IIF(excluded.page_key = '', page_key, excluded.page_key), page = IIF(excluded.page_key = '', page, excluded.page)",
        rows,
    )
