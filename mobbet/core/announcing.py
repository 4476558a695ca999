"""Announcing posts at accounts elsewhere: the text from a pattern with fill-ins, within the length that an account takes."""

from __future__ import annotations

from mobbet.core.errors import BadInput
from mobbet.core.fill_ins import FILL_IN, filled
from mobbet.core.names import one_line

STAND_IN, MICROPUB = "stand-in", "micropub"
KINDS = {
    STAND_IN: "a practice account: nothing leaves this server, and what it got is shown here",
    MICROPUB: "a site that takes posts by Micropub",
}
FIELDS = ("title", "subtitle", "description", "author", "blog", "address", "tags")
"""What a pattern may fill in."""
SHORTENED = ("description", "subtitle", "title")
"""Which fill-ins are cut where a text is too long, the first ones first."""
PATTERN = "{title}: {description} {address}"
LONGEST_PATTERN, LEAST, MOST, USUAL = 500, 60, 10_000, 500
NONE = "none"
WAITING, GOING, SENT, REFUSED, UNCLEAR = "waiting", "going", "sent", "refused", "unclear"
WHAT = {
    WAITING: "waits to be sent", GOING: "is being sent", SENT: "sent", REFUSED: "was refused", UNCLEAR: "may have arrived, or not",
}  # fmt: skip
"""What becomes of a notice, in words."""


def read_pattern(typed: str) -> str:
    """A pattern as it was typed. Raises BadInput where it names nothing to fill in, or leads nowhere."""
    pattern = one_line(typed)
    unknown = [name for name in FILL_IN.findall(pattern) if name not in FIELDS]
    if unknown:
        raise BadInput(
            f"“{{{unknown[0][:40]}}}” is nothing to fill in; there are {', '.join(f'{{{name}}}' for name in FIELDS)}.",
            "pattern",
        )
    if "{address}" not in pattern or len(pattern) > LONGEST_PATTERN:
        raise BadInput(
            f"The text has to have {{address}} in it, and at most {LONGEST_PATTERN} letters.", "pattern"
        )
    return pattern


def read_longest(typed: str) -> int:
    """How many letters an account takes. Raises BadInput."""
    if not typed.strip().isdecimal() or len(typed) > 6 or not LEAST <= int(typed) <= MOST:
        raise BadInput(
            f"“{typed[:20]}” cannot be; type a number of letters from {LEAST} to {MOST:,}.", "longest"
        )
    return int(typed)


def read_delay(typed: str) -> int:
    """After how many minutes a post is announced. Raises BadInput."""
    if not typed.strip().isdecimal() or len(typed) > 5 or int(typed) > 10_080:
        raise BadInput(
            f"“{typed[:20]}” cannot be; type a number of minutes up to 10,080, which is a week.", "delay"
        )
    return int(typed)


def text_of(pattern: str, values: dict[str, str], longest: int) -> str:
    """The text of an announcement: of what is too long first the description is cut, then the subtitle, then the title, and never the address."""
    known = dict(values)
    for name in SHORTENED:
        over = len(_written(pattern, known)) - longest
        if over <= 0:
            break
        kept = max(0, len(known.get(name, "")) - over - 1)
        words = known.get(name, "")[:kept].rpartition(" ")[0] or known.get(name, "")[:kept]
        known[name] = f"{words}…" if words else ""
    return (
        _written(pattern, known)[:longest]
        if known["address"] in _written(pattern, known)[:longest]
        else known["address"]
    )


def _written(pattern: str, values: dict[str, str]) -> str:
    return " ".join(filled(pattern, values).split())
