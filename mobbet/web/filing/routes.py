"""The Filing screen: the tree of categories, and the tags."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated

from fastapi import APIRouter, Depends, Query, Request
from starlette.responses import Response

from mobbet.actions import categories, category_tree, footprints, refiling, tags
from mobbet.actions.access import blog_for
from mobbet.actions.categories import FilingChange
from mobbet.actions.permalinks import category_subjects
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput, NotFound, Refused
from mobbet.core.filing import path_in_words
from mobbet.publish.pages import subjects
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.web.desk import addresses as to_desk
from mobbet.web.filing import addresses as to_filing
from mobbet.web.filing import lists as filing_lists
from mobbet.web.filing import view
from mobbet.web.filing.contexts import FilingPictures, RemediesPart, Tried
from mobbet.web.shell.fields import AnyForm, Text
from mobbet.web.shell.footprints import in_words
from mobbet.web.shell.rendering import page
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.session import Here, Me

router = APIRouter()


def read_number(text: str) -> int | None:
    return int(text) if text.isdecimal() else None


@router.get(to_filing.filing.route)
def filing(
    here: Here,
    me: Me,
    slug: str,
    chosen: Annotated[str, Query(alias="in")] = "",
    opened: Annotated[str, Query(alias="open")] = "",
    done: str = "",
) -> Response:
    blog = blog_for(here, me, slug)
    opened_now = frozenset(int(number) for number in opened.split("-") if number.isdecimal())
    return page(
        view.page(here, me, blog, read_number(chosen), opened_now, told=view.told_of(here, blog, done))
    )


@router.get(to_filing.filing_pictures.route)
def pictures(here: Here, me: Me, slug: str, find: str = "", chosen: str = "") -> Response:
    """Pictures of the library that a category may show, by sight."""
    return page(FilingPictures(view.pictures(here, blog_for(here, me, slug), find, read_number(chosen))))


@router.get(to_filing.filing_posts.route)
def posts(
    here: Here,
    me: Me,
    slug: str,
    chosen: Annotated[str, Query(alias="in")] = "",
    tag: str = "",
    after: int = 0,
) -> Response:
    """Further posts of a category or a tag."""
    blog = blog_for(here, me, slug)
    if tag.isdecimal():
        return page(view.posts_tagged(here, blog, int(tag), "", after))
    subjects, number = category_subjects(here, blog), read_number(chosen)
    if number not in subjects:
        raise NotFound("This category is no more; the Filing screen shows those there are.")
    return page(view.posts_in(here, blog, subjects, number, after))


_Change = Callable[[Workshop, Person, str, int, dict[str, str]], FilingChange]


def _category(here: Workshop, me: Person, slug: str, text: str) -> int | None:
    """A category as a form names it: by its path, `A > B`, or as `#12`; None for nothing."""
    text = text.strip()
    if text.startswith("#") and text[1:].isdecimal():
        return int(text[1:])
    return categories.find(here, blog_for(here, me, slug), text) if text else None


def _needed(found: int | None, words: str, field: str) -> int:
    if found is None:
        raise BadInput(f"No category is named; type {words}.", field)
    return found


CATEGORY_CHANGES: dict[str, tuple[_Change, str]] = {
    "rename": (lambda here, me, slug, number, form: categories.rename(here, me, slug, number, form.get("name", "")), "Rename it"),
    "slug": (lambda here, me, slug, number, form: categories.set_slug(here, me, slug, number, form.get("slug", "")), "Move it to this address"),
    "move": (lambda here, me, slug, number, form: category_tree.move(here, me, slug, number, _category(here, me, slug, form.get("parent", "")), read_number(form.get("before", ""))), "Move it"),
    "merge": (lambda here, me, slug, number, form: category_tree.merge(here, me, slug, number, _needed(_category(here, me, slug, form.get("into", "")), "the one it is to become part of", "into")), "Merge them"),
    "split": (lambda here, me, slug, number, form: category_tree.split(here, me, slug, number, form.get("tag", ""), form.get("name", "")), "Split it"),
    "remove": (lambda here, me, slug, number, form: category_tree.remove(here, me, slug, number, _category(here, me, slug, form.get("to", ""))), "Remove it"),
    "describe": (
        lambda here, me, slug, number, form: categories.describe(
            here, me, slug, number, description=form.get("description", ""), picture=read_number(form.get("picture", "")),
            shows_below=bool(form.get("shows_below")),
        ),
        "Save the description",
    ),
    "up": (lambda here, me, slug, number, form: category_tree.order(here, me, slug, number, -1), ""),
    "down": (lambda here, me, slug, number, form: category_tree.order(here, me, slug, number, 1), ""),
}  # fmt: skip
"""What can be done with a category, and the words of the button that does it. Those without words change no page but the list of subjects."""
TAG_CHANGES: dict[str, tuple[_Change, str]] = {
    "rename": (
        lambda here, me, slug, number, form: tags.rename(here, me, slug, number, form.get("name", "")),
        "Rename it",
    ),
    "merge": (
        lambda here, me, slug, number, form: tags.merge(
            here, me, slug, number, _named_tag(here, me, slug, form)
        ),
        "Merge them",
    ),
    "remove": (lambda here, me, slug, number, form: tags.remove(here, me, slug, number), "Remove it"),
}


def _named_tag(here: Workshop, me: Person, slug: str, form: dict[str, str]) -> int:
    """The tag to merge into: by its number, or by its name."""
    return read_number(form.get("into", "")) or tags.find(
        here, blog_for(here, me, slug), form.get("into_name", "")
    )


def _form(form: AnyForm) -> dict[str, str]:
    return {name: value for name, value in form.items() if isinstance(value, str)}


Fields = Annotated[dict[str, str], Depends(_form)]
"""The fields of a form, read before the route runs in a thread of its own."""


@router.post(to_filing.category_change.route)
def change_category(form: Fields, here: Here, me: Me, slug: str, number: int, what: str) -> Response:
    """Shows what a change would do, or makes it and publishes."""
    blog = blog_for(here, me, slug)
    change, yes = CATEGORY_CHANGES.get(what) or (None, "")
    if change is None:
        return see_other(to_filing.filing(slug))
    try:
        if yes and form.pop("sure", "") != "yes":
            effect = footprints.effect_of_filing(
                here, blog, lambda shop: change(shop, me, slug, number, form)
            )
            tried = tried_of(
                here, blog, effect, to_filing.filing_change(slug, "category", number, what), form, yes
            )
            if tried:
                return page(view.page(here, me, blog, number, tried=tried, typed=form))
        done = change(here, me, slug, number, form)
    except Refused as error:
        return page(view.page(here, me, blog, number, problem=str(error), typed=form), 422)
    where = f"in={done.subject}&" if done.subject else ""
    return see_other(f"{to_filing.filing(slug)}?{where}done={done.number}")


def tried_of(
    here: Workshop, blog: Blog, effect: footprints.Effect, action: str, form: dict[str, str], yes: str
) -> Tried | None:
    """A change that alters public pages, to be looked at first; None for one that alters none but what lists the subjects."""
    footprint = in_words(effect.pages, category_subjects(here, blog), every=effect.every)
    if not effect.every and all(one.key == subjects.KEY for one in effect.pages):
        return None
    return Tried(effect.answer.words, footprint, action, [*form.items(), ("sure", "yes")], yes)


@router.post(to_filing.filing_add.route)
def add(here: Here, me: Me, slug: str, path: Text = "", parent: Text = "") -> Response:
    """Makes a category, below another one or at the top."""
    blog = blog_for(here, me, slug)
    try:
        above = (
            f"{path_in_words(category_subjects(here, blog), int(parent))} > " if parent.isdecimal() else ""
        )
        done = categories.add(here, me, slug, above + path)
    except Refused as error:
        return page(
            view.page(here, me, blog, read_number(parent), problem=str(error), typed={"path": path}), 422
        )
    return see_other(to_filing.category(slug, done.subject))


@router.post(to_filing.filing_rules.route)
def rules(
    here: Here,
    me: Me,
    slug: str,
    catch_all: Text = "",
    least: Text = "",
    most: Text = "",
    help: Text = "",
    what: Text = "",
) -> Response:
    """The blog's catch-all, and how many categories a post needs and may have."""
    blog = blog_for(here, me, slug)
    try:
        if what == "catch-all":
            categories.set_catch_all(here, me, slug, _category(here, me, slug, catch_all))
        else:
            categories.set_rule(here, me, slug, least, most, help)
    except Refused as error:
        return page(
            view.page(
                here, me, blog, None, problem=str(error), typed={"least": least, "most": most, "help": help}
            ),
            422,
        )
    return see_other(to_filing.filing(slug))


