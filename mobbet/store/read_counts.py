"""What is read, by day: pages, readers, where they came from."""

from __future__ import annotations

import json
from bisect import bisect_right
from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass

from mobbet.core.read_counts import END, WHOLE, Counts
from mobbet.store import reads
from mobbet.store.database import Database

KEPT_SECONDS = 2 * 86400
"""For how long after its last use the salt of a day is kept, with the hashes that were made with it."""
MOST_SOURCES = 2000
"""How many different sources of a blog are kept a day; any further ones are counted as no trace."""
KEPT_LINES_DAYS = 800


@dataclass(frozen=True)
class DayCount:
    day: str
    readers: int
    pages: int


@dataclass(frozen=True)
class PageCount:
    """A post with how it was read in a stretch of time; `ends` is how often somebody came to the end."""

    page: int
    readers: int
    pages: int
    ends: int


def salt(db: Database, blog_id: int, day: str, fresh: bytes, now: int) -> bytes:
    """The salt of a day; the fresh one where there is none yet. Call it inside a transaction."""
    db.run(
        "INSERT INTO read_salt VALUES (?, ?, ?, ?) ON CONFLICT DO UPDATE SET used_at = excluded.used_at",
        blog_id, day, fresh, now,
    )  # fmt: skip
    return db.value("SELECT salt FROM read_salt WHERE blog_id = ? AND day = ?", blog_id, day)


def forget_salts(db: Database, now: int) -> int:
    """Forgets salts that are not needed any more, and the hashes made with them; answers with how many."""
    rows = db.tuples("SELECT blog_id, day FROM read_salt WHERE used_at < ?", now - KEPT_SECONDS)
    db.run_many("DELETE FROM read_seen WHERE blog_id = ? AND day = ?", rows)
    db.run_many("DELETE FROM read_salt WHERE blog_id = ? AND day = ?", rows)
    return len(rows)


def add(db: Database, blog_id: int, counts: Counts) -> None:
    """Adds counts to those of their days; a reader who was counted on a day already is not counted again."""
    before = _seen(db, blog_id, counts)
    db.run_many(
        "INSERT INTO read_seen VALUES (?, ?, ?, ?) ON CONFLICT DO NOTHING",
        [(blog_id, *one) for one in sorted(counts.seen)],
    )
    fresh = _seen(db, blog_id, counts) - before
    ends = {(day, END - page): number for (day, page), number in fresh.items() if page <= END}
    db.run_many(
        "INSERT INTO read_day (blog_id, day, page, pages, readers, ends) VALUES (?, ?, ?, ?, ?, ?) ON CONFLICT DO UPDATE SET"
        " pages = pages + excluded.pages, readers = readers + excluded.readers, ends = ends + excluded.ends",
        [
            (blog_id, *key, counts.pages[key], fresh[key], ends.get(key, 0))
            for key in counts.pages.keys() | ends.keys()
        ],
    )
    reads.add(db, counts.by_month())
    db.run_many(
        "INSERT INTO read_robots VALUES (?, ?, ?) ON CONFLICT DO UPDATE SET pages = pages + excluded.pages",
        [(blog_id, day, pages) for day, pages in counts.robots.items()],
    )
    db.run_many(
        "INSERT INTO read_source VALUES (?, ?, ?, ?, ?) ON CONFLICT DO UPDATE SET pages = pages + excluded.pages",
        _bounded(db, blog_id, counts),
    )
    db.run_many(
        "INSERT INTO read_way VALUES (?, ?, ?, ?, ?) ON CONFLICT DO UPDATE SET pages = pages + excluded.pages",
        [(blog_id, *key, pages) for key, pages in counts.ways.items()],
    )


def _seen(db: Database, blog_id: int, counts: Counts) -> Counter[tuple[str, int]]:
    """How many readers are known by (day, page), on the days that were counted."""
    rows = db.tuples(
        "SELECT day, page, COUNT(*) FROM read_seen WHERE blog_id = ? AND day IN (SELECT value FROM JSON_EACH(?)) GROUP BY day, page",
        blog_id, json.dumps(sorted(counts.days)),
    )  # fmt: skip
    return Counter({(day, page): number for day, page, number in rows})


