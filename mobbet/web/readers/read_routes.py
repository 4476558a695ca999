"""Readers, What is read: how many readers opened what, and where they came from."""

from __future__ import annotations

import csv
import io
from datetime import date
from typing import Any
from urllib.parse import urlencode

from fastapi import APIRouter
from starlette.responses import JSONResponse, Response

from mobbet.actions import read_counts, read_slips, site_search
from mobbet.actions.access import blog_for, has_right
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput
from mobbet.core.languages import NAMES
from mobbet.core.read_counts import OWN_LINK, WHOLE, blurred
from mobbet.core.read_words import PERIODS, USUAL_PERIOD, stretch_of
from mobbet.core.rights import Action
from mobbet.core.screen_dates import weekday_and_day
from mobbet.core.timing import local
from mobbet.store import comments
from mobbet.store import read_counts as store
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.web.readers import addresses as to_readers
from mobbet.web.readers import read_view as view
from mobbet.web.readers.read_contexts import ReadPage
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.contexts import Choice
from mobbet.web.shell.fields import Text
from mobbet.web.shell.rendering import page
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.session import Here, Me

router = APIRouter()
LONGEST_STRETCH = 366 * 20
"""In days."""


class _Stretch:
    """The days that are looked at: a period up to today, or from one day to another."""

    def __init__(self, workshop: Workshop, blog: Blog, period: str, first: str, last: str) -> None:
        today = local(workshop.clock(), blog.zone).date()
        self.period, self.problem = "", ""
        try:
            begin, end = date.fromisoformat(first), date.fromisoformat(last)
            self.first, self.last = begin.isoformat(), end.isoformat()
            if not 0 <= (end - begin).days < LONGEST_STRETCH:
                raise ValueError
        except ValueError:
            if first or last:
                self.problem = (
                    f"“{first} to {last}”"[:60]
                    + " is no stretch of days; choose the first day and a later one."
                )
            self.period = period if period in PERIODS else USUAL_PERIOD
            self.first, self.last = stretch_of(int(self.period), today)

    @property
    def query(self) -> dict[str, str]:
        """The stretch as addresses have it."""
        return {"period": self.period} if self.period else {"first": self.first, "last": self.last}


@router.get(to_readers.read.route)
def show(here: Here, me: Me, slug: str, period: str = "", first: str = "", last: str = "", post: str = "", told: str = "", beside: str = "") -> Response:  # fmt: skip
    """The screen, of the whole blog or of one post, perhaps compared with another one."""
    return _page(here, me, slug, _Stretch(here, blog_for(here, me, slug, Action.ANY_AUTHOR), period, first, last), post, told="Kept as an idea; it stands on the desk." if told else "", beside=beside)  # fmt: skip


