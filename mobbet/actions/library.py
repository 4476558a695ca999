"""Bringing pictures into a blog's library."""

from __future__ import annotations

import hashlib

from mobbet.actions.workshop import Workshop
from mobbet.core.facts import PictureFile
from mobbet.media.pictures import read_picture
from mobbet.store import media
from mobbet.store.blogs import Blog
from mobbet.store.media import Media
from mobbet.store.people import Person


def add_picture(workshop: Workshop, person: Person, blog: Blog, name: str, data: bytes) -> Media:
    """Keeps a picture and makes its files for readers; the same file twice is kept once.

    Raises BadInput for what is no JPEG, PNG or WebP, is damaged, or is too large.
    """
    name = name.replace("\\", "/").rsplit("/", 1)[-1].strip()[:120] or "picture"
    digest = hashlib.sha256(data).hexdigest()
    known = media.by_hash(workshop.db, blog.id, digest)
    if known:
        return known
    picture = read_picture(data, name)
    _, new = workshop.media.put(data)
    made = []
    for file in picture.files:
        file_hash, paths = workshop.media.put(file.body)
        new += paths
        made.append((file, file_hash))
    workshop.media.sync(new)
    with workshop.db.transaction():
        known = media.by_hash(workshop.db, blog.id, digest)
        if known:
            return known
        row = media.add(
            workshop.db, blog_id=blog.id, hash=digest, name=name, type=picture.type, width=picture.width, height=picture.height,
            bytes=len(data), alt="", added_by=person.id, added_at=workshop.clock(),
        )  # fmt: skip
        for file, file_hash in made:
            media.add_derivative(workshop.db, PictureFile(row.id, file.width, file.height, file.type, file_hash), len(file.body))
    return row
