"""When a post goes out and comes down, who may read it, and what the main action does."""

from __future__ import annotations

from collections.abc import Callable

from fastapi import APIRouter, Form
from starlette.responses import Response

from mobbet.actions import docket_lines, placing, post_states, proofing, slots, undoing
from mobbet.actions import editions as edition_actions
from mobbet.actions.access import editable_post, post_to_withdraw, told_title
from mobbet.actions.permalinks import category_subjects
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core import qr_codes
from mobbet.core.errors import BadInput, NotFound, Refused
from mobbet.core.screen_dates import time_in_words
from mobbet.core.when import read_when
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.web.public import addresses as to_public
from mobbet.web.shell.fields import Text
from mobbet.web.shell.footprints import in_words
from mobbet.web.shell.session import Here, Me
from mobbet.web.write import addresses as to_write
from mobbet.web.write.contexts import Out
from mobbet.web.write.routes import answer, attempt

router = APIRouter()
SHEETS = {"comes_down_wall": "comes-down", "goes_out_wall": "goes-out", "categories": "categories"}


@router.post(to_write.docket.at("visibility"))
def set_visibility(here: Here, me: Me, post_id: int, value: Text = "") -> Response:
    return attempt(
        here, me, post_id, "visibility", lambda: docket_lines.set_visibility(here, me, post_id, value)
    )


@router.post(to_write.docket.at("password"))
def set_password(
    here: Here, me: Me, post_id: int, value: Text = "", listed: Text = "", made: Text = ""
) -> Response:
    return attempt(
        here,
        me,
        post_id,
        "visibility",
        lambda: docket_lines.set_post_password(here, me, post_id, made or value, listed),
    )


@router.post(to_write.docket.at("goes-out"))
def set_goes_out(
    here: Here, me: Me, post_id: int, day: Text = "", time: Text = "", when: Text = "", said: Text = ""
) -> Response:
    """A time, none, the next free slot, or a place in the queue."""
    if when == "slot":
        return attempt(here, me, post_id, "goes-out", lambda: slots.take_next_free(here, me, post_id))
    if when == "keep":
        return attempt(here, me, post_id, "goes-out", lambda: slots.take_from_queue(here, me, post_id))
    if when == "queue":
        return attempt(here, me, post_id, "goes-out", lambda: slots.wait_for_turn(here, me, post_id))
    return attempt(
        here,
        me,
        post_id,
        "goes-out",
        lambda: docket_lines.set_time(
            here, me, post_id, "goes_out_wall", _wall(here, me, post_id, day, time, when, said)
        ),
    )


@router.post(to_write.docket.at("comes-down"))
def set_comes_down(
    here: Here, me: Me, post_id: int, day: Text = "", time: Text = "", when: Text = "", said: Text = ""
) -> Response:
    return attempt(
        here,
        me,
        post_id,
        "comes-down",
        lambda: docket_lines.set_time(
            here, me, post_id, "comes_down_wall", _wall(here, me, post_id, day, time, when, said)
        ),
    )


@router.post(to_write.docket.at("update"))
def set_update(
    here: Here, me: Me, post_id: int, day: Text = "", time: Text = "", when: Text = "", said: Text = ""
) -> Response:
    """When changes of what is out go out."""
    return attempt(
        here,
        me,
        post_id,
        "update",
        lambda: docket_lines.set_update_time(
            here, me, post_id, _wall(here, me, post_id, day, time, when, said)
        ),
    )


@router.post(to_write.docket.at("leads-to"))
def set_leads_to(here: Here, me: Me, post_id: int, value: Text = "", gone: Text = "") -> Response:
    def change() -> None:
        if not gone and not value.strip():
            raise BadInput(
                "No post is named; type its title or address, or choose that it is gone.", "leads_to"
            )
        docket_lines.set_leads_to(here, me, post_id, "" if gone else value)

    return attempt(here, me, post_id, "leads-to", change)


def _wall(here: Workshop, me: Person, post_id: int, day: str, time: str, when: str, said: str) -> str:
    """The wall time that was said, or that of the two fields; '' when no time was chosen on purpose."""
    if when == "none":
        return ""
    if said.strip():
        _, blog = editable_post(here, me, post_id)
        return read_when(said, here.clock(), blog.zone, "day")
    if not day.strip():
        raise BadInput("No day is chosen; pick one, or choose to have no time.", "day")
    return f"{day.strip()} {time.strip() or '09:00'}"


