"""Sentences with changeable words, put together."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from mobbet.web.site.sentence_contexts import Sentence, Word


def with_problem(sentence: Sentence, field: str, typed: str, reason: str) -> Sentence:
    """A sentence in which the word that was refused is open, with what was typed and the reason."""

    def marked(part: str | Word) -> str | Word:
        if not field or isinstance(part, str) or part.where != field:
            return part
        return replace(part, problem=reason, text=part.text if part.text is None else typed)

    return [marked(part) for part in sentence]


def typed_word(
    where: str, label: str, words: str, text: str, longest: int = 0, hint: str = "", **more: Any
) -> Word:
    """A word that is typed; `longest` in letters."""
    return Word(where, label, words, text=text, longest=longest, hint=hint, **more)


def short(text: str) -> str:
    """A text cut to what one line of a sentence holds."""
    return text if len(text) <= 34 else f"{text[:33].rstrip()}…"
