"""Forms and polls by which a post asks its readers: their questions, what may be answered, and what polls came to.

A question is [kind, words, choices, whether it must be answered]. Source of the shape: `core/document/nodes.py`.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any

from mobbet.core.document.characters import UNPRINTABLE
from mobbet.core.emails import is_email
from mobbet.core.errors import BadInput

LINE, TEXT, EMAIL, CHOICE, SEVERAL, SCALE = "line", "text", "email", "choice", "several", "scale"
KINDS = {
    LINE: "a line", TEXT: "a longer text", EMAIL: "an e-mail address", CHOICE: "one of some choices", SEVERAL: "several of some choices",
    SCALE: "a number from 1 to 5",
}  # fmt: skip
"""The kinds of questions, in words."""
COUNTED = (CHOICE, SEVERAL, SCALE)
"""Those whose answers a poll counts."""
FORM, POLL = "form", "poll"
VOTED, CLOSED, NEVER = "voted", "closed", "never"
OUTCOMES = {VOTED: "after they voted", CLOSED: "once it is closed", NEVER: "never"}
"""When readers see what a poll came to, in words."""
STEPS = ("1", "2", "3", "4", "5")
MOST_QUESTIONS, MOST_CHOICES, LONGEST_QUESTION, LONGEST_CHOICE = 30, 20, 300, 120
LONGEST_LINE, LONGEST_TEXT, MOST_LETTERS = 300, 10_000, 40_000
USUAL_KEY = "form"
"""Under which the answers of a form without a key of its own stand."""
READ_BY = "Only the people of this blog read your answers."
COUNTED_BY = "Only how many chose what is counted; nobody’s name is kept."

Question = list[Any]


@dataclass(frozen=True)
class AskedBlock:
    """A form or a poll of a post."""

    key: str
    kind: str
    title: str
    questions: tuple[Question, ...]
    told: str
    outcome: str
    closes: str

    @property
    def is_poll(self) -> bool:
        return self.kind == POLL

    @property
    def promise(self) -> str:
        """What happens to the answers, as is said below it."""
        return self.told or (COUNTED_BY if self.is_poll else READ_BY)


def block_of(attrs: Mapping[str, Any]) -> AskedBlock:
    questions = tuple(
        one for one in attrs["questions"] if one[1] and (one[0] not in (CHOICE, SEVERAL) or one[2])
    )
    if attrs["kind"] == POLL:
        questions = tuple(one for one in questions if one[0] in COUNTED)
    return AskedBlock(
        attrs["key"] or USUAL_KEY,
        attrs["kind"],
        attrs["title"],
        questions,
        attrs["told"],
        attrs["outcome"],
        attrs["closes"],
    )


def is_closed(block: AskedBlock, today: date) -> bool:
    """Whether nothing is taken any more: from the day after `closes` on."""
    return bool(block.closes) and today > date.fromisoformat(block.closes)


def shows_outcome(block: AskedBlock, has_voted: bool, today: date) -> bool:
    """Whether a reader sees what a poll came to."""
    if not block.is_poll or block.outcome == NEVER:
        return False
    return is_closed(block, today) or (block.outcome == VOTED and has_voted)


def name_of(at: int) -> str:
    """The name of the field of a question."""
    return f"q{at}"


def read_answers(block: AskedBlock, typed: Mapping[str, Sequence[str]]) -> list[list[Any]]:
    """[[question, answer], ...] of what was typed or chosen, an answer of several as a list. Raises BadInput, naming the question."""
    found: list[list[Any]] = []
    for at, (kind, words, choices, is_needed) in enumerate(block.questions):
        values = [UNPRINTABLE.sub("", value).strip() for value in typed.get(name_of(at), ())]
        values = [value for value in values if value]
        if not values:
            if is_needed:
                raise BadInput(f"“{words[:80]}” needs an answer.", name_of(at))
            continue
        found.append([words, _READERS[kind](words, values, choices)])
    if not found:
        raise BadInput("Nothing is answered yet; answer at least one question.", name_of(0))
    if sum(len(str(one)) for one in found) > MOST_LETTERS:
        raise BadInput(f"The answers have more than {MOST_LETTERS:,} letters; shorten them.", name_of(0))
    return found


def _short(most: int):  # type: ignore[no-untyped-def]
    def read(words: str, values: list[str], choices: list[str]) -> str:
        if len(values[0]) > most:
            raise BadInput(
                f"The answer to “{words[:60]}” has {len(values[0]):,} letters; {most:,} is the most.", words
            )
        return values[0]

    return read


def _email(words: str, values: list[str], choices: list[str]) -> str:
    if not is_email(values[0]):
        raise BadInput(f"“{values[0][:80]}” is no e-mail address; write it like name@example.example.", words)
    return values[0]


def _one(words: str, values: list[str], choices: list[str]) -> str:
    if values[0] not in choices:
        raise BadInput(f"“{values[0][:60]}” is no choice of “{words[:60]}”; choose again.", words)
    return values[0]


def _some(words: str, values: list[str], choices: list[str]) -> list[str]:
    return [_one(words, [value], choices) for value in dict.fromkeys(values)]


def _step(words: str, values: list[str], choices: list[str]) -> str:
    return _one(words, values, [*STEPS])


_READERS = {
    LINE: _short(LONGEST_LINE),
    TEXT: _short(LONGEST_TEXT),
    EMAIL: _email,
    CHOICE: _one,
    SEVERAL: _some,
    SCALE: _step,
}


@dataclass(frozen=True)
class Counted:
    """What a question of a poll came to: (choice, how many, of a hundred) of each, of so many who answered it."""

    words: str
    total: int
    rows: tuple[tuple[str, int, int], ...]


def counted(block: AskedBlock, answers: Sequence[Sequence[Sequence[Any]]]) -> list[Counted]:
    """What a poll came to so far."""
    found = []
    for kind, words, choices, _ in block.questions:
        if kind not in COUNTED:
            continue
        given = [value for answer in answers for question, value in answer if question == words]
        tally = Counter(one for value in given for one in (value if isinstance(value, list) else [value]))
        total = len(given)
        rows = tuple(
            (one, tally[one], round(100 * tally[one] / total) if total else 0) for one in (choices or STEPS)
        )
        found.append(Counted(words, total, rows))
    return found
