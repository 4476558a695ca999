"""Blogs and who works on them."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.core.values import existing
from mobbet.store.database import Database, Row, data_of


@dataclass(frozen=True)
class Blog:
    """One blog. `home` is the public address of its front page and ends with a slash."""

    id: int
    slug: str
    name: str
    tagline: str
    zone: str
    language: str
    home: str
    host: str | None
    design: str
    posts_on_page: int
    made_at: int
    facts: str = "[]"
    link_rules: str = "[]"
    pattern: str = "/{category}/{slug}/"
    slug_script: str = "latin"
    catch_all: int | None = None
    least_categories: int = 0
    most_categories: int = 0
    filing_help: str = ""
    label: str = "Posts"
    read_on: str = "Read on"
    full_in_lists: int = 0
    categories_in_lists: int = 1
    salt: str = ""
    seals: int = 0
    open_entry: int = 0
    quotes: str = ""
    dashes: str = ""
    ellipses: str = ""
    avoided: str = "[]"
    severities: str = "{}"
    tries_links: int = 1
    calendar_key: str = ""
    aside_days: int = 30
    look_again_days: int = 365
    comments: str = ""
    comments_wait: str = "all"
    guard: str = "wait"
    blocklist: str = "[]"
    sharing: str = "[]"
    share_links: str = "[]"
    video_hosts: str = "[]"
    made_by: str = ""
    icon: int = 0
    closed: str = ""
    set_aside_at: int | None = None
    rights: str = "{}"
    record_days: int = 730
    factor_roles: str = "[]"
    letters: str = "{}"
    letters_since: int | None = None
    server: str = ""
    comment_work: int = 0
    comment_letters: str = ""
    comment_letters_to: str = "author"
    comments_told_at: int = 0
    mentions: str = "on"
    hub: str = ""
    counts_reads: int = 0
    static_search: str = ""
    hub_told: int = 0
    read_slip: str = ""
    slip_told_at: int = 0
    scales_pictures: int = 1


def _blog(row: Row) -> Blog:
    return Blog(**data_of(row))


def add(
    db: Database,
    *,
    slug: str,
    name: str,
    tagline: str,
    zone: str,
    home: str,
    design: str,
    made_at: int,
    salt: str,
) -> Blog:
    """Adds a blog without members; `home` is the public address of its front page."""
    return _blog(existing(db.one(
        "INSERT INTO blog (slug, name, tagline, zone, home, design, made_at, salt) VALUES (?, ?, ?, ?, ?, ?, ?, ?) RETURNING *",
        slug, name, tagline, zone, home, design, made_at, salt,
    )))  # fmt: skip


HOUSE_COLUMNS = (
    "name", "tagline", "made_by", "icon", "home", "host", "zone", "language", "posts_on_page", "label", "read_on", "full_in_lists", "categories_in_lists",
    "video_hosts", "facts", "link_rules", "sharing", "share_links", "server", "hub", "counts_reads",
)  # fmt: skip
"""The facts of the house that are tried and given together."""


def set_facts(db: Database, blog_id: int, values: dict[str, object]) -> None:
    """Writes the facts of the house, all of HOUSE_COLUMNS."""
    db.run(
        f"UPDATE blog SET {', '.join(f'{column} = ?' for column in HOUSE_COLUMNS)} WHERE id = ?",
        *(values[column] for column in HOUSE_COLUMNS),
        blog_id,
    )


def set_house_style(db: Database, blog_id: int, facts: str, link_rules: str) -> None:
    """Writes the facts for fill-ins and the rules for links, both as JSON lists of pairs."""
    db.run("UPDATE blog SET facts = ?, link_rules = ? WHERE id = ?", facts, link_rules, blog_id)


SETTINGS = (
    "pattern", "slug_script", "catch_all", "least_categories", "most_categories", "filing_help", "label", "read_on", "full_in_lists", "categories_in_lists",
    "seals", "open_entry", "quotes", "dashes", "ellipses", "avoided", "severities", "tries_links", "calendar_key", "aside_days", "look_again_days", "comments", "comments_wait", "guard", "blocklist", "sharing", "share_links", "host", "video_hosts", "language", "closed", "set_aside_at", "rights", "record_days", "factor_roles", "letters", "letters_since", "server", "comment_work", "comment_letters", "comment_letters_to", "comments_told_at", "mentions", "hub", "hub_told", "read_slip", "slip_told_at", "static_search", "scales_pictures",
)  # fmt: skip


def settle(db: Database, blog_id: int, **values: object) -> None:
    """Writes the owner's rules (a subset of SETTINGS)."""
    for column, value in values.items():
        assert column in SETTINGS, column
        db.run(f"UPDATE blog SET {column} = ? WHERE id = ?", value, blog_id)


def by_id(db: Database, blog_id: int) -> Blog | None:
    row = db.one("SELECT * FROM blog WHERE id = ?", blog_id)
    return _blog(row) if row else None


def by_slug(db: Database, slug: str) -> Blog | None:
    """The blog with that address; None where it is set aside."""
    row = db.one("SELECT * FROM blog WHERE slug = ? AND set_aside_at IS NULL", slug)
    return _blog(row) if row else None


