"""Times as people say them: “thu 9”, “tomorrow 18:30”, “in 2 weeks”, “26/11 9:00”; and what a clock change does to one."""

from __future__ import annotations

import re
from datetime import date, datetime, time, timedelta

from mobbet.core.errors import BadInput
from mobbet.core.timing import DAYS, MONTHS, instant_of_wall, local, read_wall, wall, zone
from mobbet.core.values import existing

USUAL_TIME = time(9)
"""The time of a day that was named without one."""
EXAMPLES = "thu 9, tomorrow 18:30, in 2 weeks or 26/11 9:00"
_NAMES = {
    name.lower()[:length]: number
    for number, name in enumerate(
        ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")
    )
    for length in (3, 4, 5, len(name))
}
_MONTH_NAMES = {
    name.lower()[:length]: number for number, name in enumerate(MONTHS, 1) for length in (3, 4, len(name))
}
_NUMBER_WORDS = {
    "a": 1,
    "an": 1,
    "one": 1,
    "two": 2,
    "three": 3,
    "four": 4,
    "five": 5,
    "six": 6,
    "seven": 7,
    "eight": 8,
    "nine": 9,
    "ten": 10,
    "eleven": 11,
    "twelve": 12,
}
_PARTS_OF_DAY = {"morning": time(9), "afternoon": time(14), "evening": time(18), "night": time(20)}
"""When a part of the day begins that was named without a time."""
_PART_OF_DAY = re.compile(r"\b(?:in the |at |this )?(morning|afternoon|evening|night)\b")
_COUNTED = re.compile(r"\b(" + "|".join(name for name in _NUMBER_WORDS if name not in ("a", "an")) + r")\b")
_PAST = re.compile(r"\b(half past|quarter past|quarter to) (\d{1,2})\b")
_UNITS = {"minute": 1, "min": 1, "hour": 60, "h": 60}
_TIME = re.compile(
    r"(?:at )?(?:(\d{1,2})(?:[:.h](\d\d))? ?(am|pm)?|(\d{1,2})h|(\d\d)(\d\d)|(noon|midnight)) ?(?:o.?clock)?"
)
_FILLERS = re.compile(r"\b(?:on|the|at|of|o.?clock)\b|,")


LONGEST = 80
"""In letters: no time that people type is longer."""
_AMOUNT = r"(half an hour|(?:\d{1,5}|[a-z]{1,9}) ?(?:minute|min|hour|h|day|week|month|year)s?)"
_AHEAD, _AGO = re.compile(rf"in {_AMOUNT}(?: (?:at )?(.*))?"), re.compile(rf"{_AMOUNT} ago(?: (?:at )?(.*))?")


def read_when(text: str, now: int, zone_name: str, field: str = "goes_out_wall") -> str:
    """The wall time that is meant, in its one spelling. A day without a time is at nine; a day without a year is the next
    one there is. Raises BadInput with examples.
    """
    words = " ".join(text[: LONGEST + 1].lower().split())
    if len(text) > LONGEST:
        raise BadInput(
            f"“{words[:40]}…” is no time that Mobbet understands; write it like {EXAMPLES}.", field
        )
    here = local(now, zone_name).replace(second=0, tzinfo=None)
    plain = _plain(words)
    for rule in _RULES:
        found = rule(plain, here, now, zone_name)
        if found is not None:
            if field == "comes_down_wall" and rule is _end and found.time() == USUAL_TIME:
                found = found.replace(hour=23, minute=59)
            return read_wall(found.strftime("%Y-%m-%d %H:%M"), field)
    raise BadInput(f"“{text.strip()}” is no time that Mobbet understands; write it like {EXAMPLES}.", field)


def _plain(words: str) -> str:
    """The same with numbers in digits: “at nine” is “at 9”, “half past nine” “9:30”."""
    words = _COUNTED.sub(lambda match: str(_NUMBER_WORDS[match[1]]), words.replace("midday", "noon"))

    def clock(match: re.Match[str]) -> str:
        hour = int(match[2])
        return {"half past": f"{hour}:30", "quarter past": f"{hour}:15"}.get(
            match[1], f"{(hour - 1) % 24}:45"
        )

    return _PAST.sub(clock, words)


def _iso(words: str, here: datetime, now: int, zone_name: str) -> datetime | None:
    match = re.fullmatch(r"(\d{4})-(\d{1,2})-(\d{1,2})(?:t| )?(.*)", words)
    return _on(int(match[1]), int(match[2]), int(match[3]), match[4]) if match else None


def _now(words: str, here: datetime, now: int, zone_name: str) -> datetime | None:
    return here if words in ("now", "at once") else None


