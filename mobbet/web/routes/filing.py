"""The Filing screen: the tree of categories, tags, addresses, worklists, and many posts filed at once."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Any

from fastapi import APIRouter, Depends, File, Form, Query, Request, UploadFile
from starlette.responses import Response

from mobbet.actions import addresses, categories, effects, placing, refiling, tags
from mobbet.actions.categories import Done
from mobbet.actions.permalinks import category_subjects
from mobbet.actions.workshop import Workshop, blog_for
from mobbet.core.errors import BadInput, Refused
from mobbet.core.filing import path_in_words, read_tags, tree
from mobbet.store import worklists
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.web import filing as view
from mobbet.web import filing_lists, links
from mobbet.web.bars import bar_for
from mobbet.web.contexts import Choice
from mobbet.web.contexts_filing import RemediesPart, SeveralPage, Tried, TriedFiling
from mobbet.web.footprints import in_words
from mobbet.web.rendering import page
from mobbet.web.routes.session import see_other
from mobbet.web.session import Here, Me

router = APIRouter()
Text = Annotated[str, Form()]
MOST_AT_ONCE = 500
LARGEST_CSV = 5_000_000


def _number(text: str) -> int | None:
    return int(text) if text.isdigit() else None


@router.get("/desk/{slug}/filing")
def filing(here: Here, me: Me, slug: str, chosen: Annotated[str, Query(alias="in")] = "", opened: Annotated[str, Query(alias="open")] = "", done: str = "") -> Response:
    blog = blog_for(here, me, slug)
    opened_now = frozenset(int(number) for number in opened.split("-") if number.isdigit())
    return page(view.page(here, me, blog, _number(chosen), opened_now, told=view.told_of(here, blog, done)))


@router.get("/desk/{slug}/filing/posts")
def posts(here: Here, me: Me, slug: str, chosen: Annotated[str, Query(alias="in")] = "", tag: str = "", after: int = 0) -> Response:
    """Further posts of a category or a tag."""
    blog = blog_for(here, me, slug)
    if tag.isdigit():
        return page(view.posts_tagged(here, blog, int(tag), "", after))
    return page(view.posts_in(here, blog, category_subjects(here, blog), int(chosen), after))


_Change = Callable[[Workshop, Person, str, int, dict[str, str]], Done]


def _category(here: Workshop, me: Person, slug: str, text: str) -> int | None:
    """A category as a form names it: by its path, `A > B`, or as `#12`; None for nothing."""
    text = text.strip()
    if text.startswith("#") and text[1:].isdigit():
        return int(text[1:])
    return categories.find(here, blog_for(here, me, slug), text) if text else None


def _needed(found: int | None, words: str, field: str) -> int:
    if found is None:
        raise BadInput(f"No category is named; type {words}.", field)
    return found


CATEGORY_CHANGES: dict[str, tuple[_Change, str]] = {
    "rename": (lambda here, me, slug, number, form: categories.rename(here, me, slug, number, form.get("name", "")), "Rename it"),
    "slug": (lambda here, me, slug, number, form: categories.set_slug(here, me, slug, number, form.get("slug", "")), "Move it to this address"),
    "move": (lambda here, me, slug, number, form: categories.move(here, me, slug, number, _category(here, me, slug, form.get("parent", "")), _number(form.get("before", ""))), "Move it"),
    "merge": (lambda here, me, slug, number, form: categories.merge(here, me, slug, number, _needed(_category(here, me, slug, form.get("into", "")), "the one it is to become part of", "into")), "Merge them"),
    "split": (lambda here, me, slug, number, form: categories.split(here, me, slug, number, form.get("tag", ""), form.get("name", "")), "Split it"),
    "remove": (lambda here, me, slug, number, form: categories.remove(here, me, slug, number, _category(here, me, slug, form.get("to", ""))), "Remove it"),
    "describe": (
        lambda here, me, slug, number, form: categories.describe(
            here, me, slug, number, description=form.get("description", ""), picture=_number(form.get("picture", "")),
            shows_below=bool(form.get("shows_below")), in_menu=bool(form.get("in_menu")),
        ),
        "Settle its page",
    ),
    "up": (lambda here, me, slug, number, form: categories.order(here, me, slug, number, -1), ""),
    "down": (lambda here, me, slug, number, form: categories.order(here, me, slug, number, 1), ""),
}  # fmt: skip
"""What can be done with a category, and the words of the button that does it. Those without words change no page but the list of subjects."""
TAG_CHANGES: dict[str, tuple[_Change, str]] = {
    "rename": (lambda here, me, slug, number, form: tags.rename(here, me, slug, number, form.get("name", "")), "Rename it"),
    "merge": (lambda here, me, slug, number, form: tags.merge(here, me, slug, number, _named_tag(here, me, slug, form)), "Merge them"),
    "remove": (lambda here, me, slug, number, form: tags.remove(here, me, slug, number), "Remove it"),
}


def _named_tag(here: Workshop, me: Person, slug: str, form: dict[str, str]) -> int:
    """The tag to merge into: by its number, or by its name."""
    return _number(form.get("into", "")) or tags.find(here, blog_for(here, me, slug), form.get("into_name", ""))


async def _form(request: Request) -> dict[str, str]:
    return {name: value for name, value in (await request.form()).items() if isinstance(value, str)}


Fields = Annotated[dict[str, str], Depends(_form)]
"""The fields of a form, read before the route runs in a thread of its own."""


@router.post("/desk/{slug}/filing/category/{number}/{what}")
def change_category(form: Fields, here: Here, me: Me, slug: str, number: int, what: str) -> Response:
    """Shows what a change would do, or makes it and publishes."""
    blog = blog_for(here, me, slug)
    change, yes = CATEGORY_CHANGES.get(what) or (None, "")
    if change is None:
        return see_other(links.filing(slug))
    try:
        if yes and form.pop("sure", "") != "yes":
            effect = effects.effect_of(here, blog, lambda: change(here, me, slug, number, form))
            tried = _tried(here, blog, effect, links.filing_change(slug, "category", number, what), form, yes)
            if tried:
                return page(view.page(here, me, blog, number, tried=tried, typed=form))
        done = change(here, me, slug, number, form)
    except Refused as error:
        return page(view.page(here, me, blog, number, problem=str(error), typed=form), 422)
    placing.publish(here, blog, person=me, why="the filing changed")
    where = f"in={done.subject}&" if done.subject else ""
    return see_other(f"{links.filing(slug)}?{where}done={done.number}")


def _tried(here: Workshop, blog: Blog, effect: effects.Effect, action: str, form: dict[str, str], yes: str) -> Tried | None:
    """A change that alters public pages, to be looked at first; None for one that alters none but what lists the subjects."""
    footprint = in_words(effect.pages, category_subjects(here, blog))
    if all(one.key in ("subjects/",) for one in effect.pages):
        return None
    return Tried(effect.answer.words, footprint, action, [*form.items(), ("sure", "yes")], yes)


@router.post("/desk/{slug}/filing/add")
def add(here: Here, me: Me, slug: str, path: Text = "", parent: Text = "") -> Response:
    """Makes a category, below another one or at the top."""
    blog = blog_for(here, me, slug)
    try:
        above = f"{path_in_words(category_subjects(here, blog), int(parent))} > " if parent.isdigit() else ""
        done = categories.add(here, me, slug, above + path)
    except Refused as error:
        return page(view.page(here, me, blog, _number(parent), problem=str(error), typed={"path": path}), 422)
    return see_other(links.category(slug, done.subject))


@router.post("/desk/{slug}/filing/rules")
def rules(here: Here, me: Me, slug: str, catch_all: Text = "", least: Text = "", most: Text = "", help: Text = "", what: Text = "") -> Response:
    """The blog's catch-all, and how many categories a post needs and may have."""
    blog = blog_for(here, me, slug)
    try:
        if what == "catch-all":
            categories.set_catch_all(here, me, slug, _category(here, me, slug, catch_all))
        else:
            categories.set_rule(here, me, slug, least, most, help)
    except Refused as error:
        return page(view.page(here, me, blog, None, problem=str(error), typed={"least": least, "most": most, "help": help}), 422)
    return see_other(links.filing(slug))


