"""Items of the library and the files made of them; the bytes lie on the shelf `media/`."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass

from mobbet.core.facts import Item, PictureFile
from mobbet.core.values import existing
from mobbet.store.database import Database, Row, data_of, maybe


@dataclass(frozen=True)
class Media:
    """One item as it was brought in, and what is known of it.

    `hash` is that of the kept original; sizes are in pixels (0 for sound and files), `seconds` the length of
    sound and video. `state` is 'working' until every file for readers is made. `taken`, `camera` and `place`
    are what the camera noted; they stand on no public page.
    """

    id: int
    blog_id: int
    hash: str
    name: str
    type: str
    width: int
    height: int
    bytes: int
    alt: str
    added_by: int
    added_at: int
    kind: str = "picture"
    state: str = "ready"
    problem: str = ""
    caption: str = ""
    credit: str = ""
    licence: str = ""
    source: str = ""
    labels: tuple[str, ...] = ()
    is_moving: int = 0
    colour: str = ""
    tiny: tuple[str, ...] = ()
    taken: str = ""
    camera: str = ""
    place: str = ""
    recipe: str = ""
    seconds: float = 0.0
    loudness: float | None = None
    wave: tuple[int, ...] = ()
    transcript: str = ""
    captions: str = ""
    poster_second: float = 0.0
    version: int = 1
    aside_at: int | None = None


_LISTS = ("labels", "tiny", "wave")


def _media(row: Row) -> Media:
    values = data_of(row)
    return Media(**{**values, **{name: tuple(json.loads(values[name])) for name in _LISTS}})


def _kept(values: dict[str, object]) -> dict[str, object]:
    return {
        name: json.dumps(value, ensure_ascii=False) if name in _LISTS else value
        for name, value in values.items()
    }


def add(db: Database, **values: object) -> Media:
    values = _kept(values)
    columns = ", ".join(values)
    marks = ", ".join("?" * len(values))
    row = existing(
        maybe(_media, db.one(f"INSERT INTO media ({columns}) VALUES ({marks}) RETURNING *", *values.values()))
    )
    index(db, row)
    return row


def change(db: Database, media_id: int, **values: object) -> Media:
    """Writes columns of an item, and reads it anew for the search."""
    columns = ", ".join(f"{name} = ?" for name in values)
    row = existing(
        maybe(
            _media,
            db.one(f"UPDATE media SET {columns} WHERE id = ? RETURNING *", *_kept(values).values(), media_id),
        )
    )
    index(db, row)
    return row


def index(db: Database, row: Media) -> None:
    db.run("DELETE FROM media_text WHERE rowid = ?", row.id)
    name = row.name.replace("_", " ").replace("-", " ").replace(".", " ")
    words = " ".join((row.name, name, row.caption, row.alt, row.credit, " ".join(row.labels)))
    db.run("INSERT INTO media_text (rowid, words) VALUES (?, ?)", row.id, words)


def raise_version(db: Database, media_id: int) -> None:
    """Notes that pages which show the item must be written anew."""
    db.run("UPDATE media SET version = version + 1 WHERE id = ?", media_id)


def set_copies(
    db: Database, media_id: int, uses: tuple[str, ...], files: list[tuple[PictureFile, int]]
) -> None:
    """Puts files (each with its bytes) in the place of all earlier ones for these uses."""
    db.run_many("DELETE FROM copy WHERE media_id = ? AND use = ?", [(media_id, use) for use in uses])
    db.run_many(
        "INSERT OR REPLACE INTO copy VALUES (?, ?, ?, ?, ?, ?, ?)",
        [(media_id, file.use, file.type, file.width, file.height, file.hash, size) for file, size in files],
    )


def by_id(db: Database, media_id: int) -> Media | None:
    return maybe(_media, db.one("SELECT * FROM media WHERE id = ?", media_id))


def on_blog(db: Database, blog_id: int, media_id: int) -> Media | None:
    """An item of that blog's library; None for any other number."""
    return maybe(_media, db.one("SELECT * FROM media WHERE id = ? AND blog_id = ?", media_id, blog_id))


