"""The pages of lists: posts of the front page, of a category, a tag or a month.

Page 0 shows the newest posts. The others are numbered from the oldest and always full, so that a new post alters only the newest page.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from typing import Any, NamedTuple

from markupsafe import Markup

from mobbet.core.document import schema
from mobbet.core.document.html import Html
from mobbet.core.document.html_media import picture_html
from mobbet.core.document.write import to_html
from mobbet.core.facts import OutPost
from mobbet.core.filing import tree
from mobbet.core.keys import ALL, FRONT, TOP, ListName, PageKey
from mobbet.core.numbers import spelled
from mobbet.core.timing import month_name
from mobbet.core.values import existing
from mobbet.publish.cards import Card
from mobbet.publish.changes.altered import Altered
from mobbet.publish.changes.change_set import ChangeSet, ListChange
from mobbet.publish.fragments import link_from
from mobbet.publish.lists import data, full_pages
from mobbet.publish.page_kind import FootprintGroup, FootprintNames, Head, PageKind, Successors, counted
from mobbet.publish.pictures import rendition
from mobbet.publish.plan import Plan
from mobbet.publish.rendered import Rendered
from mobbet.publish.renderer import Renderer
from mobbet.publish.values import ListPage, Page, Step

MOST_ON_TOP = 5
"""How many posts stand at the top of the front page at the most."""
MOST_NAMES = 4
"""So many categories are named in a footprint; more are counted."""
_PLACES = ("first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth", "tenth")


def key(name: ListName, number: int | str = 0) -> PageKey:
    return PageKey.of("list", name, number)


def page(plan: Plan, key: PageKey) -> Page | None:
    """A page of a list; None where `Lists.path` has none."""
    name, number = key.list_name, int(key.last)
    path, step = plan.lists.path(name, number), plan.lists.step(name)
    if path is None or step is None:
        return None
    posts, beside = _posts(plan, name, number), _beside(plan, name, number, step.path)
    whole = posts if plan.snapshot.house.full_in_lists else []
    about = picture = None
    steps: tuple[Step, ...] = ()
    if name != FRONT:
        steps = (plan.lists.label, *(plan.lists.trail(name.number)[:-1] if name.is_of_category else ()))
    if name.is_of_category and number == 0:
        own = plan.snapshot.category_page(name.number)
        about = schema.load(own.description) if own.description else None
        picture = plan.snapshot.item(own.picture) if own.picture else None
    context = ListPage(
        title=step.name,
        kind=name.kind,
        path=path,
        posts=tuple(plan.cards.in_lists(post) for post in posts),
        number=number,
        older=beside.older,
        newer=beside.newer,
        trail=steps,
        about=about,
        picture=picture,
        feed=f"{step.path}feed" if name.is_of_category else "/feed",
        bodies={post.id: plan.cards.body_in_lists(post) for post in whole},
        links={post.id: plan.cards.links(post) for post in whole},
    )
    return Page(key, path, "list", _reads(context), context)


def _posts(plan: Plan, name: ListName, number: int) -> list[OutPost]:
    """The posts of a page, newest first; those at the top of the front page stand before its others."""
    snapshot, size = plan.snapshot, plan.snapshot.house.posts_on_page
    if number:
        return list(reversed(snapshot.window(name, (number - 1) * size, size)))
    posts = snapshot.newest(name, size)
    on_top = snapshot.newest(TOP, MOST_ON_TOP) if name == FRONT else []
    return list({post.id: post for post in (*on_top, *posts)}.values())


class _Beside(NamedTuple):
    """The addresses of the pages with older and newer posts."""

    older: str | None
    newer: str | None


def _beside(plan: Plan, name: ListName, number: int, base: str) -> _Beside:
    last = plan.lists.last(name)
    if number:
        older = f"{base}page/{number - 1}/" if number > 1 else None
        return _Beside(older, f"{base}page/{number + 1}/" if number < last else base)
    if not last:
        return _Beside(None, None)
    first_unseen = plan.snapshot.newest(name, plan.snapshot.house.posts_on_page + 1)[-1]
    return _Beside(f"{base}page/{last}/#post-{first_unseen.id}", None)


def _reads(context: ListPage) -> list[Any]:
    return [
        context.title,
        [card.digest for card in context.posts],
        context.older,
        context.newer,
        data(context.trail),
        context.about,
        context.picture and [context.picture.id, context.picture.version],
        sorted((post_id, sorted(found.items())) for post_id, found in context.links.items()),
    ]


def _keys_of_list(plan: Plan, name: ListName) -> Iterator[PageKey]:
    if name in (ALL, TOP):
        return
    if name.kind == "under":
        yield key(name.shown_on)
        return
    count, size = plan.snapshot.count(name), plan.snapshot.house.posts_on_page
    yield from (key(name, number) for number in range(full_pages(count, size) + 1))


def _touched(changed: ChangeSet) -> Iterator[PageKey]:
    plan = changed.plan
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
    if one.name.kind in ("all", "top", "under"):
        return
    size = plan.snapshot.house.posts_on_page
    last, last_before = full_pages(one.count, size), full_pages(one.count_before, size)
    numbers = {0, *(rank // size + 1 for rank in one.ranks)} | one.shifted_pages
    if last != last_before:  # numbered pages begin or end, and the one before them links to another
        numbers.update(range(max(1, min(last, last_before)), max(last, last_before) + 1))
    yield from (key(one.name, number) for number in numbers if number <= max(last, last_before))


def _showing_links_to(plan: Plan, post_id: int) -> Iterator[PageKey]:
    for number in plan.snapshot.linking_to(post_id):
        for name in plan.lists_of(existing(plan.snapshot.post(number))):
            yield from _keys_of_list(plan, name)


def _certain(changed: ChangeSet) -> Iterator[tuple[PageKey, str]]:
    """The pages of lists on which a rewritten post stands, or other posts than before."""
    plan, size = changed.plan, changed.plan.snapshot.house.posts_on_page
    for one in changed.lists:
        if one.name.kind in ("all", "top", "under"):
            continue
        numbers = one.shifted_pages | {place // size + 1 for place in one.rewritten}
        numbers |= {0} if any(place >= one.count - size for place in one.rewritten) else set()
        for number in numbers:
            path = plan.lists.path(one.name, number)
            if path:
                yield key(one.name, number), path


def _at(plan: Plan, path: str) -> PageKey | None:
    base, number = plan.lists.numbered(path)
    name = plan.lists.at(base)
    if name:
        return key(name, number)
    home = plan.snapshot.address_owner(path)
    return key(ListName.of(home.kind, home.number)) if home and home.kind in ("category", "tag") else None


def _successors(key_: PageKey, known: Successors) -> Iterable[PageKey]:
    """The list's newest page, that of the list it went into, and the page that names all lists of its kind."""
    name = key_.list_name
    heir = known.list_name(name) if name.is_subject else None
    newest = [key(heir)] if heir else []
    return (key_, *newest, key(name), PageKey("archive/" if name.kind == "month" else "subjects/"))