def by_host(db: Database, host: str) -> Blog | None:
    """The blog of a domain."""
    row = db.one("SELECT * FROM blog WHERE host = ?", host)
    return _blog(row) if row else None


def by_slug_of_any(db: Database, slug: str) -> Blog | None:
    """The blog with that address, also one that is set aside."""
    row = db.one("SELECT * FROM blog WHERE slug = ?", slug)
    return _blog(row) if row else None


def every(db: Database) -> list[Blog]:
    """Every blog that is not set aside, oldest first."""
    return [_blog(row) for row in db.all("SELECT * FROM blog WHERE set_aside_at IS NULL ORDER BY id")]


def set_aside(db: Database) -> list[Blog]:
    """The blogs that are set aside, the latest first."""
    rows = db.all("SELECT * FROM blog WHERE set_aside_at IS NOT NULL ORDER BY set_aside_at DESC, id DESC")
    return [_blog(row) for row in rows]


def of_person(db: Database, person_id: int) -> list[Blog]:
    """The blogs a person works on that are not set aside, oldest first."""
    return [
        _blog(row)
        for row in db.all(
            "SELECT blog.* FROM blog JOIN membership ON blog_id = blog.id WHERE person_id = ? AND suspended_at IS NULL AND set_aside_at IS NULL ORDER BY blog.id",
            person_id,
        )
    ]


def files(db: Database, blog_id: int) -> tuple[set[str], set[str]]:
    """The hashes of what lies on the shelves for a blog: (of pages, of its library)."""
    pages = db.column("SELECT DISTINCT hash FROM edition_page WHERE blog_id = ? AND shelf = 'pages'", blog_id)
    media = db.column(
        "SELECT hash FROM media WHERE blog_id = ? UNION SELECT copy.hash FROM copy JOIN media ON media.id = media_id WHERE blog_id = ?"
        " UNION SELECT hash FROM edition_page WHERE blog_id = ? AND shelf = 'media'",
        blog_id, blog_id, blog_id,
    )  # fmt: skip
    return set(pages), set(media)


def is_file_used(db: Database, shelf: str, digest: str) -> bool:
    """Whether a file of a shelf is some blog's."""
    if db.value("SELECT 1 FROM edition_page WHERE shelf = ? AND hash = ? LIMIT 1", shelf, digest):
        return True
    return shelf == "media" and bool(
        db.value(
            "SELECT 1 FROM media WHERE hash = ? UNION ALL SELECT 1 FROM copy WHERE hash = ? LIMIT 1",
            digest,
            digest,
        )
    )


def remove(db: Database, blog_id: int) -> None:
    """Removes a blog with everything that stands in it, in a transaction; its files stay."""
    db.defer_foreign_keys()
    db.run("DELETE FROM post_text WHERE rowid IN (SELECT id FROM post WHERE blog_id = ?)", blog_id)
    db.run("UPDATE post SET leads_to = NULL WHERE blog_id = ?", blog_id)
    for table in db.column(
        "SELECT name FROM sqlite_schema AS one WHERE type = 'table' AND EXISTS (SELECT 1 FROM PRAGMA_TABLE_INFO(one.name) WHERE name = 'blog_id')"
    ):
        db.run(
            f"DELETE FROM {table} WHERE blog_id = ?", blog_id
        )  # not all of them name the blog as a foreign key
    db.run("DELETE FROM blog WHERE id = ?", blog_id)


def add_member(db: Database, blog_id: int, person_id: int, role: str, now: int = 0) -> None:
    """Gives a person a role on a blog, or another one."""
    db.run(
        "INSERT INTO membership (blog_id, person_id, role, joined_at) VALUES (?, ?, ?, ?) ON CONFLICT (blog_id, person_id) DO UPDATE SET role = excluded.role",
        blog_id,
        person_id,
        role,
        now,
    )


def remove_member(db: Database, blog_id: int, person_id: int) -> None:
    db.run("DELETE FROM membership WHERE blog_id = ? AND person_id = ?", blog_id, person_id)


def suspend_member(db: Database, blog_id: int, person_id: int, instant: int | None) -> None:
    """Keeps somebody off a blog they work on, or lets them in again."""
    db.run(
        "UPDATE membership SET suspended_at = ? WHERE blog_id = ? AND person_id = ?",
        instant,
        blog_id,
        person_id,
    )


def role(db: Database, blog_id: int, person_id: int) -> str | None:
    """What a person is on the blog; None for somebody who does not work on it, or is suspended there."""
    return db.value(
        "SELECT role FROM membership WHERE blog_id = ? AND person_id = ? AND suspended_at IS NULL",
        blog_id,
        person_id,
    )


def roles(db: Database, person_id: int) -> list[tuple[int, str, str]]:
    """(blog, role, the blog's rights) of all blogs that a person works on."""
    return db.tuples(
        "SELECT blog_id, role, rights FROM membership JOIN blog ON blog.id = blog_id WHERE person_id = ? AND suspended_at IS NULL",
        person_id,
    )
