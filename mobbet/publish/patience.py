"""Looking for garbage seldom while very many values are made that all stay."""

from __future__ import annotations

import gc
from collections.abc import Iterator
from contextlib import contextmanager

PATIENT = (50_000, 20, 100)


@contextmanager
def patience() -> Iterator[None]:
    usual = gc.get_threshold()
    gc.set_threshold(*PATIENT)
    try:
        yield
    finally:
        gc.set_threshold(*usual)