def _bounded(db: Database, blog_id: int, counts: Counts) -> list[tuple[int, str, str, int, int]]:
    """The rows of sources, in which those beyond MOST_SOURCES of a day are no trace."""
    rows = []
    for day in {day for day, _, _ in counts.sources}:
        known = set(
            db.column("SELECT DISTINCT source FROM read_source WHERE blog_id = ? AND day = ?", blog_id, day)
        )
        kept: Counter[tuple[str, int]] = Counter()
        for (of_day, source, page), pages in counts.sources.items():
            if of_day == day:
                if source not in known and len(known) < MOST_SOURCES:
                    known.add(source)
                kept[source if source in known else "", page] += pages
        rows += [(blog_id, day, source, page, pages) for (source, page), pages in kept.items()]
    return rows


def begin_log(db: Database) -> None:
    """Begins a log, of whose lines none has been read."""
    db.run("CREATE TEMP TABLE IF NOT EXISTS log_line (line INTEGER PRIMARY KEY, times INTEGER NOT NULL)")
    db.run("DELETE FROM temp.log_line")


def fresh_lines(db: Database, blog_id: int, lines: list[tuple[int, str]]) -> list[bool]:
    """Which of the next lines of a log, by (hash, day), were not counted before: a line that stands in a log twice counts twice, in several logs once."""
    asked = json.dumps(list({line for line, _ in lines}))
    stored, before = (
        dict(db.tuples(sql, *values))
        for sql, values in (
            (
                "SELECT line, times FROM read_line WHERE blog_id = ? AND line IN (SELECT value FROM JSON_EACH(?))",
                (blog_id, asked),
            ),
            (
                "SELECT line, times FROM temp.log_line WHERE line IN (SELECT value FROM JSON_EACH(?))",
                (asked,),
            ),
        )
    )
    found: list[bool] = []
    for line, _ in lines:
        before[line] = before.get(line, 0) + 1
        is_fresh = before[line] > stored.get(line, 0)
        if is_fresh:
            stored[line] = before[line]
        found.append(is_fresh)
    days = dict(lines)
    db.run_many(
        "INSERT INTO read_line VALUES (?, ?, ?, ?) ON CONFLICT DO UPDATE SET times = excluded.times",
        [(blog_id, line, stored[line], day) for line, day in sorted(days.items())],
    )
    db.run_many(
        "INSERT INTO temp.log_line VALUES (?, ?) ON CONFLICT DO UPDATE SET times = excluded.times",
        [(line, before[line]) for line in sorted(days)],
    )
    return found


def forget_lines(db: Database, day: str) -> None:
    """Forgets lines of logs from before a day."""
    db.run("DELETE FROM read_line WHERE day < ?", day)


def pages_of(db: Database, blog_id: int) -> list[tuple[str, str]]:
    """(path, key) of every page that readers could ever open."""
    return db.tuples(
        "SELECT DISTINCT path, key FROM edition_page WHERE blog_id = ? AND leads_to IS NULL AND type LIKE 'text/html%'",
        blog_id,
    )


def whole(db: Database, blog_id: int, first: str, last: str) -> tuple[int, int]:
    """(readers, pages) of a blog in the days from `first` to `last`."""
    [row] = db.tuples(
        "SELECT IFNULL(SUM(readers), 0), IFNULL(SUM(pages), 0) FROM read_day WHERE blog_id = ? AND page = 0 AND day BETWEEN ? AND ?",
        blog_id, first, last,
    )  # fmt: skip
    return row[0], row[1]


def robots(db: Database, blog_id: int, first: str, last: str) -> int:
    return db.value(
        "SELECT IFNULL(SUM(pages), 0) FROM read_robots WHERE blog_id = ? AND day BETWEEN ? AND ?",
        blog_id, first, last,
    )  # fmt: skip


