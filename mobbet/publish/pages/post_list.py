"""The pages of lists: posts of the front page, of a category, a tag or a month.

The newest page shows the newest posts. Older ones are known by their oldest post, and divided as `core/division.py` says, so that a post
alters few of them, wherever in the list it comes or goes.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from typing import Any, NamedTuple

from markupsafe import Markup

from mobbet.core.division import Part, has_address
from mobbet.core.document import schema
from mobbet.core.document.from_plain import from_plain
from mobbet.core.document.html import Html
from mobbet.core.document.html_media import picture_html
from mobbet.core.document.write import to_html
from mobbet.core.facts import Author, OutPost
from mobbet.core.filing import tree
from mobbet.core.keys import ALL, FRONT, NEWEST, TOP, ListName, PageKey
from mobbet.core.numbers import counted, ordinal, spelled
from mobbet.core.timing import month_name
from mobbet.core.values import existing
from mobbet.publish import house_parts
from mobbet.publish.cards import Card
from mobbet.publish.changes.altered import Altered
from mobbet.publish.changes.change_set import ChangeSet, ListChange
from mobbet.publish.fragments import AT_ONCE, link_from
from mobbet.publish.front import reads_of, sections_of
from mobbet.publish.lists import data, has_feed, page_path
from mobbet.publish.page_kind import FootprintGroup, FootprintNames, Head, PageKind, Successors
from mobbet.publish.pictures import rendition, share_picture
from mobbet.publish.plan import Plan
from mobbet.publish.rendered import Rendered
from mobbet.publish.renderer import Renderer
from mobbet.publish.values import ListPage, Page, Step

MOST_ON_TOP = 5
"""How many posts stand at the top of the front page at the most."""
MOST_NAMES = 4
"""So many categories are named in a footprint; more are counted."""


def key(name: ListName, first: int = 0) -> PageKey:
    """The key of a list's newest page, or with `first` of the older one that begins with that post."""
    return PageKey.of("list", name, f"from-{first}" if first else NEWEST)


def page(plan: Plan, key: PageKey) -> Page | None:
    """A page of a list; None where `Lists.path` has none."""
    name, first = key.list_name, key.first_post
    path, step = plan.lists.path(name, first), plan.lists.step(name)
    if path is None or step is None:
        return None
    part = plan.lists.part(name, first) if first else None
    posts, beside = _posts(plan, name, part), _beside(plan, name, part, step.path)
    whole = posts if plan.snapshot.house.full_in_lists else []
    about = picture = None
    steps: tuple[Step, ...] = ()
    if name != FRONT:
        above = plan.lists.trail(name.number) if name.is_of_category else ()
        steps = above[:-1] if plan.lists.below_label(above) == above else plan.lists.below_label(above[:-1])
    if name.is_of_category and not first:
        own = plan.snapshot.category_page(name.number)
        about = schema.load(own.description) if own.description else None
        picture = plan.snapshot.item(own.picture) if own.picture else None
    author = plan.snapshot.author(name.number) if name.kind == "author" else None
    if author and not first:
        about = from_plain(author.text) if author.text else None
        picture = plan.snapshot.item(author.picture) if author.picture else None
    context = ListPage(
        title=step.name,
        kind=name.kind,
        path=path,
        posts=tuple(plan.cards.in_lists(post) for post in posts),
        is_newest=not first,
        older=beside.older,
        newer=beside.newer,
        trail=steps,
        about=about,
        picture=picture,
        feed=f"{step.path}feed" if has_feed(name) else "/feed",
        author=author,
        bodies={post.id: plan.cards.body_in_lists(post) for post in whole},
        links={post.id: plan.cards.links_in_lists(post) for post in whole},
        sections=sections_of(plan) if name == FRONT and not first else (),
    )
    return Page(key, path, "list", _reads(context, plan.snapshot.house.categories_in_lists), context)


def _posts(plan: Plan, name: ListName, part: Part | None) -> list[OutPost]:
    """The posts of a page, newest first; those at the top of the front page stand before its others."""
    snapshot = plan.snapshot
    if part:
        return list(reversed(snapshot.window(name, part[0], part[1] - part[0])))
    posts = snapshot.newest(name, plan.lists.size)
    return list({post.id: post for post in (*on_top(plan, name), *posts)}.values())


def on_top(plan: Plan, name: ListName) -> list[OutPost]:
    """The posts that stand at the top of a list's newest page, before its newest."""
    return plan.snapshot.newest(TOP, MOST_ON_TOP) if name == FRONT else []


