"""Lists that word processors fake with paragraphs, signs and numbers."""

from __future__ import annotations

import re
from dataclasses import dataclass
from itertools import pairwise

from mobbet.core.document.elements import Element
from mobbet.core.document.html import AS_TYPED, FAKE_SIGN

_LEVEL = re.compile(r"mso-list:(?:(?!mso-list:)[^;])*?level(\d)", re.IGNORECASE)
_ROMAN = {"i": 1, "v": 5, "x": 10, "l": 50, "c": 100, "d": 500, "m": 1000}


@dataclass
class Fake:
    """A paragraph that stands for a list item: its level from 1, and its number or None for a sign."""

    paragraph: Element
    level: int
    number: str | None
    is_sure: bool

    @property
    def tag(self) -> str:
        return "ul" if self.number is None else "ol"


def make(element: Element) -> None:
    """Makes lists of the fakes everywhere in an element, in place."""
    kept: list[Element | str] = []
    run: list[Fake] = []

    def close() -> None:
        kept.extend(
            _lists(run) if len(run) > 1 or (run and run[0].is_sure) else [fake.paragraph for fake in run]
        )
        run.clear()

    for child in element.children:
        if isinstance(child, str):
            if child.strip():
                close()
            if not run:
                kept.append(child)
            continue
        lines = _lines(child)
        if lines:
            close()
            kept.extend(_lists(lines))
            continue
        fake = _fake(child)
        if (
            fake is None
            and run
            and run[-1].is_sure
            and child.has_class("MsoListParagraph")
            and child.words().strip()
        ):
            run[-1].paragraph.children += [Element("br", {}, []), Element("br", {}, []), *child.children]
        elif fake is None or (run and not _follows(run[-1], fake)):
            close()
            if fake is None:
                if child.holds_block:
                    make(child)
                kept.append(child)
            else:
                run.append(fake)
        else:
            run.append(fake)
    close()
    element.children[:] = kept


def _fake(element: Element) -> Fake | None:
    """What a paragraph stands for, when it stands for a list item."""
    if element.tag not in ("p", "div") or element.holds_block or element.has_class(AS_TYPED):
        return None
    level = _LEVEL.search(element.attrs.get("style", ""))
    if level:
        return Fake(element, int(level.group(1)), _number(_ignored(element)), is_sure=True)
    words = element.words().lstrip()
    sign = FAKE_SIGN.match(words)
    if not sign or not words[sign.end() :].strip():
        return None
    indent = element.style().get("margin-left", "")
    points = re.match(r"([\d.]{1,6})(pt|px|in|cm)", indent)
    inches = (
        float(points.group(1)) / {"pt": 72, "px": 96, "in": 1, "cm": 2.54}[points.group(2)]
        if points and points.group(1).count(".") < 2
        else 0.5
    )
    return Fake(element, max(1, min(9, round(inches / 0.5))), _number(sign.group().strip()), is_sure=False)


def _lines(element: Element) -> list[Fake]:
    """The lines of a paragraph when all of them, two at least, stand for items of one list."""
    if (
        element.tag not in ("p", "div")
        or element.holds_block
        or all(isinstance(child, str) or child.tag != "br" for child in element.children)
    ):
        return []
    if element.has_class(AS_TYPED):
        return []
    lines: list[list[Element | str]] = [[]]
    for child in element.children:
        if not isinstance(child, str) and child.tag == "br":
            lines.append([])
        else:
            lines[-1].append(child)
    paragraphs = [Element("p", {}, line) for line in lines]
    found = [_fake(paragraph) for paragraph in paragraphs if paragraph.words().strip()]
    fakes = [fake for fake in found if fake is not None]
    if (
        len(fakes) < 2
        or len(fakes) < len(found)
        or not all(_follows(one, other) for one, other in pairwise(fakes))
    ):
        return []
    return fakes


