"""The Timetable: what goes out and comes down, the slots kept free, and the queue that fills them."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Any
from urllib.parse import parse_qsl

from fastapi import APIRouter, File, Request, UploadFile
from starlette.concurrency import run_in_threadpool
from starlette.responses import Response

from mobbet.actions import calendar, editions, marked_days, rescheduling, slots
from mobbet.actions.access import blog_for, is_keeper, is_owner
from mobbet.actions.rescheduling import Rescheduled
from mobbet.actions.workshop import Workshop
from mobbet.core.calendars import MOST_BYTES
from mobbet.core.errors import BadInput, Refused
from mobbet.core.rights import Action
from mobbet.core.timing import local
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.web.desk.rows import told_of
from mobbet.web.filing.contexts import ChangeMessage
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.contexts import Choice
from mobbet.web.shell.fields import AnyForm, Text
from mobbet.web.shell.rendering import page
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.session import Here, Me
from mobbet.web.timetable import addresses as to_timetable
from mobbet.web.timetable import view as timetable
from mobbet.web.timetable.contexts import TimetablePage
from mobbet.web.timetable.display import View, others, read_view, stretch_of, view_of_query, views_of
from mobbet.web.timetable.weeks import drawing_of

router = APIRouter()
TOLD = {
    "added": "The slot is kept free for posts.",
    "removed": "The slot is removed; the queue moved on.",
    "left-out": "Those days are left out; the queue moved on.",
    "moved": "It is moved, and the rest with it.",
    "taken": "It left the queue and keeps its time.",
    "calendar": "The calendar has a new address; an earlier one reads nothing any more.",
    "marked": "The days are marked.",
    "unmarked": "The days are not marked any more.",
}
REPEATS = {
    "week": "FREQ=WEEKLY;BYDAY={days}",
    "fortnight": "FREQ=WEEKLY;INTERVAL=2;BYDAY={days}",
    "first": "FREQ=MONTHLY;BYDAY={nth}",
    "last": "FREQ=MONTHLY;BYDAY={nth}",
    "daily": "FREQ=DAILY",
}


@router.get(to_timetable.timetable.route)
def screen(
    here: Here,
    me: Me,
    slug: str,
    view: str = "",
    start: str = "",
    whose: str = "",
    weeks: str = "",
    updates: str = "",
    told: str = "",
    done: str = "",
) -> Response:
    blog = blog_for(here, me, slug)
    return _page(
        here,
        me,
        blog,
        read_view(view, start, whose, weeks, updates),
        told=ChangeMessage(TOLD[told]) if told in TOLD else told_of(here, me, blog, done),
    )


@router.post(to_timetable.timetable_change.at("move"))
def move_slip(here: Here, me: Me, slug: str, post: Text = "", day: Text = "", back: Text = "") -> Response:
    """Moves a slip to another day or time."""
    return _moved(here, me, slug, back, lambda: rescheduling.move(here, me, slug, _post(post), day))


@router.post(to_timetable.timetable_change.at("push"))
def push_slips(here: Here, me: Me, slug: str, post: Text = "", back: Text = "") -> Response:
    """Moves a slip and everything after it by a week."""
    return _moved(here, me, slug, back, lambda: rescheduling.push(here, me, slug, _post(post)))


@router.post(to_timetable.timetable_change.at("swap"))
def swap_slips(here: Here, me: Me, slug: str, post: Text = "", other: Text = "", back: Text = "") -> Response:
    """Lets two slips change places."""
    return _moved(here, me, slug, back, lambda: rescheduling.swap(here, me, slug, _post(post), _post(other)))


@router.post(to_timetable.timetable_change.at("place"))
def place_slip(here: Here, me: Me, slug: str, post: Text = "", day: Text = "", back: Text = "") -> Response:
    """Places a draft at the time of a free slot, or at another one."""
    return _moved(here, me, slug, back, lambda: rescheduling.place_at(here, me, slug, _post(post), day))


def _post(text: str) -> int:
    if not text.isdecimal():
        raise BadInput("No post was chosen; choose one.", "post")
    return int(text)


def _moved(here: Workshop, me: Person, slug: str, back: str, change: Callable[[], Rescheduled]) -> Response:
    """Makes a move, publishes what follows, and shows the view again with what it came to."""
    view = view_of_query(back)
    try:
        moved = change()
    except Refused as error:
        return _page(here, me, blog_for(here, me, slug), view, 422, problem=str(error))
    return see_other(to_timetable.timetable(slug, done=moved.number, **dict(parse_qsl(view.query))))


@router.post(to_timetable.timetable_change.at("mark"))
def mark_days(
    here: Here, me: Me, slug: str, first: Text = "", last: Text = "", words: Text = "", skips: Text = ""
) -> Response:
    typed = {"first": first, "last": last, "words": words, "skips": skips}
    return _attempt(
        here,
        me,
        slug,
        "marked",
        lambda blog: marked_days.mark(here, me, slug, first, last, words, bool(skips)),
        {"what": "mark", **typed},
    )


@router.post(to_timetable.timetable_change.at("unmark/{number}"))
def unmark_days(here: Here, me: Me, slug: str, number: int) -> Response:
    return _attempt(here, me, slug, "unmarked", lambda blog: marked_days.unmark(here, me, slug, number))


@router.post(to_timetable.timetable_change.at("days"))
async def bring_days_in(
    here: Here, me: Me, slug: str, file: Annotated[UploadFile | None, File()] = None, skips: Text = ""
) -> Response:
    """Marks the days of a calendar file."""
    data = await file.read(MOST_BYTES + 1) if file else b""
    return await run_in_threadpool(_days_in, here, me, slug, data, bool(skips))


def _days_in(here: Workshop, me: Person, slug: str, data: bytes, skips: bool) -> Response:
    blog = blog_for(here, me, slug, Action.KEEP_TIMETABLE)
    try:
        new, known = marked_days.bring_in(here, me, slug, data, skips)
    except Refused as error:
        return _page(here, me, blog, View(), 422, problem=str(error), typed={"what": "mark"})
    words = (
        f"{new} entr{'ies are' if new != 1 else 'y is'} marked"
        + (f"; {known} {'were' if known != 1 else 'was'} already" if known else "")
        + "."
    )
    return _page(here, me, blog, View(), told=ChangeMessage(words))


@router.get(to_timetable.calendar_file.route)
def exported(request: Request, here: Here, me: Me, slug: str) -> Response:
    """The timetable as a file for a calendar program."""
    blog = blog_for(here, me, slug)
    headers = {"content-disposition": f'attachment; filename="{blog.slug}.ics"'}
    return Response(
        calendar.calendar_of(here, blog, str(request.base_url).rstrip("/")),
        media_type="text/calendar",
        headers=headers,
    )


@router.get(to_timetable.calendar.route)
def subscribed(request: Request, here: Here, slug: str, key: str) -> Response:
    """The timetable for whoever has its private address."""
    blog = calendar.by_key(here, slug, key)
    headers = {"cache-control": "private, max-age=300"}
    return Response(
        calendar.calendar_of(here, blog, str(request.base_url).rstrip("/")),
        media_type="text/calendar",
        headers=headers,
    )


@router.post(to_timetable.calendar_renew.route)
def renew_calendar(here: Here, me: Me, slug: str) -> Response:
    """A new private address for the calendar."""
    calendar.renew(here, me, slug)
    return see_other(to_timetable.timetable(slug, told="calendar"))


def _page(here: Workshop, me: Person, blog: Blog, view: View, status: int = 200, **more: Any) -> Response:
    rows, can_keep = timetable.drafts(here, blog), is_keeper(here, me, blog)
    days, free = timetable.days(here, blog, int(view.weeks))
    today = local(here.clock(), blog.zone).date()
    drawing = (
        None
        if view.view == "list"
        else drawing_of(here, blog, stretch_of(view, today), others(here, me, blog, view), bool(view.updates))
    )
    context = TimetablePage(
        bar_for(here, me, blog, "timetable"), timetable.slot_rows(here, blog), timetable.pattern_words(here, blog), timetable.excepted_words(here, blog),
        timetable.queue_rows(here, blog), days, free, blog.zone.rsplit("/", 1)[-1].replace("_", " ") + " time", can_keep,
        to_timetable.calendar(blog.slug, blog.calendar_key) if blog.calendar_key else "", views_of(here, me, blog, view), drawing, timetable.remarks(here, blog),
        timetable.marked_rows(here, blog), timetable.movable(here, blog), [Choice(str(row.id), row.title or "No title yet") for row in rows],
        timetable.fill_address(blog, rows, free) if can_keep else "", held_words(here, me, blog), is_owner(here, me, blog), **more,
    )  # fmt: skip
    return page(context, status)


def held_words(here: Workshop, me: Person, blog: Blog) -> str:
    """That nothing goes out by itself since an edition was put back; '' where it does."""
    held = editions.held(here, me, blog)
    if held is None:
        return ""
    due = f" {len(held.due)} post{'s were' if len(held.due) != 1 else ' was'} due since." if held.due else ""
    return f"The timetable waits, since edition {held.hold.edition} was put back.{due}"


def _attempt(
    here: Workshop,
    me: Person,
    slug: str,
    told: str,
    change: Callable[[Blog], object],
    typed: dict[str, str] | None = None,
) -> Response:
    """Makes a change, publishes what follows from it, and shows the screen again; with the reason and what was typed where it is refused."""
    blog = blog_for(here, me, slug, Action.KEEP_TIMETABLE)
    try:
        change(blog)
    except Refused as error:
        return _page(here, me, blog, View(), 422, problem=str(error), typed=typed or {})
    return see_other(to_timetable.timetable(slug, told=told))


@router.post(to_timetable.timetable_add.route)
def add(here: Here, me: Me, slug: str, form: AnyForm) -> Response:
    typed = {name: str(form.get(name, "")) for name in ("repeat", "rule", "time", "starts", "excepted")}
    typed["days"] = ",".join(str(day) for day in form.getlist("day"))
    return _attempt(
        here,
        me,
        slug,
        "added",
        lambda blog: slots.add_slot(
            here, me, blog, _rule(typed), typed["time"] or "09:00", typed["starts"], typed["excepted"]
        ),
        typed,
    )


def _rule(typed: dict[str, str]) -> str:
    """The recurrence that was chosen by words, or typed as one. Raises BadInput where no day is chosen."""
    if typed["rule"].strip():
        return typed["rule"]
    pattern, days = REPEATS.get(typed["repeat"], REPEATS["week"]), typed["days"]
    if "{" in pattern and not days:
        raise BadInput("No day of the week is chosen; tick at least one.", "day")
    sign = "-1" if typed["repeat"] == "last" else "1"
    return pattern.format(days=days, nth=",".join(f"{sign}{day}" for day in days.split(",") if day))


@router.post(to_timetable.slot_change.at("leave-out"))
def leave_out(here: Here, me: Me, slug: str, number: int, excepted: Text = "") -> Response:
    return _attempt(
        here, me, slug, "left-out", lambda blog: slots.leave_out(here, me, blog, number, excepted)
    )


@router.post(to_timetable.slot_change.at("remove"))
def remove(here: Here, me: Me, slug: str, number: int) -> Response:
    return _attempt(here, me, slug, "removed", lambda blog: slots.remove_slot(here, me, blog, number))


@router.post(to_timetable.queue_change.route)
def move(here: Here, me: Me, slug: str, number: int, step: str) -> Response:
    """Moves a post of the queue `up`, `down` or to the `front`, or takes it `out`."""
    if step == "out":
        return _attempt(here, me, slug, "taken", lambda blog: slots.take_from_queue(here, me, number))
    steps = {"up": -1, "down": 1, "front": -100_000}
    if step not in steps:
        raise BadInput(f"“{step}” is no way to move a post; choose up, down, front or out.")
    return _attempt(
        here, me, slug, "moved", lambda blog: slots.move_in_queue(here, me, blog, number, steps[step])
    )
