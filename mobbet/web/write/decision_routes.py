"""The docket's line about who decides: asking, taking it back, saying yes, sending back."""

from __future__ import annotations

from fastapi import APIRouter, Form, Request
from starlette.responses import Response

from mobbet.actions import deciding
from mobbet.web.shell.fields import Text
from mobbet.web.shell.session import Here, Me
from mobbet.web.write import addresses as to_write
from mobbet.web.write.routes import attempt

router = APIRouter()


@router.post(to_write.docket.at("ask"))
def ask(request: Request, here: Here, me: Me, post_id: int, of: int = Form(0), remark: Text = "") -> Response:
    """Asks a colleague, or any editor, whether the post may go out."""
    server = str(request.base_url)
    return attempt(
        here,
        me,
        post_id,
        "decision",
        lambda: deciding.ask(here, me, post_id, of, remark, server),
        "They are asked.",
    )


@router.post(to_write.docket.at("ask-no-more"))
def take_back(here: Here, me: Me, post_id: int) -> Response:
    return attempt(
        here,
        me,
        post_id,
        "decision",
        lambda: deciding.take_back(here, me, post_id),
        "Nobody is asked any more.",
    )


@router.post(to_write.docket.at("decide"))
def decide(
    request: Request,
    here: Here,
    me: Me,
    post_id: int,
    said: Text = "",
    revision: int = Form(0),
    outlasts: Text = "",
    remark: Text = "",
) -> Response:
    """Says that the post may go out, or sends it back with a word."""
    server = str(request.base_url)
    if said == "yes":
        return attempt(
            here, me, post_id, "decision", lambda: deciding.say_yes(here, me, post_id, revision, outlasts, remark, server),
            "Its author may put it out now. You can do that as well.",
        )  # fmt: skip
    return attempt(
        here,
        me,
        post_id,
        "decision",
        lambda: deciding.send_back(here, me, post_id, remark, server),
        "It is sent back with your word.",
    )
