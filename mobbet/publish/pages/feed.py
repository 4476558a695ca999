"""The feeds of the blog, of its categories and of its authors."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator
from dataclasses import replace
from html import escape

from mobbet.core.document import schema
from mobbet.core.document.write import to_html, to_text
from mobbet.core.keys import ALL, FRONT, ListName, PageKey
from mobbet.core.values import existing
from mobbet.publish import feeds, house_parts
from mobbet.publish.changes.altered import Altered
from mobbet.publish.changes.change_set import ChangeSet
from mobbet.publish.lists import data, has_feed
from mobbet.publish.page_kind import FootprintGroup, FootprintNames, PageKind, Successors
from mobbet.publish.pages.post_list import category_words
from mobbet.publish.plan import Plan
from mobbet.publish.rendered import Rendered
from mobbet.publish.renderer import Renderer, parted
from mobbet.publish.values import FeedPage, FeedPost, Page, Step

LENGTH = 20
"""How many posts a feed has at the most."""
FORMATS = tuple(feeds.FORMATS)
_PATH = re.compile(rf"(?P<base>/(?:.*/)?)feed\.(?P<format>{'|'.join(FORMATS)})")


def key(name: ListName, format: str) -> PageKey:
    return PageKey.of("feed", name, format)


def keys_of(name: ListName) -> Iterator[PageKey]:
    """The keys of a list's feeds; none for a list without."""
    if has_feed(name):
        yield from (key(name, format) for format in FORMATS)


def page(plan: Plan, key: PageKey) -> Page | None:
    """A feed of a list; None for a list without posts, but for that of the whole blog."""
    name, format = key.list_name, key.last
    step, house = plan.lists.step(name), plan.snapshot.house
    posts = plan.lists.feed_posts(name, LENGTH) if step else ()
    if step is None or (name != ALL and not posts):
        return None
    title, about = house.name, house.tagline
    if name != ALL:
        own = plan.snapshot.category_page(name.number).description if name.is_of_category else ""
        title = f"{step.name} · {house.name}"
        about = " ".join(to_text(schema.load(own)).split()) if own else ""
    context = FeedPage(title, about, f"{step.path}feed", step.path, posts)
    fields = feeds.FIELDS[format]
    shown = [
        [
            post.card.text_digest,
            [name for name, _ in post.card.categories],
            *post.card.shown(fields),
            sorted(post.links.items()),
            *([data(post.older)] if post.older else []),
        ]
        for post in context.posts
    ]
    reads = [title, about, step.path, shown, *([house.hub] if house.hub else [])]
    return Page(key, f"{context.path}.{format}", f"feed-{format}", reads, context)


def _touched(changed: ChangeSet) -> Iterator[PageKey]:
    plan = changed.plan
    for one in changed.lists:
        if has_feed(one.name) and one.is_among_newest(LENGTH):
            yield from keys_of(one.name)
    for name in changed.subjects:
        yield from keys_of(name)
    for post_id in changed.moved_posts:  # a feed may hold any of the texts that link to it
        for number in plan.snapshot.linking_to(post_id):
            for name in plan.lists_of(existing(plan.snapshot.post(number))):
                yield from keys_of(name)
    if plan.snapshot.house.names_alike:
        yield from _naming_alike(changed)


def _naming_alike(changed: ChangeSet) -> Iterator[PageKey]:
    """The feeds that hold a post which may lead to other older posts than before."""
    plan = changed.plan
    posts = {fact.number for fact in changed.facts_of("alike")}
    for post_id in changed.renamed_posts:
        posts.update(plan.snapshot.showing_alike(post_id))
    for post in filter(None, map(plan.snapshot.post, posts)):
        for name in plan.lists_of(post):
            if has_feed(name) and plan.lists.is_in_feed(name, post, LENGTH):
                yield from keys_of(name)


def _at(plan: Plan, path: str) -> PageKey | None:
    found = _PATH.fullmatch(path)
    if found and found["base"] == "/":
        return key(ALL, found["format"])
    name = plan.lists.at(found["base"]) if found else None
    return key(ALL if name == FRONT else name, found["format"]) if found and name else None


def _successors(key_: PageKey, known: Successors) -> Iterable[PageKey]:
    name = key_.list_name
    heir = known.list_name(name) if name.is_of_category else None
    return (key_, *([key(heir, key_.last)] if heir else []), key(ALL, key_.last))


def _render(renderer: Renderer, page: Page) -> Rendered:
    return feeds.render(page, renderer.house, renderer.absolute, lambda post: _text(renderer, post))


def _text(renderer: Renderer, post: FeedPost) -> str:
    """A post's whole text for feeds, what leads it first, and its older posts; written once for all feeds of an edition."""
    known = post.cached_by
    if known not in renderer.feed_texts:
        leading, rest = parted(post.card, post.body)
        html = replace(renderer.html_of(post.card, post.links, renderer.absolute), is_feed=True)
        parts = [to_html(part, html) for part in (leading, rest) if part]
        renderer.feed_texts[known] = "\n".join([*parts, *_older(renderer, post.older)])
    return renderer.feed_texts[known]


def _older(renderer: Renderer, steps: tuple[Step, ...]) -> Iterator[str]:
    if steps:
        links = (
            f'<li><a href="{escape(renderer.absolute(one.path))}">{escape(one.name)}</a></li>'
            for one in steps
        )
        yield f"<h2>Older posts on this</h2>\n<ul>{''.join(links)}</ul>"


def _words(pages: list[Altered], names: FootprintNames) -> str:
    words, count = category_words(pages, names)
    return f"feed{'s' if count > 1 else ''} of {words}"


KIND = PageKind(
    name="feed",
    page=page,
    recipes={f"feed-{format}": _render for format in FORMATS},
    keys=lambda plan: keys_of(ALL),
    keys_of_list=lambda plan, name: keys_of(name),
    touched=_touched,
    at=_at,
    successors=_successors,
    groups=(
        FootprintGroup(lambda key, post_id: key.list_name == ALL, lambda pages, names: "the blog’s feeds"),
        FootprintGroup(
            lambda key, post_id: key.list_name.kind == "author", lambda pages, names: "feeds of authors"
        ),
        FootprintGroup(lambda key, post_id: True, _words),
    ),
    shows_of_house=house_parts.ADDRESSES,
)
