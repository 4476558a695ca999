"""The table of all kinds of pages, and what is asked of all of them. A new kind is a module of this folder and a line here."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from mobbet.core.canonical import digest
from mobbet.core.keys import FRONT as FRONT_LIST
from mobbet.core.keys import ChangedFact, PageKey
from mobbet.publish.changes.change_set import Changes, ChangeSet
from mobbet.publish.house_parts import BUT_STYLE, FRONT, HouseDigest
from mobbet.publish.page_count import PageCount
from mobbet.publish.page_kind import ADDRESS, FILE, PageKind, Recipe
from mobbet.publish.pages import (
    archive,
    asset,
    end_mark,
    feed,
    former_address,
    media_file,
    missing,
    numbered_page,
    opensearch,
    own_style,
    post,
    post_list,
    robots,
    search,
    share_card,
    short_address,
    sitemap,
    style,
    subjects,
)
from mobbet.publish.plan import Plan
from mobbet.publish.rendered import Rendered
from mobbet.publish.renderer import Renderer
from mobbet.publish.values import Page

KINDS: dict[str, PageKind] = {
    module.KIND.name: module.KIND
    for module in (
        post, post_list, feed, subjects, archive, search, opensearch, end_mark, sitemap, robots, missing, short_address, former_address, numbered_page, share_card, media_file, asset, style, own_style,
    )
}  # fmt: skip
"""{name: kind}, in the order in which a footprint tells of them and an address is looked up."""
RECIPES: dict[str, Recipe] = {
    name: recipe for kind in KINDS.values() for name, recipe in kind.recipes.items()
}


def fixed_keys() -> list[PageKey]:
    """The keys that always stand for a page."""
    return [key for kind in KINDS.values() for key in kind.fixed()]


def restyled_keys(plan: Plan, before: HouseDigest, now: HouseDigest) -> list[PageKey] | None:
    """The pages to look at for another house style, where those are few: style sheets, and the front page for its sections. None where it may show on any
    page. Posts with other blocks below them are among the changed ones (`changes/pending.py`)."""
    if before.differs_in(BUT_STYLE, now):
        return None
    return (
        [*style.KIND.fixed(), *own_style.keys_now(plan), *resectioned_keys(before, now)]
        if before != now
        else []
    )


def resectioned_keys(before: HouseDigest, now: HouseDigest) -> list[PageKey]:
    """The front page, where its sections are others."""
    return [post_list.key(FRONT_LIST)] if before.differs_in(FRONT, now) else []


def page_at(plan: Plan, key: str) -> Page | None:
    """The page at a key; None when there is none at the plan's instant."""
    key = PageKey(key)
    kind = KINDS.get(key.kind)
    return kind.page(plan, key) if kind else None


def key_at(plan: Plan, path: str) -> PageKey | None:
    """The key of the page that stands, or may stand, at a path at the plan's instant."""
    return next(filter(None, (kind.at(plan, path) for kind in KINDS.values())), None)


def fingerprint(page: Page, house: HouseDigest) -> str:
    """The hash of everything a page's bytes follow from: what it reads, and what its kind shows of the house style."""
    shown = house.of(KINDS[page.key.kind].shows_of_house)
    return digest([page.path, page.recipe, page.audience, page.leads_to, page.reads, shown])


def count_of(keys: Iterable[PageKey], others: int = 0) -> PageCount:
    """The count of some keys, and of so many other pages."""
    kinds = [KINDS[key.kind].counts_as for key in keys]
    files, addresses = kinds.count(FILE), kinds.count(ADDRESS)
    return PageCount(len(kinds) - files - addresses + others, files, addresses)


def render(renderer: Renderer, page: Page) -> Rendered:
    """The bytes of a page of the plan."""
    return RECIPES[page.recipe](renderer, page)


def all_keys(plan: Plan) -> Iterator[PageKey]:
    """The keys of every page there may be, each once; those of a post follow one another."""
    yield from fixed_keys()
    kinds = KINDS.values()
    others = [*(key for kind in kinds for key in kind.keys(plan))]
    others += [key for name in plan.list_names() for kind in kinds for key in kind.keys_of_list(plan, name)]
    yield from dict.fromkeys(others)
    of_posts = [kind.keys_of_post for kind in kinds if kind.keys_of_post is not PageKind.keys_of_post]
    for post_id in plan.snapshot.post_ids():
        for keys in of_posts:
            yield from keys(plan, post_id)


def touched(plan: Plan, changes: Changes, facts: Iterable[ChangedFact] = ()) -> set[PageKey]:
    """The keys of every page that may differ after these changes of posts and facts."""
    changed = ChangeSet(plan, changes, facts)
    return {key for kind in KINDS.values() for key in kind.touched(changed)}


def certain(plan: Plan, changes: Changes) -> dict[PageKey, str]:
    """{key: path} of pages that differ after these changes, whatever else they show, if they were there before: the changed posts' own,
    those of lists on which they stand, and those on which other posts stand than before.
    """
    changed = ChangeSet(plan, changes)
    return {key: path for kind in KINDS.values() for key, path in kind.certain(changed)}