def blog_of(db: Database, media_id: int) -> int:
    """The blog to whose library an item belongs."""
    return db.value("SELECT blog_id FROM media WHERE id = ?", media_id)


def of_blog(db: Database, blog_id: int, numbers: list[int]) -> tuple[int, ...]:
    """Those of the numbers that are items of a blog's library."""
    return tuple(
        db.column(
            "SELECT id FROM media WHERE blog_id = ? AND id IN (SELECT value FROM JSON_EACH(?))",
            blog_id,
            json.dumps(numbers),
        )
    )


def by_hash(db: Database, blog_id: int, digest: str) -> Media | None:
    return maybe(_media, db.one("SELECT * FROM media WHERE blog_id = ? AND hash = ?", blog_id, digest))


def files(db: Database, media_id: int) -> list[PictureFile]:
    """The files made of an item, by use, type and width."""
    rows = db.all(
        "SELECT media_id, width, height, type, hash, use FROM copy WHERE media_id = ? ORDER BY use, type, width",
        media_id,
    )
    return [PictureFile(*row) for row in rows]


def item(db: Database, blog_id: int, media_id: int) -> Item | None:
    """What a page may show of an item; None when the blog has none of that number."""
    row = on_blog(db, blog_id, media_id)
    if row is None:
        return None
    return Item(
        row.id,
        row.kind,
        row.name,
        row.type,
        row.width,
        row.height,
        row.bytes,
        row.seconds,
        row.colour,
        row.tiny,
        row.transcript,
        row.version,
        tuple(files(db, media_id)),
    )


def copies(db: Database, media_id: int) -> list[tuple[PictureFile, int]]:
    """The files made of an item, each with its bytes."""
    rows = db.all(
        "SELECT media_id, width, height, type, hash, use, bytes FROM copy WHERE media_id = ? ORDER BY use, type, width",
        media_id,
    )
    return [(PictureFile(*tuple(row)[:6]), row["bytes"]) for row in rows]


def file_of_blog(db: Database, blog_id: int, hash_start: str) -> PictureFile | None:
    """The file with that beginning of its hash, for the blog's own people."""
    row = db.one(
        "SELECT media_id, copy.width, copy.height, copy.type, copy.hash, use FROM copy"
        " JOIN media ON media.id = media_id WHERE blog_id = ? AND copy.hash >= ? AND copy.hash < ?",
        blog_id, hash_start, hash_start + "g",
    )  # fmt: skip
    return PictureFile(*row) if row else None


def hashes(db: Database) -> list[tuple[str, int]]:
    """(hash, bytes) of every file that must lie on the shelf."""
    return [tuple(row) for row in db.all("SELECT hash, bytes FROM media UNION SELECT hash, bytes FROM copy")]


@dataclass(frozen=True)
class Wanted:
    """What is looked for in a library: words, and what must hold. '' and None ask for nothing."""

    words: str = ""
    kind: str = ""
    shape: str = ""
    year: str = ""
    uses: str = ""
    licence: str | None = None
    label: str = ""
    lacks: str = ""
    is_aside: bool = False
    order: str = "newest"


_SHAPES = {
    "landscape": "width > height * 1.05", "portrait": "height > width * 1.05", "square": "width > 0 AND ABS(width - height) <= height * 0.05",
}  # fmt: skip
_COUNT = "(SELECT COUNT(*) FROM post_media WHERE media_id = media.id)"
_USES = {"unused": f"{_COUNT} = 0", "used": f"{_COUNT} > 0", "many": f"{_COUNT} > 2"}
_DESCRIBED = "EXISTS (SELECT 1 FROM post_media WHERE media_id = media.id AND is_described)"
_LACKS = {
    "description": f"kind = 'picture' AND alt = '' AND NOT {_DESCRIBED}", "credit": "credit = '' AND licence NOT IN ('', 'own', 'cc0', 'public-domain')",
    "words": "(kind = 'sound' AND transcript = '') OR (kind = 'video' AND captions = '')", "ready": "state <> 'ready'",
}  # fmt: skip
_ORDERS = {
    "newest": "added_at DESC, id DESC",
    "oldest": "added_at, id",
    "name": "name COLLATE NOCASE, id",
    "largest": "bytes DESC, id",
}


