"""The timetable as iCalendar (RFC 5545), for any calendar program."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

from icalendar import Calendar, Event

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
    calendar = Calendar()
    calendar.add("prodid", "-//Mobbet//Timetable//EN")
    calendar.add("version", "2.0")
    calendar.add("calscale", "GREGORIAN")
    calendar.add("method", "PUBLISH")
    calendar.add("x-wr-calname", name)
    calendar.add("refresh-interval", timedelta(hours=1), parameters={"VALUE": "DURATION"})
    for one in happenings:
        calendar.add_component(_event(blog, one, made))
    return calendar.to_ical()


def _event(blog: str, one: Happening, made: int) -> Event:
    begins = datetime.fromtimestamp(one.instant, UTC)
    is_free = not one.post
    event = Event()
    event.add("uid", f"{one.what.replace(' ', '-')}-{one.post or ''}{'' if one.what in ('goes out', 'comes down') else f'-{one.instant}'}@{blog}.mobbet")
    event.add("dtstamp", datetime.fromtimestamp(made, UTC))
    event.add("dtstart", begins)
    event.add("dtend", begins + HALF_HOUR)
    event.add("summary", "Free slot" if is_free else one.title if one.what == "goes out" else f"{one.title} ({one.what})")
    event.add("description", "A time kept free for a post." if is_free else f"It {one.what}.")
    event.add("transp", "TRANSPARENT")
    event.add("status", "TENTATIVE" if is_free else "CONFIRMED")
    if one.address:
        event.add("url", one.address)
    return event
