"""Instants, wall times and zones.

An *instant* is a whole number of seconds since 1970-01-01 UTC. A *wall time* is what a clock on the
wall of the blog's zone shows, written `2026-11-26T09:00`. A placement keeps the wall time and the
zone that the person chose; the instant follows from them (IANA time zones).
"""

from __future__ import annotations

import re
from datetime import UTC, date, datetime, timedelta
from functools import lru_cache
from zoneinfo import ZoneInfo, available_timezones

from mobbet.core.errors import BadInput

FOREVER = 1 << 53
"""The instant that never comes; the end of what stays up for good."""

DAYS = ("Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun")
MONTHS = (
    "January", "February", "March", "April", "May", "June",
    "July", "August", "September", "October", "November", "December",
)  # fmt: skip
_WALL = re.compile(r"^(\d{4})-(\d\d)-(\d\d)(?:[T ](\d\d):(\d\d)(?::(\d\d))?)?$")


@lru_cache(maxsize=64)
def zone(name: str) -> ZoneInfo:
    """The IANA zone of that name. Raises BadInput for an unknown one."""
    if name not in all_zones():
        raise BadInput(f"There is no time zone “{name}”; choose one such as Europe/Lisbon.", "zone")
    return ZoneInfo(name)


@lru_cache(maxsize=1)
def all_zones() -> tuple[str, ...]:
    """Every zone a person may choose, in alphabetical order."""
    return tuple(sorted(name for name in available_timezones() if "/" in name or name == "UTC"))


def local(instant: int, zone_name: str) -> datetime:
    """The instant as an aware datetime of that zone."""
    return datetime.fromtimestamp(instant, zone(zone_name))


def wall(instant: int, zone_name: str) -> str:
    """The wall time of an instant, `YYYY-MM-DDTHH:MM`, with seconds only where there are any."""
    moment = local(instant, zone_name)
    return moment.strftime("%Y-%m-%dT%H:%M:%S" if moment.second else "%Y-%m-%dT%H:%M")


def read_wall(text: str, field: str = "date") -> str:
    """A typed date or wall time in its one spelling. Raises BadInput when it is none.

    A date alone means midnight.
    """
    match = _WALL.match(text.strip())
    if not match:
        raise BadInput(f"“{text}” is no date and time; write it like 2026-11-26 09:00.", field)
    year, month, day, hour, minute, second = (int(part or 0) for part in match.groups())
    try:
        moment = datetime(year, month, day, hour, minute, second)
    except ValueError:
        raise BadInput(f"“{text}” is not in the calendar; check the day and the hour.", field) from None
    if not 1970 <= year <= 2200:
        raise BadInput(f"“{text}” is too far away; choose a year between 1970 and 2200.", field)
    return moment.strftime("%Y-%m-%dT%H:%M:%S" if second else "%Y-%m-%dT%H:%M")


def instant_of_wall(wall_time: str, zone_name: str) -> int:
    """The instant of a wall time in a zone.

    A time that a clock change skips means the same distance after the change (02:30 becomes 03:30);
    of a time that comes twice, the first is meant.
    """
    naive = datetime.fromisoformat(read_wall(wall_time))
    return int(naive.replace(tzinfo=zone(zone_name)).timestamp())


def read_instant(text: str, zone_name: str, field: str = "date") -> int:
    """An instant typed as a wall time of the zone, or as ISO 8601 with an offset or Z."""
    text = text.strip()
    if re.search(r"(Z|[+-]\d\d:?\d\d)$", text) and "T" in text.replace(" ", "T"):
        try:
            return int(datetime.fromisoformat(text.replace("Z", "+00:00")).timestamp())
        except ValueError:
            raise BadInput(f"“{text}” is no date and time; write it like 2026-11-26T09:00Z.", field) from None
    return instant_of_wall(read_wall(text, field), zone_name)


def read_end(text: str, zone_name: str, field: str = "date") -> int:
    """The end of a span, typed as an instant; a day alone means through that day."""
    day = re.fullmatch(r"\d{4}-\d{1,2}-\d{1,2}", text.strip())
    return read_instant(f"{day[0]} 23:59" if day else text, zone_name, field) + (59 if day else 0)


def iso(instant: int) -> str:
    """RFC 3339 in UTC, as feeds and site maps want it."""
    return datetime.fromtimestamp(instant, UTC).strftime("%Y-%m-%dT%H:%M:%SZ")