class _Beside(NamedTuple):
    """The addresses of the pages with older and newer posts."""

    older: str | None
    newer: str | None


def _beside(plan: Plan, name: ListName, part: Part | None, base: str) -> _Beside:
    lists, count = plan.lists, plan.snapshot.count(name)

    def at(place: int) -> str:
        return page_path(base, lists.first_of(name, lists.holding(name, place)))

    if part:
        newer = part[1] if has_address((part[1], part[1]), count, lists.size) else None
        return _Beside(at(part[0] - 1) if part[0] else None, at(newer) if newer else base)
    unseen = count - lists.size - 1
    if unseen < 0:
        return _Beside(None, None)
    return _Beside(f"{at(unseen)}#post-{plan.snapshot.places(name, unseen, 1)[0][1]}", None)


def _reads(context: ListPage, shows_categories: bool) -> list[Any]:
    posts = context.posts
    return [
        context.title,
        [[card.list_digest, card.text_digest if card.id in context.bodies else ""] for card in posts],
        [card.categories for card in posts] if shows_categories else [],
        posts[0].minutes if posts and context.is_newest and not context.bodies else 0,
        context.older,
        context.newer,
        data(context.trail),
        context.about,
        [context.author.line, context.author.links, context.author.path] if context.author else None,
        context.picture and [context.picture.id, context.picture.version],
        sorted((post_id, sorted(found.items())) for post_id, found in context.links.items()),
        [reads_of(section, shows_categories) for section in context.sections],
    ]


def _keys_of_list(plan: Plan, name: ListName) -> Iterator[PageKey]:
    if name in (ALL, TOP):
        return
    if name.kind == "under":
        yield key(name.shown_on)
        return
    yield key(name)
    yield from (key(name, first) for first in plan.lists.pages(name))


def _touched(changed: ChangeSet) -> Iterator[PageKey]:
    plan = changed.plan
    if plan.snapshot.house.front_sections and (changed.posts or changed.facts):
        yield key(FRONT)
    for one in changed.lists:
        yield from _touched_of(plan, one)
    for name in changed.subjects:
        yield key(name)
        yield from _keys_of_list(plan, name)
    if plan.snapshot.house.full_in_lists:
        for post_id in changed.moved_posts:
            yield from _showing_links_to(plan, post_id)


def _touched_of(plan: Plan, one: ListChange) -> Iterator[PageKey]:
    """The pages on which these posts stand or stood, those on which others stand than before, and those that begin or end."""
    if one.name == TOP:
        yield key(FRONT)
    if one.name.kind == "under":
        yield from _keys_of_list(plan, one.name)
    if not one.name.has_pages:
        return
    if one.reaches_newest:
        yield key(one.name)
    yield from (key(one.name, first) for first in {*one.redivided.pages, *one.standing_on})


def _showing_links_to(plan: Plan, post_id: int) -> Iterator[PageKey]:
    for number in plan.snapshot.linking_to(post_id):
        for name in plan.lists_of(existing(plan.snapshot.post(number))):
            yield from _keys_of_list(plan, name)


def _certain(changed: ChangeSet) -> Iterator[tuple[PageKey, str]]:
    """The pages of lists on which a rewritten post stands, or other posts than before."""
    plan = changed.plan
    for one in changed.lists:
        if not one.name.has_pages:
            continue
        pages = one.redivided.showing_others | one.rewritten_on
        for first in pages | ({0} if one.is_rewritten_on_newest else set()):
            path = plan.lists.path(one.name, first)
            if path:
                yield key(one.name, first), path


def _at(plan: Plan, path: str) -> PageKey | None:
    at = plan.lists.parsed(path)
    name = plan.lists.at(at.base) if not at.number else None
    if name:
        return key(name, at.first)
    home = plan.snapshot.address_owner(path)
    return key(ListName.of(home.kind, home.number)) if home and home.kind in ("category", "tag") else None


def _successors(key_: PageKey, known: Successors) -> Iterable[PageKey]:
    """The page with the post that the address names, the list's newest page, that of the list it went into, and the page that names all lists of its kind."""
    name, first = key_.list_name, key_.first_post
    holding = known.page_holding(name, first) if first > 0 else 0
    heir = known.list_name(name) if name.is_subject else None
    newest = [key(heir)] if heir else []
    return (
        key_,
        *([key(name, holding)] if holding else []),
        *newest,
        key(name),
        PageKey("archive/" if name.kind == "month" else "subjects/"),
    )


