"""The Timetable: what goes out and comes down, the slots kept free, and the queue that fills them."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated

from fastapi import APIRouter, Depends, Form, Request
from starlette.datastructures import FormData
from starlette.responses import Response

from mobbet.actions import calendar, moving, placing, slots
from mobbet.actions.workshop import Workshop, blog_for, is_keeper, keeper_of
from mobbet.core.errors import BadInput, Refused
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.web import links, timetable
from mobbet.web import weeks as weeks_drawn
from mobbet.web.bars import bar_for
from mobbet.web.contexts_timetable import TimetablePage
from mobbet.web.rendering import page
from mobbet.web.routes.session import see_other
from mobbet.web.session import Here, Me

router = APIRouter()
Text = Annotated[str, Form()]
WEEKS = 6
TOLD = {
    "added": "The slot is kept free for posts.",
    "removed": "The slot is removed; the queue moved on.",
    "left-out": "Those days are left out; the queue moved on.",
    "moved": "It is moved, and the rest with it.",
    "taken": "It left the queue and keeps its time.",
    "calendar": "The calendar has a new address; an earlier one reads nothing any more.",
    "filled": "The queue follows the slots.",
}
REPEATS = {
    "week": "FREQ=WEEKLY;BYDAY={days}",
    "fortnight": "FREQ=WEEKLY;INTERVAL=2;BYDAY={days}",
    "first": "FREQ=MONTHLY;BYDAY={nth}",
    "last": "FREQ=MONTHLY;BYDAY={nth}",
    "daily": "FREQ=DAILY",
}


@router.get("/desk/{slug}/timetable")
def screen(here: Here, me: Me, slug: str, weeks: str = "8", told: str = "") -> Response:
    return _page(here, me, blog_for(here, me, slug), weeks, told=TOLD.get(told, ""))


@router.post("/desk/{slug}/timetable/move")
def move_slip(here: Here, me: Me, slug: str, post: Text = "", day: Text = "") -> Response:
    """Moves a slip to another day, and tells what that came to, with an undo."""
    try:
        if not post.isdigit():
            raise BadInput("No slip was chosen; choose one and a day.", "post")
        moved = moving.move(here, me, slug, int(post), day)
    except Refused as error:
        return _page(here, me, blog_for(here, me, slug), status=422, problem=str(error))
    blog = blog_for(here, me, slug)
    placing.publish(here, blog, person=me, why="a post was moved")
    return _page(here, me, blog, told=moved.words, undo=(int(post), moved.before))


@router.get("/desk/{slug}/timetable.ics")
def exported(request: Request, here: Here, me: Me, slug: str) -> Response:
    """The timetable as a file for a calendar program."""
    blog = blog_for(here, me, slug)
    headers = {"content-disposition": f'attachment; filename="{blog.slug}.ics"'}
    return Response(calendar.calendar_of(here, blog, str(request.base_url).rstrip("/")), media_type="text/calendar", headers=headers)


@router.get("/calendar/{slug}/{key}.ics")
def subscribed(request: Request, here: Here, slug: str, key: str) -> Response:
    """The timetable for whoever has its private address."""
    blog = calendar.by_key(here, slug, key)
    headers = {"cache-control": "private, max-age=300"}
    return Response(calendar.calendar_of(here, blog, str(request.base_url).rstrip("/")), media_type="text/calendar", headers=headers)


@router.post("/desk/{slug}/timetable/calendar")
def renew_calendar(here: Here, me: Me, slug: str) -> Response:
    """A new private address for the calendar."""
    calendar.renew(here, me, slug)
    return see_other(links.timetable(slug, told="calendar"))


def _page(here: Workshop, me: Person, blog: Blog, weeks: str = "8", status: int = 200, **more: object) -> Response:
    weeks = weeks if weeks in timetable.SPANS else "8"
    days, free = timetable.days(here, blog, int(weeks))
    context = TimetablePage(
        bar_for(here, me, blog, "timetable"), timetable.slot_rows(here, blog), timetable.queue_rows(here, blog), days, timetable.SPANS[weeks],
        timetable.spans(weeks), free, blog.zone.rsplit("/", 1)[-1].replace("_", " ") + " time", is_keeper(here, me, blog), links.calendar(blog.slug, blog.calendar_key) if blog.calendar_key else "", weeks_drawn.drawing_of(here, blog, WEEKS), **more,
    )  # fmt: skip
    return page(context, status)


def _attempt(here: Workshop, me: Person, slug: str, told: str, change: Callable[[Blog], object], typed: dict[str, str] | None = None) -> Response:
    """Makes a change, publishes what follows from it, and shows the screen again; with the reason and what was typed where it is refused."""
    blog = keeper_of(here, me, slug, "its slots and its queue")
    try:
        change(blog)
    except Refused as error:
        return _page(here, me, blog, status=422, problem=str(error), typed=typed or {})
    placing.publish(here, blog, person=me, why="the timetable changed")
    return see_other(links.timetable(slug, told=told))


async def _form(request: Request) -> FormData:
    return await request.form()


@router.post("/desk/{slug}/timetable/add")
def add(here: Here, me: Me, slug: str, form: Annotated[FormData, Depends(_form)]) -> Response:
    typed = {name: str(form.get(name, "")) for name in ("repeat", "rule", "time", "starts", "excepted")}
    typed["days"] = ",".join(str(day) for day in form.getlist("day"))
    return _attempt(here, me, slug, "added", lambda blog: slots.add_slot(here, blog, _rule(typed), typed["time"] or "09:00", typed["starts"], typed["excepted"]), typed)


def _rule(typed: dict[str, str]) -> str:
    """The recurrence that was chosen by words, or typed as one. Raises BadInput where no day is chosen."""
    if typed["rule"].strip():
        return typed["rule"]
    pattern, days = REPEATS.get(typed["repeat"], REPEATS["week"]), typed["days"]
    if "{" in pattern and not days:
        raise BadInput("No day of the week is chosen; tick at least one.", "day")
    sign = "-1" if typed["repeat"] == "last" else "1"
    return pattern.format(days=days, nth=",".join(f"{sign}{day}" for day in days.split(",") if day))


@router.post("/desk/{slug}/timetable/slot/{number}/leave-out")
def leave_out(here: Here, me: Me, slug: str, number: int, excepted: Text = "") -> Response:
    return _attempt(here, me, slug, "left-out", lambda blog: slots.leave_out(here, blog, number, excepted))


@router.post("/desk/{slug}/timetable/slot/{number}/remove")
def remove(here: Here, me: Me, slug: str, number: int) -> Response:
    return _attempt(here, me, slug, "removed", lambda blog: slots.remove_slot(here, blog, number))


@router.post("/desk/{slug}/timetable/queue/{number}/{step}")
def move(here: Here, me: Me, slug: str, number: int, step: str) -> Response:
    """Moves a post of the queue `up`, `down` or to the `front`, or takes it `out`."""
    if step == "out":
        return _attempt(here, me, slug, "taken", lambda blog: slots.take_from_queue(here, me, number))
    steps = {"up": -1, "down": 1, "front": -100_000}
    if step not in steps:
        raise BadInput(f"“{step}” is no way to move a post; choose up, down, front or out.")
    return _attempt(here, me, slug, "moved", lambda blog: slots.move_in_queue(here, me, blog, number, steps[step]))
