"""Placements: what readers get of a post and when; the lists that follow from them; addresses."""

from __future__ import annotations

import json
from collections.abc import Iterable
from dataclasses import dataclass, replace

from mobbet.core.audience import PRIVATE_TITLE, is_told_of
from mobbet.core.docket import Docket
from mobbet.core.keys import ListName
from mobbet.store import addresses, filed
from mobbet.store.database import Database, Row, data_of, maybe
from mobbet.store.filed import FiledPlacement


@dataclass(frozen=True)
class Placement(Docket):
    """One stretch of time in which readers get one revision, with the docket as it stood."""

    id: int
    blog_id: int
    post_id: int
    revision: int
    zone: str
    goes_out_wall: str
    comes_down_wall: str | None
    goes_out: int
    comes_down: int
    shows_from: int
    shows_until: int
    path: str
    audience: str
    author_id: int
    categories: tuple[int, ...]
    tags: tuple[int, ...]
    media: tuple[int, ...]
    placed_by: int
    placed_at: int
    links: tuple[int, ...] = ()
    kept: tuple[int, ...] = ()
    slug: str = ""


_LISTS = ("categories", "tags", "media", "links", "kept")


def _placement(row: Row) -> Placement:
    values = data_of(row)
    return Placement(**{**values, **{name: tuple(json.loads(values[name])) for name in _LISTS}})


def add(db: Database, placement: Placement, category_lists: tuple[ListName, ...]) -> int:
    """Adds a placement (its id is ignored), its lists, its address, and returns its id."""
    values = {**placement.__dict__, **{name: json.dumps(getattr(placement, name)) for name in _LISTS}}
    del values["id"]
    columns = ", ".join(values)
    marks = ", ".join("?" * len(values))
    number = db.value(f"INSERT INTO placement ({columns}) VALUES ({marks}) RETURNING id", *values.values())
    relate(db, replace(placement, id=number))
    if placement.shows_from < placement.shows_until:
        addresses.take(db, placement.blog_id, placement.path, "post", placement.post_id, placement.shows_from)
    filed.add_listings(db, filed.listing_rows(filed_as(placement, number), category_lists), 0)
    return number


def relate(db: Database, placement: Placement) -> None:
    """Writes the tables by which placements are found: of its pictures, links, saved blocks, categories and tags."""
    number = placement.id
    db.run_many(
        "INSERT INTO placement_media VALUES (?, ?)", [(media_id, number) for media_id in placement.media]
    )
    db.run_many(
        "INSERT INTO placement_link VALUES (?, ?)", [(post_id, number) for post_id in placement.links]
    )
    db.run_many("INSERT INTO placement_kept VALUES (?, ?)", [(kept_id, number) for kept_id in placement.kept])
    db.run_many(
        "INSERT INTO placement_category VALUES (?, ?)",
        [(category, number) for category in dict.fromkeys(placement.categories)],
    )
    db.run_many(
        "INSERT INTO placement_tag VALUES (?, ?)", [(tag, number) for tag in dict.fromkeys(placement.tags)]
    )


def filed_as(placement: Placement, number: int | None = None) -> FiledPlacement:
    """What the lists and the address of a placement follow from."""
    return FiledPlacement(
        *({**placement.__dict__, "id": number or placement.id}[name] for name in FiledPlacement._fields)
    )


def end(db: Database, placement_id: int, instant: int) -> None:
    """Ends a placement: from that instant on readers do not get it (never, if it had not begun)."""
    db.run("UPDATE placement SET shows_until = MAX(shows_from, ?) WHERE id = ?", instant, placement_id)
    db.run(
        "UPDATE listing SET shows_until = (SELECT shows_until FROM placement WHERE id = placement_id) WHERE placement_id = ?",
        placement_id,
    )
    db.run("DELETE FROM listing WHERE placement_id = ? AND shows_from >= shows_until", placement_id)


