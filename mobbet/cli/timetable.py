"""`mobbet timetable`: what goes out and comes down, and which slots are free."""

from __future__ import annotations

import sys
from argparse import ArgumentParser, Namespace

from mobbet.cli.options import takes_blog, takes_data, takes_json
from mobbet.cli.shared import at_work, report

EPILOG = """`--ics` prints iCalendar (RFC 5545), `--json` `{"blog", "zone", "events": [{"what", "instant", "wall", "post",
"title"}]}`, `what` being `goes out`, `is updated`, `comes down` or `free slot`."""


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_data(command)
    takes_json(command)
    takes_blog(command)
    command.add_argument("--ics", action="store_true", help="as iCalendar")
    command.set_defaults(run=timetable)


def timetable(options: Namespace) -> None:
    """What happens, a year back and a year ahead: as iCalendar, or as data."""
    from mobbet.actions import calendar
    from mobbet.core.timing import iso, wall

    workshop, _, blog = at_work(options)
    if options.ics:
        sys.stdout.buffer.write(calendar.calendar_of(workshop, blog))
        return
    now = workshop.clock()
    found = calendar.happenings(workshop, blog, now - calendar.BACK, now + calendar.AHEAD)
    facts = [
        {
            "what": one.what,
            "instant": iso(one.instant),
            "wall": wall(one.instant, blog.zone),
            "post": one.post or None,
            "title": one.title,
        }
        for one in found
    ]
    report(
        options,
        {"blog": blog.slug, "zone": blog.zone, "events": facts},
        "\n".join(f"{one['wall']}  {one['what']:<11} {one['title']}" for one in facts) or "Nothing happens.",
    )
