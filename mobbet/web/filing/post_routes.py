"""The Filing screen: worklists, and many posts filed at once."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Any

from fastapi import APIRouter, Query
from starlette.responses import Response

from mobbet.actions import categories, footprints, tags
from mobbet.actions.access import blog_for
from mobbet.actions.categories import FilingChange
from mobbet.actions.permalinks import category_subjects
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput, Refused
from mobbet.core.filing import path_in_words, read_tags, tree
from mobbet.store import worklists
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.web.filing import addresses as to_filing
from mobbet.web.filing import lists as filing_lists
from mobbet.web.filing import view
from mobbet.web.filing.contexts import SeveralPage, Tried, TriedFiling
from mobbet.web.filing.routes import read_number
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.contexts import Choice
from mobbet.web.shell.fields import Numbers, Text, Texts
from mobbet.web.shell.footprints import in_words
from mobbet.web.shell.rendering import page
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.session import Here, Me

router = APIRouter()
MOST_AT_ONCE = 500


@router.get(to_filing.worklist.route)
def worklist(here: Here, me: Me, slug: str, kind: str, after: int = 0, done: str = "") -> Response:
    """The next post to file."""
    blog = blog_for(here, me, slug)
    if kind not in filing_lists.WORKLISTS:
        return see_other(to_filing.filing(slug))
    return page(
        filing_lists.worklist_page(here, me, blog, kind, max(0, after), view.told_of(here, blog, done))
    )


@router.post(to_filing.worklist.route)
def file_one(
    here: Here,
    me: Me,
    slug: str,
    kind: str,
    post: Text = "",
    category: Texts = [],
    tag: Texts = [],
    more: Text = "",
    act: Text = "",  # noqa: B006
) -> Response:
    """Files a post of a worklist, or shows its footprint, and goes on to the next."""
    blog = blog_for(here, me, slug)
    if kind not in filing_lists.WORKLISTS:
        return see_other(to_filing.filing(slug))
    number = read_number(post) or 0
    try:
        change = _worklist_change(me, blog, kind, number, category, tag, more)
        if act == "try":
            effect = footprints.effect_of_filing(here, blog, change)
            return page(
                TriedFiling(in_words(effect.pages, category_subjects(here, blog), number, every=effect.every))
            )
        with changing(here):
            done = change(here)
    except Refused as error:
        if act == "try":
            return page(TriedFiling(None, str(error)))
        return page(filing_lists.worklist_page(here, me, blog, kind, number - 1, None, str(error)), 422)
    return see_other(f"{to_filing.worklist(slug, kind)}?after={number}&done={done.number}")


def _worklist_change(
    me: Person, blog: Blog, kind: str, number: int, category: list[str], tag: list[str], more: str
) -> Callable[[Workshop], FilingChange]:
    if kind == "untagged":
        names = read_tags(", ".join([*tag, more]))
        if not names:
            raise BadInput("No tag is chosen; choose one, or type one.", "tag")
        return lambda shop: categories.refile_posts(
            shop, me, blog.slug, [number], tags=[tags.make_tag(shop, blog, name) for name in names]
        )
    chosen = [int(one) for one in category if one.isdecimal()]
    if not chosen and not more.strip():
        raise BadInput("No category is chosen; choose one, or type a new one.", "category")

    def change(shop: Workshop) -> FilingChange:
        numbers = [*chosen, *([categories.make_category(shop, blog, more)] if more.strip() else [])]
        return categories.refile_posts(
            shop,
            me,
            blog.slug,
            [number],
            add=numbers[1:],
            main=numbers[0],
            take=[blog.catch_all] if blog.catch_all else [],
        )

    return change


@router.get(to_filing.several.route)
def several(here: Here, me: Me, slug: str, post: Annotated[list[int], Query()] = []) -> Response:  # noqa: B006
    blog = blog_for(here, me, slug)
    return _several(here, me, blog, post[:MOST_AT_ONCE], {})


@router.post(to_filing.several.route)
def file_several(
    here: Here, me: Me, slug: str, post: Numbers = [], add: Texts = [], take: Texts = [],  # noqa: B006
    main: Text = "", tag: Text = "", untag: Text = "", sure: Text = "",
) -> Response:  # fmt: skip
    """Shows what filing many posts at once would do, or does it and publishes."""
    blog = blog_for(here, me, slug)
    typed = {"add": add, "take": take, "main": [main], "tag": [tag], "untag": [untag]}
    try:
        known = {
            name.casefold(): number for name in read_tags(untag) for number in [tags.find(here, blog, name)]
        }
        new = read_tags(tag)
        numbers = {
            name: [int(one) for one in chosen if one.isdecimal()]
            for name, chosen in (("add", add), ("take", take))
        }
        if not (numbers["add"] or numbers["take"] or main.isdecimal() or new or known):
            raise BadInput(
                "Nothing is to be changed yet; choose categories or tags to add or to take out.", "add"
            )

        def change(shop: Workshop) -> FilingChange:
            return categories.refile_posts(
                shop, me, slug, post, add=numbers["add"], take=numbers["take"], main=read_number(main),
                tags=[tags.make_tag(shop, blog, name) for name in new], without_tags=known.values(),
            )  # fmt: skip

        if sure != "yes":
            effect = footprints.effect_of_filing(here, blog, change)
            fields: list[tuple[str, Any]] = [
                *((name, one) for name, values in typed.items() for one in values),
                *(("post", str(one)) for one in post),
                ("sure", "yes"),
            ]
            tried = Tried(
                effect.answer.words,
                in_words(effect.pages, category_subjects(here, blog), every=effect.every),
                to_filing.several(slug),
                fields,
                "File them",
            )
            return _several(here, me, blog, post, typed, tried)
        with changing(here):
            done = change(here)
    except Refused as error:
        return _several(here, me, blog, post, typed, problem=str(error))
    return see_other(f"{to_filing.filing(slug)}?done={done.number}")


def _several(
    here: Workshop,
    me: Person,
    blog: Blog,
    numbers: list[int],
    typed: dict[str, list[str]],
    tried: Tried | None = None,
    problem: str = "",
) -> Response:
    rows = worklists.by_ids(here.db, blog.id, numbers)
    subjects = category_subjects(here, blog)
    choices = [
        Choice(str(subject.id), path_in_words(subjects, subject.id)) for _, subject in tree(subjects.values())
    ]
    filed = [view.filed_post(here, blog, row) for row in rows]
    context = SeveralPage(
        bar_for(here, me, blog, "filing"),
        filed,
        choices,
        typed,
        ", ".join(typed.get("tag", [])),
        tried,
        problem,
    )
    return page(context, 422 if problem else 200)
