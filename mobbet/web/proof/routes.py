"""The proof of a whole blog, and the house style for words."""

from __future__ import annotations

from dataclasses import replace
from datetime import date
from typing import Any

from fastapi import APIRouter, Request
from starlette.concurrency import run_in_threadpool
from starlette.responses import Response

from mobbet.actions import house_words as house_word_actions
from mobbet.actions import mending, proofing
from mobbet.actions.access import blog_for, is_keeper, owned_blog
from mobbet.actions.mending import AT_ONCE, BY_ITSELF, Marked, Mended
from mobbet.actions.workshop import Workshop
from mobbet.core.canonical import canonical
from mobbet.core.document.links import media_number
from mobbet.core.errors import BadInput, Refused
from mobbet.core.proofing.marks import Mark
from mobbet.core.proofing.table import WHY
from mobbet.store import proofs
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.web.library import addresses as to_library
from mobbet.web.proof import addresses as to_proof
from mobbet.web.proof import words_view
from mobbet.web.proof.contexts import (
    BlogProofPage,
    CheckRow,
    HouseWordsPage,
    MarkedPassage,
    MarkedPost,
    Trend,
)
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.fields import LongText, Text, form_of
from mobbet.web.shell.rendering import page
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.session import Here, Me

router = APIRouter()
DAYS = 90
LONGEST = 90
MENDS = {"alternative-text": "describe", "link-answers": "lead", "description": "summarise"}


@router.get(to_proof.blog_proof.route)
def blog_proof(here: Here, me: Me, slug: str, check: str = "", after: int = 0) -> Response:
    """What is wrong in the posts of a blog, by check."""
    blog = blog_for(here, me, slug)
    if check not in WHY:  # what most posts have comes first
        found = proofs.by_check(here.db, blog.id, 0 if is_keeper(here, me, blog) else me.id)
        check = max((row for row in found if row[0] in WHY), key=lambda row: row[2], default=("",))[0]
    return _page(here, me, blog, check, max(0, after))


@router.post(to_proof.blog_proof.whole)
async def mend(here: Here, me: Me, slug: str, what: str, request: Request) -> Response:
    """Mends many posts at once: what can be done by itself, pictures that are described, links that lead elsewhere; or updates what is out."""
    form = await form_of(request)
    values = {name: [str(value) for value in form.getlist(name)] for name in form}
    return await run_in_threadpool(lambda: _mended(here, me, slug, what, values))


def _mended(here: Workshop, me: Person, slug: str, what: str, values: dict[str, list[str]]) -> Response:
    blog = blog_for(here, me, slug)
    check = values.get("check", [""])[0]
    check = check if check in WHY else ""
    numbers = [int(value) for value in values.get("post", []) if value.isdecimal()]
    if what == "update":
        done, problems, pages = mending.update_all(here, me, blog, numbers)
        told = f"Updated {_count(done, 'post')}; {_count(pages, 'page')} of the site changed."
        return _page(here, me, blog, check, 0, told=told, problem=" ".join(problems))
    try:
        mended = _ACTS[what](here, me, blog, check, numbers, values) if what in _ACTS else None
    except (BadInput, Refused) as error:
        return _page(here, me, blog, check, 0, problem=str(error), status=422)
    if mended is None:
        return _page(
            here,
            me,
            blog,
            check,
            0,
            problem="Nothing of that kind can be done here; choose a mark at the left.",
            status=422,
        )
    proofing.read_some(here, mended.posts + AT_ONCE)
    return _page(
        here,
        me,
        blog,
        check,
        0,
        told=f"Mended {_count(mended.marks, 'mark')} in {_count(mended.posts, 'post')}.",
        waiting=mended.waiting,
    )


def _all(
    here: Workshop, me: Person, blog: Blog, check: str, numbers: list[int], values: dict[str, list[str]]
) -> Mended:
    return mending.mend_all(here, me, blog, check, numbers)


def _describe(
    here: Workshop, me: Person, blog: Blog, check: str, numbers: list[int], values: dict[str, list[str]]
) -> Mended:
    words = {}
    for name, given in values.items():
        kind, _, rest = name.partition(":")
        number, _, path = rest.partition(":")
        if kind == "alt" and number.isdecimal():
            words[int(number), path] = given[0]
    return mending.describe(here, me, blog, words)


def _lead(
    here: Workshop, me: Person, blog: Blog, check: str, numbers: list[int], values: dict[str, list[str]]
) -> Mended:
    return mending.lead_on(
        here, me, blog, dict(zip(values.get("old", []), values.get("new", []), strict=False))
    )


def _summarise(
    here: Workshop, me: Person, blog: Blog, check: str, numbers: list[int], values: dict[str, list[str]]
) -> Mended:
    given = (
        (name.partition(":")[2], words[0]) for name, words in values.items() if name.startswith("summary:")
    )
    return mending.summarise(here, me, {int(number): words for number, words in given if number.isdecimal()})


_ACTS = {"summarise": _summarise, "all": _all, "describe": _describe, "lead": _lead}


