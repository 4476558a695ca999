"""A blog's rhythm: the strip of the desk, as far as one scrolls it, and a year by weeks."""

from __future__ import annotations

from datetime import date, timedelta

from fastapi import APIRouter
from starlette.responses import Response

from mobbet.actions.access import blog_for
from mobbet.core.errors import NotFound
from mobbet.core.timing import local
from mobbet.web.desk import addresses as to_desk
from mobbet.web.desk.rhythm import WEEKS, drawing_of
from mobbet.web.desk.rhythm_contexts import RhythmPage
from mobbet.web.desk.strip import read_range, strip
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.rendering import page
from mobbet.web.shell.session import Here, Me

router = APIRouter()
A_YEAR = timedelta(weeks=WEEKS - 1)


@router.get(to_desk.strip.route)
def strip_part(here: Here, me: Me, slug: str, start: str = "", weeks: str = "") -> Response:
    """Another stretch of the strip."""
    blog = blog_for(here, me, slug)
    found = strip(here, blog, read_range(here, blog, start, weeks))
    if found is None:
        raise NotFound("Nothing is in the timetable of this blog, and nothing went out yet.")
    return page(found)


@router.get(to_desk.rhythm.route)
def rhythm(here: Here, me: Me, slug: str, end: str = "") -> Response:
    blog = blog_for(here, me, slug)
    today = local(here.clock(), blog.zone).date()
    try:
        day = min(max(date.fromisoformat(end), date(1973, 1, 1)), today)
    except ValueError:
        day = today
    later = to_desk.rhythm(slug, (day + A_YEAR).isoformat()) if day < today else ""
    begins = day - timedelta(days=day.weekday()) - A_YEAR
    title = f"{begins.day} {begins:%b} {begins.year} to {day.day} {day:%b} {day.year}"
    return page(
        RhythmPage(
            bar_for(here, me, blog, "desk"),
            drawing_of(here, blog, day),
            title,
            to_desk.rhythm(slug, (day - A_YEAR).isoformat()),
            later,
        )
    )