def clock_turns(first: date, last: date, zone_name: str) -> dict[date, str]:
    """{day: what the clocks do on it} of the days on which they change, from one day to another."""
    found, day = {}, first
    while day <= last:
        before, after = (
            datetime(one.year, one.month, one.day, tzinfo=zone(zone_name)).utcoffset() or timedelta(0)
            for one in (day, day + timedelta(days=1))
        )
        if before != after:
            minutes = round(abs((after - before).total_seconds()) / 60)
            size = f"{minutes // 60} h" if minutes % 60 == 0 else f"{minutes} min"
            found[day] = f"clocks {'forward' if after > before else 'back'} {size}"
        day += timedelta(days=1)
    return found


def read_day_count(text: str, most: int, zero: str) -> int:
    """How many days somebody typed; `zero` says what 0 is for. Raises BadInput."""
    if not text.strip().isdecimal() or len(text.strip()) > 6 or int(text) > most:
        raise BadInput(f"“{text}” is no number of days; type 0, for {zero}, to {most}.", "days")
    return int(text)


@lru_cache(maxsize=4096)
@lru_cache(maxsize=1 << 15)
def month_of(instant: int, zone_name: str) -> str:
    """The month in which the instant falls in that zone, `YYYY-MM`."""
    moment = local(instant, zone_name)
    return f"{moment.year:04d}-{moment.month:02d}"


def month_number(instant: int) -> int:
    """The month of an instant, in UTC, as years times twelve and the months."""
    moment = datetime.fromtimestamp(instant, UTC)
    return moment.year * 12 + moment.month - 1


def month_name(month: str) -> str:
    """`2026-11` as “November 2026”."""
    year, number = month.split("-")
    return f"{MONTHS[int(number) - 1]} {year}"


@lru_cache(maxsize=4096)
def hour_of(instant: int, zone_name: str) -> tuple[int, int]:
    """From when and until when the hour of the clock lasts in which an instant is."""
    moment = local(instant, zone_name)
    first = instant - moment.minute * 60 - moment.second
    return first, first + 3600


def day_of(day: str, zone_name: str) -> tuple[int, int]:
    """From when and until when a day (`YYYY-MM-DD`) lasts in a zone: 23, 24 or 25 hours."""
    following = date.fromisoformat(day) + timedelta(days=1)
    return instant_of_wall(f"{day}T00:00", zone_name), instant_of_wall(f"{following}T00:00", zone_name)


def short_date(iso: str) -> str:
    """“Thu 3 Dec” of a day in ISO 8601."""
    day = date.fromisoformat(iso)
    return short_day(day, day)


def day_in_words(instant: int, zone_name: str) -> str:
    """“26 November 2026”."""
    moment = local(instant, zone_name)
    return f"{moment.day} {MONTHS[moment.month - 1]} {moment.year}"


def time_in_words(instant: int, zone_name: str, now: int) -> str:
    """“Thu 26 Nov at 09:00”; the year is added when it is not this one."""
    moment = local(instant, zone_name)
    year = "" if moment.year == local(now, zone_name).year else f" {moment.year}"
    return f"{DAYS[moment.weekday()]} {moment.day} {MONTHS[moment.month - 1][:3]}{year} at {moment:%H:%M}"


def ago_in_words(instant: int, zone_name: str, now: int) -> str:
    """How long ago, in the words of a person glancing at a list: “3 s ago”, “yesterday”, “Fri 20 Nov”."""
    seconds = max(0, now - instant)
    if seconds < 60:
        return f"{seconds} s ago" if seconds else "just now"
    if seconds < 3600:
        return f"{seconds // 60} min ago"
    then, today = local(instant, zone_name), local(now, zone_name).date()
    if then.date() == today:
        return f"today {then:%H:%M}"
    if then.date() == today - timedelta(days=1):
        return "yesterday"
    return short_day(then.date(), today)


def short_day(day: date, today: date) -> str:
    """“Fri 20 Nov” this year, “20 Nov 2025” in another."""
    month = MONTHS[day.month - 1][:3]
    if day.year != today.year:
        return f"{day.day} {month} {day.year}"
    return f"{DAYS[day.weekday()]} {day.day} {month}"
