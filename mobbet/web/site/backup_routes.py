"""Backups: where they go, when, and how they stand."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter
from starlette.responses import Response

from mobbet.actions import backup_places
from mobbet.actions.access import owned_blog, owns_every_blog
from mobbet.actions.workshop import Workshop
from mobbet.core.backups import Every
from mobbet.core.document.html_media import size_words
from mobbet.core.errors import MobbetError, NotFound
from mobbet.core.numbers import counted
from mobbet.core.places_outside import Credentials, shown
from mobbet.core.screen_dates import ago_in_words, time_in_words
from mobbet.store import backups as store
from mobbet.store.backups import BackupCopy, BackupPlace
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.fields import Text
from mobbet.web.shell.rendering import page
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.session import Here, Me
from mobbet.web.site import addresses as to_site
from mobbet.web.site.backup_contexts import BackupRow, BackupsPage
from mobbet.web.site.place_kinds import kinds_of_places

router = APIRouter()
TIMES = [("hour", "every hour"), ("day", "every day"), ("week", "every Monday")]
CHECKING = [("each", "each time"), ("day", "once a day"), ("week", "once a week")]
TOLD = {
    "now": "A backup is made within a minute.",
    "rhythm": "That is how it is from now on.",
    "removed": "No more backups are made there; those that lie there stay.",
}
MOST_COPIES = 80


@router.get(to_site.backups.route)
def list_backups(here: Here, me: Me, slug: str, told: str = "") -> Response:
    return _backups(here, me, owned_blog(here, me, slug), told=TOLD.get(told, ""))


@router.post(to_site.backups.route)
def add_place(
    here: Here,
    me: Me,
    slug: str,
    address: Text = "",
    access: Text = "",
    secret: Text = "",
    host_key: Text = "",
    every: Text = "day",
    hour: Text = "3",
    checks: Text = "day",
    encrypts: Text = "",
    key: Text = "",
) -> Response:
    blog = owned_blog(here, me, slug)
    typed = {"address": address, "access": access, "host_key": host_key, "every": every, "hour": hour, "checks": checks, "encrypts": encrypts}  # fmt: skip
    try:
        rhythm = backup_places.read_rhythm(every, hour, checks)
        wanted = key.strip() or "none" if encrypts == "key" else encrypts
        _, made = backup_places.add(
            here, me, address, Credentials(access, secret, host_key), wanted, rhythm, blog.zone
        )
    except MobbetError as error:
        return _backups(here, me, blog, 422, problem=str(error), typed=typed)
    return _backups(
        here, me, blog, key=made, told="Backups go there from now on; the first is made within a minute."
    )


@router.post(to_site.backup_change.route)
def change_place(
    here: Here,
    me: Me,
    slug: str,
    number: int,
    what: str,
    every: Text = "",
    hour: Text = "",
    checks: Text = "",
) -> Response:
    """`now`, `rhythm` or `remove`."""
    blog = owned_blog(here, me, slug)
    try:
        if what == "now":
            backup_places.ask_now(here, me, number)
        elif what == "rhythm":
            rhythm = backup_places.read_rhythm(every, hour, checks)
            backup_places.set_rhythm(here, me, number, rhythm, blog.zone)
        elif what == "remove":
            backup_places.remove(here, me, number)
        else:
            raise NotFound("There is nothing of that name to do with a place for backups.")
    except MobbetError as error:
        return _backups(here, me, blog, 404 if isinstance(error, NotFound) else 422, problem=str(error))
    return see_other(to_site.backups(slug, told="removed" if what == "remove" else what))


def _backups(here: Workshop, me: Person, blog: Blog, status: int = 200, **more: Any) -> Response:
    may_keep = owns_every_blog(here, me)
    places = store.every(here.db) if may_keep else []
    waiting = {place.id for place in backup_places.due(here)} if may_keep else set()
    return page(
        BackupsPage(
            bar_for(here, me, blog, "site"),
            sentence_of(here, me, blog),
            [_bad(one, blog, here.clock()) for one in _bad_copies(here)] if may_keep else [],
            may_keep,
            [_row(here, blog, place) for place in places],
            bool(waiting),
            kinds_of_places(here, "backups", "a folder on this machine; better one on another disk"),
            bool(here.settings.allowed.stores),
            TIMES,
            CHECKING,
            **more,
        ),
        status,
    )


def sentence_of(here: Workshop, me: Person, blog: Blog) -> str:
    """How backups stand, in a sentence or two."""
    if not owns_every_blog(here, me):
        return "Backups hold every blog of this server; only somebody who owns all of them keeps backups."
    standing = backup_places.standing(here)
    if standing is None:
        return "No backup is made by this server yet."
    if standing.good is None:
        return "There is no good backup yet: one counts after it was restored and checked."
    return good_in_words(standing.good, blog, here.clock())


def good_in_words(copy: BackupCopy, blog: Blog, now: int) -> str:
    """“The last good backup is of Tue 1 Dec at 03:00: 43 posts and 212 files, 18 MB. Getting it back took 3 s.”"""
    return (
        f"The last good backup is of {time_in_words(copy.at, blog.zone, now)}: {counted(copy.posts, 'post')} and "
        f"{counted(copy.files, 'file')}, {size_words(copy.bytes)}. Getting it back took {_seconds(copy.check_seconds or 0)}."
    )


def _bad_copies(here: Workshop) -> tuple[BackupCopy, ...]:
    standing = backup_places.standing(here)
    return standing.bad if standing else ()


def _bad(copy: BackupCopy, blog: Blog, now: int) -> str:
    return f"The copy of {time_in_words(copy.at, blog.zone, now)} could not be restored, and counts as none: {copy.problem}"


def _row(here: Workshop, blog: Blog, place: BackupPlace) -> BackupRow:
    copies, now = store.copies(here.db, place.id), here.clock()
    last = copies[0] if copies else None
    state = (
        f"The last copy was made {ago_in_words(last.at, blog.zone, now)}: {size_words(last.sent)} of {size_words(last.bytes)} were new."
        if last
        else "Nothing lies there yet."
    )
    checked = dict(CHECKING)[place.checks]
    at = "" if place.every == Every.HOUR else f" at {place.hour:02}:00"
    return BackupRow(
        place.id, shown(place.address), bool(place.key), bool(place.is_asked), place.problem, state,
        f"Made {dict(TIMES)[place.every]}{at}, checked {checked}", place.every, place.hour, place.checks,
        counted(len(copies), "copy", "copies"), [_line(one, blog, now) for one in copies[:MOST_COPIES]],
    )  # fmt: skip


def _line(copy: BackupCopy, blog: Blog, now: int) -> str:
    what = (
        "could not be restored"
        if copy.problem
        else f"restored in {_seconds(copy.check_seconds or 0)}, sound"
        if copy.is_good
        else "not checked"
    )
    return f"{time_in_words(copy.at, blog.zone, now)}: {counted(copy.posts, 'post')}, {counted(copy.files, 'file')}, {size_words(copy.bytes)}; {what}"


def _seconds(seconds: float) -> str:
    return f"{seconds / 60:,.0f} minutes" if seconds >= 120 else f"{max(1, round(seconds))} s"
