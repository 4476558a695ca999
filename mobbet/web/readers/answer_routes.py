"""What readers answered to the questions of posts, to be read, taken along and removed."""

from __future__ import annotations

from typing import Annotated, Any

from fastapi import APIRouter, Form
from starlette.responses import Response

from mobbet.actions import asking, comments
from mobbet.actions.access import blog_for, has_right
from mobbet.core.rights import Action
from mobbet.core.screen_dates import ago_in_words
from mobbet.store import answers as store
from mobbet.store import comments as comment_store
from mobbet.store import people, posts
from mobbet.web.readers import addresses as to_readers
from mobbet.web.readers.answer_contexts import AnswerShown, AnswersPage, FormPage, FormRow
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.rendering import page
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.session import Here, Me

router = APIRouter()
MOST_FORMS, ON_PAGE, NEWEST = 100, 50, 1 << 60


@router.get(to_readers.answers.route)
def screen(here: Here, me: Me, slug: str) -> Response:
    """The forms and polls with answers."""
    blog = blog_for(here, me, slug)
    rows = [
        FormRow(
            one.title, _title(here, blog.id, one.post_id), to_readers.answers_of(slug, one.post_id, one.form), one.count,
            ago_in_words(one.newest_at, blog.zone, here.clock()),
        )
        for one in store.forms(here.db, blog.id, comments.mine(here, me, blog), MOST_FORMS)
    ]  # fmt: skip
    keeps = has_right(here, me, blog, Action.KEEP_READERS)
    waiting = comment_store.waiting(here.db, blog.id, comments.mine(here, me, blog))
    return page(AnswersPage(bar_for(here, me, blog, "readers"), keeps, rows, waiting))


def _title(here: Here, blog_id: int, post_id: int) -> str:
    post = posts.on_blog(here.db, blog_id, post_id)
    return (post.title if post else "") or "No title yet"


@router.get(to_readers.answers_of.route)
def answers_of(
    here: Here, me: Me, slug: str, post: int, key: str, before: int = NEWEST, told: str = ""
) -> Response:
    """The answers to one form."""
    blog, block, title = asking.form_of(here, me, slug, post, key)
    rows = store.of_form(here.db, post, key, before, ON_PAGE + 1)
    shown = [_shown(here, blog.zone, row) for row in rows[:ON_PAGE]]
    context = FormPage(
        bar=bar_for(here, me, blog, "readers"),
        keeps_readers=has_right(here, me, blog, Action.KEEP_READERS),
        title=block.title or block.questions[0][1]
        if block and block.questions
        else "Questions that are no more",
        post=post,
        post_title=title,
        key=key,
        count=store.count(here.db, post, key),
        counted=asking.outcome(here, post, block) if block else [],
        answers=shown if not (block and block.is_poll) else [],
        more=to_readers.answers_of(slug, post, key, before=rows[ON_PAGE - 1].id)
        if len(rows) > ON_PAGE
        else "",
        waiting=comment_store.waiting(here.db, blog.id, comments.mine(here, me, blog)),
        told="Removed for good." if told else "",
    )
    return page(context)


def _shown(here: Here, zone: str, row: store.Answer) -> AnswerShown:
    person = people.by_id(here.db, row.person_id) if row.person_id else None
    answers = [(question, _words(value)) for question, value in row.answers]
    return AnswerShown(
        row.id, ago_in_words(row.made_at, zone, here.clock()), person.name if person else "", answers
    )


def _words(value: Any) -> str:
    return ", ".join(value) if isinstance(value, list) else str(value)


@router.get(to_readers.answers_file.route)
def download(here: Here, me: Me, slug: str, post: int, key: str) -> Response:
    """All answers to a form as CSV."""
    headers = {
        "Content-Disposition": f'attachment; filename="answers-{post}.csv"',
        "Cache-Control": "no-store",
    }
    return Response(
        asking.as_csv(here, me, slug, post, key), media_type="text/csv; charset=utf-8", headers=headers
    )


@router.post(to_readers.answers_remove.route)
def remove(
    here: Here, me: Me, slug: str, post: int, key: str, answer: Annotated[int, Form()] = 0
) -> Response:
    """Removes one answer, or all of a form."""
    asking.remove(here, me, slug, post, key, answer)
    return see_other(
        to_readers.answers_of(slug, post, key, told="yes") if answer else to_readers.answers(slug)
    )
