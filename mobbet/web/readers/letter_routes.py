"""The Letters screen: the rules of letters, what became of them, and who gets them."""

from __future__ import annotations

from typing import Annotated, Any

from fastapi import APIRouter, File, Form, UploadFile
from starlette.responses import Response

from mobbet.actions import letter_rules, mailings, subscribers
from mobbet.actions.access import blog_for
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput, Refused
from mobbet.core.rights import Action
from mobbet.core.subscriptions import ON
from mobbet.store.people import Person
from mobbet.web.readers import addresses as to_readers
from mobbet.web.readers.letter_view import letters_page
from mobbet.web.shell.fields import Text
from mobbet.web.shell.rendering import page
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.session import Here, Me

router = APIRouter()
TOLD = {
    "rule": "That is how it is from now on.",
    "added": "Letters go to them from now on.",
    "ended": "No more letters go to them.",
    "forgotten": "Nothing is known of them any more.",
    "corrected": "The correction goes to all who got the letter.",
}
MOST_PROBLEMS = 8


@router.get(to_readers.letters_of_blog.route)
def screen(
    here: Here, me: Me, slug: str, state: str = ON, words: str = "", after: str = "", told: str = ""
) -> Response:
    blog = blog_for(here, me, slug, Action.KEEP_READERS)
    return page(letters_page(here, me, blog, state, words.strip()[:200], after, told=TOLD.get(told, "")))


def _refused(here: Workshop, me: Person, slug: str, error: Refused, **more: Any) -> Response:
    blog = blog_for(here, me, slug, Action.KEEP_READERS)
    return page(letters_page(here, me, blog, problem=str(error), **more), 422)


@router.post(to_readers.letters_doing.at("rule"))
def set_rule(here: Here, me: Me, slug: str, where: Text = "", value: Text = "") -> Response:
    try:
        letter_rules.set_rule(here, me, slug, where, value)
    except BadInput as error:
        blog = blog_for(here, me, slug, Action.KEEP_READERS)
        return page(letters_page(here, me, blog, refused=(where, value, str(error))), 422)
    return see_other(to_readers.letters_of_blog(slug, told="rule"))


@router.post(to_readers.letters_doing.at("add"))
def add(
    here: Here,
    me: Me,
    slug: str,
    email: Text = "",
    what: Text = "all",
    every: Text = "post",
    consent: Text = "",
) -> Response:
    blog = blog_for(here, me, slug, Action.KEEP_READERS)
    try:
        subscribers.add(here, me, blog, email, what, every, consent)
    except Refused as error:
        return _refused(
            here, me, slug, error, typed={"email": email, "what": what, "every": every, "consent": consent}
        )
    return see_other(to_readers.letters_of_blog(slug, told="added"))


@router.post(to_readers.letters_doing.at("end"))
def end(here: Here, me: Me, slug: str, subscriber: Annotated[int, Form()] = 0) -> Response:
    blog = blog_for(here, me, slug, Action.KEEP_READERS)
    try:
        subscribers.end(here, me, blog, subscriber)
    except Refused as error:
        return _refused(here, me, slug, error)
    return see_other(to_readers.letters_of_blog(slug, told="ended"))


@router.post(to_readers.letters_doing.at("forget"))
def forget(here: Here, me: Me, slug: str, subscriber: Annotated[int, Form()] = 0) -> Response:
    blog = blog_for(here, me, slug, Action.KEEP_READERS)
    try:
        subscribers.forget(here, me, blog, subscriber)
    except Refused as error:
        return _refused(here, me, slug, error)
    return see_other(to_readers.letters_of_blog(slug, told="forgotten"))


@router.post(to_readers.letters_doing.at("correct"))
def correct(here: Here, me: Me, slug: str, post: Annotated[int, Form()] = 0, words: Text = "") -> Response:
    """Sends a correction to all who got the letter about a post."""
    try:
        mailings.correct(here, me, post, words)
    except Refused as error:
        return _refused(here, me, slug, error, typed={"post": str(post), "words": words})
    return see_other(to_readers.letters_of_blog(slug, told="corrected"))


@router.post(to_readers.letters_doing.at("import"))
async def bring_in(
    here: Here, me: Me, slug: str, file: Annotated[UploadFile, File()], consent: Text = ""
) -> Response:
    """Adds the subscribers of a CSV file."""
    data = await file.read()
    from starlette.concurrency import run_in_threadpool

    return await run_in_threadpool(_bring_in, here, me, slug, data, consent)


def _bring_in(here: Workshop, me: Person, slug: str, data: bytes, consent: str) -> Response:
    blog = blog_for(here, me, slug, Action.KEEP_READERS)
    try:
        source = data.decode("utf-8-sig", errors="replace")
        found = subscribers.bring_in(here, me, blog, source, consent, subscribers.spellings(here, blog))
    except Refused as error:
        return _refused(here, me, slug, error, typed={"list-consent": consent})
    told = f"{found.new} new, {found.known} known already."
    problems = [f"Line {line}: {why}" for line, why in found.problems[:MOST_PROBLEMS]]
    if len(found.problems) > MOST_PROBLEMS:
        problems.append(f"And {len(found.problems) - MOST_PROBLEMS} lines more.")
    return page(letters_page(here, me, blog, told=told, problems=problems))


@router.get(to_readers.subscribers_file.route)
def download(here: Here, me: Me, slug: str) -> Response:
    """All subscribers as CSV."""
    blog = blog_for(here, me, slug, Action.KEEP_READERS)
    headers = {
        "Content-Disposition": f'attachment; filename="subscribers-{blog.slug}.csv"',
        "Cache-Control": "no-store",
    }
    return Response(subscribers.as_csv(here, me, blog), media_type="text/csv; charset=utf-8", headers=headers)
