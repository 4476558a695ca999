"""How the Timetable is drawn, as its address says: which weeks, of which blogs, and in what words."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import date, timedelta
from urllib.parse import parse_qsl, urlencode

from mobbet.actions.workshop import Workshop
from mobbet.core.screen_dates import day_and_month, month_name
from mobbet.core.timing import local
from mobbet.store import blogs
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.web.shell.contexts import Choice
from mobbet.web.timetable import addresses as to_timetable
from mobbet.web.timetable.contexts import Views
from mobbet.web.timetable.weeks import Stretch

SIX = 6
WAYS = {"weeks": "six weeks", "month": "a month", "week": "one week", "list": "a list alone"}
SPANS = {"8": "eight weeks", "26": "half a year", "52": "a year"}
WHOSE = {"": "this blog", "all": "every blog of mine"}
UPDATES = {"": "without updates that went out", "with": "with every update"}


@dataclass(frozen=True)
class View:
    """What the address says: the way it is drawn, the day with which it begins ('' for now), whose posts, and how far the list looks ahead."""

    view: str = "weeks"
    start: str = ""
    whose: str = ""
    weeks: str = "8"
    updates: str = ""

    @property
    def query(self) -> str:
        usual = View()
        return urlencode(
            {name: value for name, value in self.__dict__.items() if value != getattr(usual, name)}
        )

    def begin(self, today: date) -> date:
        return date.fromisoformat(self.start) if self.start else today


def read_view(view: str, start: str, whose: str, weeks: str, updates: str = "") -> View:
    """The view of an address; a word that means nothing is left out."""
    try:
        start = date.fromisoformat(start).isoformat() if "1971" <= start[:4] <= "2199" else ""
    except ValueError:
        start = ""
    return View(
        view if view in WAYS else "weeks",
        start,
        whose if whose in WHOSE else "",
        weeks if weeks in SPANS else "8",
        updates if updates in UPDATES else "",
    )


def view_of_query(query: str) -> View:
    """The view of the query of an address."""
    said = dict(parse_qsl(query))
    return read_view(*(said.get(name, "") for name in ("view", "start", "whose", "weeks", "updates")))


def stretch_of(view: View, today: date) -> Stretch:
    """The weeks that are drawn; six weeks begin with the one before."""
    begin = view.begin(today)
    monday = begin - timedelta(days=begin.weekday())
    if view.view == "month":
        first = begin.replace(day=1)
        last = (first + timedelta(days=31)).replace(day=1) - timedelta(days=1)
        monday = first - timedelta(days=first.weekday())
        return Stretch(monday, (last - monday).days // 7 + 1, begin.month)
    if view.view == "week":
        return Stretch(monday, 1, by_hours=True)
    return Stretch(monday - timedelta(weeks=0 if view.start else 1), SIX)


def others(workshop: Workshop, person: Person, blog: Blog, view: View) -> list[Blog]:
    """The blogs that are drawn over this one."""
    return [one for one in blogs.of_person(workshop.db, person.id) if one.id != blog.id] if view.whose else []


def views_of(workshop: Workshop, person: Person, blog: Blog, view: View) -> Views:
    """The choices of how the Timetable is drawn, with the one that is chosen."""
    today = local(workshop.clock(), blog.zone).date()
    stretch = stretch_of(view, today)
    has_others = len(blogs.of_person(workshop.db, person.id)) > 1
    earlier, later = _steps(view, stretch, today)
    return Views(
        [Choice(_to(blog, replace(view, view=name)), words, name == view.view) for name, words in WAYS.items()],
        [Choice(_to(blog, replace(view, whose=name)), words, name == view.whose) for name, words in WHOSE.items()] if has_others else [],
        [Choice(_to(blog, replace(view, weeks=name)), words, name == view.weeks) for name, words in SPANS.items()],
        [Choice(_to(blog, replace(view, updates=name)), words, name == view.updates) for name, words in UPDATES.items()],
        _title(view, stretch, today), view.query, _to(blog, replace(view, start=earlier.isoformat())), _to(blog, replace(view, start="")) if view.start else "",
        _to(blog, replace(view, start=later.isoformat())), view.view == "list",
    )  # fmt: skip


def _to(blog: Blog, view: View) -> str:
    return to_timetable.timetable(blog.slug, **dict(parse_qsl(view.query)))


def _steps(view: View, stretch: Stretch, today: date) -> tuple[date, date]:
    """Where one goes back to, and on to."""
    if view.view == "month":
        first = view.begin(today).replace(day=1)
        return (first - timedelta(days=1)).replace(day=1), (first + timedelta(days=31)).replace(day=1)
    step = timedelta(weeks=1 if view.view == "week" else SIX - 1)
    return stretch.monday - step, stretch.monday + step


def _title(view: View, stretch: Stretch, today: date) -> str:
    if view.view == "month":
        begin = view.begin(today)
        return month_name(f"{begin:%Y-%m}")
    return f"{_short(stretch.monday)} to {_short(stretch.last)} {stretch.last.year}"


def _short(day: date) -> str:
    return day_and_month(day)
