"""A mail server that accepts every letter and sends none; the Readers screen shows them."""

from __future__ import annotations

from collections import deque

from mobbet.services.contracts import Envelope


class LetterRack:
    """Takes letters; they stay in the database, where somebody may read them."""

    keeps = True

    def __init__(self) -> None:
        self.taken: deque[Envelope] = deque(maxlen=100)

    def send(self, letter: Envelope) -> None:
        self.taken.append(letter)