def days(db: Database, blog_id: int, first: str, last: str, page: int = WHOLE) -> list[DayCount]:
    """The days on which something was read, the oldest first."""
    return [
        DayCount(*row)
        for row in db.tuples(
            "SELECT day, readers, pages FROM read_day WHERE blog_id = ? AND page = ? AND day BETWEEN ? AND ? AND pages > 0 ORDER BY day",
            blog_id, page, first, last,
        )
    ]  # fmt: skip


def posts(db: Database, blog_id: int, first: str, last: str, most: int = -1) -> list[PageCount]:
    """Posts that were read, those first that were opened most."""
    return [
        PageCount(*row)
        for row in db.tuples(
            "SELECT page, SUM(readers), SUM(pages) AS opened, SUM(ends) FROM read_day WHERE blog_id = ? AND page > 0 AND day BETWEEN ? AND ?"
            " GROUP BY page HAVING opened > 0 ORDER BY opened DESC, page LIMIT ?",
            blog_id, first, last, most,
        )
    ]  # fmt: skip


def sources(
    db: Database, blog_id: int, first: str, last: str, page: int | None = None
) -> list[tuple[str, int]]:
    """(source, first pages) of where readers came from, the most frequent first; of one page, or of all."""
    return db.tuples(
        "SELECT source, SUM(pages) AS opened FROM read_source WHERE blog_id = ?1 AND day BETWEEN ?2 AND ?3 AND (?4 IS NULL OR page = ?4) GROUP BY source ORDER BY opened DESC, source",
        blog_id, first, last, page,
    )  # fmt: skip


def flows(db: Database, blog_id: int, first: str, last: str) -> list[tuple[str, int, int]]:
    """(source, page, how often) of which page was opened first from where."""
    return db.tuples(
        "SELECT source, page, SUM(pages) FROM read_source WHERE blog_id = ? AND day BETWEEN ? AND ? GROUP BY source, page",
        blog_id, first, last,
    )  # fmt: skip


def ways(db: Database, blog_id: int, first: str, last: str, way: str, most: int) -> list[tuple[str, int]]:
    """(value, pages) of the languages or devices of readers."""
    return db.tuples(
        "SELECT value, SUM(pages) AS opened FROM read_way WHERE blog_id = ? AND way = ? AND day BETWEEN ? AND ? GROUP BY value ORDER BY opened DESC, value LIMIT ?",
        blog_id, way, first, last, most,
    )  # fmt: skip


def paths(db: Database, blog_id: int, post_ids: Iterable[int]) -> dict[int, str]:
    """{post: its path}, also of one that is out no more."""
    return dict(
        db.tuples(
            "SELECT CAST(SUBSTR(key, 6) AS INTEGER), path FROM edition_page WHERE blog_id = ? AND key IN (SELECT 'post/' || value FROM JSON_EACH(?)) ORDER BY from_edition",
            blog_id, json.dumps(list(post_ids)),
        )
    )  # fmt: skip


def by_words(db: Database, blog_id: int, sources: list[str]) -> dict[str, int]:
    """{source: how many pages were opened first from there}, of these sources."""
    marks = ", ".join("?" * len(sources))
    return dict(
        db.tuples(
            f"SELECT source, SUM(pages) FROM read_source WHERE blog_id = ? AND source IN ({marks}) GROUP BY source",
            blog_id,
            *sources,
        )
    )


def course(db: Database, blog_id: int, page: int, days: list[str]) -> list[int]:
    """How often a page was opened in the stretches that begin with these days (ISO 8601), each up to the next; the last one is open."""
    rows = db.tuples(
        "SELECT day, pages FROM read_day WHERE blog_id = ? AND page = ? AND day >= ? ORDER BY day",
        blog_id,
        page,
        days[0],
    )
    found = [0] * len(days)
    for day, pages in rows:
        found[bisect_right(days, day) - 1] += pages
    return found


def first_day(db: Database, blog_id: int) -> str | None:
    """The first day on which something was counted."""
    return db.value("SELECT MIN(day) FROM read_day WHERE blog_id = ? AND page = 0", blog_id)
