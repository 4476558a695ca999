"""What Mobbet asks of the world outside. Each contract has a real service and a stand-in."""

from __future__ import annotations

from typing import Protocol


class Clock(Protocol):
    """Tells the present instant, in whole seconds since 1970 UTC. The real one stands in `wiring`."""

    def __call__(self) -> int: ...
