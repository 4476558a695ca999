"""The screens on which a person allows a program to write, sees which do, and ends it."""

from __future__ import annotations

from typing import Annotated
from urllib.parse import urlencode

from fastapi import APIRouter, Form, Request
from starlette.responses import RedirectResponse, Response

from mobbet.actions import programs
from mobbet.actions.programs import in_words
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import MobbetError
from mobbet.core.programs import DRAFT, SCOPES, Asked, AskedWrongly, policy_source, read_asked
from mobbet.core.screen_dates import ago_in_words
from mobbet.core.web_addresses import split_address
from mobbet.store import blogs
from mobbet.store.people import Person
from mobbet.web.programs import addresses as to_programs
from mobbet.web.programs.contexts import AllowPage, ProgramRow, ProgramsPage
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.contexts import Choice
from mobbet.web.shell.fields import AnyForm, Text, Texts
from mobbet.web.shell.rendering import page
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.security import APP_POLICY
from mobbet.web.shell.session import Here, Me

router = APIRouter()
CARRIED = (
    "response_type",
    "client_id",
    "redirect_uri",
    "state",
    "code_challenge",
    "code_challenge_method",
    "scope",
    "me",
)


@router.get(to_programs.allow_program.route)
def ask(request: Request, here: Here, me: Me, blog: str = "") -> Response:
    """Shows what a program asks for. One that cannot be trusted is told of, and nobody is sent back to it."""
    query = dict(request.query_params)
    try:
        asked = read_asked(query)
        programs.check(here, asked)
    except AskedWrongly as error:
        return page(AllowPage(bar_for(here, me, None, "account"), "", "", "", [], [], {}, str(error)), 400)
    return _asked(asked, _asking(here, me, asked, query, blog))


def _asked(asked: Asked, context: AllowPage, status: int = 200) -> Response:
    """The screen, whose form may lead to the program."""
    answer = page(context, status)
    answer.headers["content-security-policy"] = APP_POLICY.replace(
        "form-action 'self'", f"form-action 'self' {policy_source(asked.redirect)}"
    )
    return answer


def _asking(
    here: Workshop, me: Person, asked: Asked, query: dict[str, str], slug: str, problem: str = ""
) -> AllowPage:
    found = programs.client_page(here, asked.client)
    host = split_address(asked.client).hostname or asked.client
    mine = blogs.of_person(here.db, me.id)
    chosen = slug or (mine[0].slug if mine else "")
    return AllowPage(
        bar_for(here, me, None, "account"), found.name or host, asked.client, split_address(asked.redirect).hostname or asked.redirect.partition(":")[0],
        [Choice(scope, SCOPES[scope], True) for scope in asked.scopes], [Choice(blog.slug, f"{blog.name} ({blog.home})", blog.slug == chosen) for blog in mine],
        {name: query[name] for name in CARRIED if name in query}, problem,
    )  # fmt: skip


@router.post(to_programs.allow_program.route)
def answer(form: AnyForm, here: Here, me: Me) -> Response:
    """Sends the person back to the program, with a code or with their no."""
    query = {name: str(form.get(name, "")) for name in CARRIED if name in form}
    try:
        asked = read_asked(query)
        programs.check(here, asked)
    except AskedWrongly as error:
        return page(AllowPage(bar_for(here, me, None, "account"), "", "", "", [], [], {}, str(error)), 400)
    if "no" in form:
        return _back(asked, {"error": "access_denied", "error_description": "The person does not allow it."})
    slug, scopes = str(form.get("blog", "")), tuple(map(str, form.getlist("allowed")))
    try:
        code = programs.allow(here, me, slug, asked, scopes)
    except MobbetError as error:
        return _asked(asked, _asking(here, me, asked, query, slug, str(error)), 422)
    blog = next(one for one in blogs.of_person(here.db, me.id) if one.slug == slug)
    return _back(asked, {"code": code, "iss": blog.home, "me": blog.home})


def _back(asked: Asked, values: dict[str, str]) -> Response:
    joint = "&" if "?" in asked.redirect else "?"
    return RedirectResponse(
        f"{asked.redirect}{joint}{urlencode({**values, **({'state': asked.state} if asked.state else {})})}",
        303,
    )


@router.get(to_programs.my_programs.route)
def list_programs(here: Here, me: Me, told: str = "") -> Response:
    return page(_programs(here, me, told="That program writes for you no more." if told else ""))


def _programs(
    here: Workshop,
    me: Person,
    typed: str = "",
    token: str = "",
    told: str = "",
    problem: str = "",
    chosen: tuple[str, ...] = (DRAFT,),
) -> ProgramsPage:
    mine = {blog.id: blog for blog in blogs.of_person(here.db, me.id)}
    rows = [
        ProgramRow(
            one.id, split_address(one.client).hostname or one.client, mine[one.blog_id].name, ", ".join(in_words(tuple(one.scopes.split()))),
            f"used {ago_in_words(one.used_at, mine[one.blog_id].zone, here.clock())}",
        )
        for one in programs.of_person(here, me)
        if one.blog_id in mine
    ]  # fmt: skip
    return ProgramsPage(
        bar_for(here, me, None, "account"), rows, [Choice(blog.slug, blog.name) for blog in mine.values()],
        [Choice(scope, words, scope in chosen) for scope, words in SCOPES.items() if scope != "profile"], typed, token, told, problem,
    )  # fmt: skip


@router.post(to_programs.my_programs.at("make"))
def make(here: Here, me: Me, name: Text = "", blog: Text = "", allowed: Texts = []) -> Response:  # noqa: B006
    """A token for a program that asks for one."""
    try:
        token = programs.make(here, me, blog, name, tuple(allowed))
    except MobbetError as error:
        return page(_programs(here, me, name, problem=str(error), chosen=tuple(allowed)), 422)
    return page(_programs(here, me, token=token))


@router.post(to_programs.my_programs.at("end"))
def end(here: Here, me: Me, number: Annotated[int, Form()]) -> Response:
    programs.end(here, me, number)
    return see_other(to_programs.my_programs(told="ended"))
