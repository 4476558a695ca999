"""Work of which one process of a data folder does at most one at a time, by file locks."""

from __future__ import annotations

import fcntl
import time
from collections.abc import Iterator
from contextlib import contextmanager

from mobbet.actions.workshop import Workshop

LOOK_AGAIN = 0.05


@contextmanager
def only_one(workshop: Workshop, name: str, patience: float = 0) -> Iterator[bool]:
    """Whether this is the one process at that work, within so many seconds; it stays so until the context ends, or the process."""
    with (workshop.settings.data / f"{name}.lock").open("w") as lock:
        until = time.monotonic() + patience
        while True:
            try:
                fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
                break
            except BlockingIOError:
                if time.monotonic() >= until:
                    yield False
                    return
                time.sleep(LOOK_AGAIN)
        yield True
