"""A made-up account elsewhere that takes every notice and shows what it got."""

from __future__ import annotations

from collections import deque

from mobbet.services.contracts import Notice


class NoticeBoard:
    """Keeps the newest notices; each has an address that leads nowhere."""

    def __init__(self) -> None:
        self.taken: deque[Notice] = deque(maxlen=100)

    def announce(self, notice: Notice) -> str:
        self.taken.append(notice)
        return f"https://harbour-board.example/notices/{len(self.taken)}"
