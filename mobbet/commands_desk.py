"""The commands of the desk: finding posts, and the timetable as a calendar."""

from __future__ import annotations

import sys
import time
from argparse import Namespace

from mobbet.actions import calendar, finding
from mobbet.commands import at_work, report
from mobbet.core.errors import BadInput
from mobbet.core.states import WORDS
from mobbet.core.timing import iso, wall


def search(options: Namespace) -> None:
    """The posts that a query finds, the likeliest first."""
    if options.limit < 1:
        raise BadInput(f"--limit is {options.limit}; ask for one post at least.", "--limit")
    workshop, _, blog = at_work(options)
    began = time.perf_counter()
    found = finding.find(workshop, blog, options.query, options.limit)
    milliseconds = round(1000 * (time.perf_counter() - began), 1)
    facts = {
        "posts": [{"id": one.id, "title": one.title, "state": one.state} for one in found.posts], "total": found.total, "milliseconds": milliseconds,
        **({"instead": found.instead} if found.instead else {}), **({"problems": found.problems} if found.problems else {}),
    }  # fmt: skip
    lines = [f"{one.id:>6}  {WORDS[one.state]:<16} {one.title or 'No title yet'}" for one in found.posts]
    report(options, facts, "\n".join([*lines, *found.problems, f"{found.total} found in {milliseconds} ms."]))


def timetable(options: Namespace) -> None:
    """What happens, a year back and a year ahead: as iCalendar, or as data."""
    workshop, _, blog = at_work(options)
    if options.ics:
        sys.stdout.buffer.write(calendar.calendar_of(workshop, blog))
        return
    now = workshop.clock()
    found = calendar.happenings(workshop, blog, now - calendar.BACK, now + calendar.AHEAD)
    facts = [{"what": one.what, "instant": iso(one.instant), "wall": wall(one.instant, blog.zone), "post": one.post or None, "title": one.title} for one in found]
    report(options, {"blog": blog.slug, "zone": blog.zone, "events": facts}, "\n".join(f"{one['wall']}  {one['what']:<11} {one['title']}" for one in facts) or "Nothing happens.")