def _distance(words: str, here: datetime, now: int, zone_name: str) -> datetime | None:
    """“in 2 weeks”, “in half an hour”, “3 days ago”, each perhaps with a time."""
    match, back = _AHEAD.fullmatch(words), _AGO.fullmatch(words)
    if not match and not back:
        return None
    sign, (amount, at) = (1, match.groups()) if match else (-1, existing(back).groups())
    amount = re.sub(r"^half an hour$", "30 minutes", amount)
    parts = re.fullmatch(r"(\d+|[a-z]+) ?(minute|min|hour|h|day|week|month|year)s?", amount)
    count = _count(parts[1]) if parts else None
    if count is None or count > 5000:
        return None
    unit = existing(parts)[2]
    if unit in _UNITS:  # hours pass as they pass, also over a clock change
        return (
            None
            if at
            else local(now + sign * count * _UNITS[unit] * 60, zone_name).replace(second=0, tzinfo=None)
        )
    days = {"day": count, "week": 7 * count}.get(unit)
    day = (
        here.date() + timedelta(days=sign * days)
        if days is not None
        else _months_on(here.date(), sign * count * (12 if unit == "year" else 1))
    )
    return _at(day, at)


def _count(text: str) -> int | None:
    return int(text) if text.isdecimal() else _NUMBER_WORDS.get(text)


