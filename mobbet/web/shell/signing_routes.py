"""Signing in beyond the password: codes, passkeys, forgotten passwords; one's factors and sessions; and proving once more who one is."""

from __future__ import annotations

import secrets
from typing import Any

from fastapi import APIRouter, Form, Request
from pydantic import BaseModel, Field
from starlette.datastructures import FormData, UploadFile
from starlette.responses import JSONResponse, RedirectResponse, Response

from mobbet.actions import account_links, factors, sessions
from mobbet.actions import people as people_actions
from mobbet.actions.factors import Factors, Place
from mobbet.actions.people import Session
from mobbet.actions.workshop import Workshop
from mobbet.core import qr_codes
from mobbet.core.errors import BadInput, NotFound, Refused, TooSoon
from mobbet.core.screen_dates import ago_in_words
from mobbet.store import blogs
from mobbet.store.people import Person
from mobbet.web.shell import addresses as to_shell
from mobbet.web.shell import cookies, session
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.fields import AnyForm, Text
from mobbet.web.shell.rendering import page
from mobbet.web.shell.routes import account_page, factor_page, is_here, see_other
from mobbet.web.shell.session import Here, Me, token_of
from mobbet.web.shell.signing_contexts import (
    AgainPage,
    ForgottenPage,
    LinkPage,
    PasskeyLine,
    SessionLine,
    SigningInPage,
)

router = APIRouter()
TOLD = {
    "off": "The second factor is taken away; the password stands alone.",
    "passkey": "The passkey is kept. You can sign in with it from now on.",
    "removed": "The passkey is removed.",
    "ended": "The session is ended.",
    "required": "A blog that you work on asks for a second factor; set one up here, and go on.",
}
AGAIN = ("again_password", "again_code")


class Answer(BaseModel):
    """What a browser answers with a passkey; `ask` is the token of the question, `begun` that of a sign-in whose password was typed."""

    answer: dict[str, Any]
    ask: str = Field(default="", max_length=200)
    begun: str = Field(default="", max_length=200)
    then: str = Field(default="", max_length=2000)
    label: str = Field(default="", max_length=200)


def _place(request: Request) -> Place:
    return Place(request.url.hostname or "", f"{request.url.scheme}://{request.url.netloc}")


def _begin(request: Request, here: Workshop, begun: Session, answer: Response) -> Response:
    session.begin(here, answer, begun)
    return answer


def _signed_in(request: Request, here: Workshop, person: Person) -> Session:
    device = cookies.of_request(request).get(cookies.device_cookie(here.settings), "")
    return people_actions.signed_in(
        here, person, device, token_of(request), request.headers.get("user-agent", "")
    )


@router.post(to_shell.sign_in_code.route)
def sign_in_code(
    request: Request, here: Here, token: Text = "", code: Text = "", then: Text = ""
) -> Response:
    """Ends a sign-in by a code of the second factor, or a recovery code."""
    try:
        person = people_actions.begun_sign_in(here, token)
        device = cookies.of_request(request).get(cookies.device_cookie(here.settings), "")
        if not factors.is_right_code(here, person, code, device):
            people_actions.note_wrong_factor(here, person)
            return factor_page(here, token, then, factors.WRONG_CODE, 422)
    except TooSoon as error:
        return factor_page(here, token, then, str(error), 429)
    except Refused:
        return see_other(to_shell.sign_in(then))
    people_actions.end_begun_sign_in(here, token)
    return _begin(
        request,
        here,
        _signed_in(request, here, person),
        see_other(then if is_here(then) else to_shell.home()),
    )


@router.post(to_shell.passkey_question.route)
def ask_for_passkey(request: Request, here: Here, begun: Text = "") -> Response:
    """What the browser is asked for to sign in with a passkey, instead of a password or after it."""
    person = people_actions.begun_sign_in(here, begun) if begun else None
    ask = secrets.token_urlsafe(24)
    return JSONResponse({"ask": ask, "options": factors.ask_for_passkey(here, _place(request), ask, person)})


@router.post(to_shell.passkey_answer.route)
def sign_in_with_passkey(request: Request, here: Here, said: Answer) -> Response:
    """Signs in with a passkey, which proves both who one is and that one is there."""
    person = factors.person_of_passkey(here, _place(request), said.ask, said.answer)
    if said.begun:
        people_actions.end_begun_sign_in(here, said.begun)
    to = said.then if is_here(said.then) else to_shell.home()
    return _begin(request, here, _signed_in(request, here, person), JSONResponse({"to": to}))


