"""Days and times as screens show them to one person, in the language that they chose (CLDR, by Babel).

What is published or kept never comes from here: pages are the same for everybody, and so are messages that are stored. The language belongs to the
context in which a request is answered; without one, dates are in English.
"""

from __future__ import annotations

from contextvars import ContextVar
from datetime import date, datetime, timedelta

from mobbet.core import timing
from mobbet.core.timing import DAYS, MONTHS, local

LANGUAGES = {
    "": "English",
    "en_US": "English (United States)",
    "ar": "العربية",
    "bg": "Български",
    "ca": "Català",
    "cs": "Čeština",
    "da": "Dansk",
    "de": "Deutsch",
    "el": "Ελληνικά",
    "es": "Español",
    "et": "Eesti",
    "fi": "Suomi",
    "fr": "Français",
    "he": "עברית",
    "hr": "Hrvatski",
    "hu": "Magyar",
    "it": "Italiano",
    "ja": "日本語",
    "ko": "한국어",
    "lt": "Lietuvių",
    "lv": "Latviešu",
    "nl": "Nederlands",
    "no": "Norsk",
    "pl": "Polski",
    "pt": "Português",
    "ro": "Română",
    "ru": "Русский",
    "sk": "Slovenčina",
    "sl": "Slovenščina",
    "sr": "Српски",
    "sv": "Svenska",
    "tr": "Türkçe",
    "uk": "Українська",
    "zh": "中文",
}
"""The languages that dates can be in: (code of CLDR, '' for Mobbet's own; the language's name in itself)."""

_language: ContextVar[str] = ContextVar("language of dates", default="")


def use(language: str) -> None:
    """Has dates be in a language for the rest of what this context does."""
    _language.set(language if language in LANGUAGES else "")


def _pattern(skeleton: str, day: date) -> str:
    """A date by a skeleton of CLDR: the fields it has, in the language's own order."""
    from babel.dates import format_skeleton

    moment = day if isinstance(day, datetime) else datetime(day.year, day.month, day.day)
    return str(format_skeleton(skeleton, moment.replace(tzinfo=None), locale=_language.get()))


def clock_time(moment: datetime) -> str:
    """“09:00”."""
    if not _language.get():
        return f"{moment:%H:%M}"
    from babel.dates import format_time

    return str(format_time(moment.replace(tzinfo=None), "short", locale=_language.get()))


def time_in_words(instant: int, zone_name: str, now: int) -> str:
    """“Thu 26 Nov at 09:00”; the year is added when it is not this one."""
    if not _language.get():
        return timing.time_in_words(instant, zone_name, now)
    moment = local(instant, zone_name)
    skeleton = "MMMEd" if moment.year == local(now, zone_name).year else "yMMMEd"
    return f"{_pattern(skeleton, moment)}, {clock_time(moment)}"


def ago_in_words(instant: int, zone_name: str, now: int) -> str:
    """How long ago: “3 s ago”, “yesterday”, “Fri 20 Nov”."""
    if not _language.get():
        return timing.ago_in_words(instant, zone_name, now)
    from babel.dates import format_timedelta

    then, today = local(instant, zone_name), local(now, zone_name).date()
    seconds = max(0, now - instant)
    if seconds < 3600 or then.date() == today - timedelta(days=1):
        since = timedelta(seconds=-seconds) if seconds < 3600 else timedelta(days=-1)
        return str(format_timedelta(since, add_direction=True, format="short", locale=_language.get()))
    return clock_time(then) if then.date() == today else short_day(then.date(), today)


def day_in_words(instant: int, zone_name: str) -> str:
    """“26 November 2026”."""
    if not _language.get():
        return timing.day_in_words(instant, zone_name)
    return _pattern("yMMMMd", local(instant, zone_name))


def short_date(iso: str) -> str:
    """“Thu 3 Dec” of a day in ISO 8601."""
    day = date.fromisoformat(iso)
    return short_day(day, day)


def short_day(day: date, today: date) -> str:
    """“Fri 20 Nov” this year, “20 Nov 2025” in another."""
    if not _language.get():
        return timing.short_day(day, today)
    return _pattern("MMMEd" if day.year == today.year else "yMMMd", day)


def month_name(month: str) -> str:
    """`2026-11` as “November 2026”."""
    if not _language.get():
        return timing.month_name(month)
    return _pattern("yMMMM", date.fromisoformat(f"{month}-01"))


def day_and_month(day: date) -> str:
    """“20 Nov”."""
    return _pattern("MMMd", day) if _language.get() else f"{day.day} {MONTHS[day.month - 1][:3]}"


def weekday_day_and_month(day: date) -> str:
    """“Fri 20 Nov”, whatever the year."""
    return _pattern("MMMEd", day) if _language.get() else f"{DAYS[day.weekday()]} {day_and_month(day)}"


def weekday_and_day(day: date, has_year: bool) -> str:
    """“Fri 20 November”, or “Fri 20 November 2025”."""
    if _language.get():
        return _pattern("yMMMMEd" if has_year else "MMMMEd", day)
    return f"{DAYS[day.weekday()]} {day.day} {MONTHS[day.month - 1]}{f' {day.year}' if has_year else ''}"


def short_month(day: date) -> str:
    """“Nov”."""
    if not _language.get():
        return MONTHS[day.month - 1][:3]
    from babel.dates import format_date

    return str(format_date(day, "LLL", locale=_language.get()))