def _months_on(day: date, months: int) -> date:
    """The same day some months on; the last of the month where it has no such day."""
    index = day.year * 12 + day.month - 1 + months
    year, month = divmod(index, 12)
    last = (date(year + month // 11, (month + 1) % 12 + 1, 1) - timedelta(days=1)).day
    return date(year, month + 1, min(day.day, last))


def _named_day(words: str, here: datetime, now: int, zone_name: str) -> datetime | None:
    """“today”, “tonight”, “tomorrow 9”, “yesterday”."""
    match = re.fullmatch(
        r"(today|tonight|(?:the )?day after tomorrow|tomorrow|yesterday|(?=this (?:morning|afternoon|evening|night)\b))(?: ?(.*))?",
        words,
    )
    if not match:
        return None
    days = {"": 0, "tomorrow": 1, "yesterday": -1}.get(match[1], 2 if "after" in match[1] else 0)
    return _at(here.date() + timedelta(days=days), match[2] or ("20:00" if match[1] == "tonight" else None))


def _weekday(words: str, here: datetime, now: int, zone_name: str) -> datetime | None:
    """“thu”, “next thursday at 18”, “last fri 9”: the nearest one that is still to come, or has passed."""
    match = re.fullmatch(r"(?:(next|this|last|on) )?([a-z]+)\.?,?(?: (.*))?", words)
    if (
        not match
        or match[2] not in _NAMES
        or re.search(
            r"[a-z]{3}|[/.-]\d",
            _PART_OF_DAY.sub(
                "", _FILLERS.sub(" ", match[3] or "").replace("noon", "").replace("midnight", "")
            ),
        )
    ):
        return None
    ahead = (_NAMES[match[2]] - here.weekday()) % 7
    found = _at(here.date() + timedelta(days=ahead), match[3])
    if found is None:
        return None
    if match[1] == "last":
        return found - timedelta(days=7) if found >= here else found
    if match[1] == "next" and ahead == 0:
        return found + timedelta(days=7)
    return found + timedelta(days=7) if found <= here else found


def _span(words: str, here: datetime, now: int, zone_name: str) -> datetime | None:
    """“next week”, “next month at 9”, “the weekend”."""
    match = re.fullmatch(r"(?:next (week|month|year)|(?:at )?(?:the|this|next) (weekend))(?: (.*))?", words)
    if not match:
        return None
    today = here.date()
    if match[2]:
        ahead = (5 - today.weekday()) % 7 + (7 if "next" in words else 0)
        return _at(today + timedelta(days=ahead), match[3])
    day = (
        today + timedelta(days=7)
        if match[1] == "week"
        else _months_on(today, 12 if match[1] == "year" else 1)
    )
    return _at(day, match[3])


def _end(words: str, here: datetime, now: int, zone_name: str) -> datetime | None:
    """“end of the month”, “the beginning of next week”: the last or the first day of it, a week from Monday to Sunday."""
    match = re.fullmatch(
        r"(?:at |by )?(?:the )?(end|last day|beginning|start|first day) of (?:the |this |(next) )?(week|month|year)(?: (.*))?",
        words,
    )
    if not match:
        return None
    ends, today, at = match[1] in ("end", "last day"), here.date(), match[4]
    first = {
        "week": today - timedelta(days=today.weekday()),
        "month": today.replace(day=1),
        "year": today.replace(month=1, day=1),
    }[match[3]]
    for ahead in (1,) if match[2] else (0, 1):  # one that has passed is the next one's
        begins, follows = (_after(first, match[3], count) for count in (ahead, ahead + 1))
        found = _at(follows - timedelta(days=1) if ends else begins, at)
        if found is None or found > here:
            return found
    return None


def _after(first: date, unit: str, count: int) -> date:
    """The first day of the week, month or year that comes so many after the one that begins on a day."""
    if unit == "week":
        return first + timedelta(days=7 * count)
    return _months_on(first, count * (12 if unit == "year" else 1))


def _calendar(words: str, here: datetime, now: int, zone_name: str) -> datetime | None:
    """“26/11”, “26.11.2026 9:00”, “26 nov”, “nov 26th 2027 at 9”, a weekday before it or not."""
    words = re.sub(r"^([a-z]+)\.?,? ", lambda match: "" if match[1] in _NAMES else match[0], words)
    match = re.fullmatch(r"(\d{1,2}) ?[/.] ?(\d{1,2})(?: ?[/.] ?(\d{4}))?\.?(?: (.*))?", words)
    if match and int(match[2]) <= 12:
        return _near(int(match[1]), int(match[2]), match[3], match[4], here)
    match = re.fullmatch(r"(\d{1,2})(?:st|nd|rd|th)?\.? (?:of )?([a-z]+)\.?,?(?: (\d{4}))?(?: (.*))?", words)
    if match and match[2] in _MONTH_NAMES:
        return _near(int(match[1]), _MONTH_NAMES[match[2]], match[3], match[4], here)
    match = re.fullmatch(r"([a-z]+)\.? (\d{1,2})(?:st|nd|rd|th)?,?(?: (\d{4}))?(?: (.*))?", words)
    if match and match[1] in _MONTH_NAMES:
        return _near(int(match[2]), _MONTH_NAMES[match[1]], match[3], match[4], here)
    return None


def _near(day: int, month: int, year: str | None, at: str | None, here: datetime) -> datetime | None:
    """That day of that year, or of this year, or of the next where this year's has passed."""
    if year:
        return _on(int(year), month, day, at)
    for candidate in (
        here.year,
        here.year + 1,
        *range(here.year + 2, here.year + 8),
    ):  # 29 February comes again
        found = _on(candidate, month, day, at)
        if found is not None and found.date() >= here.date():
            return found
    return None


def _clock(words: str, here: datetime, now: int, zone_name: str) -> datetime | None:
    """“18:30”, “9”, “noon”: today, or tomorrow where that has passed."""
    found = _at(here.date(), words) if words else None
    return found + timedelta(days=1) if found is not None and found <= here else found


_RULES = (_iso, _now, _distance, _named_day, _span, _end, _weekday, _calendar, _clock)
"""Tried in this order; the first that understands answers."""


def _on(year: int, month: int, day: int, at: str | None) -> datetime | None:
    try:
        return _at(date(year, month, day), at)
    except ValueError:
        return None


def _at(day: date, text: str | None) -> datetime | None:
    """A day at a typed time; at nine where none is typed; None for what is no time."""
    if not text or not text.strip():
        return datetime.combine(day, USUAL_TIME)
    part = _PART_OF_DAY.search(text)
    text = " ".join(_PART_OF_DAY.sub(" ", text).split()).removeprefix("at ")
    if part and not text:
        return datetime.combine(day, _PARTS_OF_DAY[part[1]])
    match = _TIME.fullmatch(text)
    if not match:
        return None
    if match[7]:
        return datetime.combine(day, time(12 if match[7] == "noon" else 0))
    hour, minute = next(
        (int(a), int(b or 0)) for a, b in ((match[1], match[2]), (match[4], None), (match[5], match[6])) if a
    )
    if match[3]:
        if not 1 <= hour <= 12:
            return None
        hour = hour % 12 + (12 if match[3] == "pm" else 0)
    elif part and part[1] != "morning" and hour < 12:
        hour += 12
    return datetime.combine(day, time(hour, minute)) if hour < 24 and minute < 60 else None


def clock_change(wall_time: str, zone_name: str) -> str:
    """What a clock change does to a wall time, in a sentence; '' where it does nothing."""
    typed = datetime.strptime(wall_time[:16], "%Y-%m-%dT%H:%M")
    instant = instant_of_wall(wall_time, zone_name)
    real = wall(instant, zone_name)[:16]
    if real != wall_time[:16]:
        return f"The clocks skip {typed:%H:%M} that night; it is {real[11:16]} then."
    later = local(instant, zone_name)
    other = typed.replace(tzinfo=zone(zone_name), fold=1)
    if other.utcoffset() != later.utcoffset():
        return f"{typed:%H:%M} comes twice that night, as the clocks go back; the first one is meant."
    return ""


def in_words(instant: int, zone_name: str, now: int) -> str:
    """“Thu 26 Nov 2026 at 09:00, in 8 days”."""
    moment, here = local(instant, zone_name), local(now, zone_name)
    days = (moment.date() - here.date()).days
    distance = (
        "today"
        if days == 0
        else "tomorrow"
        if days == 1
        else "yesterday"
        if days == -1
        else f"in {days} days"
        if days > 0
        else f"{-days} days ago"
    )
    return f"{DAYS[moment.weekday()]} {moment.day} {MONTHS[moment.month - 1][:3]} {moment.year} at {moment:%H:%M}, {distance}"
