"""Periodic tasks of a running server, in a thread."""

from __future__ import annotations

import logging
import threading
from collections.abc import Callable

log = logging.getLogger("mobbet.rounds")


class PeriodicTasks:
    """Calls `work` every `pause` seconds, and goes on after an error."""

    def __init__(self, name: str, work: Callable[[], object], pause: float) -> None:
        self._work = work
        self._pause = pause
        self._stopping = threading.Event()
        self._thread = threading.Thread(target=self._run, name=name, daemon=True)

    def start(self) -> None:
        self._thread.start()

    def stop(self) -> None:
        self._stopping.set()
        self._thread.join(timeout=10)

    def _run(self) -> None:
        while not self._stopping.wait(self._pause):
            try:
                self._work()
            except Exception:
                log.exception("%s go on after an unexpected error", self._thread.name)
