"""Letters by e-mail, for readers: asking for them, and what a subscriber changes or ends without an account."""

from __future__ import annotations

from fastapi import APIRouter, Request
from starlette.responses import Response

from mobbet.actions import subscribers
from mobbet.actions.subscription_words import EVERYTHING, offered, words_of
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import NotFound, Refused, TooSoon
from mobbet.core.subscriptions import ALL, EVERY, ON, POST
from mobbet.publish.reader_forms import LettersForm, letters_page
from mobbet.store import subscribers as store
from mobbet.store.blogs import Blog
from mobbet.store.subscribers import Subscriber
from mobbet.web.public import addresses as to_public
from mobbet.web.public.place import root_of
from mobbet.web.public.routes import OfBlog
from mobbet.web.shell.fields import Text, Texts
from mobbet.web.shell.security import SITE_POLICY
from mobbet.web.shell.session import Here

router = APIRouter()
RHYTHMS = tuple(EVERY.items())
HEADERS = {"content-security-policy": SITE_POLICY, "cache-control": "no-store", "x-robots-tag": "noindex"}


def _page(here: Workshop, request: Request, blog: Blog, form: LettersForm, status: int = 200) -> Response:
    body = letters_page(here.db, blog, f"{root_of(request.scope, blog.slug)}/", here.clock(), form)
    return Response(body, status, media_type="text/html; charset=utf-8", headers=HEADERS)


def _status(error: Refused) -> int:
    return 429 if isinstance(error, TooSoon) else 404 if isinstance(error, NotFound) else 422


def _asking(
    here: Workshop, blog: Blog, what: str, every: str = POST, email: str = "", message: str = ""
) -> LettersForm:
    if not subscribers.is_open(blog):
        return LettersForm("closed", told=subscribers.CLOSED)
    choices = offered(here, blog)
    if (
        what
        and what not in dict(choices)
        and what.startswith("comments:")
        and (words := words_of(here, blog, what))
    ):
        choices = [*choices, (what, words)]
    return LettersForm("ask", email, what, every, offered=tuple(choices), rhythms=RHYTHMS, message=message)


@router.get(to_public.letters.route)
@router.get(to_public.letters_slash.route)
def ask_form(request: Request, here: Here, blog: OfBlog, what: str = ALL) -> Response:
    """Where a reader asks for letters."""
    return _page(here, request, blog, _asking(here, blog, what[:80]))


@router.post(to_public.letters.route)
def ask(
    request: Request,
    here: Here,
    blog: OfBlog,
    email: Text = "",
    what: Text = ALL,
    every: Text = POST,
    remark: Text = "",
) -> Response:
    """Sends the letter that asks to confirm; says the same whether or not the address gets letters already."""
    try:
        if not remark:  # a field that people do not see
            subscribers.ask(here, blog, email, what, every, request.client.host if request.client else "")
    except Refused as error:
        return _page(
            here,
            request,
            blog,
            _asking(here, blog, what[:80], every, email[:254], str(error)),
            _status(error),
        )
    return _page(here, request, blog, LettersForm("sent", email.strip()))


def _own(here: Workshop, blog: Blog, one: Subscriber, message: str = "", told: str = "") -> LettersForm:
    held = {wish.what: wish.every for wish in store.wishes_of(here.db, one.id)}
    choices = dict(offered(here, blog)) | {what: words_of(here, blog, what) for what in held}
    rows = [(what, words, held.get(what, "")) for what, words in choices.items() if words]
    asked = [(words_of(here, blog, wish.what) or EVERYTHING, EVERY[wish.every]) for wish in one.asked]
    return LettersForm(
        "own", one.email, key=one.key, rhythms=RHYTHMS, rows=tuple(rows), asked=tuple(asked), message=message, told=told,
        can_confirm=subscribers.can_confirm(here, one), is_on=one.state == ON, is_open=subscribers.is_open(blog),
    )  # fmt: skip


@router.get(to_public.letters_own.route)
@router.get(to_public.letters_change.at("end"))
def own(request: Request, here: Here, blog: OfBlog, key: str) -> Response:
    """A subscriber's own page; opening it changes nothing, so that programs which look at mail do no harm."""
    try:
        return _page(here, request, blog, _own(here, blog, subscribers.of_key(here, blog, key)))
    except NotFound as error:
        return _page(here, request, blog, _asking(here, blog, ALL, message=str(error)), 404)


@router.post(to_public.letters_change.at("confirm"))
def confirm(request: Request, here: Here, blog: OfBlog, key: str) -> Response:
    return _changed(
        request, here, blog, key, lambda: subscribers.confirm(here, blog, key), "Letters come from now on."
    )


@router.post(to_public.letters_change.at("change"))
def change(
    request: Request, here: Here, blog: OfBlog, key: str, what: Texts = [], every: Texts = []
) -> Response:  # noqa: B006
    wishes = [(one, rhythm) for one, rhythm in zip(what, every, strict=False) if rhythm]
    return _changed(
        request,
        here,
        blog,
        key,
        lambda: subscribers.change(here, blog, key, wishes),
        "That is how it is from now on.",
    )


@router.post(to_public.letters_change.at("end"))
def end(request: Request, here: Here, blog: OfBlog, key: str) -> Response:
    """Ends all letters by one request (RFC 8058)."""
    try:
        subscribers.end_by_key(here, blog, key)
        one = subscribers.of_key(here, blog, key)
    except NotFound as error:
        return _page(here, request, blog, _asking(here, blog, ALL, message=str(error)), 404)
    return _page(here, request, blog, LettersForm("ended", one.email, is_open=subscribers.is_open(blog)))


def _changed(request: Request, here: Workshop, blog: Blog, key: str, change: object, told: str) -> Response:
    """Makes a change and shows the subscriber's page again, with the reason where it is refused."""
    try:
        change()  # type: ignore[operator]
        one = subscribers.of_key(here, blog, key)
    except NotFound as error:
        return _page(here, request, blog, _asking(here, blog, ALL, message=str(error)), 404)
    except Refused as error:
        one = subscribers.of_key(here, blog, key)
        return _page(here, request, blog, _own(here, blog, one, message=str(error)), _status(error))
    if one.state != ON:
        return _page(here, request, blog, LettersForm("ended", one.email, is_open=subscribers.is_open(blog)))
    return _page(here, request, blog, _own(here, blog, one, told=told))
