"""What is read: counted from requests alone, live and from access logs, by day and never by person."""

from __future__ import annotations

import gzip
import secrets
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from functools import lru_cache
from hashlib import blake2b
from itertools import islice
from pathlib import Path
from typing import IO, Any, NamedTuple

from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.access_log import days_by, path_of, read_line
from mobbet.core.errors import BadInput
from mobbet.core.keys import PageKey
from mobbet.core.read_counts import (
    END,
    FRONT,
    OTHER,
    OWN_LINK,
    Counts,
    View,
    device_of,
    end_in,
    language_of,
    reader_hash,
    source_of,
)
from mobbet.core.timing import local
from mobbet.core.web_addresses import split_address
from mobbet.store import read_counts as store
from mobbet.store.blogs import Blog

AT_ONCE = 80_000
"""How many lines of a log are counted in one transaction."""
SAMPLE = 5000
"""Of so many lines it is found out whether a log's paths begin with the path of the blog's address."""


@dataclass(frozen=True)
class Hit:
    """A page as a server was asked for it: when (seconds since 1970 UTC), its path with the query, by whom, and what the request said."""

    at: int
    path: str
    query: str
    address: str
    agent: str
    referrer: str
    language: str
    host: str


@lru_cache(maxsize=20_000)
def is_robot(agent: str) -> bool:
    """Whether an agent names itself as a robot."""
    return bool(_detector().isCrawler(agent)) if agent else False


@lru_cache(maxsize=1)
def _detector():  # type: ignore[no-untyped-def]
    from crawlerdetect import CrawlerDetect

    return CrawlerDetect()


class _Salts:
    """The salts of the days of a blog, each asked for once."""

    def __init__(self, workshop: Workshop, blog: Blog) -> None:
        self._workshop, self._blog = workshop, blog
        self._known: dict[str, bytes] = {}

    def __getitem__(self, day: str) -> bytes:
        if day not in self._known:
            fresh, now = secrets.token_bytes(32), self._workshop.clock()
            self._known[day] = store.salt(self._workshop.db, self._blog.id, day, fresh, now)
        return self._known[day]


def _page_numbers(workshop: Workshop, blog: Blog) -> dict[str, int]:
    """{path: the number by which a page is counted} of every page that readers could ever open."""
    found = {}
    for path, key in store.pages_of(workshop.db, blog.id):
        name = PageKey(key)
        found[path] = FRONT if path == "/" else name.number if name.kind == "post" else OTHER
    return found


def post_paths(workshop: Workshop, blog: Blog) -> dict[str, int]:
    """The paths at which posts of a blog could be opened, each with its post."""
    return {path: number for path, number in _page_numbers(workshop, blog).items() if number > 0}


def own_hosts(blog: Blog) -> frozenset[str]:
    """The hosts at which a blog stands."""
    return frozenset(filter(None, (split_address(blog.home).hostname, blog.host)))


def count(workshop: Workshop, blog: Blog, hits: Iterable[Hit]) -> None:
    """Adds pages that the server was asked for."""
    counts, hosts = Counts(), own_hosts(blog)
    with changing(workshop):
        salts, numbers = _Salts(workshop, blog), _page_numbers(workshop, blog)
        posts = set(numbers.values())
        for hit in hits:
            page, day = numbers.get(hit.path), local(hit.at, blog.zone).date().isoformat()
            end = end_in(hit.path, hit.query)
            if end is not None and end in posts and not is_robot(hit.agent):
                counts.add_end(day, end, reader_hash(salts[day], hit.address, hit.agent))
            if page is None:
                continue
            if is_robot(hit.agent):
                counts.robots[day] += 1
                continue
            source = source_of(hit.referrer, hit.query, hosts | {hit.host})
            reader = reader_hash(salts[day], hit.address, hit.agent)
            counts.add([View(day, page, reader, source, device_of(hit.agent), language_of(hit.language))])
        store.add(workshop.db, blog.id, counts)


@dataclass
class Imported:
    """What a log came to: its lines, pages that were counted, those of robots, lines that were counted before, and lines that are none."""

    lines: int = 0
    pages: int = 0
    robots: int = 0
    again: int = 0
    unreadable: int = 0


def import_log(workshop: Workshop, blog: Blog, path: Path, root: str | None = None) -> Imported:
    """Counts the pages of an access log (Common or Combined Log Format, also packed by gzip). A line is counted once, in however many logs it stands.
    `root` is the path at which the log's server has the blog; found out, without one. Raises BadInput for a file that cannot be read."""
    try:
        with _opened(path) as file:
            return _import(workshop, blog, file, root or _root_of(blog, path))
    except (OSError, EOFError, gzip.BadGzipFile) as error:
        raise BadInput(f"{path} cannot be read as a log: {error}.", "log") from None