@router.get(to_shell.forgotten.route)
def forgotten() -> Response:
    return page(ForgottenPage())


@router.post(to_shell.forgotten.route)
def send_password_link(request: Request, here: Here, email: Text = "") -> Response:
    """Writes to whoever has that address; answers the same for one that nobody has."""
    try:
        account_links.ask_for_password(here, email, str(request.base_url))
    except Refused as error:
        return page(ForgottenPage(email, problem=str(error)), 429 if isinstance(error, TooSoon) else 422)
    return page(ForgottenPage(email, is_sent=True))


@router.get(to_shell.password_link.route)
def password_link(here: Here, token: str) -> Response:
    if not account_links.is_good(here, token, account_links.PASSWORD):
        return page(LinkPage("over", to_shell.forgotten(), account_links.OVER), 410)
    return page(LinkPage("password", to_shell.password_link(token)))


@router.post(to_shell.password_link.route)
def choose_password(here: Here, token: str, password: Text = "") -> Response:
    """Sets another password by the link of a letter."""
    try:
        account_links.choose_password(here, token, password)
    except BadInput as error:
        return page(LinkPage("password", to_shell.password_link(token), str(error)), 422)
    except Refused as error:
        return page(LinkPage("over", to_shell.forgotten(), str(error)), 410)
    return page(LinkPage("done", to_shell.sign_in(), told="The password is changed. Sign in with it."))


@router.get(to_shell.address_link.route)
def address_link(here: Here, token: str) -> Response:
    if not account_links.is_good(here, token, account_links.ADDRESS):
        return page(LinkPage("over", to_shell.account(), account_links.OVER), 410)
    return page(LinkPage("address", to_shell.address_link(token)))


@router.post(to_shell.address_link.route)
def confirm_address(here: Here, token: str) -> Response:
    """Has the address count that the link was sent to."""
    try:
        email = account_links.confirm_address(here, token)
    except Refused as error:
        return page(LinkPage("over", to_shell.account(), str(error)), 410)
    return page(LinkPage("done", to_shell.home(), told=f"Your account has the address {email} now."))


@router.get(to_shell.again.route)
def ask_again(here: Here, me: Me, to: str = "") -> Response:
    """Asks once more who somebody is, before a script goes on."""
    return again_page(here, me, to, FormData([("again_get", "yes")]), status=200)


@router.post(to_shell.again.route)
def prove(request: Request, here: Here, me: Me, form: AnyForm, to: str = "") -> Response:
    """Proves once more who one is, and goes on with the form that waited: it is sent on as it was (RFC 9110, 15.4.8)."""
    try:
        sessions.prove(
            here, me, token_of(request), str(form.get("again_password", "")), str(form.get("again_code", ""))
        )
    except Refused as error:
        return again_page(here, me, to, form, str(error), 429 if isinstance(error, TooSoon) else 422)
    if form.get("again_get"):
        return see_other(to if is_here(to) else to_shell.account())
    return RedirectResponse(to if is_here(to) else to_shell.account(), 307)


def again_page(
    here: Workshop, me: Person, path: str, form: Any, problem: str = "", status: int = 403
) -> Response:
    """Asks once more who somebody is, with the form that waits."""
    fields = [
        (name, value)
        for name, value in form.multi_items()
        if not isinstance(value, UploadFile) and name not in AGAIN
    ]
    return page(
        AgainPage(
            bar_for(here, me, None, "account"), path, fields, factors.factors_of(here, me).has_codes, problem
        ),
        status,
    )


@router.get(to_shell.signing_in.route)
def signing_in(request: Request, here: Here, me: Me, told: str = "") -> Response:
    """What proves who one is, and where one is signed in."""
    return page(_page(request, here, me, told=TOLD.get(told, "")))