@router.post("/desk/{slug}/filing/undo/{number}")
def undo(request: Request, here: Here, me: Me, slug: str, number: int, back: Text = "") -> Response:
    blog = blog_for(here, me, slug)
    try:
        refiling.undo(here, me, blog, number)
    except Refused as error:
        return page(view.page(here, me, blog, None, problem=str(error)), 422)
    placing.publish(here, blog, person=me, why="the filing changed")
    target = back if back.startswith(links.desk(slug)) else links.filing(slug)
    return see_other(f"{target.partition('?')[0]}?done={number}")


@router.get("/desk/{slug}/filing/tags")
def tag_list(here: Here, me: Me, slug: str, q: str = "", tag: str = "", after: int = 0, done: str = "") -> Response:
    blog = blog_for(here, me, slug)
    return page(filing_lists.tags_page(here, me, blog, q, _number(tag), max(0, after), told=view.told_of(here, blog, done)))


@router.get("/desk/{slug}/filing/tags/remedies")
def remedies(here: Here, me: Me, slug: str) -> Response:
    """What wants attention among the tags."""
    blog = blog_for(here, me, slug)
    return page(RemediesPart(filing_lists.remedies(here, blog), view.can_keep(here, me, blog), slug))


@router.post("/desk/{slug}/filing/tag/{number}/{what}")
def change_tag(form: Fields, here: Here, me: Me, slug: str, number: int, what: str) -> Response:
    blog = blog_for(here, me, slug)
    change, yes = TAG_CHANGES.get(what) or (None, "")
    if change is None:
        return see_other(links.filing(slug, "tags"))
    try:
        if form.pop("sure", "") != "yes":
            effect = effects.effect_of(here, blog, lambda: change(here, me, slug, number, form))
            tried = _tried(here, blog, effect, links.filing_change(slug, "tag", number, what), form, yes)
            if tried:
                return page(filing_lists.tags_page(here, me, blog, "", number, 0, tried=tried))
        done = change(here, me, slug, number, form)
    except Refused as error:
        return page(filing_lists.tags_page(here, me, blog, "", number, 0, problem=str(error)), 422)
    placing.publish(here, blog, person=me, why="the filing changed")
    return see_other(f"{links.filing(slug, 'tags')}?done={done.number}")


