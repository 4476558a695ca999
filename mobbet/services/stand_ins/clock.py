"""A clock that is set by hand, for demo data and tests."""

from __future__ import annotations


class SetClock:
    """Tells the instant it was last set to."""

    def __init__(self, instant: int) -> None:
        self.instant = instant

    def __call__(self) -> int:
        return self.instant

    def forward(self, seconds: int) -> None:
        self.instant += seconds
