"""Pictures of the library and their derivatives; the bytes lie on the shelf `media/`."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.core.facts import PictureFile
from mobbet.store.database import Database, Row


@dataclass(frozen=True)
class Media:
    """One picture as it was brought in; `hash` is that of the kept original, sizes are in pixels."""

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


def _media(row: Row | None) -> Media | None:
    return Media(**dict(row)) if row else None


def add(db: Database, **values: object) -> Media:
    columns = ", ".join(values)
    marks = ", ".join("?" * len(values))
    return _media(db.one(f"INSERT INTO media ({columns}) VALUES ({marks}) RETURNING *", *values.values()))


def add_derivative(db: Database, file: PictureFile, size: int) -> None:
    db.run("INSERT INTO derivative VALUES (?, ?, ?, ?, ?, ?)", file.media_id, file.type, file.width, file.height, file.hash, size)


def by_id(db: Database, media_id: int) -> Media | None:
    return _media(db.one("SELECT * FROM media WHERE id = ?", media_id))


def by_hash(db: Database, blog_id: int, digest: str) -> Media | None:
    return _media(db.one("SELECT * FROM media WHERE blog_id = ? AND hash = ?", blog_id, digest))


def files(db: Database, media_id: int) -> list[PictureFile]:
    """The derivatives of a picture, by type and width."""
    return [
        PictureFile(**dict(row))
        for row in db.all("SELECT media_id, width, height, type, hash FROM derivative WHERE media_id = ? ORDER BY type, width", media_id)
    ]


def file_of_blog(db: Database, blog_id: int, hash_start: str, width: int) -> PictureFile | None:
    """The derivative with that beginning of its hash, for the blog's own people."""
    row = db.one(
        "SELECT media_id, derivative.width, derivative.height, derivative.type, derivative.hash FROM derivative"
        " JOIN media ON media.id = media_id WHERE blog_id = ? AND derivative.width = ?"
        " AND derivative.hash >= ? AND derivative.hash < ?",
        blog_id, width, hash_start, hash_start + "g",
    )  # fmt: skip
    return PictureFile(**dict(row)) if row else None


def hashes(db: Database) -> list[tuple[str, int]]:
    """(hash, bytes) of every file that must lie on the shelf."""
    return [tuple(row) for row in db.all("SELECT hash, bytes FROM media UNION SELECT hash, bytes FROM derivative")]
