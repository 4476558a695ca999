"""Every regular expression of the package, and strings on which one that is not linear shows."""

from __future__ import annotations

import ast
import importlib
import random
import re
import signal
import time
import warnings
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path

with warnings.catch_warnings():
    warnings.simplefilter("ignore", DeprecationWarning)
    import sre_constants
    import sre_parse

PACKAGE = Path(__file__).parent.parent / "mobbet"
FUNCTIONS = {"match", "search", "fullmatch", "sub", "subn", "split", "findall", "finditer"}


def patterns() -> Iterator[tuple[str, str, int, str]]:
    """(where, pattern, flags, 'match' or 'search') of every regular expression that stands in the package."""
    found: dict[tuple[str, int], tuple[str, str]] = {}
    everything = "\n".join(path.read_text() for path in PACKAGE.rglob("*.py"))
    for path in sorted(PACKAGE.rglob("*.py")):
        name = ".".join(("mobbet", *path.relative_to(PACKAGE).with_suffix("").parts)).removesuffix(
            ".__init__"
        )
        source = path.read_text()
        if name.endswith("__main__") or "re." not in source:
            continue
        for node in ast.walk(ast.parse(source)):
            if (
                isinstance(node, ast.Call)
                and isinstance(node.func, ast.Attribute)
                and isinstance(node.func.value, ast.Name)
                and node.func.value.id == "re"
                and node.args
            ):
                if (
                    isinstance(node.args[0], ast.Constant)
                    and isinstance(node.args[0].value, str)
                    and node.func.attr in FUNCTIONS
                ):
                    found.setdefault(
                        (node.args[0].value, 0),
                        (
                            f"{path.relative_to(PACKAGE)}:{node.lineno}",
                            "match" if node.func.attr in ("match", "fullmatch") else "search",
                        ),
                    )
        for known, value in vars(importlib.import_module(name)).items():
            for one in (
                value
                if isinstance(value, (tuple, list))
                else value.values()
                if isinstance(value, dict)
                else (value,)
            ):
                if isinstance(one, re.Pattern) and isinstance(one.pattern, str):
                    used = set(
                        re.findall(
                            rf"\b{known}\.({'|'.join(FUNCTIONS)})\b",
                            source if known.startswith("_") else everything,
                        )
                    )
                    found.setdefault(
                        (one.pattern, one.flags),
                        (
                            str(path.relative_to(PACKAGE)),
                            "match" if used and used <= {"match", "fullmatch"} else "search",
                        ),
                    )
    for (pattern, flags), (where, how) in found.items():
        yield where, pattern, flags, how


def _sample(items: sre_parse.SubPattern, pieces: list[tuple[str, str]], before: str = "") -> str:
    """A string that the items match; notes (what stands before, what repeats) of each repetition in `pieces`."""
    said = ""
    for op, value in items:
        if op is sre_constants.LITERAL:
            said += chr(value)
        elif op is sre_constants.NOT_LITERAL:
            said += "a" if value != ord("a") else "b"
        elif op is sre_constants.ANY:
            said += "a"
        elif op is sre_constants.IN:
            said += _one_of(value)
        elif op in (sre_constants.MAX_REPEAT, sre_constants.MIN_REPEAT, sre_constants.POSSESSIVE_REPEAT):
            least, most, body = value
            piece = _sample(body, pieces, before + said)
            if most > 8:
                pieces.append((before + said, piece))
            said += piece * max(least, 1)
        elif op is sre_constants.SUBPATTERN:
            said += _sample(value[3], pieces, before + said)
        elif op is sre_constants.ATOMIC_GROUP:
            said += _sample(value, pieces, before + said)
        elif op is sre_constants.BRANCH:
            said += [_sample(branch, pieces, before + said) for branch in value[1]][0]
        elif op in (sre_constants.ASSERT, sre_constants.ASSERT_NOT):
            _sample(value[1], pieces, before + said)
    return said


