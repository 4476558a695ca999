"""The worker process, one for each data folder, which runs background jobs.

The server starts it and starts it anew when it ends; work that it had begun then begins again. It ends by
itself with the server, whose end it sees at its standard input.
"""

from __future__ import annotations

import logging
import subprocess
import sys
import threading
import time
from pathlib import Path

from mobbet.actions import media_jobs, proofing
from mobbet.actions.workshop import Workshop
from mobbet.core.values import existing

PAUSE = 0.3
"""Seconds after which it looks for new work again."""
READ_AFTER = 3.0
"""Seconds between two looks for posts whose proof is to be read."""
READ_AT_ONCE = 5
"""Posts whose proof is read before it looks again for other work."""
AGAIN = 1.0
"""Seconds after which a worker that ended is started anew."""

log = logging.getLogger("mobbet.worker")


def work(workshop: Workshop, end: threading.Event) -> None:
    """Does what waits, and what comes, until `end`, and reads the proof of posts that changed; while another worker is at it, waits for its end."""
    while not end.is_set():
        with media_jobs.only_worker(workshop) as is_only:
            seen, looked = None, 0.0
            while is_only and not end.is_set():
                if media_jobs.work_all(workshop):
                    continue
                version = workshop.db.version()
                if (
                    version != seen and time.monotonic() - looked >= READ_AFTER
                ):  # while somebody types, the room reads for itself
                    if proofing.read_some(workshop, READ_AT_ONCE):
                        continue
                    seen, looked = version, time.monotonic()
                end.wait(PAUSE)
        end.wait(PAUSE)


def end_with_input() -> threading.Event:
    """An event that is set when the program that started this one is gone."""
    end = threading.Event()

    def watch() -> None:
        sys.stdin.read()
        end.set()

    threading.Thread(target=watch, name="end", daemon=True).start()
    return end


class Keeper:
    """Keeps a worker process running while a server runs."""

    def __init__(self, data: Path) -> None:
        self._command = [sys.executable, "-m", "mobbet", "work", "--data", str(data)]
        self._end = threading.Event()
        self._thread = threading.Thread(target=self._run, name="keeper", daemon=True)

    def start(self) -> None:
        self._thread.start()

    def stop(self) -> None:
        self._end.set()
        self._thread.join(timeout=10)

    def _run(self) -> None:
        while not self._end.is_set():
            with subprocess.Popen(self._command, stdin=subprocess.PIPE) as process:
                while process.poll() is None and not self._end.wait(0.1):
                    pass
                existing(process.stdin).close()
                try:
                    process.wait(timeout=3)
                except subprocess.TimeoutExpired:
                    process.kill()
            if not self._end.is_set():
                log.warning("the worker ended with %s and is started anew", process.returncode)
                self._end.wait(AGAIN)
