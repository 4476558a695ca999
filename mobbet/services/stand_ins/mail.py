"""A mail server that accepts every letter and sends none; the Readers screen shows them."""

from __future__ import annotations

from collections import deque
from collections.abc import Callable, Iterator
from contextlib import contextmanager

from mobbet.services.contracts import Envelope


class LetterRack:
    """Takes letters; they stay in the database, where somebody may read them."""

    keeps = True

    def __init__(self) -> None:
        self.taken: deque[Envelope] = deque(maxlen=100)

    def send(self, letter: Envelope) -> None:
        self.taken.append(letter)

    @contextmanager
    def open(self) -> Iterator[Callable[[Envelope], None]]:
        yield self.send


class ReturnedLetters:
    """A mailbox of returned letters that holds what was put into it."""

    def __init__(self, *messages: bytes) -> None:
        self.waiting = list(messages)

    def fetch(self, take: Callable[[bytes], None]) -> int:
        count = len(self.waiting)
        while self.waiting:
            take(self.waiting[0])
            del self.waiting[0]
        return count
