"""First run, signing in and out, and one's own account."""

from __future__ import annotations

import json
from dataclasses import replace
from typing import Any

from fastapi import APIRouter, Request
from starlette.responses import JSONResponse, PlainTextResponse, RedirectResponse, Response

from mobbet.actions import blogs as blog_actions
from mobbet.actions import factors, house_words, preferences, profiles
from mobbet.actions import first_run as first_run_actions
from mobbet.actions import people as people_actions
from mobbet.actions import posts as post_actions
from mobbet.actions.access import blog_for
from mobbet.actions.workshop import Workshop
from mobbet.core.addresses import make_slug
from mobbet.core.errors import BadInput, NeedsFactor, Refused, TooSoon
from mobbet.core.languages import NAMES
from mobbet.core.screen_dates import LANGUAGES
from mobbet.core.timing import all_zones
from mobbet.store import blogs, events, media, people, proofs
from mobbet.store.blogs import Blog
from mobbet.store.media import Wanted
from mobbet.store.people import Person
from mobbet.web.desk import addresses as to_desk
from mobbet.web.public import addresses as to_public
from mobbet.web.shell import addresses as to_shell
from mobbet.web.shell import cookies, session
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.contexts import AccountPage, Choice, FirstRunPage, Portrait, SignInPage
from mobbet.web.shell.fields import AnyForm, Text
from mobbet.web.shell.rendering import page
from mobbet.web.shell.session import Here, Me, somebody, token_of
from mobbet.web.shell.signing_contexts import FactorPage
from mobbet.web.write import addresses as to_write

router = APIRouter()


def see_other(address: str) -> RedirectResponse:
    return RedirectResponse(address, status_code=303)


@router.get(to_shell.home.route)
def home(request: Request, here: Here) -> Response:
    """To the desk after sign-in, to sign-in otherwise, to the first run in an empty data folder."""
    if not people.is_any(here.db):
        return see_other(to_shell.first_run())
    person = somebody(request)
    if person is None:
        return see_other(to_shell.sign_in())
    mine = blogs.of_person(here.db, person.id)
    return see_other(to_desk.desk(mine[0].slug) if mine else to_shell.account())


@router.get(to_shell.robots.route)
def robots(here: Here) -> Response:
    """What crawlers may look at on this server: the published sites."""
    lines = ["User-agent: *", "Disallow: /desk/", "Disallow: /posts/", "Allow: /b/", ""]
    lines += [f"Sitemap: {blog.home}sitemap.xml" for blog in blogs.every(here.db)]
    return PlainTextResponse("\n".join(lines) + "\n")


@router.get(to_shell.first_run.route)
def first_run(request: Request, here: Here, word: str = "") -> Response:
    if people.is_any(here.db):
        return see_other(to_shell.home())
    empty = dict.fromkeys(("name", "email", "blog", "tagline", "address", "zone"), "")
    return _first_run(request, {**empty, "word": word}, bool(word))


def _first_run(
    request: Request, values: dict[str, str], has_word: bool, problem: Refused | None = None
) -> Response:
    wanted = values.get("language") or request.headers.get("accept-language", "en")[:2].lower()
    chosen = wanted if wanted in NAMES else "en"
    languages = [
        Choice(tag, name, tag == chosen) for tag, name in sorted(NAMES.items(), key=lambda pair: pair[1])
    ]
    field = getattr(problem, "field", "")
    context = FirstRunPage(values, all_zones(), languages, has_word, str(problem or ""), field)
    return page(context, 422 if problem else 200)


@router.post(to_shell.first_run.route)
def begin(
    request: Request, here: Here, name: Text = "", email: Text = "", password: Text = "", blog: Text = "", tagline: Text = "", language: Text = "",
    address: Text = "", zone: Text = "", word: Text = "",
) -> Response:  # fmt: skip
    values = {
        "name": name,
        "email": email,
        "blog": blog,
        "tagline": tagline,
        "language": language,
        "address": address or make_slug(blog, "") or "blog",
        "zone": zone or "UTC",
        "word": word,
    }
    slug = values["address"].strip().strip("/").lower()
    if people.is_any(here.db):
        return see_other(to_shell.home())
    try:
        first_run_actions.check(here, word)
        person, made = blog_actions.set_up(
            here, name=name, email=email, password=password, blog=blog, tagline=tagline, language=language, address=values["address"], zone=values["zone"],
            home=str(request.base_url).rstrip("/") + to_public.public(slug),
        )  # fmt: skip
        post = post_actions.new_post(here, person, made.slug)
    except Refused as error:
        return _first_run(request, values, bool(word) and getattr(error, "field", "") != "word", error)
    answer = see_other(f"{to_write.write(post.id)}?first=yes")
    session.begin(here, answer, people_actions.begin_session(here, person))
    return answer


@router.get(to_shell.sign_in.route)
def sign_in_page(here: Here, then: str = "") -> Response:
    if not people.is_any(here.db):
        return see_other(to_shell.first_run())
    return page(SignInPage("", then, here.settings.demo_account))


