"""The session of a request, and the dependencies of routes."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated

from fastapi import Depends, Request
from starlette.responses import JSONResponse, Response

from mobbet.actions.people import Session, person_of
from mobbet.actions.workshop import Workshop
from mobbet.store.people import Person
from mobbet.web.shell import cookies


class SignInFirst(Exception):
    """Raised by a route for somebody who is not signed in; answered with the way to sign in."""


def token_of(request: Request) -> str:
    """The token of the session cookie; '' without one."""
    return cookies.of_request(request).get(cookies.session_cookie(request.app.state.workshop.settings), "")


def written_by_another(done: str) -> Response:
    """401 for what somebody else wrote in this browser than is signed in now; `done` is what happens to it when they are."""
    words = f"This was written by somebody else in this browser; it is {done} when they sign in."
    return JSONResponse({"message": words}, status_code=401)


NOBODY = 0
"""The viewer of lists for somebody who is not signed in."""


def somebody(request: Request) -> Person | None:
    """The person who is signed in, looked up once a request; None for nobody."""
    if not hasattr(request.state, "person"):
        request.state.person = person_of(request.app.state.workshop, token_of(request))
    return request.state.person


def workshop_of(request: Request) -> Workshop:
    """The data folder as whoever asks sees it, so that no route lists what is not for them."""
    person = somebody(request)
    seen = request.app.state.workshop.seen_by(person.id if person else NOBODY)
    return replace(seen, origin=request.client.host if request.client else "")


def signed_in(request: Request) -> Person:
    """The person who is signed in. Raises SignInFirst for nobody."""
    person = somebody(request)
    if person is None:
        raise SignInFirst
    return person


Here = Annotated[Workshop, Depends(workshop_of)]
Me = Annotated[Person, Depends(signed_in)]


def begin(workshop: Workshop, response: Response, session: Session) -> None:
    """Gives a browser the cookies of a sign-in."""
    settings = workshop.settings
    cookies.put(
        settings, response, cookies.session_cookie(settings), session.token, settings.session_days * 86400
    )
    if session.device:
        cookies.put(
            settings, response, cookies.device_cookie(settings), session.device, cookies.DEVICE_SECONDS
        )


def end(workshop: Workshop, response: Response) -> None:
    """Takes the session's cookie away, and what the browser kept of pages."""
    cookies.remove(workshop.settings, response, cookies.session_cookie(workshop.settings))
    response.headers["clear-site-data"] = '"cache"'
