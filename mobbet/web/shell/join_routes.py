"""Where the letter of an invitation leads: taking it, with an account that is there already or a new one."""

from __future__ import annotations

from fastapi import APIRouter, Request
from starlette.responses import Response

from mobbet.actions import invitations
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import Refused
from mobbet.core.rights import ROLE_WORDS
from mobbet.web.desk import addresses as to_desk
from mobbet.web.shell import addresses as to_shell
from mobbet.web.shell import session
from mobbet.web.shell.contexts import ErrorPage, JoinPage
from mobbet.web.shell.fields import Text
from mobbet.web.shell.rendering import page
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.session import Here, somebody

router = APIRouter()


def _page(
    request: Request, here: Workshop, token: str, name: str = "", problem: Refused | None = None
) -> Response:
    try:
        found = invitations.opened(here, token)
    except Refused as error:
        return page(ErrorPage("This invitation is over", str(error), to_shell.home()), 410)
    person = somebody(request)
    roles = [(blog.name, role.value, ROLE_WORDS[role]) for blog, role in found.roles]
    is_me = person is not None and person.email.lower() == found.email.lower()
    context = JoinPage(
        token, found.email, found.by, roles, is_me, found.has_account, person.email if person and not is_me else "", name,
        str(problem or ""), getattr(problem, "field", ""),
    )  # fmt: skip
    return page(context, 422 if problem else 200)


@router.get(to_shell.join.route)
def show(request: Request, here: Here, token: str) -> Response:
    """Tells from whom the invitation is, and to what; nothing is taken by opening it."""
    return _page(request, here, token)


@router.post(to_shell.join.route)
def take(request: Request, here: Here, token: str, name: Text = "", password: Text = "") -> Response:
    """Takes the invitation as whoever is signed in, or with a new account."""
    person = somebody(request)
    try:
        if person is not None:
            joined = invitations.take(here, person, token)
            return see_other(to_desk.desk(joined[0].slug))
        begun, joined = invitations.take_as_new(here, token, name, password)
    except Refused as error:
        return _page(request, here, token, name, error)
    answer = see_other(to_desk.desk(joined[0].slug))
    session.begin(here, answer, begun)
    return answer
