"""What counts of readers say, in words: a change against the usual, with its spread."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, timedelta
from statistics import mean, pstdev

PERIODS = {
    "7": ("the last week", "the week before"),
    "28": ("the last four weeks", "the four weeks before"),
    "42": ("the last six weeks", "the six weeks before"),
    "91": ("the last three months", "the three months before"),
    "365": ("the last year", "the year before"),
}
"""{days: (in words, the stretch before it in words)}."""
USUAL_PERIOD = "42"
_FRACTIONS = (
    (1 / 10, "a tenth"),
    (1 / 5, "a fifth"),
    (1 / 4, "a quarter"),
    (1 / 3, "a third"),
    (1 / 2, "half"),
    (2 / 3, "two thirds"),
)


def change_in_words(now: int, before: int, weeks: Sequence[int]) -> str:
    """How a number differs from that of the stretch before: “a fifth more than”, “about as many as”; `weeks` are earlier weeks, whose spread says what is
    nothing unusual. '' where nothing was counted before."""
    if not before:
        return ""
    share = now / before - 1
    usual = pstdev(weeks) / mean(weeks) if len(weeks) > 2 and mean(weeks) else 0.0
    spread = usual / max(1, len(weeks)) ** 0.5
    if abs(share) < max(0.05, spread):
        return "about as many as"
    if share >= 0.9:
        times = round(now / before)
        return f"{'twice' if times == 2 else f'{times} times'} as many as"
    nearest = min(_FRACTIONS, key=lambda one: abs(one[0] - abs(share)))[1]
    return f"{nearest} {'more' if share > 0 else 'fewer'} than"


def stretch_of(days: int, until: date) -> tuple[str, str]:
    """(the first day, the last day) of so many days up to one, ISO 8601."""
    return (until - timedelta(days=days - 1)).isoformat(), until.isoformat()


def longer_stretches(until: date, first: str) -> list[tuple[str, str, str]]:
    """(in words, first day, last day) of months and years up to a day, and of all since the first day on which something was counted."""
    month, last_month = until.replace(day=1), (until.replace(day=1) - timedelta(days=1)).replace(day=1)
    end_of_last = month - timedelta(days=1)
    found = [
        ("this month", month, until),
        ("last month", last_month, end_of_last),
        ("this year", until.replace(month=1, day=1), until),
        ("last year, all of it", date(until.year - 1, 1, 1), date(until.year - 1, 12, 31)),
    ]
    rows = [
        (words, start.isoformat(), end.isoformat()) for words, start, end in found if end.isoformat() >= first
    ]
    return [*rows, ("everything so far", first, until.isoformat())]


def age_in_words(days: int) -> str:
    """“9 days”, “6 weeks”, “13 months”."""
    if days < 21:
        return f"{days} day{'s' if days != 1 else ''}"
    if days < 61:
        return f"{days // 7} weeks"
    return f"{round(days / 30.44)} months"
