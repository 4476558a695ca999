"""The timetable as iCalendar (RFC 5545), for any calendar program."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta
from typing import TYPE_CHECKING, Any
from zoneinfo import ZoneInfo

from mobbet.core.errors import BadInput
from mobbet.core.recurrences import FREQUENCIES, rrulestr

if TYPE_CHECKING:
    from icalendar import Event
    from icalendar.prop import vRecur

HALF_HOUR = timedelta(minutes=30)


@dataclass(frozen=True)
class Happening:
    """What happens at an instant: `what` is 'goes out', 'is updated', 'comes down' or 'free slot'; a post's number is 0 for a slot."""

    instant: int
    what: str
    post: int
    title: str
    address: str = ""


def as_ics(name: str, blog: str, happenings: list[Happening], made: int) -> bytes:
    """A calendar of a blog; `made` is the instant at which it is written. Lines are folded, and text escaped, as the standard says."""
    from icalendar import Calendar, vDuration

    calendar = Calendar()
    calendar.add("prodid", "-//Mobbet//Timetable//EN")
    calendar.add("version", "2.0")
    calendar.add("calscale", "GREGORIAN")
    calendar.add("method", "PUBLISH")
    calendar.add("x-wr-calname", name)
    calendar.add("refresh-interval", vDuration(timedelta(hours=1)), parameters={"VALUE": "DURATION"})
    for one in happenings:
        calendar.add_component(_event(blog, one, made))
    data: bytes = calendar.to_ical()
    return data


def _event(blog: str, one: Happening, made: int) -> Event:
    from icalendar import Event

    begins = datetime.fromtimestamp(one.instant, UTC)
    is_free = not one.post
    event = Event()
    event.add(
        "uid",
        f"{one.what.replace(' ', '-')}-{one.post or ''}{'' if one.what in ('goes out', 'comes down') else f'-{one.instant}'}@{blog}.mobbet",
    )
    event.add("dtstamp", datetime.fromtimestamp(made, UTC))
    event.add("dtstart", begins)
    event.add("dtend", begins + HALF_HOUR)
    event.add(
        "summary",
        "Free slot" if is_free else one.title if one.what == "goes out" else f"{one.title} ({one.what})",
    )
    event.add("description", "A time kept free for a post." if is_free else f"It {one.what}.")
    event.add("transp", "TRANSPARENT")
    event.add("status", "TENTATIVE" if is_free else "CONFIRMED")
    if one.address:
        event.add("url", one.address)
    return event


MOST_BYTES, MOST_RULES = 2_000_000, 200


@dataclass(frozen=True)
class Days:
    """Days in a row, the first and the last of them, with what a calendar calls them."""

    first: date
    last: date
    words: str


def read_days_of_file(data: bytes, zone_name: str, since: date, until: date) -> list[Days]:
    """The days on which the entries of an iCalendar file are, between two days; what repeats, as often as it comes.

    An entry with times counts for the days it touches in the zone. Entries that were called off are left out.
    Raises BadInput for what is no calendar.
    """
    from icalendar import Calendar

    if len(data) > MOST_BYTES:
        raise BadInput(f"The file is larger than {MOST_BYTES // 1_000_000} MB; export fewer entries.", "file")
    try:
        parts = [
            event for calendar in Calendar.from_ical(data, multiple=True) for event in calendar.walk("VEVENT")
        ]
    except (ValueError, IndexError, KeyError, AttributeError):
        raise BadInput(
            "The file is no calendar that Mobbet can read; export it as iCalendar (.ics).", "file"
        ) from None
    if sum(len(_list(event.get("rrule"))) for event in parts) > MOST_RULES:
        raise BadInput(
            f"The file has more than {MOST_RULES} entries that repeat; export fewer of them.", "file"
        )
    found = [
        days
        for event in parts
        if str(event.get("status", "")).upper() != "CANCELLED"
        for days in _days_of(event, zone_name, since, until)
    ]
    return sorted(dict.fromkeys(found), key=lambda days: (days.first, days.last, days.words))


def _days_of(event: Event, zone_name: str, since: date, until: date) -> Iterator[Days]:
    try:
        begin = event.decoded("dtstart")
        end = (
            event.decoded("dtend")
            if "dtend" in event
            else begin + (event.decoded("duration") if "duration" in event else timedelta(days=0))
        )
    except (KeyError, ValueError, TypeError):
        return
    words = " ".join(str(event.get("summary", "")).split())
    first, last = _day_of(begin, zone_name), _day_of(end, zone_name)
    if last > first and (not isinstance(end, datetime) or _clock_of(end, zone_name) == time(0)):
        last -= timedelta(days=1)  # the end is the first moment that is free again
    length = max(timedelta(0), last - first)
    for day in _repeats(event, first, until):
        if day <= until and day + length >= since:
            yield Days(day, day + length, words)


def _repeats(event: Event, first: date, until: date) -> Iterator[date]:
    """The days on which an entry begins, without those that are left out."""
    left_out = {_plain_day(one.dt) for part in _list(event.get("exdate")) for one in part.dts}
    starts = datetime.combine(first, time(0))
    days = [first]
    for rule in _list(event.get("rrule")):
        try:
            days += [moment.date() for moment in _rule_of(rule, starts, until)]
        except (ValueError, TypeError):
            continue  # a rule that no calendar could follow repeats nothing
    days += [_plain_day(one.dt) for part in _list(event.get("rdate")) for one in part.dts]
    yield from (day for day in dict.fromkeys(days) if day not in left_out)


def _rule_of(rule: vRecur, starts: datetime, until: date) -> list[datetime]:
    """The moments of a rule up to a day; what comes several times a day counts once for each day, and is left out where it is finer."""
    from icalendar.prop import vRecur

    parts = {name: value for name, value in rule.items() if name not in ("BYHOUR", "BYMINUTE", "BYSECOND")}
    if str(parts.get("FREQ", [""])[0]) not in FREQUENCIES:
        return []
    text = re.sub(r"UNTIL=(\d{8})(T\d{6}Z?)?", r"UNTIL=\1", vRecur(parts).to_ical().decode())
    found: list[datetime] = rrulestr(text, dtstart=starts).between(
        starts, datetime.combine(until, time(0)), inc=True
    )[-MOST_REPEATS:]
    return found


MOST_REPEATS = 2000


def _list(value: object) -> list[Any]:
    return [] if value is None else value if isinstance(value, list) else [value]


def _plain_day(moment: date | datetime) -> date:
    return moment.date() if isinstance(moment, datetime) else moment


def _clock_of(moment: datetime, zone_name: str) -> time:
    return (moment.astimezone(ZoneInfo(zone_name)) if moment.tzinfo else moment).time()


def _day_of(moment: date | datetime, zone_name: str) -> date:
    """The day of a moment in a zone; a time without a zone is the zone's own."""
    if not isinstance(moment, datetime):
        return moment
    return moment.astimezone(ZoneInfo(zone_name)).date() if moment.tzinfo else moment.date()