def of_post(db: Database, post_id: int) -> list[Placement]:
    """The placements of a post in the order they were made."""
    return [
        _placement(row) for row in db.all("SELECT * FROM placement WHERE post_id = ? ORDER BY id", post_id)
    ]


def shown_at(rows: Iterable[Placement], instant: int) -> Placement | None:
    """The one of a post's placements that readers get at an instant."""
    return next((row for row in rows if row.shows_from <= instant < row.shows_until), None)


def by_id(db: Database, number: int) -> Placement | None:
    return maybe(_placement, db.one("SELECT * FROM placement WHERE id = ?", number))


def path_shown(db: Database, post_id: int, now: int) -> str:
    """Where readers find a post now; '' where they do not."""
    return db.value(
        "SELECT path FROM placement WHERE post_id = ? AND shows_from <= ? AND shows_until > ? ORDER BY id DESC LIMIT 1",
        post_id, now, now,
    ) or ""  # fmt: skip


def live_path(db: Database, post_id: int, now: int) -> str:
    """The newest address at which readers get a page, or are going to; '' for none, and for what is placed as a post."""
    return db.value(
        "SELECT path FROM placement WHERE post_id = ? AND shows_until > ? AND shows_from < shows_until AND kind <> '' ORDER BY id DESC LIMIT 1",
        post_id, now,
    ) or ""  # fmt: skip


def pages_below(db: Database, post_id: int, now: int) -> list[int]:
    """The pages that stand below one, of those that readers get or are going to get."""
    return db.column(
        "SELECT DISTINCT post_id FROM placement WHERE below = ? AND shows_until > ? AND shows_from < shows_until ORDER BY post_id",
        post_id, now,
    )  # fmt: skip


def every(db: Database, blog_id: int) -> list[Placement]:
    return [
        _placement(row) for row in db.all("SELECT * FROM placement WHERE blog_id = ? ORDER BY id", blog_id)
    ]


def body(db: Database, placement_id: int) -> str:
    """The document that a placement shows, as JSON."""
    return db.value(
        "SELECT body FROM placement JOIN revision ON revision.post_id = placement.post_id AND number = placement.revision WHERE placement.id = ?",
        placement_id,
    )


def set_mentions(db: Database, placement_id: int, media: tuple[int, ...], links: tuple[int, ...]) -> None:
    """Writes the pictures and links of a placement anew, when a standing copy in it has changed."""
    known = {
        row[0]
        for row in db.all(
            "SELECT media.id FROM media JOIN placement USING (blog_id) WHERE placement.id = ?", placement_id
        )
    }
    media = tuple(number for number in media if number in known)
    db.run(
        "UPDATE placement SET media = ?, links = ? WHERE id = ?",
        json.dumps(media),
        json.dumps(links),
        placement_id,
    )
    db.run("DELETE FROM placement_media WHERE placement_id = ?", placement_id)
    db.run_many("INSERT INTO placement_media VALUES (?, ?)", [(number, placement_id) for number in media])
    db.run("DELETE FROM placement_link WHERE placement_id = ?", placement_id)
    db.run_many("INSERT INTO placement_link VALUES (?, ?)", [(number, placement_id) for number in links])


def _shows(for_readers: bool) -> str:
    """The condition on placements that somebody gets something of, or a reader does: what is for its author alone alters nobody else's site."""
    return "shows_from < shows_until" + (" AND audience NOT LIKE 'person:%'" if for_readers else "")


def next_change(db: Database, blog_id: int, after: int, for_readers: bool = False) -> int | None:
    """The next instant after which somebody gets something else, or a reader does; None when nothing is planned."""
    shows = _shows(for_readers)
    return db.value(
        "SELECT MIN(instant) FROM ("
        f" SELECT MIN(shows_from) AS instant FROM placement WHERE blog_id = ? AND shows_from > ? AND {shows} UNION ALL"
        f" SELECT MIN(shows_until) FROM placement WHERE blog_id = ? AND shows_until > ? AND {shows} UNION ALL"
        " SELECT MIN(at) FROM house_moment WHERE blog_id = ? AND at > ?)",
        blog_id, after, blog_id, after, blog_id, after,
    )  # fmt: skip


