"""Counts requests by address: in memory, written to the database every few seconds."""

from __future__ import annotations

import logging
import re
import threading
from collections import Counter

from starlette.types import Scope

from mobbet.actions import missing_pages, read_counts, site_search
from mobbet.actions.read_counts import Hit
from mobbet.actions.workshop import Workshop
from mobbet.store import blogs

PAUSE = 5.0
"""Seconds between two writings."""
MOST = 5000
"""How many different addresses are counted between two writings; any further ones are left out."""
LONGEST = 300
MOST_OPENED = 100_000
"""How many pages that were opened are kept in memory between two writings; any further ones are not counted."""
_SAID = (b"user-agent", b"referer", b"accept-language", b"host")
Opened = tuple[int, int, str, bytes, str, dict[bytes, bytes]]
"""(blog, when, path, query, network address, headers) of a page that was opened."""
_FILES = re.compile(
    r"\.(?:css|js|map|png|jpe?g|gif|webp|avif|svg|ico|woff2?|txt|xml|json|env|webmanifest)$", re.IGNORECASE
)

log = logging.getLogger("mobbet.tally")


class Tally:
    """Counts of one process. `start` writes them down from time to time until `stop`."""

    def __init__(self, workshop: Workshop) -> None:
        self._workshop = workshop
        self._counts: Counter[tuple[int, str, bool]] = Counter()
        self._opened: list[Opened] = []
        self._missed: Counter[tuple[int, int, str]] = Counter()
        self._lock = threading.Lock()
        self._stopping = threading.Event()
        self._thread = threading.Thread(target=self._run, name="tally", daemon=True)

    def start(self) -> None:
        self._thread.start()

    def stop(self) -> None:
        self._stopping.set()
        self._thread.join(timeout=10)

    def count(self, blog_id: int, path: str, is_known: bool) -> None:
        """Notes that an address was asked for; files that pages bring along are not counted."""
        key = (blog_id, path[:LONGEST], is_known)
        if _FILES.search(path) or (len(self._counts) >= MOST and key not in self._counts):
            return
        with self._lock:
            self._counts[key] += 1

    def count_opened(self, blog_id: int, path: str, scope: Scope, headers: dict[bytes, bytes]) -> None:
        """Notes that somebody opened a page: what the request says is read when it is written down, so that no reader waits for it."""
        if len(self._opened) < MOST_OPENED:
            client = scope.get("client") or ("",)
            self._opened.append(
                (blog_id, self._workshop.clock(), path, scope.get("query_string", b""), client[0], headers)
            )

    def count_missed(self, blog_id: int, words: str) -> None:
        """Notes words that a reader searched for and did not find."""
        key = (blog_id, self._workshop.clock() // 86400, words)
        with self._lock:
            if key in self._missed or len(self._missed) < MOST:
                self._missed[key] += 1

    def write(self) -> None:
        """Writes down what was counted since the last time."""
        with self._lock:
            counts, self._counts = self._counts, Counter()
            missed, self._missed = self._missed, Counter()
            opened, self._opened = self._opened, []
        by_blog: dict[int, dict[tuple[str, bool], int]] = {}
        for (blog_id, path, is_known), hits in counts.items():
            by_blog.setdefault(blog_id, {})[(path, is_known)] = hits
        for blog_id, asked in by_blog.items():
            missing_pages.count(self._workshop, blog_id, asked)
        self._write_opened(opened)
        by_day: dict[tuple[int, int], dict[str, int]] = {}
        for (blog_id, day, words), times in missed.items():
            by_day.setdefault((blog_id, day), {})[words] = times
        for (blog_id, day), found in by_day.items():
            site_search.count_missed(self._workshop, blog_id, day, found)

    def _write_opened(self, opened: list[Opened]) -> None:
        hits: dict[int, list[Hit]] = {}
        for blog_id, at, path, query, address, headers in opened:
            agent, referrer, language, host = (
                headers.get(name, b"")[:LONGEST].decode("latin-1") for name in _SAID
            )
            hit = Hit(
                at,
                path,
                query[:2000].decode("latin-1"),
                address,
                agent,
                referrer,
                language,
                host.partition(":")[0].lower(),
            )
            hits.setdefault(blog_id, []).append(hit)
        for blog_id, found in hits.items():
            blog = blogs.by_id(self._workshop.db, blog_id)
            if blog is not None:
                read_counts.count(self._workshop, blog, found)

    def _run(self) -> None:
        while not self._stopping.wait(PAUSE):
            self._try()
        self._try()

    def _try(self) -> None:
        try:
            self.write()
        except Exception:
            log.exception("counting goes on after an unexpected error")
