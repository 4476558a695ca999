"""Site, People: who works on a blog, in which role, who is invited, and what each may do."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from fastapi import APIRouter, Form, Request
from starlette.responses import Response

from mobbet.actions import invitations, members
from mobbet.actions.access import has_right
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import NotAllowed, NotFound, Refused
from mobbet.core.rights import Action, Role
from mobbet.store import blogs
from mobbet.store.people import Person
from mobbet.web.shell import addresses as to_shell
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.fields import Numbers, Text, Texts
from mobbet.web.shell.rendering import page
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.session import Here, Me
from mobbet.web.site import addresses as to_site
from mobbet.web.site import people_view as view
from mobbet.web.site.people_contexts import PeoplePage

router = APIRouter()
TOLD = {
    "invited": "The invitation is written.",
    "withdrawn": "The invitation is withdrawn; its link leads nowhere now.",
    "role": "That is their role from now on.",
    "suspended": "They see nothing of the blog any more; what they wrote stays.",
    "let-in": "They work here again.",
    "handed": "The posts are handed over. What is out keeps its name until it is updated.",
    "out": "They are taken out.",
    "rights": "That is how it is from now on.",
}


def _page(
    here: Workshop,
    me: Person,
    slug: str,
    status: int = 200,
    typed: dict[str, str] | None = None,
    chosen: list[str] | None = None,
    **more: Any,
) -> Response:
    blog, found = members.of_blog(here, me, slug)
    typed, rights = {"email": "", "role": Role.WRITER.value, **(typed or {})}, members.rights_of(blog)
    context = PeoplePage(
        bar_for(here, me, blog, "site"), view.lines(here, me, blog, found), view.waiting(here, blog), view.invite_blogs(here, me, blog, chosen or []),
        view.invite_roles(typed["role"]), typed, view.asking(here, blog), [*view.adjusting(rights)], view.factor_sentence(blog), [role.value for role in reversed(Role)], view.table(rights), **more,
    )  # fmt: skip
    return page(context, status)


def _done(here: Workshop, me: Person, slug: str, change: Callable[[], object], told: str) -> Response:
    """Makes a change, and shows the screen with what came of it, or the reason of a refusal."""
    try:
        change()
    except NotAllowed:
        raise
    except (Refused, NotFound) as error:
        return _page(here, me, slug, 422, problem=str(error), problem_field=getattr(error, "field", ""))
    blog = blogs.by_slug(here.db, slug)
    keeps = blog is not None and has_right(
        here, me, blog, Action.KEEP_PEOPLE
    )  # not after handing the blog over
    return see_other(to_site.people(slug, told=told) if keeps else to_shell.home())


@router.get(to_site.people.route)
def show(here: Here, me: Me, slug: str, told: str = "") -> Response:
    return _page(here, me, slug, told=TOLD.get(told, ""))


@router.post(to_site.people.at("invite"))
def invite(
    request: Request, here: Here, me: Me, slug: str, email: Text = "", role: Text = "", blog: Texts = []
) -> Response:
    """Writes to somebody with a link by which they join."""
    try:
        invitations.invite(here, me, dict.fromkeys(blog or [slug], role), email, str(request.base_url))
    except NotAllowed:
        raise
    except (Refused, NotFound) as error:
        typed = {"email": email, "role": role}
        return _page(
            here,
            me,
            slug,
            422,
            typed,
            blog,
            problem=str(error),
            problem_field=getattr(error, "field", "") or "email",
        )
    return see_other(to_site.people(slug, told="invited"))


@router.post(to_site.people.at("again"))
def send_again(request: Request, here: Here, me: Me, slug: str, number: int = Form(0)) -> Response:
    """Writes another letter; the earlier link is good no more."""
    return _done(
        here,
        me,
        slug,
        lambda: invitations.send_again(here, me, slug, number, str(request.base_url)),
        "invited",
    )


@router.post(to_site.people.at("withdraw"))
def withdraw(here: Here, me: Me, slug: str, number: int = Form(0)) -> Response:
    return _done(here, me, slug, lambda: invitations.withdraw(here, me, slug, number), "withdrawn")


@router.post(to_site.people.at("role"))
def set_role(here: Here, me: Me, slug: str, where: int = Form(0), value: Text = "") -> Response:
    """Gives somebody another role."""
    return _done(here, me, slug, lambda: members.set_role(here, me, slug, where, value), "role")


@router.post(to_site.people.at("suspend"))
def suspend(here: Here, me: Me, slug: str, where: int = Form(0), value: Text = "") -> Response:
    """Keeps somebody off the blog, or lets them in again."""
    return _done(
        here,
        me,
        slug,
        lambda: members.suspend(here, me, slug, where, value == "yes"),
        "suspended" if value == "yes" else "let-in",
    )


@router.post(to_site.people.at("hand"))
def hand_posts(here: Here, me: Me, slug: str, where: int = Form(0), to: int = Form(0)) -> Response:
    """Gives somebody's posts to a colleague."""
    return _done(here, me, slug, lambda: members.hand_posts(here, me, slug, where, to), "handed")


@router.post(to_site.people.at("out"))
def take_out(here: Here, me: Me, slug: str, where: int = Form(0), to: int = Form(0)) -> Response:
    """Takes somebody off the blog; their posts stay theirs, or go to a colleague."""
    return _done(here, me, slug, lambda: members.take_out(here, me, slug, where, to), "out")


@router.post(to_site.people.at("hand-over"))
def hand_over(here: Here, me: Me, slug: str, where: int = Form(0)) -> Response:
    """Makes somebody the owner in the place of whoever asks."""
    return _done(here, me, slug, lambda: members.hand_over(here, me, slug, where), "role")


@router.post(to_site.people.at("right"))
def adjust(here: Here, me: Me, slug: str, where: Text = "", value: Text = "") -> Response:
    """Loosens or tightens a single right."""
    return _done(here, me, slug, lambda: members.adjust(here, me, slug, where, value == "yes"), "rights")


@router.post(to_site.people.at("factor"))
def set_factor_roles(here: Here, me: Me, slug: str, value: Text = "") -> Response:
    """Says of whom a second factor is asked."""
    return _done(here, me, slug, lambda: members.set_factor_roles(here, me, slug, value), "rights")


@router.post(to_site.people.at("asks"))
def set_asking(
    here: Here, me: Me, slug: str, role: Text = "", value: Text = "", category: Numbers = []
) -> Response:
    """Says when posts of a role need somebody's word."""
    return _done(here, me, slug, lambda: members.set_asking(here, me, slug, role, value, category), "rights")


@router.post(to_shell.leave_blog.route)
def leave(here: Here, me: Me, slug: str) -> Response:
    """Takes oneself off a blog."""
    members.leave(here, me, slug)
    return see_other(to_shell.home())
