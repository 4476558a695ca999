"""Checks the integrity of a data folder: database, media and pages."""

from __future__ import annotations

import hashlib
from collections.abc import Iterator

from mobbet.actions.permalinks import category_subjects
from mobbet.actions.workshop import Workshop
from mobbet.core.document import schema
from mobbet.core.errors import BadDocument
from mobbet.core.filing import category_lists
from mobbet.store import blogs, editions, filed, integrity, media, placements, static_search
from mobbet.store.shelf import Shelf


def problems(workshop: Workshop) -> list[str]:
    """Everything that is not as it must be, a sentence each; empty when the folder is sound."""
    checks = (_database, _documents, _listings, _media_files, _page_files)
    return [problem for check in checks for problem in check(workshop)]


def _database(workshop: Workshop) -> Iterator[str]:
    yield from (f"The database is damaged: {line}." for line in integrity.damage(workshop.db))
    yield from (
        f"A post points to a text that is missing: post {number}."
        for number in integrity.posts_without_text(workshop.db)
    )
    yield from (
        f"The time kept with post {number} is not that of its placement."
        for number in integrity.posts_with_wrong_time(workshop.db)
    )


def _documents(workshop: Workshop) -> Iterator[str]:
    for post_id, number, body in integrity.bodies(workshop.db):
        try:
            document = schema.load(body)
            is_normal = schema.check(document) == document
        except (ValueError, KeyError, BadDocument):
            is_normal = False
        if not is_normal:
            yield f"Revision {number} of post {post_id} is not a sound document."


def _listings(workshop: Workshop) -> Iterator[str]:
    for blog in blogs.every(workshop.db):
        subjects = category_subjects(workshop, blog)
        for placement in placements.every(workshop.db, blog.id):
            lists = category_lists(subjects, placement.categories)
            wanted = sorted(filed.listing_rows(placements.filed_as(placement), lists))
            if sorted(filed.listings(workshop.db, [placement.id])) != wanted:
                yield f"The lists of post {placement.post_id} do not follow from its placement."


def _media_files(workshop: Workshop) -> Iterator[str]:
    for digest, _ in media.hashes(workshop.db):
        yield from _file(workshop.media, digest, "media")


def _page_files(workshop: Workshop) -> Iterator[str]:
    for digest in static_search.hashes(workshop.db):
        yield from _file(workshop.pages, digest, "pages")
    for shelf, digest in editions.hashes(workshop.db):
        if shelf == "pages":
            yield from _file(workshop.pages, digest, "pages")
    for blog in blogs.every(workshop.db):
        edition = editions.current(workshop.db, blog.id)
        count = sum(1 for _ in editions.pages(workshop.db, blog.id))
        if edition and edition.pages != count:
            yield f"Edition {edition.number} of {blog.slug} says {edition.pages} pages and has {count}."


def _file(shelf: Shelf, digest: str, folder: str) -> Iterator[str]:
    body = shelf.read(digest)
    if body is None:
        yield f"The file {folder}/{digest[:2]}/{digest} is missing."
    elif hashlib.sha256(body).hexdigest() != digest:
        yield f"The file {folder}/{digest[:2]}/{digest} is damaged."