@router.post(to_shell.sign_in.route)
def sign_in(request: Request, here: Here, email: Text = "", password: Text = "", then: Text = "") -> Response:
    address = request.client.host if request.client else ""
    try:
        begun = people_actions.sign_in(
            here,
            email,
            password,
            address,
            cookies.of_request(request).get(cookies.device_cookie(here.settings), ""),
            token_of(request),
            request.headers.get("user-agent", ""),
        )
    except NeedsFactor as error:
        return factor_page(here, error.token, then)
    except TooSoon as error:
        return page(SignInPage(email, then, here.settings.demo_account, str(error)), 429)
    except Refused as error:
        return page(SignInPage(email, then, here.settings.demo_account, str(error)), 422)
    answer = see_other(then if is_here(then) else to_shell.home())
    session.begin(here, answer, begun)
    return answer


@router.post(to_shell.sign_out.route)
def sign_out(request: Request, here: Here) -> Response:
    people_actions.sign_out(here, token_of(request))
    answer = see_other(to_shell.sign_in())
    session.end(here, answer)
    return answer


@router.get(to_shell.account.route)
def account(here: Here, me: Me) -> Response:
    return page(_account(here, me))


@router.post(to_shell.account.at("theme"))
def set_theme(here: Here, me: Me, value: Text = "") -> Response:
    """Shows the screens in the light or in the dark."""
    preferences.set_theme(here, me, value)
    return see_other(to_shell.account())


@router.post(to_shell.account.at("web-address"))
def set_web_address(here: Here, me: Me, web_address: Text = "") -> Response:
    """Where somebody stands on the web, which search engines are told."""
    try:
        profiles.set_web_address(here, me, web_address)
    except BadInput as error:
        return page(
            replace(
                _account(here, me), web_address=web_address, problem=str(error), problem_field=error.field
            ),
            422,
        )
    return see_other(to_shell.account())


@router.post(to_shell.account.at("words"))
def forget_word(here: Here, me: Me, word: Text = "") -> Response:
    """Forgets a word that the proof learned for this person."""
    house_words.forget_word(here, me, word)
    return see_other(to_shell.account())


@router.post(to_shell.account.at("password"))
def change_password(
    request: Request, here: Here, me: Me, old: Text = "", new: Text = "", again: Text = ""
) -> Response:
    shown = _account(here, me)
    try:
        if new != again:
            raise BadInput("The two new passwords differ; type the same one twice.", "again")
        people_actions.change_password(here, me, old, new, token_of(request))
    except Refused as error:
        return page(replace(shown, problem=str(error), problem_field=getattr(error, "field", "")), 422)
    return page(replace(shown, message="The password is changed. Other browsers are signed out."))


def _account(here: Workshop, me: Person) -> AccountPage:
    themes = [Choice(value, words, value == me.theme) for value, words in preferences.THEMES.items()]
    return AccountPage(
        bar_for(here, me, None, "account"),
        proofs.learned_for(here.db, person_id=me.id),
        themes,
        me.web_address,
        {
            "name": me.name,
            "line": me.author_line,
            "text": me.profile,
            "links": "\n".join(json.loads(me.author_links)),
        },
        [_portrait(here, blog, me) for blog in blogs.of_person(here.db, me.id)],
        [Choice(code, words, code == me.date_language) for code, words in LANGUAGES.items()],
        [blog.name for blog in blogs.of_person(here.db, me.id) if profiles.is_waiting(here, blog, me)],
        [Choice(blog.slug, blog.name) for blog in blogs.of_person(here.db, me.id)],
    )


def account_page(here: Workshop, me: Person, status: int = 200, **more: Any) -> Response:
    """One's account, with what came of something, or the reason of a refusal."""
    return page(replace(_account(here, me), **more), status)


def factor_page(here: Workshop, token: str, then: str, problem: str = "", status: int = 200) -> Response:
    """Asks for the second factor of a sign-in that was begun."""
    found = factors.factors_of(here, people_actions.begun_sign_in(here, token))
    return page(FactorPage(token, then, found.has_codes, bool(found.passkeys), problem), status)


def is_here(path: str) -> bool:
    """Whether a path is one of this server's, and no address of another one."""
    return path.startswith("/") and not path.startswith(("//", "/\\"))


MOST_PICTURES = 60


def _portrait(here: Workshop, blog: Blog, me: Person) -> Portrait:
    chosen = people.picture(here.db, blog.id, me.id)
    rows = media.find(here.db, blog.id, Wanted(kind="picture"), MOST_PICTURES)
    return Portrait(
        blog.slug, blog.name, [Choice(str(row.id), row.caption or row.name, row.id == chosen) for row in rows]
    )


@router.post(to_shell.account.at("profile"))
def set_profile(form: AnyForm, here: Here, me: Me) -> Response:
    """How readers see somebody."""
    typed = {name: str(form.get(name, "")) for name in ("name", "line", "text", "links")}
    pictures = {
        name.removeprefix("picture:"): int(str(value))
        if str(value).isdecimal() and len(str(value)) < 16
        else None
        for name, value in form.items()
        if name.startswith("picture:")
    }
    try:
        profiles.set_profile(here, me, **typed, pictures=pictures)
    except BadInput as error:
        shown = replace(_account(here, me), profile=typed, problem=str(error), problem_field=error.field)
        return page(shown, 422)
    return see_other(to_shell.account())


@router.get(to_shell.changes.route)
def changes(here: Here, me: Me, slug: str) -> Response:
    """The number of the blog's last change, for windows that are open."""
    blog = blog_for(here, me, slug)
    return JSONResponse({"number": events.number(here.db, blog.id)})