def _where(db: Database, blog_id: int, wanted: Wanted) -> tuple[str, list[object]]:
    terms: list[str]
    values: list[object]
    terms, values = (
        ["blog_id = ?", "aside_at IS NOT NULL" if wanted.is_aside else "aside_at IS NULL"],
        [blog_id],
    )
    tokens = [
        '"' + token.replace('"', '""') + '"*'
        for token in wanted.words.split()
        if any(letter.isalnum() for letter in token)
    ]
    if tokens:
        terms.append(
            "(id IN (SELECT rowid FROM media_text WHERE media_text MATCH ?) OR id IN"
            " (SELECT said_text.rowid & 0xFFFFFFFF FROM said_text JOIN post ON post.id = said_text.rowid >> 32"
            f" WHERE said_text MATCH ? AND {db.sees()}))"
        )
        values += [" ".join(tokens[:20])] * 2
    for column, value in (("kind = ?", wanted.kind), ("licence = ?", wanted.licence)):
        if value or value == "" and column.startswith("licence"):
            terms.append(column)
            values.append(value)
    if wanted.year:
        terms.append("STRFTIME('%Y', added_at, 'unixepoch') = ?")
        values.append(wanted.year)
    if wanted.label:
        terms.append("EXISTS (SELECT 1 FROM JSON_EACH(labels) WHERE value = ? COLLATE NOCASE)")
        values.append(wanted.label)
    terms += [
        f"({table[key]})"
        for table, key in ((_SHAPES, wanted.shape), (_USES, wanted.uses), (_LACKS, wanted.lacks))
        if key
    ]
    return " AND ".join(terms), values


def find(db: Database, blog_id: int, wanted: Wanted, most: int, start: int = 0) -> list[Media]:
    """Items that fit, in the order asked for."""
    where, values = _where(db, blog_id, wanted)
    rows = db.all(
        f"SELECT * FROM media WHERE {where} ORDER BY {_ORDERS[wanted.order]} LIMIT ? OFFSET ?",
        *values,
        most,
        start,
    )
    return [_media(row) for row in rows]


def count(db: Database, blog_id: int, wanted: Wanted) -> int:
    where, values = _where(db, blog_id, wanted)
    return db.value(f"SELECT COUNT(*) FROM media WHERE {where}", *values)


def described_in_posts(db: Database, numbers: list[int]) -> set[int]:
    """Those of the items that a post describes."""
    return set(
        db.column(
            "SELECT DISTINCT media_id FROM post_media WHERE is_described AND media_id IN (SELECT value FROM JSON_EACH(?))",
            json.dumps(numbers),
        )
    )


def use_counts(db: Database, numbers: list[int]) -> dict[int, int]:
    """In how many posts each of the items is shown."""
    marks = ", ".join("?" * len(numbers))
    return dict(
        tuple(row)
        for row in db.all(
            f"SELECT media_id, COUNT(*) FROM post_media WHERE media_id IN ({marks}) GROUP BY media_id",
            *numbers,
        )
    )


def years(db: Database, blog_id: int) -> list[str]:
    return [
        row[0]
        for row in db.all(
            "SELECT DISTINCT STRFTIME('%Y', added_at, 'unixepoch') AS year FROM media WHERE blog_id = ? ORDER BY year DESC",
            blog_id,
        )
    ]


def labels(db: Database, blog_id: int) -> list[tuple[str, int]]:
    """(label, how many items bear it), the most used first."""
    rows = db.all(
        "SELECT value, COUNT(*) AS times FROM media, JSON_EACH(media.labels) WHERE blog_id = ? AND aside_at IS NULL GROUP BY value COLLATE NOCASE ORDER BY times DESC, value", blog_id
    )  # fmt: skip
    return [tuple(row) for row in rows]


