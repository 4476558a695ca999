"""The Comments screen: what readers wrote, to be shown, refused and answered."""

from __future__ import annotations

import json
import re
from collections.abc import Callable
from typing import Annotated, Any

from fastapi import APIRouter, Form
from markupsafe import Markup
from starlette.responses import Response

from mobbet.actions import comment_letters, comments, mentions, robots
from mobbet.actions.access import blog_for, is_keeper
from mobbet.actions.workshop import Workshop
from mobbet.core import comments as rules
from mobbet.core.comments import REFUSED, SHOWN, STATES, WAITS
from mobbet.core.errors import NotFound, Refused
from mobbet.core.robots import WAYS
from mobbet.core.screen_dates import ago_in_words
from mobbet.core.values import existing
from mobbet.core.web_addresses import split_address
from mobbet.store import comments as store
from mobbet.store import placements, posts, targets
from mobbet.store.blogs import Blog
from mobbet.store.comments import Comment
from mobbet.store.people import Person
from mobbet.web.public import addresses as to_public
from mobbet.web.readers import addresses as to_readers
from mobbet.web.readers.comment_contexts import CommentShown, CommentsPage, Settled
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.contexts import Choice
from mobbet.web.shell.fields import Numbers, Text
from mobbet.web.shell.rendering import page
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.session import Here, Me
from mobbet.web.write import addresses as to_write

router = APIRouter()
ON_PAGE, MOST_POSTS, NEWEST = 30, 12, 1 << 60
WORK = {"": "does nothing", "yes": "works for a moment"}
"""Whether a reader's browser works before it sends a comment, in words."""
MENTIONS = {"on": "stand here as comments that wait", "": "are not taken"}
"""What becomes of pages of other sites that link to a post, in words."""
BECAME = {SHOWN: "shown now", REFUSED: "refused, and shown to nobody", WAITS: "waiting again"}


@router.get(to_readers.comments.route)
def screen(
    here: Here,
    me: Me,
    slug: str,
    state: str = WAITS,
    post: int = 0,
    before: int = NEWEST,
    did: str = "",
    ids: str = "",
    was: str = "",
) -> Response:
    numbers = [int(number) for number in ids.split("-")] if re.fullmatch(r"\d{1,15}(-\d{1,15})*", ids) else []
    return _page(
        here,
        me,
        blog_for(here, me, slug),
        state if state in STATES else WAITS,
        post,
        before,
        settled=_settled(did, numbers, was),
    )


def _settled(did: str, numbers: list[int], was: str) -> Settled | None:
    count = len(numbers)
    if did == "removed":
        return Settled("Removed for good.", [], "")
    if did == "answered":
        return Settled("Your answer stands under the comment.", [], "")
    if did == "rule":
        return Settled("That is how it is from now on.", [], "")
    if did not in BECAME or not count:
        return None
    return Settled(
        f"{count if count > 1 else 'The'} comment{'s are' if count > 1 else ' is'} {BECAME[did]}.",
        numbers,
        was if was in STATES else "",
    )


def _page(
    here: Workshop,
    me: Person,
    blog: Blog,
    state: str,
    post: int = 0,
    before: int = NEWEST,
    status: int = 200,
    **more: Any,
) -> Response:
    author = comments.mine(here, me, blog)
    rows = store.page(here.db, blog.id, state, post, author, before, ON_PAGE + 1)
    counts = store.counts(here.db, blog.id, post, author)
    known = {
        row.id: row.name
        for row in store.by_ids(here.db, blog.id, [row.answers for row in rows if row.answers])
    }
    about = posts.on_blog(here.db, blog.id, post) if post else None
    if post and about is None:
        raise NotFound("This post is no more; the desk leads to the others.")
    context = CommentsPage(
        bar=bar_for(here, me, blog, "readers" if is_keeper(here, me, blog) else "desk"),
        state=state,
        states=[
            Choice(
                to_readers.comments(blog.slug, name, post),
                words.capitalize(),
                name == state,
                str(counts.get(name, 0)),
            )
            for name, words in STATES.items()
        ],
        comments=[_shown(here, blog, row, known) for row in rows[:ON_PAGE]],
        more=to_readers.comments(blog.slug, state, post, before=rows[ON_PAGE - 1].id)
        if len(rows) > ON_PAGE
        else "",
        post=post,
        post_title=about.title if about else "",
        posts=[
            Choice(
                to_readers.comments(blog.slug, state, number),
                title or "No title yet",
                number == post,
                str(many),
            )
            for number, title, many in store.by_post(here.db, blog.id, state, author, MOST_POSTS)
        ],
        **_rules(blog),
        is_mine=bool(author),
        has_places=bool(blog.comments and targets.of_blog(here.db, blog.id)),
        **more,
    )
    return page(context, status)


def _rules(blog: Blog) -> dict[str, Any]:
    """The rules of the sentence at the top, with their choices."""
    return {
        "who": [Choice(value, words, value == blog.comments) for value, words in rules.WHO.items()],
        "waiting": [
            Choice(value, words, value == blog.comments_wait) for value, words in rules.WAITING.items()
        ],
        "guard": [Choice(value, words, value == blog.guard) for value, words in WAYS.items()],
        "blocklist": json.loads(blog.blocklist),
        "work": [
            Choice(value, words, value == ("yes" if blog.comment_work else ""))
            for value, words in WORK.items()
        ],
        "mentions": [Choice(value, words, value == blog.mentions) for value, words in MENTIONS.items()],
        "often": [
            Choice(value, words, value == blog.comment_letters)
            for value, words in comment_letters.OFTEN.items()
        ],
        "to_whom": [
            Choice(value, words, value == blog.comment_letters_to)
            for value, words in comment_letters.TO.items()
        ],
    }


