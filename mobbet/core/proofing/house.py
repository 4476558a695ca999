"""The house style for words as people type it, and how grave the blog takes each check."""

from __future__ import annotations

from dataclasses import replace

from mobbet.core.errors import BadInput
from mobbet.core.proofing.marks import SEVERITIES, Mark

OFF = "off"
LONGEST = 60


def read_avoided(text: str) -> tuple[tuple[str, str], ...]:
    """Words the house avoids, one a line: `email: e-mail`, or alone where it only does without. Raises BadInput, naming the line."""
    found: dict[str, str] = {}
    for line in filter(None, map(str.strip, text.splitlines())):
        avoided, _, preferred = (" ".join(part.split()) for part in line.partition(":"))
        if (
            not avoided
            or max(len(avoided), len(preferred)) > LONGEST
            or not any(letter.isalnum() for letter in avoided)
        ):
            raise BadInput(
                f"“{line[:80]}” names no word; write it like email: e-mail, {LONGEST} letters at the most.",
                "avoided",
            )
        if avoided.casefold() == preferred.casefold():
            raise BadInput(
                f"“{line[:80]}” prefers the word it avoids; write another after the colon.", "avoided"
            )
        found[avoided.casefold()] = preferred
    return tuple(found.items())


def weighed(marks: list[Mark], severities: dict[str, str]) -> list[Mark]:
    """The marks as grave as the blog takes their checks; those of a check that is off are left out."""
    chosen = ((mark, severities.get(mark.check, "")) for mark in marks)
    return [
        replace(mark, severity=severity) if severity in SEVERITIES else mark
        for mark, severity in chosen
        if severity != OFF
    ]
