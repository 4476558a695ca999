"""Runs the function in this process, without limits, for callers that nobody waits for."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any


class AtOnce:
    """The contract of `services/bounded.py`, in this very process."""

    def __call__(self, function: Callable[..., Any], *args: Any, seconds: float, what: str) -> Any:
        return function(*args)

    def close(self) -> None:
        pass
