"""Comments on a published site: the form, changing one within ten minutes, further pages, and feeds."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from fastapi import APIRouter, Request
from starlette.responses import Response

from mobbet.actions import comments, robots, subscribers
from mobbet.actions.workshop import Workshop
from mobbet.core import comments as rules
from mobbet.core.audience import STRANGER, Reader
from mobbet.core.errors import NotAllowed, NotFound, Refused, TooSoon
from mobbet.core.facts import OutPost
from mobbet.core.proof_of_work import BITS
from mobbet.publish.comment_feed import TYPE, comment_feed
from mobbet.publish.pages.post import MOST_COMMENTS
from mobbet.publish.reader_forms import Ask, CommentForm, CommentList, comment_list, comment_page
from mobbet.store import comments as store
from mobbet.store import people
from mobbet.store.blogs import Blog
from mobbet.store.comments import Comment
from mobbet.store.snapshot import SiteSnapshot
from mobbet.web.public import addresses as to_public
from mobbet.web.public.guests import reader_of_request
from mobbet.web.public.place import root_of
from mobbet.web.public.routes import OfBlog, asked
from mobbet.web.shell import cookies
from mobbet.web.shell.fields import Text
from mobbet.web.shell.security import SITE_POLICY
from mobbet.web.shell.session import Here

router = APIRouter()
IN_FEED = 50
THANKS = {
    True: "Thank you. It stands under the post now.",
    False: "Thank you. It is shown as soon as somebody here has read it.",
}


def _page(here: Workshop, request: Request, blog: Blog, form: CommentForm, status: int = 200) -> Response:
    body = comment_page(here.db, blog, f"{root_of(request.scope, blog.slug)}/", here.clock(), form)
    return Response(
        body, status, media_type="text/html; charset=utf-8", headers={"content-security-policy": SITE_POLICY}
    )


def _form_of(here: Workshop, blog: Blog, post: OutPost, reader: Reader, answers: str = "") -> CommentForm:
    person = people.by_id(here.db, reader.person_id) if reader.person_id else None
    waits = not reader.works_here and rules.waits(blog.comments_wait, reader.is_signed_in, "")
    first = (
        store.one(here.db, int(answers))
        if answers.isascii() and answers.isdecimal() and len(answers) < 16
        else None
    )
    is_there = first is not None and first.post_id == post.id and first.state == rules.SHOWN
    return CommentForm(
        post.id, post.title, post.path, person.name if person else "", waits, sign=robots.form_sign(here, post.id),
        answers=first.id if first and is_there else 0, answered=first.name if first and is_there else "",
        can_tell=subscribers.is_open(blog), work=BITS if blog.comment_work and not reader.works_here else 0,
    )  # fmt: skip


@router.get(to_public.comment.route)
@router.get(to_public.comment_slash.route)
def comment_form(request: Request, here: Here, blog: OfBlog, post_id: int, answers: str = "") -> Response:
    """Where a reader writes a comment; asks them to sign in first where that is the rule."""
    reader = reader_of_request(here, blog, cookies.of_request(request))
    post = comments.post_to_comment(here, blog, post_id, reader)
    form = _form_of(here, blog, post, reader, answers)
    if rules.may_comment(blog.comments, post.takes_comments, reader.is_signed_in):
        return _page(here, request, blog, form)
    if rules.may_comment(blog.comments, post.takes_comments, True):
        ask = Ask("enter", f"/~/comment/{post_id}/", message="People who are signed in comment here.")
        return asked(here, request, blog, ask)
    return _page(here, request, blog, replace(form, told=comments.CLOSED), 403)


@router.post(to_public.comment.route)
def write_comment(
    request: Request, here: Here, blog: OfBlog, post_id: int, name: Text = "", email: Text = "", text: Text = "", remark: Text = "",
    sign: Text = "", nonce: Text = "", answers: Text = "", tells: Text = "",
) -> Response:  # fmt: skip
    """Takes a comment; keeps what was typed where it is refused."""
    reader = reader_of_request(here, blog, cookies.of_request(request))
    post = comments.post_to_comment(here, blog, post_id, reader)
    form = replace(
        _form_of(here, blog, post, reader, answers), name=name, email=email, text=text, tells=tells
    )
    typed = {
        "name": name, "email": email, "text": text, "remark": remark, "sign": sign, "nonce": nonce, "answers": answers, "tells": tells,
    }  # fmt: skip
    try:
        seconds = robots.seconds_on_form(here, post.id, sign)
        address = request.client.host if request.client else ""
        made = comments.write(here, blog, post_id, reader, typed, address, seconds)
    except Refused as error:
        status = 429 if isinstance(error, TooSoon) else 403 if isinstance(error, NotAllowed) else 422
        return _page(here, request, blog, replace(form, message=str(error)), status)
    change = comments.change_sign(here, made) if made.id and made.state != rules.REFUSED else ""
    told = THANKS[made.state == rules.SHOWN] + (
        " A letter with a link is on its way; open it to be told of answers."
        if tells and form.can_tell
        else ""
    )
    return _page(here, request, blog, replace(form, told=told, change=change))


def _changed_form(here: Workshop, blog: Blog, comment: Comment, sign: str, **more: Any) -> CommentForm:
    post = SiteSnapshot(here.db, blog.id, here.clock()).post(comment.post_id)
    title, path = (post.title, post.path) if post else ("the post", "/")
    form = CommentForm(
        comment.post_id, title, path, "", comment.state == rules.WAITS, text=comment.text, change=sign
    )
    return replace(form, **more)


@router.get(to_public.comment_change.route)
def form_to_change(request: Request, here: Here, blog: OfBlog, post_id: int, sign: str) -> Response:
    """Where a comment is changed by whoever just wrote it."""
    try:
        return _page(
            here, request, blog, _changed_form(here, blog, comments.to_change(here, blog, sign), sign)
        )
    except Refused as error:
        return _page(
            here, request, blog, CommentForm(post_id, "the front page", "/", "", False, told=str(error)), 410
        )


@router.post(to_public.comment_change.route)
def change_comment(
    request: Request, here: Here, blog: OfBlog, post_id: int, sign: str, text: Text = ""
) -> Response:
    try:
        comment = comments.to_change(here, blog, sign)
    except Refused as error:
        return _page(
            here,
            request,
            blog,
            CommentForm(post_id, "the front page", "/", "", False, told=str(error), text=text),
            410,
        )
    try:
        made = comments.change(here, blog, sign, text)
    except Refused as error:
        return _page(
            here, request, blog, _changed_form(here, blog, comment, sign, text=text, message=str(error)), 422
        )
    return _page(
        here, request, blog, _changed_form(here, blog, made, sign, told=THANKS[made.state == rules.SHOWN])
    )


@router.get(to_public.all_comments_feed.route)
def feed_of_all(here: Here, blog: OfBlog) -> Response:
    return _feed(here, blog, 0, f"Comments on {blog.name}", f"{blog.home}~/comments.atom")


@router.get(to_public.comments_feed.route)
def feed_of_post(here: Here, blog: OfBlog, post_id: int) -> Response:
    post = comments.post_to_comment(here, blog, post_id, STRANGER)
    return _feed(here, blog, post_id, f"Comments on {post.title}", f"{blog.home}~/comments/{post_id}.atom")


@router.get(to_public.comments_page.route)
def further_comments(request: Request, here: Here, blog: OfBlog, post_id: int, page: int = 2) -> Response:
    """A numbered page of the comments under a post."""
    reader = reader_of_request(here, blog, cookies.of_request(request))
    post = comments.post_to_comment(here, blog, post_id, reader)
    found = store.shown(here.db, post_id)
    pages = max(1, -(-len(found) // MOST_COMMENTS))
    if not 1 <= page <= pages:
        raise NotFound("There are fewer comments; the post leads to all of them.")
    may = rules.may_comment(blog.comments, post.takes_comments, True)
    some = tuple(found[(page - 1) * MOST_COMMENTS : page * MOST_COMMENTS])
    shown = CommentList(post_id, post.title, post.path, page, pages, len(found), some, may)
    body = comment_list(here.db, blog, f"{root_of(request.scope, blog.slug)}/", here.clock(), shown)
    headers = {"content-security-policy": SITE_POLICY, "cache-control": "private, no-cache"}
    return Response(body, media_type="text/html; charset=utf-8", headers=headers)


def _feed(here: Workshop, blog: Blog, post_id: int, title: str, own: str) -> Response:
    """The newest comments that everybody sees."""
    snapshot = SiteSnapshot(here.db, blog.id, here.clock())
    rows = [
        (one, post.title, blog.home + post.path[1:])
        for one in store.newest_shown(here.db, blog.id, post_id, here.clock(), IN_FEED)
        if (post := snapshot.post(one.post_id))
    ]
    body = comment_feed(title, blog.home, own, rows)
    return Response(body, media_type=TYPE, headers={"cache-control": "public, max-age=300"})
