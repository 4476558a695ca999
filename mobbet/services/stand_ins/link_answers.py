"""Answers of links, for tests and for a machine without a network: what was told beforehand, and nothing of anything else."""

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