@router.post(to_write.place.route)
def place(here: Here, me: Me, post_id: int, reason: Text = "", now: Text = "") -> Response:
    """The main action: publishes now, places for later, or updates, as the docket says; in spite of the proof only with a word why.

    With `now` it goes out at once, whatever time the docket names.
    """
    post, blog = editable_post(here, me, post_id)
    was_out = post_states.state_of(here, post) == "out"
    try:
        with changing(here, me) as unit:
            if now:
                docket_lines.set_time(here, me, post_id, "goes_out_wall", "")
            proofing.before_placing(here, me, post_id, reason)
            placed = placing.place(here, me, post_id)
    except Refused as error:
        return answer(
            here, me, post_id, problem=str(error), problem_sheet=SHEETS.get(getattr(error, "field", ""), "")
        )
    published = unit.published(blog)
    if placed.state != "out":
        when = time_in_words(placed.goes_out, blog.zone, here.clock())
        where = "the queue" if post.waits_turn else "the timetable"
        return answer(here, me, post_id, message=f"It is in {where} and goes out {when}.")
    if placed.waits_until:
        return answer(
            here,
            me,
            post_id,
            message=f"The update goes out {time_in_words(placed.waits_until, blog.zone, here.clock())}; until then the old text stays out.",
        )
    out = _out(here, blog, post_id, placed.path, placed.edition_before, was_out)
    return answer(
        here,
        me,
        post_id,
        message=f"{'Updated' if was_out else 'Published'}. {published.changed.in_words}",
        message_link=to_public.public(blog.slug, placed.path),
        out=out,
    )


def _out(here: Workshop, blog: Blog, post_id: int, path: str, before: int, was_out: bool) -> Out:
    """What stands above the docket right after publishing."""
    address = blog.home + path[1:]
    footprint = in_words(
        edition_actions.altered_since(here, blog, before), category_subjects(here, blog), post_id
    )
    return Out(
        address,
        to_public.public(blog.slug, path),
        qr_codes.drawn(address, f"QR code of {address}"),
        footprint,
        "Updated" if was_out else "Published",
        was_out,
    )


def _changed(
    here: Workshop, me: Person, post_id: int, change: Callable[[Workshop, Person, int], object], message: str
) -> Response:
    """Changes what readers get of a post; with the reason where that is refused."""
    try:
        change(here, me, post_id)
    except Refused as error:
        return answer(here, me, post_id, problem=str(error))
    return answer(here, me, post_id, message=message)


@router.post(to_write.withdraw.route)
def withdraw(here: Here, me: Me, post_id: int) -> Response:
    """Takes the post off the site; what was done can be undone from the base line."""
    post, blog = post_to_withdraw(here, me, post_id)

    def change() -> str:
        placing.withdraw(here, me, post_id)
        return f"“{told_title(post)}” is withdrawn"

    try:
        _, number = undoing.record(here, me, blog, [post_id], [], change)
    except Refused as error:
        return answer(here, me, post_id, problem=str(error))
    return answer(here, me, post_id, message="It is withdrawn; readers do not get it any more.", undo=number)


@router.post(to_write.docket.at("undo-change"))
def undo_change(here: Here, me: Me, post_id: int, number: int = Form(0)) -> Response:
    """Puts the post back to how it stood before the last thing that was done with it."""
    _, blog = editable_post(here, me, post_id)
    try:
        undoing.undo(here, me, blog.slug, number)
    except (Refused, NotFound) as error:
        return answer(here, me, post_id, problem=str(error))
    return answer(here, me, post_id, message="It is as it was before.")


@router.post(to_write.docket.at("take-back"))
def take_update_back(here: Here, me: Me, post_id: int) -> Response:
    """Takes back an update that waits for its time."""
    return _changed(
        here, me, post_id, placing.take_update_back, "The update is taken back; what is out stays as it is."
    )


@router.post(to_write.docket.at("undo"))
def undo_update(here: Here, me: Me, post_id: int) -> Response:
    """Gives readers what they got before the last update."""
    return _changed(
        here, me, post_id, placing.undo_update, "Readers get it as it was before; the sheet keeps your text."
    )


@router.post(to_write.set_aside.route)
def set_aside(here: Here, me: Me, post_id: int) -> Response:
    return attempt(here, me, post_id, "state", lambda: placing.set_aside(here, me, post_id))


@router.post(to_write.restore.route)
def restore(here: Here, me: Me, post_id: int) -> Response:
    return attempt(here, me, post_id, "state", lambda: placing.restore(here, me, post_id))
