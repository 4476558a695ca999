"""What is on a device: the page that opens without a network, and the steps it sends."""

from __future__ import annotations

from dataclasses import asdict
from typing import Annotated, Any

from fastapi import APIRouter, File, UploadFile
from pydantic import BaseModel, Field
from starlette.responses import JSONResponse, Response

from mobbet.actions import offline_steps, pushing, shared_drafts
from mobbet.actions.offline_steps import Step
from mobbet.actions.workshop import Workshop
from mobbet.core.audience import PASSWORD, VISIBILITIES
from mobbet.core.document import schema
from mobbet.core.errors import NotAllowed
from mobbet.core.media.licences import LICENCES
from mobbet.core.pushes import KINDS, read_device, read_kinds
from mobbet.store import blogs
from mobbet.store.people import Person
from mobbet.web.device import addresses as to_device
from mobbet.web.device.contexts import DevicePage
from mobbet.web.library import addresses as to_library
from mobbet.web.shell import static_files
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.contexts import Choice
from mobbet.web.shell.fields import Text
from mobbet.web.shell.rendering import page
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.security import MAY_RECORD
from mobbet.web.shell.session import Here, Me, written_by_another
from mobbet.web.write import addresses as to_write
from mobbet.web.write.sheet import sheet_addresses, sheet_facts, sheet_style

router = APIRouter()
MOST_KEPT = 50
"""So many posts are kept on a device on wish."""


class SentStep(BaseModel):
    """A step as a device sends it. `person` is whose device it was when the step was done."""

    person: int
    key: str = Field(min_length=8, max_length=200, pattern=r"^[\w:.-]+$")
    act: str = Field(max_length=20)
    post: int = Field(default=0, ge=0, lt=2**53)
    args: dict[str, Any] = Field(default={}, max_length=12)


class SentDevice(BaseModel):
    """A device as its browser names it, and what it wants to be told of."""

    endpoint: str = Field(max_length=3000)
    public_key: str = Field(max_length=200)
    secret: str = Field(max_length=100)
    kinds: list[str] = Field(max_length=10)


@router.post(to_device.device_notices.route)
def choose_notices(here: Here, me: Me, sent: SentDevice) -> Response:
    kinds = read_kinds(sent.kinds)
    pushing.choose(here, me, read_device(sent.endpoint, sent.public_key, sent.secret), kinds)
    return JSONResponse({"kinds": kinds})


@router.get(to_device.device.route)
def device(here: Here, me: Me) -> Response:
    mine = blogs.of_person(here.db, me.id)
    readers = {value: words for value, words in VISIBILITIES.items() if value != PASSWORD}
    letters = {blog.slug: address for blog in mine if (address := sheet_style(here, blog))}
    licences = [Choice(one.key, one.words) for one in LICENCES if one.key]
    return page(
        DevicePage(
            bar_for(here, me, None, "device"),
            _room(here, me),
            readers,
            here.settings.limits.words,
            licences,
            KINDS,
            letters,
        ),
        headers=MAY_RECORD,
    )


def _room(here: Workshop, me: Person) -> dict[str, Any]:
    """What the surface knows of each blog, and what the sending and the service worker ask for."""
    rooms = {}
    for blog in blogs.of_person(here.db, me.id):
        rooms[blog.slug] = {
            **sheet_facts(here, me, blog, schema.EMPTY),
            **offline_steps.facts_of(here, me, blog.slug),
            "fill": [],
            "to": sheet_addresses(blog),
        }
    return {
        "person": me.id,
        "pushKey": pushing.public_key(here),
        "blog": next((blog.slug for blog in blogs.of_person(here.db, me.id)), ""),
        "blogs": rooms,
        "to": {
            "device": to_device.device(),
            "steps": to_device.device_steps(),
            "ready": to_device.device_ready(),
            "notices": to_device.device_notices(),
            "room": to_write.write.stem,
            "library": to_library.library("SLUG"),
        },
        "needed": static_files.with_parts(
            "device.js", "editor.js", "shell.js", "shell.css", "room.css", "device.css", "italic.css"
        ),
    }


@router.post(to_device.device_steps.route)
def carry_out(here: Here, me: Me, step: SentStep) -> Response:
    """Carries out one step; 200 whatever came of it, with its state, and 401 when somebody else is signed in than wrote it."""
    if step.person != me.id:
        return written_by_another("sent")
    return JSONResponse(
        asdict(offline_steps.carry_out(here, me, Step(step.key, step.act, step.post, step.args)))
    )


@router.post(to_device.device_share.route)
def take_shared(
    here: Here,
    me: Me,
    title: Text = "",
    text: Text = "",
    url: Text = "",
    files: Annotated[list[UploadFile] | None, File()] = None,
) -> Response:
    """Makes a draft of what a device's share sheet sends, where no service worker keeps it on the device."""
    mine = blogs.of_person(here.db, me.id)
    if not mine:
        raise NotAllowed("You work on no blog, so there is nowhere to put this.")
    named = [(file.filename or "file", file.file) for file in files or ()]
    post = shared_drafts.make(here, me, mine[0].slug, title, " ".join(f"{text} {url}".split()), named)
    return see_other(to_write.write(post.id))


@router.get(to_device.device_posts.route)
def recent(here: Here, me: Me) -> Response:
    numbers = offline_steps.recent_posts(here, me, MOST_KEPT)
    return JSONResponse({"posts": [to_write.write(number) for number in numbers]})