def _one_of(items: list) -> str:
    """A character of a set, seldom one that stands elsewhere as well."""
    spaces = {
        sre_constants.CATEGORY_SPACE: " ",
        sre_constants.CATEGORY_DIGIT: "1",
        sre_constants.CATEGORY_WORD: "a",
        sre_constants.CATEGORY_NOT_SPACE: "a",
        sre_constants.CATEGORY_NOT_DIGIT: "a",
        sre_constants.CATEGORY_NOT_WORD: "-",
    }
    is_not = bool(items) and items[0][0] is sre_constants.NEGATE
    for op, value in items:
        if is_not:
            continue
        if op is sre_constants.LITERAL:
            return chr(value)
        if op is sre_constants.RANGE:
            return chr(value[0])
        if op is sre_constants.CATEGORY:
            return spaces[value]
    barred = {value for op, value in items if op is sre_constants.LITERAL}
    return next(letter for letter in "a. -1<b" if ord(letter) not in barred)


def adversaries(pattern: str, flags: int, length: int) -> Iterator[str]:
    """Long strings that almost match, or match very often."""
    pieces: list[tuple[str, str]] = []
    parsed = sre_parse.parse(pattern, flags)
    whole = _sample(parsed, pieces)
    pumps = dict.fromkeys(
        [*(piece for _, piece in pieces if piece), *(letter for letter in whole[:12]), " ", "a", "1", "."]
    )
    chance = random.Random(repr(pattern))
    starts = dict.fromkeys(["", *(start for start, _ in pieces)])
    ends = ("", "\x00", "!\n")
    tried = [(start, pump, end) for start in starts for pump in pumps for end in ends]
    pairs = [one + other for one in pumps for other in pumps if one != other]
    tried += [
        (start, pump, end)
        for start in list(starts)[:3]
        for pump in chance.sample(pairs, min(len(pairs), 8))
        for end in ends[:2]
    ]
    if whole:
        tried += [("", whole, end) for end in ends] + [("", whole[:-1], end) for end in ends if whole[:-1]]
    for start, pump, end in dict.fromkeys(tried):
        yield start + (pump * (length // len(pump) + 1))[:length] + end


def seconds(call: Callable[[str], object], text: str) -> float:
    """Of this thread's own work, whatever else the machine does; the least of two runs, but that one that takes long is not run twice."""
    began = time.thread_time()
    call(text)
    first = time.thread_time() - began
    if first > 0.05:
        return first
    began = time.thread_time()
    call(text)
    return min(first, time.thread_time() - began)


LENGTH, MOST_SECONDS = 2000, 20.0
SLOW = 0.004
"""In seconds: what is quicker than this on the longer string is not looked at; a linear one takes a fiftieth of it."""


def worst(pattern: str, flags: int, how: str) -> tuple[float, str]:
    """(how many times longer four times the length takes, on which string) at the worst; 4 is linear, 16 is quadratic."""
    try:
        with ended_after(MOST_SECONDS):
            return _worst(pattern, flags, how)
    except TimeoutError:
        return 99.0, "one of them"


class _Ended(TimeoutError):
    """A pattern that does not come to an end."""


@contextmanager
def ended_after(limit: float) -> Iterator[None]:
    """Raises TimeoutError in a block that takes longer; the matcher looks for signals as it goes."""

    def end(number: int, frame: object) -> None:
        raise _Ended

    before = signal.signal(signal.SIGALRM, end)
    signal.setitimer(signal.ITIMER_REAL, limit)
    try:
        yield
    finally:
        signal.setitimer(signal.ITIMER_REAL, 0)
        signal.signal(signal.SIGALRM, before)


def _worst(pattern: str, flags: int, how: str) -> tuple[float, str]:
    compiled = re.compile(pattern, flags)
    calls = (
        [lambda text: sum(1 for _ in compiled.finditer(text)), compiled.fullmatch]
        if how == "search"
        else [compiled.match, compiled.fullmatch]
    )
    found = (0.0, "")
    for short, long in zip(
        adversaries(pattern, flags, LENGTH), adversaries(pattern, flags, 4 * LENGTH), strict=True
    ):
        for call in calls:
            took = seconds(call, long)
            if took > SLOW:
                found = max(found, (_times_longer(call, short, long), short[:60]))
    return found


def _times_longer(call: Callable[[str], object], short: str, long: str) -> float:
    """The least of a few measurements, so that a machine that stumbles accuses no pattern."""
    least = 99.0
    for _ in range(4):
        least = min(least, seconds(call, long) / max(seconds(call, short), 1e-6))
        if least < 8:
            break
    return least
