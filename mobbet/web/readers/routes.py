"""The Readers screen: groups, who is in them, invitations, and the letters that were written."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Any

from fastapi import APIRouter, Form
from starlette.responses import Response

from mobbet.actions import blogs as blog_actions
from mobbet.actions import readers
from mobbet.actions.access import blog_for
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import NotFound, Refused
from mobbet.core.rights import Action
from mobbet.core.screen_dates import ago_in_words
from mobbet.publish.pages import feed
from mobbet.store import comments
from mobbet.store import readers as store
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.readers import Group, Letter, ReaderRow
from mobbet.web.readers import addresses as to_readers
from mobbet.web.readers.contexts import GroupRow, GroupShown, LetterShown, ReaderShown, ReadersPage
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.fields import LongText, Text
from mobbet.web.shell.rendering import page
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.session import Here, Me
from mobbet.web.write import addresses as to_write

router = APIRouter()
ON_PAGE = 100
MOST_LETTERS = 12
MOST_POSTS = 30
TOLD = {
    "made": "The group is made; invite readers to it.",
    "renamed": "It has its new name.",
    "removed": "The group is removed; its readers stay readers of the blog.",
    "renewed": "The feed has new addresses; the old ones answer nobody.",
    "out": "They are taken out, and read what is for others no more.",
    "again": "Another letter is written.",
    "entry": "That is how it is from now on.",
}


@router.get(to_readers.readers.route)
def screen(
    here: Here,
    me: Me,
    slug: str,
    group: int = 0,
    after: str = "",
    told: str = "",
    new: int = -1,
    letters: int = 0,
) -> Response:
    blog = blog_for(here, me, slug, Action.KEEP_READERS)
    words = TOLD.get(told, "")
    if new >= 0:
        words = (
            f"{readers.count_words(new)} new, {letters} letter{'s' if letters != 1 else ''} written."
            if new
            else "All of them were in here already; nobody was written to."
        )
    return _page(here, me, blog, group, after, told=words)


def _page(
    here: Workshop, me: Person, blog: Blog, number: int, after: str = "", status: int = 200, **more: Any
) -> Response:
    chosen = store.group(here.db, number) if number else None
    if chosen is not None and chosen.blog_id != blog.id:
        raise NotFound("This group is no more; the groups of the blog stand at the left.")
    sizes, now = store.sizes(here.db, blog.id), here.clock()
    rows = store.of_blog(here.db, blog.id, chosen.id if chosen else None, after, ON_PAGE + 1)
    shown = rows[:ON_PAGE]
    context = ReadersPage(
        bar=bar_for(here, me, blog, "readers"),
        groups=[
            GroupRow(one.id, one.name, sizes.get(one.id, 0), chosen == one)
            for one in store.groups(here.db, blog.id)
        ],
        chosen=_group(here, blog, chosen) if chosen else None,
        readers=[_reader(row, chosen, blog, now) for row in shown],
        more=to_readers.readers(blog.slug, number, after=shown[-1].email) if len(rows) > ON_PAGE else "",
        total=store.count_readers(here.db, blog.id),
        signed_in=readers.count_words(store.count(here.db, blog.id)).capitalize(),
        is_open=bool(blog.open_entry),
        letters=[_letter(here, one, blog, now) for one in store.letters(here.db, blog.id, MOST_LETTERS)],
        keeps_letters=here.services.mail.keeps,
        way_in=f"{blog.home}~/in",
        waiting=comments.waiting(here.db, blog.id, 0),
        **more,
    )
    return page(context, status)


def _group(here: Workshop, blog: Blog, group: Group) -> GroupShown:
    found = store.posts_now(here.db, group.id, here.clock(), MOST_POSTS + 1)
    posts = [(title or "No title yet", to_write.write(number)) for number, title in found[:MOST_POSTS]]
    more = f"The newest {MOST_POSTS} are named." if len(found) > MOST_POSTS else ""
    return GroupShown(
        group.id,
        group.name,
        posts,
        more,
        [
            (
                name.capitalize() if name == "atom" else name.upper(),
                f"{blog.home}~/feed/{group.feed_key}.{name}",
            )
            for name in feed.FORMATS
        ],
        group.writes_since is not None,
    )


def _reader(row: ReaderRow, chosen: Group | None, blog: Blog, now: int) -> ReaderShown:
    names = [name for name in row.groups if chosen is None or name != chosen.name]
    return ReaderShown(
        row.person_id,
        row.name,
        row.email,
        ", ".join(names),
        ago_in_words(row.joined_at, blog.zone, now) if row.joined_at else "not yet",
    )


def _letter(here: Workshop, letter: Letter, blog: Blog, now: int) -> LetterShown:
    written = ago_in_words(letter.made_at, blog.zone, now)
    if here.services.mail.keeps and letter.aside_at is None:
        return LetterShown(letter.recipient, letter.subject, f"written {written}", False, letter.text)
    what = f"sent {written}" if letter.sent_at else letter.problem or "waits to be sent"
    return LetterShown(
        letter.recipient, letter.subject, what, bool(letter.problem) and not letter.sent_at, ""
    )


def _attempt(
    here: Workshop,
    me: Person,
    slug: str,
    number: int,
    told: str,
    change: Callable[[Blog], object],
    **typed: str,
) -> Response:
    """Makes a change and shows the screen again; with the reason and what was typed where it is refused."""
    blog = blog_for(here, me, slug, Action.KEEP_READERS)
    try:
        made = change(blog)
    except Refused as error:
        return _page(here, me, blog, number, status=422, problem=str(error), typed=typed)
    if isinstance(made, readers.Added):
        return see_other(to_readers.readers(slug, number, new=made.new, letters=made.letters))
    return see_other(to_readers.readers(slug, made.id if isinstance(made, Group) else number, told=told))


@router.post(to_readers.readers_add.at("group"))
def make_group(here: Here, me: Me, slug: str, name: Text = "") -> Response:
    return _attempt(
        here, me, slug, 0, "made", lambda blog: readers.make_group(here, me, blog, name), name=name
    )


@router.post(to_readers.readers_add.at("entry"))
def set_entry(here: Here, me: Me, slug: str, open: Text = "") -> Response:
    return _attempt(
        here, me, slug, 0, "entry", lambda blog: blog_actions.set_open_entry(here, me, slug, bool(open))
    )


@router.post(to_readers.group_change.at("rename"))
def rename(here: Here, me: Me, slug: str, number: int, name: Text = "") -> Response:
    return _attempt(
        here, me, slug, number, "renamed", lambda blog: readers.rename_group(here, me, blog, number, name)
    )


@router.post(to_readers.group_change.at("remove"))
def remove(here: Here, me: Me, slug: str, number: int) -> Response:
    blog = blog_for(here, me, slug, Action.KEEP_READERS)
    try:
        readers.remove_group(here, me, blog, number)
    except Refused as error:
        return _page(here, me, blog, number, status=422, problem=str(error))
    return see_other(to_readers.readers(slug, told="removed"))


@router.post(to_readers.group_change.at("renew"))
def renew(here: Here, me: Me, slug: str, number: int) -> Response:
    return _attempt(
        here, me, slug, number, "renewed", lambda blog: readers.renew_feed(here, me, blog, number)
    )


@router.post(to_readers.group_change.at("writes"))
def set_writes(here: Here, me: Me, slug: str, number: int, writes: Text = "") -> Response:
    return _attempt(
        here, me, slug, number, "entry", lambda blog: readers.set_writes(here, me, blog, number, bool(writes))
    )


@router.post(to_readers.group_change.at("invite"))
def invite(here: Here, me: Me, slug: str, number: int, lines: LongText = "") -> Response:
    return _attempt(
        here,
        me,
        slug,
        number,
        "",
        lambda blog: readers.add_readers(here, me, blog, number or None, lines),
        lines=lines,
    )


@router.post(to_readers.group_change.at("again"))
def invite_again(here: Here, me: Me, slug: str, number: int, reader: Annotated[int, Form()] = 0) -> Response:
    return _attempt(
        here, me, slug, number, "again", lambda blog: readers.invite_again(here, me, blog, reader)
    )


@router.post(to_readers.group_change.at("take-out"))
def take_out(here: Here, me: Me, slug: str, number: int, reader: Annotated[int, Form()] = 0) -> Response:
    return _attempt(
        here, me, slug, number, "out", lambda blog: readers.take_out(here, me, blog, reader, number or None)
    )