def moments_between(
    db: Database, blog_id: int, first: int, last: int, most: int, for_readers: bool = False
) -> list[int]:
    """The newest instants after `first` and up to `last` at which something began or ended to be shown, to somebody or to readers, in order."""
    shows = _shows(for_readers)
    rows = db.all(
        f"SELECT instant FROM (SELECT shows_from AS instant FROM placement WHERE blog_id = ? AND shows_from > ? AND shows_from <= ? AND {shows} UNION"
        f" SELECT shows_until FROM placement WHERE blog_id = ? AND shows_until > ? AND shows_until <= ? AND {shows} UNION"
        " SELECT at FROM house_moment WHERE blog_id = ? AND at > ? AND at <= ?) ORDER BY instant DESC LIMIT ?",
        blog_id, first, last, blog_id, first, last, blog_id, first, last, most,
    )  # fmt: skip
    return [row[0] for row in reversed(rows)]


def turning_at(db: Database, blog_id: int, instant: int) -> list[tuple[str, str]]:
    """('goes out', 'comes down' or 'is updated', title) of every post that turns at an instant."""
    rows = db.all(
        "SELECT CASE WHEN shows_from = ? THEN CASE WHEN EXISTS (SELECT 1 FROM placement AS other WHERE other.post_id = placement.post_id"
        "  AND other.shows_until = ? AND other.shows_from < other.shows_until) THEN 'is updated' ELSE 'goes out' END ELSE 'comes down' END,"
        f" CASE WHEN audience LIKE 'person:%' THEN '{PRIVATE_TITLE}' ELSE title END"
        " FROM placement JOIN revision ON revision.post_id = placement.post_id AND number = placement.revision"
        " WHERE blog_id = ? AND shows_from < shows_until AND (shows_from = ? OR (shows_until = ? AND NOT EXISTS"
        "  (SELECT 1 FROM placement AS other WHERE other.post_id = placement.post_id AND other.shows_from = ? AND other.shows_from < other.shows_until)))"
        " ORDER BY goes_out, placement.post_id LIMIT 4",
        instant, instant, blog_id, instant, instant, instant,
    )  # fmt: skip
    return [tuple(row) for row in rows]


def turned_between(db: Database, blog_id: int, first: int, last: int) -> list[int]:
    """The posts that began or ended to be shown after `first` and up to `last`."""
    return [
        row[0]
        for row in db.all(
            "SELECT post_id FROM placement WHERE blog_id = ? AND shows_from > ? AND shows_from <= ? UNION"
            " SELECT post_id FROM placement WHERE blog_id = ? AND shows_until > ? AND shows_until <= ?",
            blog_id, first, last, blog_id, first, last,
        )
    ]  # fmt: skip


def behind_passwords(db: Database, blog_id: int, now: int) -> list[Placement]:
    """What is out behind a password."""
    rows = db.all(
        "SELECT * FROM placement WHERE blog_id = ? AND password_key <> '' AND audience LIKE 'password:%' AND shows_from <= ? AND shows_until > ?",
        blog_id,
        now,
        now,
    )
    return [_placement(row) for row in rows]


def live(db: Database, blog_id: int, now: int) -> list[Placement]:
    """The placements that show or are going to, by number."""
    rows = db.all(
        "SELECT * FROM placement WHERE blog_id = ? AND shows_until > ? AND shows_from < shows_until ORDER BY id",
        blog_id,
        now,
    )
    return [_placement(row) for row in rows]


def title_of(db: Database, placement: Placement) -> str:
    """The title of the revision that a placement shows."""
    return (
        PRIVATE_TITLE
        if not is_told_of(placement.audience, db.viewer)
        else db.value(
            "SELECT title FROM revision WHERE post_id = ? AND number = ?",
            placement.post_id,
            placement.revision,
        )
    )


