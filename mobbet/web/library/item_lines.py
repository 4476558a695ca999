"""Items of a library in words, and the sentence by which they are filtered."""

from __future__ import annotations

from typing import Any
from urllib.parse import urlencode

from mobbet.actions.workshop import Workshop
from mobbet.core.document.html_media import size_words
from mobbet.core.media.captions import clock
from mobbet.core.media.kinds import BY_TYPE
from mobbet.core.media.licences import LICENCE, LICENCES
from mobbet.store import jobs, media
from mobbet.store.blogs import Blog
from mobbet.store.media import Media, Wanted
from mobbet.web.library import addresses as to_library
from mobbet.web.library.contexts import FilterWord, ShelfLine
from mobbet.web.shell.contexts import Choice

KINDS = (
    ("", "everything"),
    ("picture", "pictures"),
    ("sound", "sound"),
    ("video", "video"),
    ("file", "files to download"),
)
SHAPES = (
    ("", "any shape"),
    ("landscape", "landscape shape"),
    ("portrait", "portrait shape"),
    ("square", "square shape"),
)
USES = (
    ("", "used or not"),
    ("unused", "shown in no post"),
    ("used", "shown in a post"),
    ("many", "shown in three posts or more"),
)
LACKS = (
    ("", "whatever it lacks"),
    ("description", "not described"),
    ("credit", "without the credit it needs"),
    ("words", "without transcript or captions"),
    ("ready", "not ready"),
)
ORDERS = (
    ("newest", "newest first"),
    ("oldest", "oldest first"),
    ("name", "by name"),
    ("largest", "largest first"),
)


def wanted_of(asked: Any) -> Wanted:
    """The filter as the store takes it; values that are none of the choices ask for nothing."""

    def one_of(value: str, choices: tuple[tuple[str, str], ...]) -> str:
        return value if value in dict(choices) else choices[0][0]

    return Wanted(
        words=asked.words, kind=one_of(asked.kind, KINDS), shape=one_of(asked.shape, SHAPES), year=asked.year if asked.year.isdecimal() else "",
        uses=one_of(asked.uses, USES), licence=asked.licence if asked.licence in LICENCE else None, label=asked.label,
        lacks=one_of(asked.lacks, LACKS), is_aside=asked.aside == "yes", order=one_of(asked.order, ORDERS),
    )  # fmt: skip


def choices_of(here: Workshop, blog: Blog, asked: Any) -> list[FilterWord]:
    """The words of the filter's sentence that can be changed."""
    years = [("", "any year"), *((year, year) for year in media.years(here.db, blog.id))]
    labels = [
        ("", "any label"),
        *((name, f"{name} ({count})") for name, count in media.labels(here.db, blog.id)),
    ]
    licences = [("any", "any licence"), *((row.key, row.words) for row in LICENCES)]
    rows = (
        ("Showing", "kind", "What to show", KINDS), ("of", "shape", "Shape", SHAPES), ("from", "year", "Year", years), (",", "uses", "Use", USES),
        (",", "lacks", "What is missing", LACKS), ("under", "licence", "Licence", licences), ("with", "label", "Label", labels), (",", "order", "Order", ORDERS),
    )  # fmt: skip
    return [
        FilterWord(
            before,
            name,
            label,
            [Choice(value, words, value == getattr(asked, name)) for value, words in choices],
        )
        for before, name, label, choices in rows
    ]


def with_start(address: str, asked: Any, start: int) -> str:
    return f"{address}?{urlencode({**asked.model_dump(), 'start': start})}"


def lines_of(here: Workshop, rows: list[Media]) -> list[ShelfLine]:
    """Items as they stand on the sheet of thumbnails."""
    numbers = [row.id for row in rows]
    counts = media.use_counts(here.db, numbers) if rows else {}
    described = media.described_in_posts(here.db, numbers)
    return [line_of(here, row, counts.get(row.id, 0), row.id in described) for row in rows]


def line_of(here: Workshop, row: Media, count: int, is_described: bool) -> ShelfLine:
    """An item of the library as a line of its screen."""
    has_picture = row.kind == "picture" or (row.kind == "video" and row.state == "ready")
    problem = row.problem if row.state == "failed" else _lack(row, is_described)
    progress = jobs.progress_of(here.db, row.id) if row.state == "working" else None
    return ShelfLine(
        row.id, row.name, row.caption or row.name, row.kind, facts_words(row), _uses(count), problem, round(100 * progress) if progress is not None else None,
        to_library.picture(row.id, "thumb") if has_picture else "", row.alt, row.caption, row.credit,
        wave=row.wave if row.kind == "sound" else (),
    )  # fmt: skip


def facts_words(row: Media) -> str:
    """Type, size and length in a few words."""
    parts = [BY_TYPE[row.type].words if row.type in BY_TYPE else row.type]
    if row.width:
        parts.append(f"{row.width:,} × {row.height:,}")
    if row.seconds:
        parts.append(clock(row.seconds))
    return ", ".join([*parts, size_words(row.bytes)])


def _uses(count: int) -> str:
    return "in no post" if not count else "in 1 post" if count == 1 else f"in {count} posts"


def _lack(row: Media, is_described: bool) -> str:
    if row.kind == "picture" and not row.alt and not is_described:
        return "not described"
    return "no credit yet" if LICENCE[row.licence].asks_credit and not row.credit else ""
