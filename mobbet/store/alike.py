"""Posts on the same matter: what is kept of them, and what they are found by."""

from __future__ import annotations

import json
from collections.abc import Iterable
from dataclasses import dataclass

from mobbet.core.audience import EVERYONE
from mobbet.store.database import Database, data_of


@dataclass(frozen=True)
class Alike:
    """`other_id` stands below `post_id`; the higher the score, the sooner."""

    blog_id: int
    post_id: int
    other_id: int
    score: float
    reason: str


def of_post(db: Database, post_id: int) -> list[Alike]:
    """The posts that are kept for one, those first that share most."""
    return [
        Alike(**data_of(row))
        for row in db.all("SELECT * FROM alike WHERE post_id = ? ORDER BY score DESC, other_id DESC", post_id)
    ]


def showing(db: Database, post_id: int) -> list[int]:
    """The posts for which a post is kept, or that put it first."""
    return db.column(
        "SELECT post_id FROM alike WHERE other_id = ?1 UNION SELECT placement.post_id FROM placement, JSON_EACH(placement.alike ->> '$.pinned') WHERE placement.alike <> '' AND value = ?1",
        post_id,
    )


def replace(db: Database, post_id: int, rows: Iterable[Alike]) -> None:
    """Keeps these for a post, and no others."""
    db.run("DELETE FROM alike WHERE post_id = ?", post_id)
    db.run_many("INSERT INTO alike VALUES (?, ?, ?, ?, ?)", [tuple(vars(row).values()) for row in rows])


def due(db: Database, most: int) -> list[int]:
    return db.column("SELECT post_id FROM alike_due ORDER BY post_id LIMIT ?", most)


def set_due(db: Database, post_id: int, is_due: bool) -> None:
    if is_due:
        db.run(
            "INSERT INTO alike_due SELECT ?1 WHERE NOT EXISTS (SELECT 1 FROM alike_due WHERE post_id = ?1)",
            post_id,
        )
    else:
        db.run("DELETE FROM alike_due WHERE post_id = ?", post_id)


def frequencies(db: Database, words: Iterable[str]) -> dict[str, int]:
    """{word: in how many pages that everybody may read it stands}; of two letters of a script without spaces, that of the rarer one."""
    letters = {letter for word in words for letter in word.split(" ")}
    known = dict(
        db.tuples(
            "SELECT term, doc FROM site_vocabulary WHERE term IN (SELECT value FROM JSON_EACH(?))",
            json.dumps(sorted(letters)),
        )
    )
    return {word: min(known.get(letter, 0) for letter in word.split(" ")) for word in words}


def count_pages(db: Database) -> int:
    """How many pages that everybody may read are in the index."""
    return db.value("SELECT COUNT(*) FROM site_page WHERE audience = ?", EVERYONE)


def candidates(db: Database, blog_id: int, words: Iterable[str], but: int, most: int) -> list[int]:
    """Posts of the blog that everybody may read and that hold most of some words."""
    match = " OR ".join(f'"{word}"' for word in words)
    if not match:
        return []
    return db.column(
        "WITH hits AS MATERIALIZED (SELECT rowid AS number, rank FROM site_text WHERE site_text MATCH ? ORDER BY rank LIMIT 200)"
        " SELECT post_id FROM hits JOIN site_page ON site_page.id = number WHERE blog_id = ? AND post_id <> ? ORDER BY rank LIMIT ?",
        match, blog_id, but, most,
    )  # fmt: skip


def sharing_tags(db: Database, blog_id: int, tags: Iterable[int], but: int, now: int, most: int) -> list[int]:
    """The newest posts that everybody may read and that share tags."""
    return db.column(
        "SELECT DISTINCT post_id FROM (SELECT post_id, goes_out FROM listing WHERE blog_id = ? AND list IN (SELECT 'tag:' || value FROM JSON_EACH(?)) AND shows_from <= ? AND shows_until > ?"
        f" AND audience = '{EVERYONE}' AND post_id <> ? ORDER BY goes_out DESC LIMIT ?)",
        blog_id, json.dumps(sorted(tags)), now, now, but, most,
    )  # fmt: skip


@dataclass(frozen=True)
class Standing:
    """A post as everybody may read it now."""

    id: int
    title: str
    text: str
    tags: tuple[int, ...]
    categories: tuple[int, ...]
    links: tuple[int, ...]
    series_id: int | None
    language: str


def standing(db: Database, blog_id: int, numbers: Iterable[int], now: int) -> list[Standing]:
    """Those of some posts that everybody may read now, as the search index has their words."""
    rows = db.tuples(
        "SELECT site_page.post_id, site_text.title, site_text.text, tags, categories, links, series_id, placement.language FROM site_page"
        " JOIN site_text ON site_text.rowid = site_page.id JOIN placement ON placement.post_id = site_page.post_id AND placement.blog_id = site_page.blog_id"
        f" WHERE site_page.blog_id = ? AND site_page.post_id IN (SELECT value FROM JSON_EACH(?)) AND placement.audience = '{EVERYONE}' AND kind = ''"
        " AND shows_from <= ? AND shows_until > ?",
        blog_id, json.dumps(sorted(set(numbers))), now, now,
    )  # fmt: skip
    return [
        Standing(
            number, title, text, _numbers(tags), _numbers(categories), _numbers(links), series_id, language
        )
        for number, title, text, tags, categories, links, series_id, language in rows
    ]


def _numbers(text: str) -> tuple[int, ...]:
    return tuple(json.loads(text))
