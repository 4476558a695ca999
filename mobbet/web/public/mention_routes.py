"""Where other sites tell of pages that link here (Webmention)."""

from __future__ import annotations

from fastapi import APIRouter, Request
from starlette.responses import PlainTextResponse, Response

from mobbet.actions import mentions
from mobbet.core.errors import Refused, TooSoon
from mobbet.web.public import addresses as to_public
from mobbet.web.public.routes import OfBlog
from mobbet.web.shell.fields import Text
from mobbet.web.shell.session import Here

router = APIRouter()
TAKEN = "Thank you. The page is looked at, and shown once somebody here has read it."


@router.get(to_public.mention.route)
def about(blog: OfBlog) -> Response:
    return PlainTextResponse(
        f"{blog.name} takes mentions here: POST “source” and “target” as a form (Webmention)."
    )


@router.post(to_public.mention.route)
def receive(request: Request, here: Here, blog: OfBlog, source: Text = "", target: Text = "") -> Response:
    """Takes note of a page that links here; it is looked at later."""
    try:
        mentions.receive(here, blog, source, target, request.client.host if request.client else "")
    except Refused as error:
        return PlainTextResponse(str(error), 429 if isinstance(error, TooSoon) else 400)
    return PlainTextResponse(TAKEN, 202)
