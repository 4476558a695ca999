"""The words of a passage, as checks of language read them."""

from __future__ import annotations

import re
from collections.abc import Iterator

WORD = re.compile(r"[^\W\d_]+(?:['’][^\W\d_]+)*")
ADDRESS = re.compile(
    r"\b(?:https?://|www\.)\S+|(?<![\w.+-])[\w.+-]++@[\w-]++\.\w[\w.-]*+|(?<![\w-])[\w-]++\.(?:example|com|org|net|html|md|docx|py|js|css|jpg|png)\b|[@#][\w-]+|\{[\w-]+\}",
    re.IGNORECASE,
)
SENTENCE = re.compile(r"[^.!?…]+(?:[.!?…]+[\"”’')\]]*|$)\s*")


def words(text: str) -> Iterator[re.Match[str]]:
    """Every word that is no part of an address, a file's name, a fill-in or a sign such as #tag."""
    skipped = ADDRESS.finditer(text)
    address = next(skipped, None)
    for match in WORD.finditer(text):
        while address and address.end() <= match.start():
            address = next(skipped, None)
        if not address or match.start() < address.start():
            yield match


def sentences(text: str) -> Iterator[tuple[int, str]]:
    """(where it begins, the sentence) of each; a point within a number or after an initial ends none."""
    start = 0
    for match in re.finditer(
        r"(?<![A-Z])(?<!\bMr)(?<!\bDr)(?<!\bMrs)(?<!\be\.g)(?<!\bi\.e)(?<!\betc)(?<!\bNo)(?<![.!?…][.!?…])[.!?…]++[\"”’')\]]*+(?=\s+[\"“‘(]?[A-ZÀ-Þ0-9]|\s*$)",
        text,
    ):
        yield start, text[start : match.end()]
        start = match.end() + len(text[match.end() :]) - len(text[match.end() :].lstrip())
    if text[start:].strip():
        yield start, text[start:]