def _render(renderer: Renderer, page: Page) -> Rendered:
    root = renderer.root_from(page)
    link = link_from(root)
    return renderer.template(
        page,
        item=lambda card, is_first, index: renderer.fragments.item(
            card, is_first, index, root, _whole_text(renderer, page, card, link)
        ),
        picture=lambda item, sizes: Markup(picture_html(existing(rendition(item, sizes, link)), "", "high")),
        about=lambda document: Markup(
            to_html(document, Html(is_page=True, language=renderer.house.language))
        ),
    )


def _whole_text(renderer: Renderer, page: Page, card: Card, link: Callable[[str], str]) -> Markup | None:
    """A post's whole text in a list; None where lists show teasers."""
    if not page.context.bodies:
        return None
    html = renderer.html_of(card, page.context.links[card.id], link)
    return Markup(to_html(page.context.bodies[card.id], html))


def head_in_words(head: Head) -> str:
    """“first of ten; “Which glue, honestly” leaves it”."""
    place = _PLACES[head.place - 1] if head.place <= len(_PLACES) else f"number {head.place}"
    return f"{place} of {spelled(head.size)}" + (f"; “{head.leaves}” leaves it" if head.leaves else "")


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
        FootprintGroup(lambda key, post_id: key.list_name == FRONT and key.last == "0", _front_words),
        FootprintGroup(
            _is_of("front"), lambda pages, names: f"{counted(len(pages), 'older page')} of the front"
        ),
        FootprintGroup(_is_of("category"), _category_pages),
        FootprintGroup(
            _is_of("tag"),
            lambda pages, names: counted(len({page.key.list_name for page in pages}), "tag page"),
        ),
        FootprintGroup(_is_of("month"), _month_words),
    ),
    differs_by_reader=True,
)
