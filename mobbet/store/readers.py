"""Readers of a blog, their groups, the links that sign them in, and the letters to them."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.store.database import Database, Row, data_of, maybe


@dataclass(frozen=True)
class Group:
    """Named readers. `feed_key` is the secret part of the address of the group's feed.

    They get a letter about each post for them that goes out from `writes_since` on; None for no letters.
    """

    id: int
    blog_id: int
    name: str
    feed_key: str
    made_at: int
    writes_since: int | None = None


@dataclass(frozen=True)
class ReaderRow:
    """A reader of a blog: `joined_at` is when they first signed in, or None; `groups` are the names of their groups."""

    person_id: int
    email: str
    name: str
    added_at: int
    joined_at: int | None
    groups: tuple[str, ...]


@dataclass(frozen=True)
class Letter:
    """A letter to a reader that waits, was sent, or was set aside."""

    id: int
    blog_id: int
    recipient: str
    subject: str
    text: str
    made_at: int
    sent_at: int | None
    tries: int
    next_try: int
    problem: str
    aside_at: int | None = None
    is_private: int = 0


def _group(row: Row) -> Group:
    return Group(**data_of(row))


def groups(db: Database, blog_id: int) -> list[Group]:
    """The groups of a blog by name."""
    return [
        _group(row) for row in db.all("SELECT * FROM reader_group WHERE blog_id = ? ORDER BY name", blog_id)
    ]


def group(db: Database, number: int) -> Group | None:
    return maybe(_group, db.one("SELECT * FROM reader_group WHERE id = ?", number))


def group_named(db: Database, blog_id: int, name: str) -> Group | None:
    return maybe(_group, db.one("SELECT * FROM reader_group WHERE blog_id = ? AND name = ?", blog_id, name))


def group_of_feed(db: Database, blog_id: int, feed_key: str) -> Group | None:
    return maybe(
        _group, db.one("SELECT * FROM reader_group WHERE blog_id = ? AND feed_key = ?", blog_id, feed_key)
    )


def add_group(db: Database, blog_id: int, name: str, feed_key: str, now: int) -> int:
    return db.value(
        "INSERT INTO reader_group (blog_id, name, feed_key, made_at) VALUES (?, ?, ?, ?) RETURNING id",
        blog_id,
        name,
        feed_key,
        now,
    )


def rename_group(db: Database, number: int, name: str) -> None:
    db.run("UPDATE reader_group SET name = ? WHERE id = ?", name, number)


def renew_feed(db: Database, number: int, feed_key: str) -> None:
    db.run("UPDATE reader_group SET feed_key = ? WHERE id = ?", feed_key, number)


def set_writes(db: Database, number: int, since: int | None) -> None:
    db.run("UPDATE reader_group SET writes_since = ? WHERE id = ?", since, number)


def to_announce(db: Database, now: int) -> list[tuple[int, int]]:
    """(group, placement) of posts that are out for a group that is written to, and were not told of yet."""
    rows = db.all(
        "SELECT reader_group.id, MAX(placement.id) FROM reader_group JOIN placement ON placement.blog_id = reader_group.blog_id AND audience = 'group:' || reader_group.id"
        " WHERE writes_since IS NOT NULL AND goes_out >= writes_since AND shows_from <= ? AND shows_until > ?"
        " AND NOT EXISTS (SELECT 1 FROM announced WHERE announced.post_id = placement.post_id AND group_id = reader_group.id)"
        " GROUP BY reader_group.id, placement.post_id ORDER BY placement.goes_out",
        now, now,
    )  # fmt: skip
    return [tuple(row) for row in rows]


def set_announced(db: Database, post_id: int, group_id: int) -> bool:
    """True for whoever is first to tell a group of a post."""
    return db.run("INSERT OR IGNORE INTO announced VALUES (?, ?)", post_id, group_id).rowcount > 0


def is_announced(db: Database, post_id: int, group_id: int) -> bool:
    return (
        db.value("SELECT 1 FROM announced WHERE post_id = ? AND group_id = ?", post_id, group_id) is not None
    )


def addresses_in(db: Database, group_id: int) -> list[str]:
    """The e-mail addresses of a group."""
    return [
        row[0]
        for row in db.all(
            "SELECT email FROM group_reader JOIN person ON person.id = person_id WHERE group_id = ? ORDER BY email",
            group_id,
        )
    ]


def remove_group(db: Database, number: int) -> None:
    db.run("DELETE FROM reader_group WHERE id = ?", number)


def posts_for(db: Database, number: int) -> list[str]:
    """The titles of the posts that are, or were, for a group and not set aside."""
    rows = db.all(
        f"SELECT DISTINCT {db.title('post.id', 'title')} FROM post WHERE aside_at IS NULL AND (visibility = ? OR id IN (SELECT post_id FROM placement WHERE audience = ? AND shows_from < shows_until))",
        f"group:{number}", f"group:{number}",
    )  # fmt: skip
    return [row[0] for row in rows]


def posts_now(db: Database, number: int, now: int, most: int) -> list[tuple[int, str]]:
    """(post, its title) of the posts that are for a group now, out or to come, and of drafts that will be, the newest first."""
    rows = db.all(
        f"SELECT post.id, {db.title('post.id', 'title')} FROM post WHERE aside_at IS NULL AND (EXISTS (SELECT 1 FROM placement WHERE placement.post_id = post.id"
        " AND audience = ? AND shows_from < shows_until AND shows_until > ?) OR (visibility = ? AND NOT EXISTS (SELECT 1 FROM placement"
        " WHERE placement.post_id = post.id AND shows_from < shows_until AND shows_until > ?))) ORDER BY post.id DESC LIMIT ?",
        f"group:{number}", now, f"group:{number}", now, most,
    )  # fmt: skip
    return [(row[0], row[1]) for row in rows]


def add_reader(db: Database, blog_id: int, person_id: int, name: str, now: int) -> None:
    """Adds a reader under the name that the blog has for them; one who is there keeps theirs."""
    db.run(
        "INSERT OR IGNORE INTO reader (blog_id, person_id, name, added_at) VALUES (?, ?, ?, ?)",
        blog_id,
        person_id,
        name,
        now,
    )


def name_of(db: Database, blog_id: int, person_id: int) -> str:
    """What a blog calls a reader."""
    return db.value("SELECT name FROM reader WHERE blog_id = ? AND person_id = ?", blog_id, person_id) or ""


def join(db: Database, blog_id: int, person_id: int, now: int) -> None:
    """Notes that a reader has signed in."""
    db.run(
        "UPDATE reader SET joined_at = IFNULL(joined_at, ?) WHERE blog_id = ? AND person_id = ?",
        now,
        blog_id,
        person_id,
    )


def put_into(db: Database, group_id: int, person_id: int) -> bool:
    """True when they were not in that group before."""
    return db.run("INSERT OR IGNORE INTO group_reader VALUES (?, ?)", group_id, person_id).rowcount > 0


def take_out(db: Database, group_id: int, person_id: int) -> None:
    db.run("DELETE FROM group_reader WHERE group_id = ? AND person_id = ?", group_id, person_id)


def remove_reader(db: Database, blog_id: int, person_id: int) -> None:
    """Takes a reader out of all groups of a blog, and off its readers."""
    db.run(
        "DELETE FROM group_reader WHERE person_id = ? AND group_id IN (SELECT id FROM reader_group WHERE blog_id = ?)",
        person_id,
        blog_id,
    )
    db.run("DELETE FROM reader WHERE blog_id = ? AND person_id = ?", blog_id, person_id)


def is_reader(db: Database, blog_id: int, person_id: int) -> bool:
    return (
        db.value("SELECT 1 FROM reader WHERE blog_id = ? AND person_id = ?", blog_id, person_id) is not None
    )


def groups_of(db: Database, blog_id: int, person_id: int) -> frozenset[int]:
    """The groups of a blog in which a person is."""
    rows = db.all(
        "SELECT group_id FROM group_reader JOIN reader_group ON reader_group.id = group_id WHERE blog_id = ? AND person_id = ?",
        blog_id,
        person_id,
    )
    return frozenset(row[0] for row in rows)


def of_blog(db: Database, blog_id: int, group_id: int | None, after: str, most: int) -> list[ReaderRow]:
    """Readers by e-mail address from after that one on, of all or of one group."""
    rows = db.all(
        "SELECT person.id, email, reader.name, added_at, joined_at,"
        " (SELECT GROUP_CONCAT(reader_group.name, char(10)) FROM group_reader JOIN reader_group ON reader_group.id = group_id"
        "  WHERE group_reader.person_id = person.id AND reader_group.blog_id = reader.blog_id)"
        " FROM reader JOIN person ON person.id = reader.person_id WHERE reader.blog_id = ? AND email > ?"
        " AND (? IS NULL OR EXISTS (SELECT 1 FROM group_reader WHERE group_id = ? AND group_reader.person_id = person.id)) ORDER BY email LIMIT ?",
        blog_id, after, group_id, group_id, most,
    )  # fmt: skip
    return [
        ReaderRow(row[0], row[1], row[2], row[3], row[4], tuple(sorted(row[5].split("\n"))) if row[5] else ())
        for row in rows
    ]


def count(db: Database, blog_id: int) -> int:
    """How many people can sign in to read a blog: its readers and those who work on it."""
    return db.value(
        "SELECT COUNT(*) FROM (SELECT person_id FROM reader WHERE blog_id = ? UNION SELECT person_id FROM membership WHERE blog_id = ?)",
        blog_id,
        blog_id,
    )


def count_readers(db: Database, blog_id: int) -> int:
    return db.value("SELECT COUNT(*) FROM reader WHERE blog_id = ?", blog_id)


def sizes(db: Database, blog_id: int) -> dict[int, int]:
    """How many readers each group of a blog has."""
    rows = db.all(
        "SELECT reader_group.id, COUNT(person_id) FROM reader_group LEFT JOIN group_reader ON group_id = reader_group.id WHERE blog_id = ? GROUP BY reader_group.id",
        blog_id,
    )  # fmt: skip
    return {row[0]: row[1] for row in rows}


def blogs_read(db: Database, person_id: int) -> list[str]:
    """The addresses of the blogs that somebody is a reader of."""
    return [
        row[0]
        for row in db.all(
            "SELECT slug FROM reader JOIN blog ON blog.id = blog_id WHERE person_id = ? ORDER BY blog.id",
            person_id,
        )
    ]


def has_more(db: Database, blog_id: int, audiences: tuple[str, ...]) -> bool:
    """Whether some post stands in lists for these audiences that is not for everyone."""
    marks = ", ".join("?" * len(audiences))
    return (
        db.value(
            f"SELECT 1 FROM listing WHERE blog_id = ? AND audience <> 'everyone' AND audience IN ({marks}) LIMIT 1",
            blog_id,
            *audiences,
        )
        is not None
    )


def add_entry(
    db: Database, token_hash: str, blog_id: int, person_id: int, leads_to: str, now: int, ends_at: int
) -> None:
    db.run("DELETE FROM entry WHERE ends_at <= ?", now)
    db.run("INSERT INTO entry VALUES (?, ?, ?, ?, ?)", token_hash, blog_id, person_id, leads_to, ends_at)


def entry(db: Database, token_hash: str, now: int) -> tuple[int, int, str] | None:
    """(blog, person, path) of a link by mail that is still good."""
    row = db.one(
        "SELECT blog_id, person_id, leads_to FROM entry WHERE token_hash = ? AND ends_at > ?", token_hash, now
    )
    return tuple(row) if row else None


def forget_entry(db: Database, token_hash: str) -> None:
    db.run("DELETE FROM entry WHERE token_hash = ?", token_hash)


def add_letter(
    db: Database, blog_id: int, recipient: str, subject: str, text: str, now: int, is_private: bool = False
) -> int:
    """A letter that waits to be sent; one that is private, with a link for its recipient alone, is on no list."""
    return db.value(
        "INSERT INTO letter (blog_id, recipient, subject, text, made_at, is_private) VALUES (?, ?, ?, ?, ?, ?) RETURNING id",
        blog_id,
        recipient,
        subject,
        text,
        now,
        int(is_private),
    )


def text_of(db: Database, number: int) -> str:
    """The text of a letter; '' once it was sent, unless it was kept here."""
    return db.value("SELECT text FROM letter WHERE id = ?", number) or ""


def letters(db: Database, blog_id: int, most: int) -> list[Letter]:
    """The newest letters of a blog."""
    return [
        Letter(**data_of(row))
        for row in db.all(
            "SELECT * FROM letter WHERE blog_id = ? AND is_private = 0 ORDER BY id DESC LIMIT ?",
            blog_id,
            most,
        )
    ]


def waiting(db: Database, now: int, most: int) -> list[Letter]:
    """Letters that may be sent now, the oldest first."""
    return [
        Letter(**data_of(row))
        for row in db.all(
            "SELECT * FROM letter WHERE sent_at IS NULL AND aside_at IS NULL AND next_try <= ? ORDER BY id LIMIT ?",
            now,
            most,
        )
    ]


def set_sent(db: Database, number: int, now: int, keeps_text: bool) -> None:
    db.run(
        "UPDATE letter SET sent_at = ?, problem = '', text = iif(?, text, '') WHERE id = ?",
        now,
        keeps_text,
        number,
    )


def set_failed(db: Database, number: int, problem: str, next_try: int) -> None:
    db.run(
        "UPDATE letter SET tries = tries + 1, problem = ?, next_try = ? WHERE id = ?",
        problem,
        next_try,
        number,
    )


def set_letter_aside(db: Database, number: int, problem: str, now: int) -> None:
    """A letter that cannot be made is tried no more."""
    db.run("UPDATE letter SET aside_at = ?, problem = ? WHERE id = ?", now, problem, number)


def note_sent_on(db: Database, digest: str, now: int, before: int) -> bool:
    """Notes that a post was sent on to somebody; False where it was since an instant, before which all is forgotten."""
    db.run("DELETE FROM sent_on WHERE made_at < ?", before)
    return db.run("INSERT OR IGNORE INTO sent_on VALUES (?, ?)", digest, now).rowcount > 0


def forget_sent_on(db: Database, digest: str) -> None:
    db.run("DELETE FROM sent_on WHERE digest = ?", digest)
