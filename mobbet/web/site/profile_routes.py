"""Profiles of contributors, which readers get after an editor's word."""

from __future__ import annotations

from fastapi import APIRouter, Form
from starlette.responses import Response

from mobbet.actions import profiles
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import NotAllowed, NotFound, Refused
from mobbet.store import media
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.profiles import Profile
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.fields import Text
from mobbet.web.shell.rendering import page
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.session import Here, Me
from mobbet.web.site import addresses as to_site
from mobbet.web.site.people_contexts import ProfileLine, ProfilesPage

router = APIRouter()


@router.get(to_site.profiles.route)
def show(here: Here, me: Me, slug: str, told: str = "") -> Response:
    """What waits, with what readers get now at its side."""
    return _page(here, me, slug, told="Readers get the profile as you saw it." if told else "")


def _page(
    here: Workshop, me: Person, slug: str, told: str = "", problem: str = "", status: int = 200
) -> Response:
    blog, found = profiles.waiting(here, me, slug)
    lines = [
        ProfileLine(one.person.id, one.person.name, _rows(here, blog, one.shown, one.now), one.sign)
        for one in found
    ]
    return page(ProfilesPage(bar_for(here, me, blog, "desk"), lines, told, problem), status)


def _rows(workshop: Workshop, blog: Blog, shown: Profile, now: Profile) -> list[tuple[str, str, str]]:
    """(what, as readers get it, as it is now) of each part that differs."""
    found = [
        ("Name", shown.name, now.name),
        ("A line", shown.line, now.line),
        ("Text", shown.text, now.text),
        ("Links", "\n".join(shown.links), "\n".join(now.links)),
        ("Web address", shown.address, now.address),
        ("Picture", _picture(workshop, blog, shown.picture), _picture(workshop, blog, now.picture)),
    ]
    return [one for one in found if one[1] != one[2]]


def _picture(workshop: Workshop, blog: Blog, number: int | None) -> str:
    row = media.on_blog(workshop.db, blog.id, number) if number else None
    return (row.caption or row.name) if row else ""


@router.post(to_site.profiles.route)
def let_stand(here: Here, me: Me, slug: str, where: int = Form(0), sign: Text = "") -> Response:
    """Has readers get a profile."""
    try:
        profiles.let_stand(here, me, slug, where, sign)
    except NotAllowed:
        raise
    except (NotFound, Refused) as error:
        return _page(here, me, slug, problem=str(error), status=422)
    return see_other(to_site.profiles(slug, told="yes"))