def _count(number: int, what: str) -> str:
    return f"{number:,} {what}{'s' if number != 1 else ''}"


def _page(
    here: Workshop, me: Person, blog: Blog, check: str, after: int, status: int = 200, **more: Any
) -> Response:
    author = 0 if is_keeper(here, me, blog) else me.id
    done, left, must, should, could = proofs.totals(here.db, blog.id, author)
    posts, follows = mending.page_of(here, blog, check, after, author)
    mends = MENDS.get(check, "all" if check in BY_ITSELF else "")
    rows = [
        CheckRow(
            WHY[name].name, count, marks, f"{to_proof.blog_proof(blog.slug)}?check={name}", name == check
        )
        for name, count, marks in proofs.by_check(here.db, blog.id, author)
        if name in WHY
    ]
    return page(BlogProofPage(
        bar_for(here, me, blog, "desk"),
        f"{_count(must + should, 'mark')} to settle" if must + should else "Nothing wants settling",
        f"in {_count(done, 'post')} that were read{f'; {left:,} are still to be read' if left else ''}. {f'{could:,} more' if could else 'None'} could be better.",
        _trend(here, blog) if not author else None,
        sorted(rows, key=lambda row: -row.marks),
        check,
        WHY[check].name if check else "Every mark",
        WHY[check].sentences if check else "",
        [_shown(here, one) for one in posts],
        f"{to_proof.blog_proof(blog.slug)}?check={check}&after={follows}" if follows else "",
        mends if posts else "",
        **more,
    ), status)  # fmt: skip


def _shown(here: Workshop, one: Marked) -> MarkedPost:
    return MarkedPost(
        one.post.post_id,
        one.post.title or "No title yet",
        one.is_out,
        [_passage(here, one, mark) for mark in one.marks],
    )


def _passage(here: Workshop, one: Marked, mark: Mark) -> MarkedPassage:
    """A mark with the field that settles it, where its check has one."""
    number = one.post.post_id
    text = mark.text if len(mark.text) <= LONGEST else mark.text[:LONGEST].rsplit(" ", 1)[0] + "…"
    shown = MarkedPassage(mark.severity, mark.message, "" if f"“{text}”" in mark.message else text)
    if mark.check == "alternative-text":
        item = media_number(one.node_of(mark)["attrs"]["src"])
        return replace(
            shown,
            picture=to_library.picture(item, "thumb") if item else "",
            field_name=f"alt:{number}:{canonical(list(mark.path))}",
        )
    if mark.check == "description":
        return replace(shown, field_name=f"summary:{number}", proposed=mending.proposed(one.document))
    if mark.check == "link-answers":
        address = one.address_of(mark)
        answer = proofs.answers(here.db, [address]).get(address)
        return replace(shown, address=address, proposed=answer.ends_at if answer else "")
    return shown


def _trend(here: Workshop, blog: Blog) -> Trend | None:
    """The line of the last days; None until there are two of them."""
    days = proofs.days(here.db, blog.id, DAYS)
    if len(days) < 2:
        return None
    values = [must + should for _, _, must, should, _ in days]
    most = max(*values, 1)
    points = [
        (round(4 + 292 * at / (len(days) - 1), 1), round(66 - 50 * value / most, 1))
        for at, value in enumerate(values)
    ]
    first, last = (
        f"{day.day} {day:%b %Y}" for day in (date.fromisoformat(days[0][0]), date.fromisoformat(days[-1][0]))
    )
    summary = (
        f"Marks to settle from {first} to {last}: {values[0]} at first, {most} at most, {values[-1]} now"
    )
    return Trend(" ".join(f"{x},{y}" for x, y in points), most, (*points[-1], values[-1]), first, summary)


@router.get(to_proof.house_words.route)
def house_words(here: Here, me: Me, slug: str, kept: str = "") -> Response:
    """How the house writes, and how grave each mark is."""
    return _words_page(here, me, owned_blog(here, me, slug), kept)


@router.post(to_proof.house_words.route)
def change_word(here: Here, me: Me, slug: str, where: Text = "", value: LongText = "") -> Response:
    """Sets one of the rules for words."""
    blog = owned_blog(here, me, slug)
    try:
        house_word_actions.set_word(here, me, slug, where, value)
    except BadInput as error:
        return _words_page(here, me, blog, problem=(where, value, str(error)))
    place = f"#{where.replace(':', '-')}" if where.startswith("check:") else ""
    return see_other(f"{to_proof.house_words(slug, kept='yes')}{place}")


def _words_page(
    here: Workshop, me: Person, blog: Blog, kept: str = "", problem: tuple[str, str, str] = ("", "", "")
) -> Response:
    learned = proofs.learned_for(here.db, blog_id=blog.id)
    shown = HouseWordsPage(
        bar_for(here, me, blog, "site"),
        words_view.sentences(blog, sorted(learned), problem),
        words_view.checks(blog),
        "Kept. Each post is read anew by it." if kept else "",
        "" if problem[0] in words_view.TYPED else problem[2],
    )
    return page(shown, 422 if problem[2] else 200)