@dataclass(frozen=True)
class Room:
    """How much room a library takes, in bytes: originals, the files made of them, and what no post shows."""

    items: int
    originals: int
    copies: int
    unused_items: int
    unused: int


def room(db: Database, blog_id: int) -> Room:
    """How much the library of a blog takes on the disk, in bytes, with what nothing shows."""
    items, originals = existing(
        db.one("SELECT COUNT(*), IFNULL(SUM(bytes), 0) FROM media WHERE blog_id = ?", blog_id)
    )
    made = db.value(
        "SELECT IFNULL(SUM(copy.bytes), 0) FROM copy JOIN media ON media.id = media_id WHERE blog_id = ?",
        blog_id,
    )
    unused_items, unused = existing(
        db.one(
            f"SELECT COUNT(*), IFNULL(SUM(bytes), 0) FROM media WHERE blog_id = ? AND aside_at IS NULL AND {_COUNT} = 0",
            blog_id,
        )
    )
    return Room(items, originals, made, unused_items, unused)


def set_post_media(db: Database, post_id: int, said: Mapping[int, tuple[str, str]]) -> None:
    """Notes which items the working text of a post shows, with (its descriptions, all words) that it says of each."""
    known = {row[0] for row in db.all("SELECT media_id FROM post_media WHERE post_id = ?", post_id)}
    db.run_many(
        "DELETE FROM post_media WHERE media_id = ? AND post_id = ?",
        [(number, post_id) for number in known - said.keys()],
    )
    db.run_many(
        "INSERT INTO post_media VALUES (?, ?, ?) ON CONFLICT DO UPDATE SET is_described = excluded.is_described WHERE is_described <> excluded.is_described",
        [(number, post_id, int(bool(alt))) for number, (alt, _) in said.items()],
    )
    first = post_id << 32
    kept = dict(
        tuple(row)
        for row in db.all(
            "SELECT rowid, words FROM said_text WHERE rowid BETWEEN ? AND ?", first, first + 2**32 - 1
        )
    )
    wanted = {first | number: words for number, (_, words) in said.items() if words}
    db.run_many(
        "DELETE FROM said_text WHERE rowid = ?", [(row,) for row in kept if kept[row] != wanted.get(row)]
    )
    db.run_many(
        "INSERT INTO said_text (rowid, words) VALUES (?, ?)",
        [pair for pair in wanted.items() if kept.get(pair[0]) != pair[1]],
    )


def posts_showing(db: Database, media_id: int, now: int) -> list[int]:
    """The posts whose working text shows an item, or that show it to readers now or will."""
    rows = db.all(
        "SELECT post_id FROM post_media WHERE media_id = ? UNION SELECT post_id FROM placement_media JOIN placement ON placement.id = placement_id WHERE media_id = ? AND shows_from < shows_until AND shows_until > ?",
        media_id, media_id, now,
    )  # fmt: skip
    return [row[0] for row in rows]


def shown_by(db: Database, media_id: int, now: int) -> list[tuple[int, int]]:
    """(blog, post) of every post that shows an item to readers now, or will."""
    rows = db.all(
        "SELECT DISTINCT blog_id, post_id FROM placement_media JOIN placement ON placement.id = placement_id"
        " WHERE media_id = ? AND shows_until > ? AND shows_from < shows_until",
        media_id, now,
    )  # fmt: skip
    return [tuple(row) for row in rows]


def kept_showing(db: Database, blog_id: int, media_id: int) -> list[tuple[int, str]]:
    """(number, name) of the saved blocks whose text names an item."""
    pattern = f'%"media:{media_id}"%'
    return [
        tuple(row)
        for row in db.all(
            "SELECT id, name FROM kept WHERE blog_id = ? AND removed_at IS NULL AND body LIKE ?",
            blog_id,
            pattern,
        )
    ]
