"""Slots: repeating times of a blog kept free for posts, as RFC 5545 recurrences in the wall time of its zone."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from datetime import date, datetime, timedelta

from mobbet.core.errors import BadInput
from mobbet.core.numbers import times_in_words
from mobbet.core.recurrences import FREQUENCIES, rrule, rrulestr
from mobbet.core.timing import DAYS, MONTHS, instant_of_wall, local

PARTS = (
    "FREQ",
    "INTERVAL",
    "COUNT",
    "UNTIL",
    "WKST",
    "BYDAY",
    "BYMONTH",
    "BYMONTHDAY",
    "BYSETPOS",
    "BYYEARDAY",
    "BYWEEKNO",
    "BYHOUR",
    "BYMINUTE",
)
LONGEST = 300
LOOK_AHEAD = 5 * 366
"""In days: a rule that gives no time within so many is refused."""
_DAY_CODES = ("MO", "TU", "WE", "TH", "FR", "SA", "SU")
_NTH = {1: "first", 2: "second", 3: "third", 4: "fourth", 5: "fifth", -1: "last", -2: "last but one"}
_TIME = re.compile(r"^([01]?\d|2[0-3])[:.h]([0-5]\d)$")


@dataclass(frozen=True)
class Slot:
    """A repeating time: an RRULE value, the wall time, the day from which it counts, and days on which it is left out."""

    rule: str
    time: str
    starts: str
    excepted: tuple[str, ...] = ()
    id: int = 0


@dataclass(frozen=True)
class Free:
    """One occurrence of a slot: the wall time as the rule has it, and the instant."""

    wall: str
    instant: int


def read_time(text: str) -> str:
    """A time of day as HH:MM. Raises BadInput."""
    match = _TIME.match(text.strip())
    if not match:
        raise BadInput(f"“{text}” is no time of day; write it like 09:00.", "time")
    return f"{int(match[1]):02}:{match[2]}"


def read_days(text: str) -> tuple[str, ...]:
    """Days typed with commas or spaces between them, as ISO dates in their order. Raises BadInput."""
    found = set()
    for word in re.split(r"[,\s]+", text.strip()):
        if word:
            try:
                found.add(date.fromisoformat(word).isoformat())
            except ValueError:
                raise BadInput(
                    f"“{word}” is no day; write days like 2026-12-24, with commas between them.", "excepted"
                ) from None
    return tuple(sorted(found))


def read_rule(text: str, time: str, starts: str, zone_name: str) -> str:
    """A recurrence in its one spelling. Raises BadInput for what is none, is finer than a day, or never comes.

    UNTIL in UTC is read as the wall time that it is in the zone.
    """
    rule = text.strip().upper().removeprefix("RRULE:")
    pairs = [part.partition("=") for part in rule.split(";") if part]
    names = [name for name, _, _ in pairs]
    unknown = next((name for name, sign, value in pairs if name not in PARTS or not sign or not value), None)
    if not rule or len(rule) > LONGEST or unknown is not None or len(set(names)) != len(names):
        what = f" (“{unknown}” is not known)" if unknown else ""
        raise BadInput(
            f"“{text.strip()[:80]}” is no recurrence{what}; write it like FREQ=WEEKLY;BYDAY=TU.", "rule"
        )
    if {name: value for name, _, value in pairs}.get("FREQ") not in FREQUENCIES:
        raise BadInput(f"“{text.strip()[:80]}” needs FREQ as {', '.join(FREQUENCIES)}.", "rule")
    try:
        rule = ";".join(
            f"{name}={_local_until(value, zone_name) if name == 'UNTIL' else value}"
            for name, _, value in pairs
        )
        slot = Slot(rule, time, starts)
        if any(name in ("INTERVAL", "COUNT") and int(value) < 1 for name, _, value in pairs):
            raise ValueError
        first = next(_walls(slot, datetime.fromisoformat(starts), _latest(starts)), None)
    except (ValueError, TypeError, OverflowError):
        raise BadInput(
            f"“{text.strip()[:80]}” is no recurrence; write it like FREQ=WEEKLY;BYDAY=TU.", "rule"
        ) from None
    if first is None:
        raise BadInput(
            f"“{text.strip()[:80]}” gives no time within five years; check its days and months.", "rule"
        )
    return rule


def _latest(starts: str) -> datetime:
    return datetime.fromisoformat(starts) + timedelta(days=LOOK_AHEAD)


def _local_until(value: str, zone_name: str) -> str:
    """UNTIL as the wall time that it is; a day alone means the whole of it."""
    if not value.endswith("Z"):
        return value if "T" in value else f"{value}T235959"
    moment = datetime.strptime(value, "%Y%m%dT%H%M%SZ")
    return local(int((moment - datetime(1970, 1, 1)).total_seconds()), zone_name).strftime("%Y%m%dT%H%M%S")


def _walls(slot: Slot, first: datetime, last: datetime) -> Iterator[datetime]:
    """The wall times of a slot from `first` up to `last`, without the days left out."""
    begin = datetime.fromisoformat(f"{slot.starts}T{slot.time}")
    rules: rrule = rrulestr(slot.rule, dtstart=begin)
    if not rules._count:  # far occurrences need not be walked to; with COUNT each of them counts
        rules = rules.replace(until=min(filter(None, (rules._until, last))))
    for moment in rules.xafter(first - timedelta(seconds=1)):
        if moment > last:
            return
        if moment.date().isoformat() not in slot.excepted:
            yield moment


def occurrences(slots: Iterable[Slot], zone_name: str, after: int, until: int) -> list[Free]:
    """Every time of the slots after one instant and up to another, in order; slots that meet are one.

    A wall time that a clock change skips comes as much later; of one that comes twice, the first is meant.
    """
    first, last = (local(instant, zone_name).replace(tzinfo=None) for instant in (after, until))
    found: dict[int, Free] = {}
    for slot in slots:
        for moment in _walls(slot, first - timedelta(days=1), last + timedelta(days=1)):
            wall = moment.strftime("%Y-%m-%dT%H:%M")
            instant = instant_of_wall(wall, zone_name)
            if after < instant <= until:
                found.setdefault(instant, Free(wall, instant))
    return [found[instant] for instant in sorted(found)]


def free_slots(
    slots: Iterable[Slot], zone_name: str, after: int, until: int, taken: Iterable[int]
) -> list[Free]:
    """The slots that no post with a time of its own has taken."""
    gone = set(taken)
    return [one for one in occurrences(slots, zone_name, after, until) if one.instant not in gone]


def assign(queue: Iterable[int], free: Iterable[Free]) -> list[tuple[int, Free]]:
    """Which post of the queue gets which slot: the first post the first one, and so on; posts beyond the last slot get none."""
    return list(zip(queue, free))


def in_words(slot: Slot) -> str:
    """“every Tuesday at 09:00”, “every other week on Thursday at 18:30”, “the last Thursday of the month at 19:00”."""
    parts = dict(part.split("=", 1) for part in slot.rule.split(";"))
    words = _rule_words(parts)
    until = (
        f" until {_date_words(parts['UNTIL'])}"
        if "UNTIL" in parts
        else f", {times_in_words(int(parts['COUNT']))}"
        if "COUNT" in parts
        else ""
    )
    return f"{words} at {slot.time}{until}"


def _rule_words(parts: dict[str, str]) -> str:
    known = {"FREQ", "INTERVAL", "BYDAY", "BYMONTHDAY", "UNTIL", "COUNT", "WKST"}
    days = [
        re.fullmatch(r"([+-]?\d+)?(MO|TU|WE|TH|FR|SA|SU)", code)
        for code in parts.get("BYDAY", "").split(",")
        if code
    ]
    found = [day for day in days if day]
    if set(parts) - known or len(found) < len(days):
        return f"as {';'.join(f'{name}={value}' for name, value in parts.items() if name not in ('UNTIL', 'COUNT'))} says,"
    names = _and(
        [
            f"{_NTH.get(int(day[1]), day[1] + '.')} {_full(day[2])}" if day[1] else _full(day[2])
            for day in found
        ]
    )
    every = int(parts.get("INTERVAL", "1"))
    frequency = parts["FREQ"]
    if frequency == "DAILY":
        return "every day" if every == 1 else "every other day" if every == 2 else f"every {every} days"
    if frequency == "WEEKLY":
        if not names:
            return (
                "every week" if every == 1 else "every other week" if every == 2 else f"every {every} weeks"
            )
        return (
            f"every {names}"
            if every == 1
            else f"{'every other week' if every == 2 else f'every {every} weeks'} on {names}"
        )
    unit = "month" if frequency == "MONTHLY" else "year"
    of = (
        f"of the {unit}"
        if every == 1
        else f"of every other {unit}"
        if every == 2
        else f"of every {every} {unit}s"
    )
    if parts.get("BYMONTHDAY"):
        return f"on day {_and(parts['BYMONTHDAY'].split(','))} {of}"
    return f"the {names} {of}" if names else f"once a {unit}"


def _full(code: str) -> str:
    return ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")[
        _DAY_CODES.index(code)
    ]


def _and(words: list[str]) -> str:
    return words[0] if len(words) == 1 else f"{', '.join(words[:-1])} and {words[-1]}" if words else ""


def _date_words(until: str) -> str:
    moment = datetime.strptime(until[:8], "%Y%m%d")
    return f"{DAYS[moment.weekday()]} {moment.day} {MONTHS[moment.month - 1][:3]} {moment.year}"