def newest_listed(db: Database, blog_id: int, name: str, now: int, most: int) -> list[Placement]:
    """The newest placements on a list."""
    rows = db.all(
        "SELECT placement.* FROM listing JOIN placement ON placement.id = placement_id WHERE listing.blog_id = ? AND list = ?"
        " AND listing.audience IN ('everyone', 'locked') AND listing.shows_from <= ? AND listing.shows_until > ? ORDER BY listing.goes_out DESC, listing.post_id DESC LIMIT ?",
        blog_id, name, now, now, most,
    )  # fmt: skip
    return [_placement(row) for row in rows]


def beside(db: Database, blog_id: int, goes_out: int, post_id: int, now: int) -> list[Placement]:
    """The listed placements just before and just after a place in time."""
    found: list[Placement] = []
    for comparison, order in (("<", "DESC"), (">", "ASC")):
        row = db.one(
            f"SELECT placement.* FROM listing JOIN placement ON placement.id = placement_id WHERE listing.blog_id = ? AND list = 'all'"
            f" AND (listing.goes_out, listing.post_id) {comparison} (?, ?) AND listing.audience IN ('everyone', 'locked') AND listing.shows_from <= ? AND listing.shows_until > ?"
            f" ORDER BY listing.goes_out {order}, listing.post_id {order} LIMIT 1",
            blog_id, goes_out, post_id, now, now,
        )  # fmt: skip
        found += [_placement(row)] if row else []
    return found


def posts_live(db: Database, blog_id: int, now: int) -> list[int]:
    """The posts that are out or going to go out."""
    rows = db.all(
        "SELECT DISTINCT post_id FROM placement WHERE blog_id = ? AND shows_until > ? AND shows_from < shows_until ORDER BY post_id",
        blog_id,
        now,
    )
    return [row[0] for row in rows]


def titles_out(db: Database, blog_id: int, now: int) -> list[tuple[int, str, list[str]]]:
    """(post, title, names of its tags) of every post that is out for everyone."""
    names = {row[0]: row[1] for row in db.all("SELECT id, name FROM tag WHERE blog_id = ?", blog_id)}
    rows = db.all(
        "SELECT placement.post_id, title, tags FROM placement JOIN revision ON revision.post_id = placement.post_id AND number = placement.revision"
        " WHERE blog_id = ? AND audience = 'everyone' AND shows_from <= ? AND shows_until > ? ORDER BY placement.post_id",
        blog_id, now, now,
    )  # fmt: skip
    return [
        (row[0], row[1], [names[number] for number in json.loads(row[2]) if number in names]) for row in rows
    ]


def audiences_in(db: Database, blog_id: int, category_id: int, now: int) -> dict[str, int]:
    """{audience: posts} of what is out in a category."""
    rows = db.all(
        "SELECT audience, COUNT(*) FROM placement WHERE blog_id = ? AND shows_from <= ? AND shows_until > ?"
        " AND EXISTS (SELECT 1 FROM JSON_EACH(categories) WHERE value = ?) GROUP BY audience",
        blog_id, now, now, category_id,
    )  # fmt: skip
    return {row[0]: row[1] for row in rows}


def for_others(db: Database, post_id: int, now: int) -> Placement | None:
    """The newest state of a post that others than its author get, now or later; None where there is none."""
    return maybe(_placement, db.one(
        "SELECT * FROM placement WHERE post_id = ? AND shows_from < shows_until AND shows_until > ? AND audience NOT LIKE 'person:%' ORDER BY id DESC LIMIT 1", post_id, now
    ))  # fmt: skip


def that_showed(db: Database, media_id: int) -> list[int]:
    """The posts of which some placement showed an item of the library."""
    rows = db.all(
        "SELECT DISTINCT post_id FROM placement_media JOIN placement ON placement.id = placement_id WHERE media_id = ?",
        media_id,
    )
    return [row[0] for row in rows]