def _opened(path: Path) -> IO[str]:
    with path.open("rb") as file:
        is_packed = file.read(2) == b"\x1f\x8b"
    opened = gzip.open if is_packed else open
    return opened(path, "rt", encoding="utf-8", errors="replace", newline="\n")


def _root_of(blog: Blog, path: Path) -> str:
    root = split_address(blog.home).path or "/"
    if root == "/":
        return root
    with _opened(path) as file:
        lines = map(read_line, islice(file, SAMPLE))
        return root if any(line and line.target.startswith(root) for line in lines) else "/"


def _import(workshop: Workshop, blog: Blog, file: IO[str], root: str) -> Imported:
    result, hosts = Imported(), own_hosts(blog)
    with changing(workshop):
        store.begin_log(workshop.db)
    waiting = _asked_for(blog, file, root, _page_numbers(workshop, blog))
    while batch := list(islice(waiting, AT_ONCE)):
        with changing(workshop):
            _count_batch(workshop, blog, batch, result, hosts)
    return result


class _Asked(NamedTuple):
    """A line that asks for a page: its hash, its day, and what it says."""

    line: int
    day: str
    page: int
    query: str
    address: str
    agent: str
    referrer: str


def _asked_for(blog: Blog, file: IO[str], root: str, numbers: dict[str, int]) -> Iterator[_Asked | bool]:
    """The pages that lines ask for; False for a line that asks for none, True for one that cannot be read."""
    day_of = days_by(lambda instant: local(instant, blog.zone).date().isoformat())
    posts = set(numbers.values())
    number_of = lru_cache(50_000)(lambda target: _number_of(target, root, numbers, posts))
    for text in file:
        line = read_line(text)
        day = day_of(line.time) if line else None
        if line is None or day is None:
            yield True
            continue
        page = number_of(line.target) if line.method == "GET" and line.status in (200, 304) else None
        if page is None:
            yield False
            continue
        digest = blake2b(text.rstrip("\r\n").encode(errors="replace"), digest_size=8).digest()
        query = line.target.partition("?")[2]
        number = int.from_bytes(digest, "big", signed=True)
        yield _Asked(number, day, page, query, line.address, line.agent, line.referrer)


def _number_of(target: str, root: str, numbers: dict[str, int], posts: set[int]) -> int | None:
    """The number by which what was asked for is counted; of the end of a post, END less its number."""
    path = path_of(target, root) or ""
    end = end_in(path, target.partition("?")[2])
    return numbers.get(path) if end is None else END - end if end in posts else None


def _count_batch(
    workshop: Workshop, blog: Blog, batch: list[_Asked | bool], result: Imported, hosts: frozenset[str]
) -> None:
    result.lines += len(batch)
    result.unreadable += batch.count(True)
    asked = [one for one in batch if not isinstance(one, bool)]
    fresh = store.fresh_lines(workshop.db, blog.id, [(one.line, one.day) for one in asked])
    counts, salts = Counts(), _Salts(workshop, blog)
    views = []
    for one, is_fresh in zip(asked, fresh, strict=True):
        if not is_fresh:
            result.again += 1
        elif is_robot(one.agent):
            counts.robots[one.day] += one.page > END
            result.robots += one.page > END
        elif one.page <= END:
            counts.add_end(one.day, END - one.page, reader_hash(salts[one.day], one.address, one.agent))
        else:
            source = source_of(one.referrer, one.query, hosts)
            reader = reader_hash(salts[one.day], one.address, one.agent)
            views.append(View(one.day, one.page, reader, source, device_of(one.agent), ""))
    result.pages += len(views)
    counts.add(views)
    store.add(workshop.db, blog.id, counts)


def forget(workshop: Workshop) -> int:
    """Forgets what readers were told apart by, two days after it was last needed."""
    with changing(workshop):
        return store.forget_salts(workshop.db, workshop.clock())


def facts(workshop: Workshop, blog: Blog, first: str, last: str) -> dict[str, Any]:
    """What was read in the days from `first` to `last` (ISO 8601), as plain data."""
    db = workshop.db
    readers, pages = store.whole(db, blog.id, first, last)
    found = store.posts(db, blog.id, first, last)
    paths = store.paths(db, blog.id, (one.page for one in found))
    return {
        "readers": readers,
        "pages": pages,
        "robots": store.robots(db, blog.id, first, last),
        "days": [vars(one) for one in store.days(db, blog.id, first, last)],
        "posts": [
            {"id": one.page, "path": paths.get(one.page, ""), "readers": one.readers, "pages": one.pages}
            for one in found
        ],
        "from": [
            {"host": source, "pages": number}
            for source, number in store.sources(db, blog.id, first, last)
            if source and not source.startswith(OWN_LINK)
        ],
    }
