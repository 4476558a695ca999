"""The questions of a post by themselves: where answers are sent, and where the outcome of a poll stands."""

from __future__ import annotations

from fastapi import APIRouter, Request
from starlette.responses import Response

from mobbet.actions import asking
from mobbet.actions.asking import Asked
from mobbet.actions.workshop import Workshop
from mobbet.core.asking import shows_outcome
from mobbet.core.document.asking import form_html
from mobbet.core.errors import NotFound, Refused, TooSoon
from mobbet.core.timing import local
from mobbet.publish.reader_forms import AskedPage, asked_page
from mobbet.store.blogs import Blog
from mobbet.web.public import addresses as to_public
from mobbet.web.public.guests import reader_of_request
from mobbet.web.public.place import root_of
from mobbet.web.public.routes import OfBlog
from mobbet.web.shell import cookies
from mobbet.web.shell.fields import AnyForm
from mobbet.web.shell.security import SITE_POLICY
from mobbet.web.shell.session import Here

router = APIRouter()
THANKS, VOTED = (
    "Thank you. Your answers are on their way to the people of this blog.",
    "Thank you. Your vote is counted.",
)


def _who(request: Request) -> tuple[str, str]:
    return request.client.host if request.client else "", request.headers.get("user-agent", "")


def _page(
    here: Workshop, request: Request, blog: Blog, found: Asked, has_voted: bool, status: int = 200, message: str = "", told: str = "",
    typed: dict[str, list[str]] | None = None,
) -> Response:  # fmt: skip
    block, root = found.block, root_of(request.scope, blog.slug)
    is_open = not found.is_closed and not (block.is_poll and has_voted) and not told
    form = form_html(block, f"{root}/~/ask/{found.post.id}/{block.key}", typed) if is_open else ""
    seen = shows_outcome(block, has_voted, local(here.clock(), blog.zone).date())
    if found.is_closed and not told:
        told = f"It is closed since {block.closes}."
    shown = AskedPage(
        found.post.title, found.post.path, block.title or ("A vote" if block.is_poll else "Questions"), form,
        asking.outcome(here, found.post.id, block) if seen else None, message, told,
    )  # fmt: skip
    body = asked_page(here.db, blog, f"{root}/", here.clock(), shown)
    headers = {"content-security-policy": SITE_POLICY, "cache-control": "private, no-cache"}
    return Response(body, status, media_type="text/html; charset=utf-8", headers=headers)


@router.get(to_public.ask.route)
def questions(request: Request, here: Here, blog: OfBlog, post_id: int, key: str) -> Response:
    """The questions, or what became of them."""
    reader = reader_of_request(here, blog, cookies.of_request(request))
    found = asking.asked(here, blog, post_id, key, reader, *_who(request))
    return _page(here, request, blog, found, found.has_voted)


@router.post(to_public.ask.route)
def answer(request: Request, here: Here, blog: OfBlog, post_id: int, key: str, form: AnyForm) -> Response:
    """Takes answers; keeps what was typed where they are refused."""
    reader = reader_of_request(here, blog, cookies.of_request(request))
    typed: dict[str, list[str]] = {}
    for name, value in form.multi_items():
        if isinstance(value, str):
            typed.setdefault(name, []).append(value)
    found = asking.asked(here, blog, post_id, key, reader, *_who(request))
    thanks = VOTED if found.block.is_poll else THANKS
    if any(typed.get("remark", [])):  # a field that people do not see
        return _page(here, request, blog, found, True, told=thanks)
    try:
        asking.answer(here, blog, post_id, key, reader, typed, *_who(request))
    except NotFound:
        raise
    except Refused as error:
        status = 429 if isinstance(error, TooSoon) else 422
        return _page(here, request, blog, found, found.has_voted, status, message=str(error), typed=typed)
    return _page(here, request, blog, found, True, told=thanks)