def _shown(here: Workshop, blog: Blog, row: Comment, known: dict[int, str]) -> CommentShown:
    now = here.clock()
    live = placements.shown_at(placements.of_post(here.db, row.post_id), now)
    anchor = f"#comment-{row.id}" if row.state == SHOWN else ""
    href = to_public.public(blog.slug, live.path) + anchor if live else to_write.write(row.post_id)
    title = existing(posts.on_blog(here.db, blog.id, row.post_id)).title or "No title yet"
    return CommentShown(
        row.id,
        row.name,
        row.email,
        ago_in_words(row.made_at, blog.zone, now),
        Markup(rules.html_of(row.text)),
        title,
        href,
        known.get(row.answers or 0, ""),
        row.why,
        row.source,
        split_address(row.source).hostname or "",
    )


def _attempt(
    here: Workshop,
    me: Person,
    slug: str,
    state: str,
    post: int,
    change: Callable[[], object],
    done: Callable[[], Response],
    **typed: str,
) -> Response:
    """Makes a change; shows the screen with the reason, and what was typed, where it is refused."""
    blog = blog_for(here, me, slug)
    try:
        change()
    except Refused as error:
        return _page(
            here,
            me,
            blog,
            state if state in STATES else WAITS,
            post,
            status=422,
            problem=str(error),
            typed=typed,
        )
    return done()


@router.post(to_readers.comments_change.at("settle"))
def settle(
    here: Here,
    me: Me,
    slug: str,
    comment: Numbers = [],
    become: Text = "",
    state: Text = WAITS,
    post: Annotated[int, Form()] = 0,
) -> Response:  # noqa: B006
    """Shows the chosen comments, refuses them, or lets them wait again."""
    done = lambda: see_other(
        to_readers.comments(slug, state, post, did=become, ids="-".join(map(str, comment)), was=state)
    )  # noqa: E731
    return _attempt(
        here, me, slug, state, post, lambda: comments.settle(here, me, slug, comment, become), done
    )


@router.post(to_readers.comments_change.at("remove"))
def remove(
    here: Here,
    me: Me,
    slug: str,
    comment: Numbers = [],
    state: Text = WAITS,
    post: Annotated[int, Form()] = 0,
) -> Response:  # noqa: B006
    return _attempt(
        here,
        me,
        slug,
        state,
        post,
        lambda: comments.remove(here, me, slug, comment),
        lambda: see_other(to_readers.comments(slug, state, post, did="removed")),
    )


def _change_rule(
    here: Workshop, me: Person, slug: str, change: Callable[[], object], **typed: str
) -> Response:
    """Changes a rule of the sentence at the top."""
    return _attempt(
        here, me, slug, WAITS, 0, change, lambda: see_other(to_readers.comments(slug, did="rule")), **typed
    )


@router.post(to_readers.comments_change.at("rule"))
def set_rule(here: Here, me: Me, slug: str, who: Text = "", waiting: Text = "") -> Response:
    return _change_rule(here, me, slug, lambda: comments.set_rule(here, me, slug, who, waiting))


@router.post(to_readers.comments_change.at("guard"))
def set_guard(here: Here, me: Me, slug: str, value: Text = "") -> Response:
    """What the guard against robots does."""
    return _change_rule(here, me, slug, lambda: robots.set_guard(here, me, slug, value))


@router.post(to_readers.comments_change.at("work"))
def set_work(here: Here, me: Me, slug: str, value: Text = "") -> Response:
    """Whether a reader's browser works before it sends a comment."""
    return _change_rule(here, me, slug, lambda: comments.set_work(here, me, slug, value == "yes"))


@router.post(to_readers.comments_change.at("mentions"))
def set_mentions(here: Here, me: Me, slug: str, value: Text = "") -> Response:
    """Whether links are told to other sites, and theirs are taken."""
    return _change_rule(here, me, slug, lambda: mentions.set_mentions(here, me, slug, value == "on"))


@router.post(to_readers.comments_change.at("letters"))
def set_letters(
    here: Here, me: Me, slug: str, often: Text = "", to: Text = comment_letters.AUTHOR
) -> Response:
    """To whom letters go about comments that wait."""
    return _change_rule(here, me, slug, lambda: comment_letters.set_rule(here, me, slug, often, to))


@router.post(to_readers.comments_change.at("blocklist"))
def set_blocklist(here: Here, me: Me, slug: str, blocklist: Text = "") -> Response:
    """What is refused for good."""
    return _change_rule(
        here, me, slug, lambda: comments.set_blocklist(here, me, slug, blocklist), blocklist=blocklist
    )


@router.post(to_readers.comments_change.at("empty"))
def empty_refused(here: Here, me: Me, slug: str) -> Response:
    """Removes all refused comments for good."""
    return _attempt(
        here,
        me,
        slug,
        REFUSED,
        0,
        lambda: comments.empty_refused(here, me, slug),
        lambda: see_other(to_readers.comments(slug, REFUSED, did="removed")),
    )


@router.post(to_readers.comment_answer.route)
def answer(
    here: Here,
    me: Me,
    slug: str,
    number: int,
    text: Text = "",
    state: Text = WAITS,
    post: Annotated[int, Form()] = 0,
) -> Response:
    done = lambda: see_other(to_readers.comments(slug, state, post, did="answered"))  # noqa: E731
    return _attempt(
        here,
        me,
        slug,
        state,
        post,
        lambda: comments.answer(here, me, slug, number, text),
        done,
        number=str(number),
        text=text,
    )
