"""Accounts elsewhere at which posts are announced, and what became of it."""

from __future__ import annotations

from typing import Annotated, Any

from fastapi import APIRouter, Form
from starlette.responses import Response

from mobbet.actions import announcing
from mobbet.actions.access import owned_blog
from mobbet.actions.workshop import Workshop
from mobbet.core.announcing import FIELDS, KINDS, REFUSED, STAND_IN, UNCLEAR, WHAT
from mobbet.core.errors import Refused
from mobbet.core.keys import ALL
from mobbet.core.screen_dates import ago_in_words
from mobbet.store import announcing as store
from mobbet.store import posts
from mobbet.store.announcing import Account, Announcement
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.snapshot import SiteSnapshot
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.contexts import Choice
from mobbet.web.shell.fields import Text
from mobbet.web.shell.rendering import page
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.session import Here, Me
from mobbet.web.site import addresses as to_site
from mobbet.web.site.account_contexts import AccountShown, AccountsPage, AnnouncementShown
from mobbet.web.site.sentence_contexts import Sentence, Word
from mobbet.web.site.sentences import with_problem
from mobbet.web.write import addresses as to_write

router = APIRouter()
MOST_SHOWN = 30
TOLD = {
    "added": "Posts that go out from now on are announced there.",
    "kept": "That is how it is from now on.",
    "removed": "Nothing is announced there any more.",
    "again": "It is sent once more.",
}


@router.get(to_site.accounts.route)
def screen(here: Here, me: Me, slug: str, told: str = "") -> Response:
    return _page(here, me, slug, told=TOLD.get(told, ""))


def _page(
    here: Workshop,
    me: Person,
    slug: str,
    status: int = 200,
    refused: tuple[int, str, str, str] | None = None,
    **more: Any,
) -> Response:
    """`refused` is (account, word, what was typed, the reason)."""
    blog = owned_blog(here, me, slug)
    context = AccountsPage(
        bar=bar_for(here, me, blog, "site"),
        accounts=[_account(here, blog, one, refused) for one in store.of_blog(here.db, blog.id)],
        announcements=[
            _announcement(here, blog, one, name) for one, name in store.newest(here.db, blog.id, MOST_SHOWN)
        ],
        kinds=[
            Choice(kind, words, kind == more.get("typed", {}).get("kind", STAND_IN))
            for kind, words in KINDS.items()
        ],
        **more,
    )
    return page(context, status)


def _account(
    here: Workshop, blog: Blog, one: Account, refused: tuple[int, str, str, str] | None
) -> AccountShown:
    when = "at once" if not one.delay else f"{one.delay:,} minutes later"
    sentence: Sentence = [
        "When a post has gone out, it is announced there",
        Word("delay", "after how many minutes it is announced", when, least=0, most=10_080, number=one.delay, verb="Keep"),
        "as",
        Word("pattern", "what is announced", one.pattern, text=one.pattern, rows=3, hint=f"It may fill in {', '.join(f'{{{name}}}' for name in FIELDS)}.", verb="Keep"),
        "in at most",
        Word("longest", "how many letters the account takes", f"{one.longest:,} letters", least=60, most=10_000, number=one.longest, verb="Keep"),
        ".",
    ]  # fmt: skip
    if refused and refused[0] == one.id:
        sentence = with_problem(sentence, *refused[1:])
    snapshot = SiteSnapshot(here.db, blog.id, here.clock())
    newest = next(iter(snapshot.newest(ALL, 1)), None)
    sample = announcing.notice_of(here, blog, one, newest, snapshot).text if newest else ""
    return AccountShown(one.id, one.name, KINDS[one.kind], one.profile, sentence, sample, len(sample))


def _announcement(here: Workshop, blog: Blog, one: Announcement, account: str) -> AnnouncementShown:
    post = posts.on_blog(here.db, blog.id, one.post_id)
    when = ago_in_words(one.made_at, blog.zone, here.clock())
    return AnnouncementShown(
        one.post_id, one.account_id, (post.title if post else "") or "No title yet", to_write.write(one.post_id), account, one.text,
        f"{WHAT[one.state]}, {when}", one.problem, one.answer, one.state in (REFUSED, UNCLEAR),
    )  # fmt: skip


@router.post(to_site.accounts_doing.at("add"))
def add(
    here: Here,
    me: Me,
    slug: str,
    kind: Text = STAND_IN,
    name: Text = "",
    address: Text = "",
    profile: Text = "",
    token: Text = "",
) -> Response:
    try:
        announcing.add(here, me, slug, kind, name, address, profile, token)
    except Refused as error:
        typed = {"kind": kind, "name": name, "address": address, "profile": profile}
        return _page(here, me, slug, 422, problem=str(error), typed=typed)
    return see_other(to_site.accounts(slug) + "?told=added")


@router.post(to_site.account_change.at("word"))
def set_word(here: Here, me: Me, slug: str, number: int, where: Text = "", value: Text = "") -> Response:
    try:
        announcing.set_word(here, me, slug, number, where, value)
    except Refused as error:
        return _page(here, me, slug, 422, (number, where, value, str(error)))
    return see_other(to_site.accounts(slug) + "?told=kept")


@router.post(to_site.account_change.at("remove"))
def remove(here: Here, me: Me, slug: str, number: int) -> Response:
    try:
        announcing.remove(here, me, slug, number)
    except Refused as error:
        return _page(here, me, slug, 422, problem=str(error))
    return see_other(to_site.accounts(slug) + "?told=removed")


@router.post(to_site.account_change.at("again"))
def send_again(here: Here, me: Me, slug: str, number: int, post: Annotated[int, Form()] = 0) -> Response:
    try:
        announcing.send_again(here, me, slug, number, post)
    except Refused as error:
        return _page(here, me, slug, 422, problem=str(error))
    return see_other(to_site.accounts(slug) + "?told=again")
