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


def workshop_of(request: Request) -> Workshop:
    return request.app.state.workshop


def signed_in(request: Request) -> Person:
    """The person who is signed in. Raises SignInFirst for nobody."""
    person = person_of(workshop_of(request), request.cookies.get(COOKIE))
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