@router.get("/desk/{slug}/filing/addresses")
def address_list(here: Here, me: Me, slug: str, q: str = "", after: int = 0, told: str = "") -> Response:
    blog = blog_for(here, me, slug)
    return page(filing_lists.addresses_page(here, me, blog, q, max(0, after), said=told))


@router.post("/desk/{slug}/filing/addresses/pattern")
def pattern(here: Here, me: Me, slug: str, pattern: Text = "", sure: Text = "") -> Response:
    """Shows what a pattern would do to a real post and how many it moves; moves them when one is sure."""
    blog = blog_for(here, me, slug)
    try:
        tried = addresses.try_pattern(here, blog, pattern)
        if tried.moved and sure != "yes":
            effect = effects.effect_of(here, blog, lambda: addresses.set_pattern(here, me, slug, pattern))
            words = f"“{tried.title}” would move from {tried.before} to {tried.path}. {tried.moved:,} post{'s' if tried.moved != 1 else ''} move{'s' if tried.moved == 1 else ''}; every old address leads on."
            footprint = in_words(effect.pages, category_subjects(here, blog))
            shown = Tried(words, footprint, links.address_change(slug, "pattern"), [("pattern", tried.pattern), ("sure", "yes")], "Change the pattern")
            return page(filing_lists.addresses_page(here, me, blog, "", 0, tried=shown, typed={"pattern": pattern}))
        moved = addresses.set_pattern(here, me, slug, pattern)
    except Refused as error:
        return page(filing_lists.addresses_page(here, me, blog, "", 0, problem=str(error), typed={"pattern": pattern}), 422)
    placing.publish(here, blog, person=me, why="the filing changed")
    return see_other(f"{links.filing(slug, 'addresses')}?told=moved-{moved}")


