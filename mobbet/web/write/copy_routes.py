"""Reading copies from the docket: made, sent, closed."""

from __future__ import annotations

from fastapi import APIRouter, Form, Request
from starlette.responses import Response

from mobbet.actions import reading_copies
from mobbet.web.shell.fields import Text
from mobbet.web.shell.session import Here, Me
from mobbet.web.write import addresses as to_write
from mobbet.web.write.routes import attempt

router = APIRouter()


@router.post(to_write.docket.at("copy"))
def make(
    request: Request, here: Here, me: Me, post_id: int, until: Text = "", which: Text = "", lets: Text = "", word: Text = "", to: Text = "", line: Text = "",
) -> Response:  # fmt: skip
    """Makes a reading copy, and writes to whoever is named."""
    server = str(request.base_url)

    def change() -> None:
        copy = reading_copies.make(here, me, post_id, until, which == "this", lets, word)
        if to.strip():
            reading_copies.send(here, me, post_id, copy.id, to, line, server)

    return attempt(
        here,
        me,
        post_id,
        "copy",
        change,
        "The reading copy is made; its link stands on the docket.",
        server=server,
    )


@router.post(to_write.docket.at("copy-send"))
def send(
    request: Request, here: Here, me: Me, post_id: int, number: int = Form(0), to: Text = "", line: Text = ""
) -> Response:
    """Writes to more people with the link of a copy."""
    server = str(request.base_url)
    return attempt(
        here,
        me,
        post_id,
        "copy",
        lambda: reading_copies.send(here, me, post_id, number, to, line, server),
        "The letters are written.",
        server=server,
    )


@router.post(to_write.docket.at("copy-close"))
def close(request: Request, here: Here, me: Me, post_id: int, number: int = Form(0)) -> Response:
    """Closes a reading copy."""
    server = str(request.base_url)
    return attempt(
        here,
        me,
        post_id,
        "copy",
        lambda: reading_copies.close(here, me, post_id, number),
        "Its link leads nowhere now.",
        server=server,
    )