@router.post(to_filing.filing_undo.route)
def undo(request: Request, here: Here, me: Me, slug: str, number: int, back: Text = "") -> Response:
    blog = blog_for(here, me, slug)
    try:
        refiling.undo(here, me, blog, number)
    except Refused as error:
        return page(view.page(here, me, blog, None, problem=str(error)), 422)
    target = back if back.startswith(to_desk.desk(slug)) else to_filing.filing(slug)
    return see_other(f"{target.partition('?')[0]}?done={number}")


@router.get(to_filing.filing.at("tags"))
def tag_list(
    here: Here, me: Me, slug: str, q: str = "", tag: str = "", after: int = 0, done: str = ""
) -> Response:
    blog = blog_for(here, me, slug)
    return page(
        filing_lists.tags_page(
            here, me, blog, q, read_number(tag), max(0, after), told=view.told_of(here, blog, done)
        )
    )


@router.get(to_filing.tag_remedies.route)
def remedies(here: Here, me: Me, slug: str) -> Response:
    """What wants attention among the tags."""
    blog = blog_for(here, me, slug)
    return page(RemediesPart(filing_lists.remedies(here, blog), view.can_keep(here, me, blog), slug))


@router.post(to_filing.tag_change.route)
def change_tag(form: Fields, here: Here, me: Me, slug: str, number: int, what: str) -> Response:
    blog = blog_for(here, me, slug)
    change, yes = TAG_CHANGES.get(what) or (None, "")
    if change is None:
        return see_other(to_filing.filing(slug, "tags"))
    try:
        if form.pop("sure", "") != "yes":
            effect = footprints.effect_of_filing(
                here, blog, lambda shop: change(shop, me, slug, number, form)
            )
            tried = tried_of(
                here, blog, effect, to_filing.filing_change(slug, "tag", number, what), form, yes
            )
            if tried:
                return page(filing_lists.tags_page(here, me, blog, "", number, 0, tried=tried))
        done = change(here, me, slug, number, form)
    except Refused as error:
        return page(filing_lists.tags_page(here, me, blog, "", number, 0, problem=str(error)), 422)
    return see_other(f"{to_filing.filing(slug, 'tags')}?done={done.number}")
