"""Scripted answers of links, for tests and for machines without a network."""

from __future__ import annotations

from mobbet.services.contracts import LinkReply


class ScriptedReplies:
    """Answers as it was told; of any other address nothing is known."""

    def __init__(self, answers: dict[str, LinkReply] | None = None) -> None:
        self.answers = answers or {}
        self.asked: list[str] = []

    def __call__(self, address: str) -> LinkReply:
        self.asked.append(address)
        return self.answers.get(address, LinkReply(is_known=False))
