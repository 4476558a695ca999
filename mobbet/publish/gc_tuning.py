"""Garbage collection settings for full builds, which allocate very many objects that stay alive."""

from __future__ import annotations

import gc
import threading
from collections.abc import Iterator
from contextlib import contextmanager

RARE = (50_000, 20, 100)
"""Thresholds (`gc.set_threshold`) with which collections are rare."""

_lock = threading.Lock()
_usual: tuple[int, int, int] = gc.get_threshold()
_users = 0


@contextmanager
def rare_collections() -> Iterator[None]:
    """Collects rarely until the last of those who entered has left; then the usual thresholds hold again."""
    global _users, _usual
    with _lock:
        if not _users:
            _usual = gc.get_threshold()
            gc.set_threshold(*RARE)
        _users += 1
    try:
        yield
    finally:
        with _lock:
            _users -= 1
            if not _users:
                gc.set_threshold(*_usual)