@router.post("/desk/{slug}/filing/addresses/script")
def script(here: Here, me: Me, slug: str, script: Text = "") -> Response:
    blog = blog_for(here, me, slug)
    try:
        addresses.set_script(here, me, slug, script)
    except Refused as error:
        return page(filing_lists.addresses_page(here, me, blog, "", 0, problem=str(error)), 422)
    return see_other(links.filing(slug, "addresses"))


@router.post("/desk/{slug}/filing/addresses/add")
def add_address(here: Here, me: Me, slug: str, old: Text = "", new: Text = "") -> Response:
    blog = blog_for(here, me, slug)
    try:
        addresses.add(here, me, slug, old, new)
    except Refused as error:
        return page(filing_lists.addresses_page(here, me, blog, "", 0, problem=str(error), typed={"old": old, "new": new}), 422)
    placing.publish(here, blog, person=me, why="the filing changed")
    return see_other(f"{links.filing(slug, 'addresses')}?told=added-1")


@router.post("/desk/{slug}/filing/addresses/import")
def bring_in(here: Here, me: Me, slug: str, file: Annotated[UploadFile | None, File()] = None) -> Response:
    """Old addresses from a CSV file."""
    blog = blog_for(here, me, slug)
    try:
        body = file.file.read(LARGEST_CSV + 1) if file else b""
        if not body:
            raise BadInput("No file was chosen; choose a CSV file with the old and the new address in each line.", "file")
        if len(body) > LARGEST_CSV:
            raise BadInput("The file is larger than 5 megabytes; cut it into smaller ones.", "file")
        done = addresses.bring_in(here, me, slug, _decoded(body))
    except Refused as error:
        return page(filing_lists.addresses_page(here, me, blog, "", 0, problem=str(error)), 422)
    placing.publish(here, blog, person=me, why="the filing changed")
    return page(filing_lists.addresses_page(here, me, blog, "", 0, said=f"added-{done.added}", refused=list(done.refused)))


def _decoded(body: bytes) -> str:
    try:
        return body.decode("utf-8-sig")
    except UnicodeDecodeError:
        return body.decode("cp1252", "replace")


@router.post("/desk/{slug}/filing/addresses/{what}")
def settle_address(here: Here, me: Me, slug: str, what: str, path: Text = "") -> Response:
    """Takes an added address away, or one that leads nowhere off the list."""
    blog = blog_for(here, me, slug)
    try:
        {"remove": addresses.remove, "dismiss": addresses.dismiss}.get(what, addresses.dismiss)(here, me, slug, path)
    except Refused as error:
        return page(filing_lists.addresses_page(here, me, blog, "", 0, problem=str(error)), 422)
    placing.publish(here, blog, person=me, why="the filing changed")
    return see_other(links.filing(slug, "addresses"))


@router.get("/desk/{slug}/filing/worklist/{kind}")
def worklist(here: Here, me: Me, slug: str, kind: str, after: int = 0, done: str = "") -> Response:
    """The next post to file."""
    blog = blog_for(here, me, slug)
    if kind not in filing_lists.WORKLISTS:
        return see_other(links.filing(slug))
    return page(filing_lists.worklist_page(here, me, blog, kind, max(0, after), view.told_of(here, blog, done)))


@router.post("/desk/{slug}/filing/worklist/{kind}")
def file_one(
    here: Here, me: Me, slug: str, kind: str, post: Text = "", category: Annotated[list[str], Form()] = [], tag: Annotated[list[str], Form()] = [], more: Text = "", act: Text = ""  # noqa: B006
) -> Response:
    """Files a post of a worklist, or shows its footprint, and goes on to the next."""
    blog = blog_for(here, me, slug)
    number = _number(post) or 0
    try:
        change = _worklist_change(here, me, blog, kind, number, category, tag, more)
        if act == "try":
            effect = effects.effect_of(here, blog, change)
            return page(TriedFiling(in_words(effect.pages, category_subjects(here, blog), number)))
        with here.db.transaction():
            done = change()
    except Refused as error:
        if act == "try":
            return page(TriedFiling(None, str(error)))
        return page(filing_lists.worklist_page(here, me, blog, kind, number - 1, None, str(error)), 422)
    placing.publish(here, blog, person=me, why="the filing changed")
    return see_other(f"{links.worklist(slug, kind)}?after={number}&done={done.number}")


