"""Where a reader sends a post on by one letter."""

from __future__ import annotations

from dataclasses import replace

from fastapi import APIRouter, Request
from starlette.responses import Response

from mobbet.actions import sending_on
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import MobbetError, Refused, TooSoon
from mobbet.publish.reader_forms import SendPage, send_page
from mobbet.store.blogs import Blog
from mobbet.web.public import addresses as to_public
from mobbet.web.public.place import root_of
from mobbet.web.public.routes import OfBlog
from mobbet.web.shell.fields import Text
from mobbet.web.shell.security import SITE_POLICY
from mobbet.web.shell.session import Here

router = APIRouter()
SENT = "It is on its way. Thank you for sending it on."


def _page(here: Workshop, request: Request, blog: Blog, shown: SendPage, status: int = 200) -> Response:
    body = send_page(here.db, blog, f"{root_of(request.scope, blog.slug)}/", here.clock(), shown)
    return Response(
        body, status, media_type="text/html; charset=utf-8", headers={"content-security-policy": SITE_POLICY}
    )


@router.get(to_public.send_on.route)
def send_form(request: Request, here: Here, blog: OfBlog, post_id: int) -> Response:
    post = sending_on.post_to_send(here, blog, post_id)
    return _page(here, request, blog, SendPage(post.id, post.title, post.path))


@router.post(to_public.send_on.route)
def send(
    request: Request,
    here: Here,
    blog: OfBlog,
    post_id: int,
    name: Text = "",
    email: Text = "",
    remark: Text = "",
) -> Response:
    """Sends one letter; keeps what was typed where it is refused."""
    post = sending_on.post_to_send(here, blog, post_id)
    shown = SendPage(post.id, post.title, post.path, name[:60], email[:254])
    try:
        if not remark:  # a field that people do not see
            sending_on.send(here, blog, post_id, name, email, request.client.host if request.client else "")
    except Refused as error:
        return _page(
            here,
            request,
            blog,
            replace(shown, message=str(error)),
            429 if isinstance(error, TooSoon) else 422,
        )
    except MobbetError:
        away = "No letter can be sent just now; try again in a while."
        return _page(here, request, blog, replace(shown, message=away), 503)
    return _page(here, request, blog, replace(shown, told=SENT))
