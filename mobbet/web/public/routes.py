"""What readers do on a published site: sign in by a letter, type a password, follow a group's feed."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Depends, Request
from starlette.responses import RedirectResponse, Response

from mobbet.actions import entry, readers, reading
from mobbet.actions import people as people_actions
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import NotFound, Refused, TooSoon
from mobbet.core.permalinks import one_form
from mobbet.publish.reader_forms import Ask, ask_page
from mobbet.store import blogs
from mobbet.store.blogs import Blog
from mobbet.web.public import addresses as to_public
from mobbet.web.public.guests import MOST_PROOFS
from mobbet.web.public.place import root_of
from mobbet.web.shell import cookies
from mobbet.web.shell.cookies import guest_cookie, proofs_cookie
from mobbet.web.shell.fields import Text
from mobbet.web.shell.security import SITE_POLICY, shown_headers
from mobbet.web.shell.session import Here

router = APIRouter()


def _blog(here: Here, slug: str) -> Blog:
    blog = blogs.by_slug(here.db, slug)
    if blog is None or blog.closed:
        raise NotFound("There is no such blog here.")
    return blog


OfBlog = Annotated[Blog, Depends(_blog)]


def asked(here: Workshop, request: Request, blog: Blog, ask: Ask, status: int = 200) -> Response:
    body = ask_page(here.db, blog, f"{root_of(request.scope, blog.slug)}/", here.clock(), ask)
    return Response(
        body, status, media_type="text/html; charset=utf-8", headers={"content-security-policy": SITE_POLICY}
    )


def _address(request: Request) -> str:
    return request.client.host if request.client else ""


def _set(here: Workshop, answer: Response, name: str, value: str) -> None:
    cookies.put(here.settings, answer, name, value, here.settings.session_days * 86400)


def _back(request: Request, blog: Blog, path: str) -> RedirectResponse:
    own = one_form(path) if path.startswith("/") else "/"
    return RedirectResponse(root_of(request.scope, blog.slug) + own, status_code=303)


@router.get(to_public.enter.route)
def way_in(request: Request, here: Here, blog: OfBlog, to: str = "/") -> Response:
    return asked(here, request, blog, Ask("enter", to))


@router.post(to_public.enter.route)
def ask_to_enter(request: Request, here: Here, blog: OfBlog, email: Text = "", path: Text = "/") -> Response:
    """Sends the letter; says the same whether or not the address is a reader's."""
    try:
        entry.ask_to_enter(here, blog, email, path, _address(request))
    except Refused as error:
        return asked(
            here,
            request,
            blog,
            Ask("enter", path, email=email, message=str(error)),
            429 if isinstance(error, TooSoon) else 422,
        )
    return asked(here, request, blog, Ask("sent", path, email=email.strip()))


@router.get(to_public.enter_by_letter.route)
def at_the_door(request: Request, here: Here, blog: OfBlog, token: str) -> Response:
    """Asks for a press of a button, so that programs which look at mail do not use the link up."""
    if not entry.is_good_entry(here, blog, token):
        return asked(
            here,
            request,
            blog,
            Ask("enter", "/", message="This link was used already, or is too old; ask for another one."),
            410,
        )
    return asked(here, request, blog, Ask("link", "/", token=token))


@router.post(to_public.enter_by_letter.route)
def enter(request: Request, here: Here, blog: OfBlog, token: str) -> Response:
    try:
        session, path = entry.enter(here, blog, token)
    except Refused as error:
        return asked(here, request, blog, Ask("enter", "/", message=str(error)), 410)
    answer = _back(request, blog, path)
    _set(here, answer, guest_cookie(here.settings, blog), session.token)
    return answer


@router.post(to_public.leave.route)
def leave(request: Request, here: Here, blog: OfBlog) -> Response:
    """Ends the reader's session and forgets the passwords they typed."""
    answer = _back(request, blog, "/")
    people_actions.sign_out(here, cookies.of_request(request).get(guest_cookie(here.settings, blog), ""))
    for name in (guest_cookie(here.settings, blog), proofs_cookie(here.settings, blog)):
        cookies.remove(here.settings, answer, name)
    answer.headers["clear-site-data"] = '"cache"'
    return answer


@router.post(to_public.open_page.route)
def open_post(request: Request, here: Here, blog: OfBlog, path: Text = "/", password: Text = "") -> Response:
    """Opens a post for whoever knows its password."""
    try:
        proof = readers.open_with(here, blog, path, password, _address(request))
    except Refused as error:
        return asked(
            here,
            request,
            blog,
            Ask("password", path, message=str(error)),
            429 if isinstance(error, TooSoon) else 422,
        )
    answer = _back(request, blog, path)
    known = [
        one
        for one in cookies.of_request(request).get(proofs_cookie(here.settings, blog), "").split(".")
        if one and one != proof
    ]
    _set(here, answer, proofs_cookie(here.settings, blog), ".".join([*known[-MOST_PROOFS + 1 :], proof]))
    return answer


@router.get(to_public.feed.route)
def group_feed(here: Here, blog: OfBlog, name: str) -> Response:
    """A group's feed at its private address."""
    key, _, format = name.rpartition(".")
    rendered = reading.group_feed(here, blog, key, format)
    if rendered is None:
        raise NotFound("This feed has another address by now; ask whoever gave it to you.")
    return Response(
        rendered.body,
        media_type=rendered.type,
        headers={"cache-control": "private, no-cache", "x-robots-tag": "noindex"},
    )


@router.get(to_public.feed_media.route)
def group_file(here: Here, blog: OfBlog, key: str, name: str) -> Response:
    """A picture of a group's feed."""
    found = reading.group_file(here, blog, key, f"/media/{name}")
    body = here.media.read(found[0]) if found else None
    if found is None or body is None:
        raise NotFound("There is no such picture in this feed.")
    headers = {name.decode(): value.decode() for name, value in shown_headers(found[1], found[2])}
    return Response(body, headers={**headers, "cache-control": "private, max-age=86400"})
