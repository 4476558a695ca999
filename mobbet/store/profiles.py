"""How people are shown to the readers of a blog: as they say, or, while they are no more than a contributor there, as an editor let it stand."""

from __future__ import annotations

import json
from dataclasses import dataclass

from mobbet.core.facts import Author
from mobbet.store.database import Database

FIXED = """
CASE WHEN NOT EXISTS (SELECT 1 FROM membership WHERE blog_id = {blog} AND membership.person_id = {person} AND role <> 'contributor') THEN COALESCE(
    (SELECT {column} FROM shown_profile AS fixed WHERE fixed.person_id = {person} AND fixed.blog_id = {blog}),
    (SELECT {column} FROM shown_profile AS fixed WHERE fixed.person_id = {person} ORDER BY fixed.blog_id LIMIT 1)) END
"""
"""What an editor let stand of somebody's profile, as an expression of SQL: NULL for those who are shown as they say. The same for a blog that shows
posts of somebody who works on another one."""


@dataclass(frozen=True)
class Profile:
    """What readers get to see of somebody; `links` are web addresses, `picture` is an item of the blog's library."""

    name: str
    line: str
    text: str
    links: tuple[str, ...]
    address: str
    picture: int | None


_OWN = "name, author_line, profile, author_links, web_address, (SELECT picture FROM membership WHERE blog_id = ? AND person_id = person.id)"
_SHOWN = "shown_name, shown_line, shown_text, shown_links, shown_address, shown_picture"


def _profile(row: tuple[str, str, str, str, str, int | None]) -> Profile:
    name, line, text, links, address, picture = row
    return Profile(name, line, text, tuple(json.loads(links)), address, picture)


def own(db: Database, blog_id: int, person_id: int) -> Profile | None:
    """Somebody as they say on their account."""
    rows = db.tuples(f"SELECT {_OWN} FROM person WHERE id = ?", blog_id, person_id)
    return _profile(rows[0]) if rows else None


def fixed(db: Database, blog_id: int, person_id: int) -> Profile | None:
    """What an editor of the blog let stand; None for those who are shown as they say."""
    rows = db.tuples(
        f"SELECT {_SHOWN} FROM shown_profile WHERE person_id = ?1 AND NOT EXISTS (SELECT 1 FROM membership WHERE blog_id = ?2 AND person_id = ?1 AND role <> 'contributor')"
        " ORDER BY blog_id <> ?2 LIMIT 1",
        person_id, blog_id,
    )  # fmt: skip
    return _profile(rows[0]) if rows else None


def author(db: Database, blog_id: int, person_id: int) -> Author | None:
    """Somebody as pages of a blog show them."""
    found = fixed(db, blog_id, person_id) or own(db, blog_id, person_id)
    if found is None:
        return None
    slug = db.value("SELECT author_slug FROM person WHERE id = ?", person_id)
    return Author(person_id, found.name, slug, found.line, found.text, found.links, found.picture)


def pictures(db: Database, blog_id: int) -> list[int]:
    """The pictures that those who write on a blog are shown by, or may be."""
    return db.column(
        "SELECT picture FROM membership WHERE blog_id = ? AND picture IS NOT NULL"
        " UNION SELECT shown_picture FROM shown_profile WHERE blog_id = ? AND shown_picture IS NOT NULL ORDER BY 1",
        blog_id, blog_id,
    )  # fmt: skip


def contributors(db: Database, blog_id: int) -> list[int]:
    """Those who are contributors of a blog and not suspended there, by name."""
    return db.column(
        "SELECT person_id FROM membership JOIN person ON person.id = person_id WHERE blog_id = ? AND role = 'contributor' AND membership.suspended_at IS NULL ORDER BY FOLD(name), person_id",
        blog_id,
    )


def let_stand(db: Database, blog_id: int, person_id: int) -> None:
    """Has readers see a contributor as they say now."""
    db.run(
        "UPDATE shown_profile SET shown_name = name, shown_line = author_line, shown_text = profile, shown_links = author_links, shown_address = web_address,"
        " shown_picture = (SELECT picture FROM membership WHERE blog_id = ?1 AND person_id = ?2) FROM person WHERE person.id = ?2 AND shown_profile.person_id = ?2 AND blog_id = ?1",
        blog_id, person_id,
    )  # fmt: skip