def _worklist_change(here: Workshop, me: Person, blog: Blog, kind: str, number: int, category: list[str], tag: list[str], more: str) -> Callable[[], Done]:
    if kind == "untagged":
        names = read_tags(", ".join([*tag, more]))
        if not names:
            raise BadInput("No tag is chosen; choose one, or type one.", "tag")
        return lambda: categories.refile_posts(here, me, blog.slug, [number], tags=[tags.make_tag(here, blog, name) for name in names])
    chosen = [int(one) for one in category if one.isdigit()]
    if not chosen and not more.strip():
        raise BadInput("No category is chosen; choose one, or type a new one.", "category")

    def change() -> Done:
        numbers = [*chosen, *([categories.make_category(here, blog, more)] if more.strip() else [])]
        return categories.refile_posts(here, me, blog.slug, [number], add=numbers[1:], main=numbers[0], take=[blog.catch_all] if blog.catch_all else [])

    return change


@router.get("/desk/{slug}/filing/several")
def several(here: Here, me: Me, slug: str, post: Annotated[list[int], Query()] = []) -> Response:  # noqa: B006
    blog = blog_for(here, me, slug)
    return _several(here, me, blog, post[:MOST_AT_ONCE], {})


@router.post("/desk/{slug}/filing/several")
def file_several(
    here: Here, me: Me, slug: str, post: Annotated[list[int], Form()] = [], add: Annotated[list[str], Form()] = [], take: Annotated[list[str], Form()] = [],  # noqa: B006
    main: Text = "", tag: Text = "", untag: Text = "", sure: Text = "",
) -> Response:  # fmt: skip
    """Shows what filing many posts at once would do, or does it and publishes."""
    blog = blog_for(here, me, slug)
    typed = {"add": add, "take": take, "main": [main], "tag": [tag], "untag": [untag]}
    try:
        known = {name.casefold(): number for name in read_tags(untag) for number in [tags.find(here, blog, name)]}
        new = read_tags(tag)
        numbers = {name: [int(one) for one in chosen if one.isdigit()] for name, chosen in (("add", add), ("take", take))}
        if not (numbers["add"] or numbers["take"] or main.isdigit() or new or known):
            raise BadInput("Nothing is to be changed yet; choose categories or tags to add or to take out.", "add")

        def change() -> Done:
            return categories.refile_posts(
                here, me, slug, post, add=numbers["add"], take=numbers["take"], main=_number(main),
                tags=[tags.make_tag(here, blog, name) for name in new], without_tags=known.values(),
            )  # fmt: skip

        if sure != "yes":
            effect = effects.effect_of(here, blog, change)
            fields: list[tuple[str, Any]] = [*((name, one) for name, values in typed.items() for one in values), *(("post", str(one)) for one in post), ("sure", "yes")]
            tried = Tried(effect.answer.words, in_words(effect.pages, category_subjects(here, blog)), links.several(slug), fields, "File them")
            return _several(here, me, blog, post, typed, tried)
        with here.db.transaction():
            done = change()
    except Refused as error:
        return _several(here, me, blog, post, typed, problem=str(error))
    placing.publish(here, blog, person=me, why="the filing changed")
    return see_other(f"{links.filing(slug)}?done={done.number}")


def _several(here: Workshop, me: Person, blog: Blog, numbers: list[int], typed: dict[str, list[str]], tried: Tried | None = None, problem: str = "") -> Response:
    rows = worklists.by_ids(here.db, blog.id, numbers)
    subjects = category_subjects(here, blog)
    choices = [Choice(str(subject.id), path_in_words(subjects, subject.id)) for _, subject in tree(subjects.values())]
    filed = [view.filed_post(here, blog, row) for row in rows]
    context = SeveralPage(bar_for(here, me, blog, "filing"), filed, choices, typed, ", ".join(typed.get("tag", [])), tried, problem)
    return page(context, 422 if problem else 200)