def _page(
    here: Workshop,
    me: Person,
    slug: str,
    stretch: _Stretch,
    post: str,
    told: str = "",
    problem: str = "",
    beside: str = "",
) -> Response:
    blog = blog_for(here, me, slug, Action.ANY_AUTHOR)
    db, first, last = here.db, stretch.first, stretch.last
    number, other = (
        int(one) if one.isascii() and one.isdecimal() and len(one) < 16 else WHOLE for one in (post, beside)
    )
    titles = view.titles_of(here, blog, [number])
    number = number if number in titles else WHOLE
    days = store.days(db, blog.id, first, last, number)
    titles |= view.titles_of(here, blog, [other]) if number and other else {}
    other = other if other in titles and other != number else WHOLE
    compared = view.bins(here, blog, first, last, other) if other else []
    some, flow = view.bins(here, blog, first, last, number), view.flow_of(here, blog, first, last)
    rows = view.post_rows(here, blog, first, last, number, stretch.query)
    words, before = PERIODS.get(stretch.period, ("", ""))
    if not words:
        words = " to ".join(
            weekday_and_day(date.fromisoformat(day), True) for day in dict.fromkeys((first, last))
        )
    context = ReadPage(
        bar_for(here, me, blog, "readers"), comments.waiting(db, blog.id, 0), has_right(here, me, blog, Action.KEEP_READERS),
        [Choice(days, name, days == stretch.period) for days, (name, _) in PERIODS.items()], words, first, last,
        sum(one.readers for one in days), sum(one.pages for one in days), store.robots(db, blog.id, first, last),
        view.changed(here, blog, first, last, before, number), view.more_of(here, blog, first, last, rows) if not number else [], number, titles.get(number, ""),
        view.drawn_days(blog.slug, some, number, compared), view.day_rows(some, compared), view.drawn_flow(flow), [(flow.sources[start][0], flow.firsts[end][0], count) for start, end, count in flow.ways],
        rows, site_search.missed(here, blog), store.ways(db, blog.id, first, last, "device", 5), [(NAMES.get(code, code), count) for code, count in store.ways(db, blog.id, first, last, "language", 8)],
        urlencode(stretch.query), told, problem or stretch.problem, any(one.letters for one in some),
        view.longer_choices(here, blog, post), other, titles.get(other, "") if other else "", [view.as_choice(row, other) for row in rows if number and not row.is_chosen],
        [*stretch.query.items()], bool(blog.read_slip),
    )  # fmt: skip
    return page(context, 422 if problem else 200)


@router.post(to_readers.read.route)
def keep_idea(here: Here, me: Me, slug: str, words: Text = "") -> Response:
    """Makes an idea of words that readers searched for in vain."""
    try:
        site_search.keep_as_idea(here, me, slug, words)
    except BadInput as error:
        stretch = _Stretch(here, blog_for(here, me, slug, Action.ANY_AUTHOR), "", "", "")
        return _page(here, me, slug, stretch, "", problem=str(error))
    return see_other(to_readers.read(slug, told="kept"))


@router.post(to_readers.read_slip.route)
def set_slip(here: Here, me: Me, slug: str, value: Text = "") -> Response:
    """Whether the owners get a letter about each day."""
    read_slips.set_slip(here, me, slug, value == "day")
    return see_other(to_readers.read(slug))


@router.get(to_readers.reads_file.route)
def download(here: Here, me: Me, slug: str, name: str, period: str = "", first: str = "", last: str = "") -> Response:  # fmt: skip
    """The numbers as JSON, or days, posts and places as CSV; small ones are blurred."""
    blog = blog_for(here, me, slug, Action.ANY_AUTHOR)
    stretch = _Stretch(here, blog, period, first, last)
    facts = _blurred(read_counts.facts(here, blog, stretch.first, stretch.last))
    headers = {"Content-Disposition": f'attachment; filename="read-{stretch.first}-{stretch.last}.{name}"'}
    if name == "json":
        return JSONResponse(facts, headers=headers)
    file = io.StringIO()
    rows = csv.writer(file)
    rows.writerow(["what", "which", "readers", "pages"])
    rows.writerows(["day", one["day"], one["readers"], one["pages"]] for one in facts["days"])
    rows.writerows(["post", one["path"], one["readers"], one["pages"]] for one in facts["posts"])
    rows.writerows(["from", _plain(one["host"]), "", one["pages"]] for one in facts["from"])
    return Response(file.getvalue(), media_type="text/csv; charset=utf-8", headers=headers)


def _plain(host: str) -> str:
    """A host as a cell of a sheet that no program takes for a formula."""
    return f"'{host}" if host[:1] in "=+-@" else host.removeprefix(OWN_LINK)


def _blurred(facts: dict[str, Any]) -> dict[str, Any]:
    """The numbers with small ones blurred."""
    found: dict[str, Any] = {}
    for name, value in facts.items():
        if isinstance(value, int):
            found[name] = blurred(value)
        else:
            found[name] = [
                {key: blurred(one) if key in ("readers", "pages") else one for key, one in row.items()}
                for row in value
            ]
    return found
