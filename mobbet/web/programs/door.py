"""Requests of programs: whose token they show, and how refusals are told (RFC 6750)."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Any

from fastapi import Depends, Request
from starlette.responses import JSONResponse, Response

from mobbet.actions import programs
from mobbet.actions.programs import Grant
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import MobbetError, NotAllowed, NotFound, Refused
from mobbet.core.micropub import NotTaken
from mobbet.web.public.routes import OfBlog
from mobbet.web.shell.session import Here

OPEN_TO_BROWSERS = {
    "access-control-allow-origin": "*",
    "access-control-expose-headers": "Location, Link, ETag, WWW-Authenticate, Retry-After",
}
"""Lets a program that runs in a browser read the answer; it has no cookies with it, and the token says whose it is."""
PREFLIGHT = {
    **OPEN_TO_BROWSERS,
    "access-control-allow-methods": "GET, HEAD, POST, PUT, PATCH, DELETE, OPTIONS",
    "access-control-allow-headers": "Authorization, Content-Type, Accept, If-Match, If-None-Match, Slug",
    "access-control-max-age": "86400",
}


@dataclass(frozen=True)
class Caller:
    """A program with a good token for this blog, and the workshop as its person sees it."""

    grant: Grant
    here: Workshop


def bearer_of(request: Request) -> str:
    """The token of the head of a request; '' without one."""
    kind, _, token = request.headers.get("authorization", "").partition(" ")
    return token.strip() if kind.lower() == "bearer" else ""


def caller_of(here: Workshop, blog: Any, token: str) -> Caller:
    """Whose token it is. Raises NotTaken for none, and for one of another blog."""
    if not token:
        raise NotTaken(
            "unauthorized", "Show a token in the head of the request (Authorization: Bearer …).", 401
        )
    grant = programs.grant_of(here, token)
    if grant is None:
        raise NotTaken("unauthorized", "This token is not good (any more); ask the person again.", 401)
    if grant.blog.id != blog.id:
        raise NotTaken("forbidden", f"This token is for {grant.blog.home}, not for {blog.home}.", 403)
    return Caller(grant, here.seen_by(grant.person.id))


def called(request: Request, here: Here, blog: OfBlog) -> Caller:
    return caller_of(here, blog, bearer_of(request))


Called = Annotated[Caller, Depends(called)]


def refused(error: MobbetError) -> JSONResponse:
    """The answer to a request that is not carried out."""
    headers = dict(OPEN_TO_BROWSERS)
    if isinstance(error, NotTaken):
        status, code, scope = error.status, error.error, error.scope
    else:
        scope = ""
        status, code = next(
            ((status, code) for kind, status, code in _STATUS if isinstance(error, kind)),
            (500, "server_error"),
        )
    if status == 401:
        headers["www-authenticate"] = (
            "Bearer"
            + (f' error="{code}"' if code != "unauthorized" else "")
            + (f', scope="{scope}"' if scope else "")
        )
    body = {"error": code, "error_description": str(error), **({"scope": scope} if scope else {})}
    return JSONResponse(body, status, headers=headers)


_STATUS: tuple[tuple[type[MobbetError], int, str], ...] = (
    (NotAllowed, 403, "forbidden"),
    (NotFound, 400, "invalid_request"),
    (Refused, 400, "invalid_request"),
)


def preflight() -> Response:
    """Tells a browser that a program of another site may ask."""
    return Response(status_code=204, headers=PREFLIGHT)
