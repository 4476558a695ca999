"""Who is asking: the session cookie, and what routes need of it."""

from __future__ import annotations

from typing import Annotated

from fastapi import Depends, Request
from starlette.responses import Response

from mobbet.actions.people import Session, person_of
from mobbet.actions.workshop import Workshop
from mobbet.store.people import Person

COOKIE = "mobbet_session"


class SignInFirst(Exception):
    """Raised by a route for somebody who is not signed in; answered with the way to sign in."""


NOBODY = 0
"""The viewer of lists for somebody who is not signed in."""


def somebody(request: Request) -> Person | None:
    """The person who is signed in, looked up once a request; None for nobody."""
    if not hasattr(request.state, "person"):
        request.state.person = person_of(request.app.state.workshop, request.cookies.get(COOKIE))
    return request.state.person


def workshop_of(request: Request) -> Workshop:
    """The data folder as whoever asks sees it, so that no route lists what is not for them."""
    person = somebody(request)
    return request.app.state.workshop.seen_by(person.id if person else NOBODY)


def signed_in(request: Request) -> Person:
    """The person who is signed in. Raises SignInFirst for nobody."""
    person = somebody(request)
    if person is None:
        raise SignInFirst
    return person


Here = Annotated[Workshop, Depends(workshop_of)]
Me = Annotated[Person, Depends(signed_in)]


def set_cookie(workshop: Workshop, response: Response, session: Session) -> None:
    response.set_cookie(
        COOKIE,
        session.token,
        max_age=workshop.settings.session_days * 86400,
        httponly=True,
        samesite="lax",
        secure=workshop.settings.secure_cookies,
    )
