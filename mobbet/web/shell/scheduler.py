"""The scheduler: sleeps until the next instant at which a site changes, and publishes it."""

from __future__ import annotations

import logging
import math
import threading
import time
from collections.abc import Callable

from mobbet.actions import building, placing
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import MobbetError
from mobbet.publish.published import Published
from mobbet.store import blogs, editions, jobs, placements, stale
from mobbet.store.blogs import Blog
from mobbet.store.editions import Edition

LOOK_AGAIN = 1.0
"""Seconds after which it looks again although nothing woke it: another process may have changed facts."""

MOST_MOMENTS = 100
"""How many missed moments get an edition each."""

COPIES_WAIT = 20.0
"""Seconds for which a publication waits while copies of files are being made, so that many files become one edition."""

RETRY = 10.0
"""Seconds after which a publication that failed is tried again."""
UNEXPECTED = "Something in Mobbet failed; its log says what."

log = logging.getLogger("mobbet.scheduler")


class Scheduler:
    """One thread that publishes on the second. `wake` tells it that facts changed."""

    def __init__(self, workshop: Workshop, exact_time: Callable[[], float]) -> None:
        self._workshop = workshop
        self._exact_time = exact_time
        self._event = threading.Event()
        self._is_stopping = False
        self._try_again = math.inf
        self._waits_since: dict[int, float] = {}
        self._thread = threading.Thread(target=self._run, name="scheduler", daemon=True)

    def start(self) -> None:
        self._thread.start()

    def stop(self) -> None:
        self._is_stopping = True
        self._event.set()
        self._thread.join(timeout=10)

    def wake(self) -> None:
        self._event.set()

    def _run(self) -> None:
        seen = None
        while not self._is_stopping:
            try:
                version = self._workshop.db.version()
                if version != seen or self._try_again <= time.monotonic():
                    is_published = self.publish_due(is_first=seen is None)
                    self._try_again = math.inf if is_published else time.monotonic() + RETRY
                    seen = version
                change = building.next_change(self._workshop)
                pause = (
                    LOOK_AGAIN if change is None else min(LOOK_AGAIN, max(0.01, change - self._exact_time()))
                )
                is_due = change is not None and pause < LOOK_AGAIN
            except MobbetError as error:
                log.error("%s", error)
                pause, is_due = LOOK_AGAIN, False
            except Exception:
                log.exception("the scheduler goes on after an unexpected error")
                pause, is_due = LOOK_AGAIN, False
            if self._event.wait(pause):
                self._event.clear()
            elif is_due:
                seen = (-1, -1)

    def publish_due(self, is_first: bool = False) -> bool:
        """Publishes every blog whose facts or whose time have moved on since its last edition; answers whether all could be.

        One that fails holds up no other; why it failed is noted for its desk.
        The first time every blog is looked at, because a new version of Mobbet may render it anew.
        """
        published = [self._publish_or_note(blog, is_first) for blog in blogs.every(self._workshop.db)]
        return all(published)

    def _publish_or_note(self, blog: Blog, is_first: bool) -> bool:
        problem = ""
        try:
            self._publish(blog, is_first)
        except MobbetError as error:
            log.error("%s: %s", blog.slug, error)
            problem = str(error)
        except Exception:
            log.exception("the scheduled publication of %s failed", blog.slug)
            problem = UNEXPECTED
        building.note_problem(self._workshop, blog, problem)
        return not problem

    def _publish(self, blog: Blog, is_first: bool) -> None:
        workshop, now = self._workshop, self._workshop.clock()
        base = editions.current(workshop.db, blog.id)
        published = self._catch_up(blog, base, now) if base else None
        is_due = (
            base is None
            or (is_first and not base.puts_back)
            or stale.last_post(workshop.db, blog.id) > 0
            or bool(stale.facts(workshop.db, blog.id))
        )
        if is_due and not (base and self._waits_for_copies(blog)):
            published = workshop.press.publish(blog.id, now)
        if published and (published.written or published.removed):
            log.info(
                "edition %d of %s: %d pages written, %d removed",
                published.edition,
                blog.slug,
                published.written,
                published.removed,
            )

    def _waits_for_copies(self, blog: Blog) -> bool:
        """Whether more copies of a blog's files are about to be ready; not for longer than `COPIES_WAIT`."""
        since = self._waits_since.setdefault(blog.id, time.monotonic())
        if jobs.are_left(self._workshop.db, blog.id) and time.monotonic() - since < COPIES_WAIT:
            return True
        del self._waits_since[blog.id]
        return False

    def _catch_up(self, blog: Blog, base: Edition, now: int) -> Published | None:
        """An edition for each moment that has come since the last one, in order; very many are caught up in one."""
        workshop, published = self._workshop, None
        for instant in placements.moments_between(workshop.db, blog.id, base.instant, now, MOST_MOMENTS):
            published = workshop.press.publish(blog.id, instant, why=placing.why_at(workshop, blog, instant))
        return published