def _render(renderer: Renderer, page: Page) -> Rendered:
    root = renderer.root_from(page)
    link = link_from(root, renderer.house.server)
    return renderer.template(
        page,
        profile=_profile(renderer, page),
        short=lambda card: renderer.fragments.item(card, False, AT_ONCE, root, level=3),
        block=lambda shown: renderer.block(shown, link),
        portrait=lambda item, sizes, use: Markup(
            picture_html(existing(rendition(item, sizes, link, use)), "", "")
        ),
        item=lambda card, is_first, index: renderer.fragments.item(
            card, is_first, index, root, _whole_text(renderer, page, card, link)
        ),
        picture=lambda item, sizes: Markup(picture_html(existing(rendition(item, sizes, link)), "", "high")),
        about=lambda document: Markup(
            to_html(document, Html(is_page=True, language=renderer.house.language))
        ),
    )


def _profile(renderer: Renderer, page: Page) -> dict[str, Any] | None:
    """schema.org ProfilePage of an author's newest page."""
    author: Author | None = page.context.author
    if author is None or not page.context.is_newest:
        return None
    person: dict[str, Any] = {"@type": "Person", "name": author.name, "url": renderer.absolute(author.path)}
    if author.line:
        person["description"] = author.line
    if author.links:
        person["sameAs"] = list(author.links)
    file = share_picture(page.context.picture)
    if file:
        person["image"] = renderer.absolute(file.path)
    return {"@context": "https://schema.org", "@type": "ProfilePage", "mainEntity": person}


def _whole_text(renderer: Renderer, page: Page, card: Card, link: Callable[[str], str]) -> Markup | None:
    """A post's whole text in a list; None where lists show teasers."""
    if not page.context.bodies:
        return None
    html = renderer.html_of(card, page.context.links[card.id], link)
    return Markup(to_html(page.context.bodies[card.id], html))


def head_in_words(head: Head) -> str:
    """“first of ten; “Which glue, honestly” leaves it”."""
    if head.is_on_top:
        return "kept at the top"
    return f"{ordinal(head.place)} of {spelled(head.size)}" + (
        f"; “{head.leaves}” leaves it" if head.leaves else ""
    )


def _front_words(pages: list[Altered], names: FootprintNames) -> str:
    return f"the front page: {head_in_words(names.front)}" if names.front else "the front page"


def category_words(pages: list[Altered], names: FootprintNames) -> tuple[str, int]:
    """(the categories of these pages, by name where they are few; how many they are)."""
    numbers = {page.key.list_name.number for page in pages}
    found = [subject.name for _, subject in tree(names.subjects.values()) if subject.id in numbers]
    if not found or len(numbers) > MOST_NAMES:
        return counted(len(numbers), "category", "categories"), len(numbers)
    return ", ".join(found), len(numbers)


def _category_pages(pages: list[Altered], names: FootprintNames) -> str:
    words, count = category_words(pages, names)
    return f"{words}, {len(pages)} pages" if len(pages) > count else words


def _month_words(pages: list[Altered], names: FootprintNames) -> str:
    months = list(dict.fromkeys(page.key.list_name.which for page in pages))
    return f"the page of {month_name(months[0])}" if len(months) == 1 else f"{len(months)} months"


def _is_of(kind: str) -> Callable[[PageKey, int | None], bool]:
    return lambda key, post_id: key.list_name.kind == kind


KIND = PageKind(
    name="list",
    page=page,
    recipes={"list": _render},
    keys=lambda plan: _keys_of_list(plan, FRONT),
    keys_of_list=_keys_of_list,
    touched=_touched,
    certain=_certain,
    at=_at,
    successors=_successors,
    groups=(
        FootprintGroup(lambda key, post_id: key.list_name == FRONT and key.first_post == 0, _front_words),
        FootprintGroup(
            _is_of("front"), lambda pages, names: f"{counted(len(pages), 'older page')} of the front"
        ),
        FootprintGroup(_is_of("category"), _category_pages),
        FootprintGroup(
            _is_of("tag"),
            lambda pages, names: counted(len({page.key.list_name for page in pages}), "tag page"),
        ),
        FootprintGroup(
            _is_of("author"),
            lambda pages, names: counted(
                len({page.key.list_name for page in pages}), "author’s page", "authors’ pages"
            ),
        ),
        FootprintGroup(_is_of("month"), _month_words),
    ),
    differs_by_reader=True,
    shows_of_house=house_parts.LISTS,
)