def _ignored(element: Element) -> str:
    """The sign in a paragraph: the words that the program marks as not its own."""
    for inner in element.walk():
        if "mso-list:ignore" in inner.attrs.get("style", "").lower().replace(" ", ""):
            return inner.words().strip()
    sign = FAKE_SIGN.match(element.words().lstrip())
    return sign.group().strip() if sign else ""


def _number(sign: str) -> str | None:
    found = re.fullmatch(r"\(?([0-9]{1,4}|[a-zA-Z]|[ivxlcdmIVXLCDM]+)[.)]", sign.strip())
    return found.group(1) if found else None


def _follows(before: Fake, after: Fake) -> bool:
    """Whether two neighbours stand in one list; numbers that are not sure must count up."""
    if before.is_sure and after.is_sure:
        return True
    if before.is_sure != after.is_sure:
        return False
    if before.level != after.level:
        return True
    if before.number is None or after.number is None:
        return before.number == after.number and _sign(before) == _sign(after)
    return _value(after.number) == _value(before.number) + 1


def _sign(fake: Fake) -> str:
    return fake.paragraph.words().lstrip()[:1]


def _value(number: str) -> int:
    if number.isdecimal():
        return int(number)
    return ord(number.lower()) - 96 if len(number) == 1 else _roman(number)


def _roman(number: str) -> int:
    values = [_ROMAN.get(letter, 0) for letter in number.lower()]
    return sum(
        -value if any(value < later for later in values[at + 1 :]) else value
        for at, value in enumerate(values)
    )


def _lists(run: list[Fake]) -> list[Element]:
    """Nested lists of a run of fakes."""
    tops: list[Element] = []
    stack: list[tuple[int, Element]] = []
    for fake in run:
        _strip(fake)
        while stack and (
            stack[-1][0] > fake.level or (stack[-1][0] == fake.level and stack[-1][1].tag != fake.tag)
        ):
            stack.pop()
        if not stack or stack[-1][0] < fake.level:
            made = Element(fake.tag, _attrs(fake), [])
            made.holds_block = True
            if stack:
                item = stack[-1][1].elements()[-1]
                item.children.append(made)
                item.holds_block = True
            else:
                tops.append(made)
            stack.append((fake.level, made))
        item = Element("li", {}, list(fake.paragraph.children))
        stack[-1][1].children.append(item)
    return tops


def _attrs(fake: Fake) -> dict[str, str]:
    number = fake.number
    if number is None:
        return {}
    if number.isdecimal():
        return {} if int(number) == 1 else {"start": str(int(number))}
    is_roman = number.lower() == "i" or (len(number) > 1)
    kind = ("i" if number.islower() else "I") if is_roman else ("a" if number.islower() else "A")
    value = _roman(number) if is_roman else _value(number)
    return {"type": kind} if value == 1 else {"type": kind, "start": str(value)}


def _strip(fake: Fake) -> None:
    """Takes the sign or the number from the paragraph's beginning."""
    if not _strip_ignored(fake.paragraph):
        _strip_letters(fake.paragraph, FAKE_SIGN.match(fake.paragraph.words().lstrip()))


def _strip_ignored(element: Element) -> bool:
    for at, child in enumerate(element.children):
        if isinstance(child, str):
            continue
        if "mso-list:ignore" in child.attrs.get("style", "").lower().replace(" ", ""):
            del element.children[at]
            return True
        if _strip_ignored(child):
            return True
    return False


def _strip_letters(element: Element, sign: re.Match[str] | None) -> None:
    if sign is None:
        return
    left = len(element.words()) - len(element.words().lstrip()) + sign.end()
    _cut(element, left)


def _cut(element: Element, left: int) -> int:
    """Cuts so many letters from an element's beginning; answers how many are still to cut."""
    for at, child in enumerate(element.children):
        if not left:
            break
        if isinstance(child, str):
            element.children[at] = child[left:]
            left -= min(left, len(child))
        else:
            left = _cut(child, left)
    return left