def _page(request: Request, here: Workshop, me: Person, **more: Any) -> SigningInPage:
    found: Factors = factors.factors_of(here, me)
    mine, now = blogs.of_person(here.db, me.id), here.clock()
    zone = mine[0].zone if mine else "UTC"
    keys = [
        PasskeyLine(
            one.id, one.label, ago_in_words(one.added_at, zone, now), ago_in_words(one.last_used, zone, now)
        )
        for one in found.passkeys
    ]
    lines = [
        SessionLine(
            one.token_hash, one.browser or "a browser", ago_in_words(one.used_at, zone, now), ago_in_words(one.begun_at, zone, now), one.begun_from,
            sessions.is_this(one, token_of(request)),
        )
        for one in sessions.of_person(here, me)
    ]  # fmt: skip
    return SigningInPage(
        bar_for(here, me, None, "account"), found.has_codes, keys, found.recovery_left, lines, **more
    )


def _with_secret(request: Request, here: Workshop, me: Person, secret: str, **more: Any) -> SigningInPage:
    drawn = qr_codes.drawn(factors.secret_address(me, secret), "QR code of the secret")
    return _page(request, here, me, secret=secret, drawn=drawn, **more)


@router.post(to_shell.signing_in.at("codes"))
def begin_codes(request: Request, here: Here, me: Me) -> Response:
    """Shows a new secret for one-time codes, which counts once a code of it was typed."""
    return page(_with_secret(request, here, me, factors.new_secret()))


@router.post(to_shell.signing_in.at("codes-on"))
def turn_codes_on(request: Request, here: Here, me: Me, secret: Text = "", code: Text = "") -> Response:
    try:
        codes = factors.turn_codes_on(here, me, secret, code)
    except Refused as error:
        good = secret if 16 <= len(secret) <= 64 and secret.isalnum() else factors.new_secret()
        return page(_with_secret(request, here, me, good, problem=str(error), problem_field="code"), 422)
    return page(_page(request, here, me, codes=codes, told="One-time codes are asked for from now on."))


@router.post(to_shell.signing_in.at("off"))
def turn_off(request: Request, here: Here, me: Me) -> Response:
    try:
        factors.turn_off(here, me, me)
    except Refused as error:
        return page(_page(request, here, me, problem=str(error)), 422)
    return see_other(to_shell.signing_in(told="off"))


@router.post(to_shell.signing_in.at("recovery"))
def renew_recovery(request: Request, here: Here, me: Me) -> Response:
    """Gives other recovery codes, shown once."""
    return page(
        _page(
            request, here, me, codes=factors.renew_recovery(here, me), told="Those before are good no more."
        )
    )


@router.post(to_shell.signing_in.at("passkey-question"))
def begin_passkey(request: Request, here: Here, me: Me) -> Response:
    """What the browser is asked for to make a passkey."""
    return JSONResponse({"options": factors.begin_passkey(here, me, _place(request), token_of(request))})


@router.post(to_shell.signing_in.at("passkey"))
def add_passkey(request: Request, here: Here, me: Me, said: Answer) -> Response:
    codes = factors.add_passkey(here, me, _place(request), token_of(request), said.answer, said.label)
    return JSONResponse({"to": to_shell.signing_in(told="passkey"), "codes": codes})


@router.post(to_shell.signing_in.at("passkey-remove"))
def remove_passkey(request: Request, here: Here, me: Me, number: int = Form(0)) -> Response:
    try:
        factors.remove_passkey(here, me, number)
    except (NotFound, Refused) as error:
        return page(_page(request, here, me, problem=str(error)), 422)
    return see_other(to_shell.signing_in(told="removed"))


@router.post(to_shell.signing_in.at("end"))
def end_session(request: Request, here: Here, me: Me, key: Text = "") -> Response:
    """Ends one session, or all but this one."""
    try:
        if key == "others":
            sessions.end_others(here, me, token_of(request))
        else:
            sessions.end(here, me, key)
    except NotFound as error:
        return page(_page(request, here, me, problem=str(error)), 422)
    return see_other(to_shell.signing_in(told="ended"))


@router.post(to_shell.account.at("address"))
def ask_for_address(request: Request, here: Here, me: Me, new_email: Text = "") -> Response:
    """Writes to a new address with a link that confirms it."""
    try:
        account_links.ask_for_address(here, me, new_email, str(request.base_url))
    except Refused as error:
        return account_page(here, me, 422, problem=str(error), problem_field="new_email", new_email=new_email)
    return account_page(
        here,
        me,
        message=f"A letter is on its way to {new_email.strip()}; open its link, and the address counts.",
    )
