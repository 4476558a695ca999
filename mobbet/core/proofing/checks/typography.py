"""Quotation marks, dashes, ellipses and spaces: as the house has them, applied on request."""

from __future__ import annotations

import re
from collections.abc import Iterator

from mobbet.core.proofing.checks.words import ADDRESS
from mobbet.core.proofing.marks import COULD, Mark, Mend, Why
from mobbet.core.proofing.material import Material, OfPassage
from mobbet.core.proofing.passages import Passage

QUOTES = {
    "curly": ("“", "”"),
    "curly-single": ("‘", "’"),
    "guillemets": ("«", "»"),
    "low": ("„", "“"),
    "straight": ('"', '"'),
}
"""The styles of quotation marks: what opens and what closes."""
DASHES = {"spaced": " – ", "closed": "—"}
ELLIPSES = {"sign": "…", "dots": "..."}

Change = tuple[int, int, str]
_BEFORE_OPENING = frozenset(' \t\n\u00a0([{—–-/‘“«„"')
_DASH = re.compile(
    r"(?<=[\w)”’\"'.,!?])(?:[ \u00a0]+(?:-{1,3}|–|—)[ \u00a0]+|-{2,3}|—)(?=[\w(“‘\"'])|(?<=[A-Za-z)”’\"'])–(?=[A-Za-z(“‘\"'])"
)
_ELLIPSIS = re.compile(r"(?<!\.)\.{3}(?!\.)|…|(?<!\.)\. \. \.")
_SPACES = re.compile(
    r"(?<=\S)[ \t]{2,}(?=\S)|(?<=\w)[ \t]+(?=[,;:!?](?:\s|$)|\.(?:\s|$))|(?<=[a-zà-ÿ]),(?=[A-Za-zà-ÿ]{2})|(?<=[a-zà-ÿ]{2})[;!?](?=[A-Za-zà-ÿ]{2})|(?<=[a-zà-ÿ]{3})\.(?=[A-Z][a-zà-ÿ]+\s)"
)


def quotation_marks(passage: Passage, material: Material) -> Iterator[Mark]:
    style = QUOTES.get(material.rules.quotes)
    if style:
        words = f"Quotation marks or apostrophes here are not as the house has them: {style[0]}so{style[1]}."
        yield from _marked(passage, "quotation-marks", words, list(_quotes(passage.text, style)))


def _quotes(text: str, style: tuple[str, str]) -> Iterator[Change]:
    """What is to change. A stroke after a digit is a measure, an apostrophe is curly where quotation marks are not straight."""
    doubles = {'"', "“", "”", "„", "«", "»"}
    is_single = style[0] == "‘"
    depth = 0
    for at, letter in enumerate(text):
        before, after = text[at - 1] if at else " ", text[at + 1] if at + 1 < len(text) else " "
        if letter in doubles:
            if letter == '"' and before.isdecimal() and depth == 0:
                continue
            is_opening = (
                before in _BEFORE_OPENING and not after.isspace()
                if letter in '"“„' or letter in "«»"
                else False
            )
            depth = max(0, depth + (1 if is_opening else -1))
            wanted = style[0] if is_opening else style[1]
            if letter != wanted:
                yield at, at + 1, wanted
        elif letter in "'’" and before.isalnum() and after.isalnum() and style[0] != '"' and letter != "’":
            yield at, at + 1, "’"
        elif letter == "'" and style[0] == "“" and not before.isdecimal():
            yield (
                at,
                at + 1,
                "‘" if before in _BEFORE_OPENING and after.isalpha() and "'" in text[at + 1 :] else "’",
            )
        elif letter == "'" and is_single and not before.isdecimal():
            yield at, at + 1, "‘" if before in _BEFORE_OPENING and after.isalnum() else "’"


def dashes(passage: Passage, material: Material) -> Iterator[Mark]:
    wanted = DASHES.get(material.rules.dashes)
    if wanted:
        changes = [(*match.span(), wanted) for match in _DASH.finditer(passage.text) if match[0] != wanted]
        yield from _marked(
            passage,
            "dashes",
            "{count} dash{es} here {are} not as the house has them: " + f"so{wanted}so.",
            changes,
        )


def ellipses(passage: Passage, material: Material) -> Iterator[Mark]:
    wanted = ELLIPSES.get(material.rules.ellipses)
    if wanted:
        changes = [
            (*match.span(), wanted) for match in _ELLIPSIS.finditer(passage.text) if match[0] != wanted
        ]
        yield from _marked(
            passage,
            "ellipses",
            "{count} ellips{es_is} here {are} not as the house has {them_it}: " + f"{wanted}",
            changes,
        )


def spaces(passage: Passage, material: Material) -> Iterator[Mark]:
    """Spaces twice, before a comma, or missing after one; French has them before some signs."""
    if passage.language.startswith("fr"):
        return
    places = [match.span() for match in ADDRESS.finditer(passage.text)]
    changes = [
        (*match.span(), _spaced(match[0], passage.text[match.end() : match.end() + 1]))
        for match in _SPACES.finditer(passage.text)
    ]
    changes = [change for change in changes if not any(first <= change[0] < last for first, last in places)]
    yield from _marked(passage, "spaces", "{count} space{s} here {are} too many or missing.", changes)


def _spaced(found: str, after: str) -> str:
    """None before a sign, one for several that part words, one after a sign that has none."""
    if not found.isspace():
        return f"{found} "
    return "" if after in ",;:!?." else " "


def _marked(passage: Passage, name: str, words: str, changes: list[Change]) -> Iterator[Mark]:
    """One mark for all that is to change in a passage, with a mend that changes all of it."""
    changes = [change for change in changes if passage.is_plain(*change[:2])]
    if not changes:
        return
    count, first, last = len(changes), changes[0][0], changes[-1][1]
    message = words.format(
        count=count,
        s="s" * (count > 1),
        es="es" * (count > 1),
        are="are" if count > 1 else "is",
        es_is="es" if count > 1 else "is",
        them_it="them" if count > 1 else "it",
    )
    text = passage.text[max(0, first - 12) : first + 12].strip()
    mend = Mend(
        "Set it so" if count == 1 else "Set them so",
        {"do": "replace-each", "path": list(passage.path), "changes": [list(change) for change in changes]},
    )
    yield Mark(name, message, text, passage.path, first, last, COULD, (mend,))


CHECKS = (OfPassage(quotation_marks), OfPassage(dashes), OfPassage(ellipses), OfPassage(spaces))
WHY = {
    "quotation-marks": Why(
        "Quotation marks",
        "A page on which quotation marks change their shape looks put together from elsewhere. The house chooses one shape, and apostrophes follow.",
        "“so”, and it’s",
    ),
    "dashes": Why(
        "Dashes",
        "A hyphen joins words, a dash parts them. The house chooses how its dashes stand.",
        "late – and glad",
    ),
    "ellipses": Why(
        "Ellipses",
        "Three points with and without spaces break at the end of a line. The house chooses one form.",
        "and then…",
    ),
    "spaces": Why(
        "Spaces",
        "Two spaces make a hole, one before a comma lets the line break there. Neither is meant, as a rule.",
        "screws, washers",
    ),
}
