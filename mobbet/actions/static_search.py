"""The index by which readers search where a site stands as files: made of what everybody may read, when the site is sent."""

from __future__ import annotations

import time
from collections.abc import Iterator

from mobbet.actions.access import owned_blog
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.audience import EVERYONE
from mobbet.core.static_search import NEVER, is_due, read_every
from mobbet.publish.page_words import words_of_page
from mobbet.services.contracts import IndexedPage
from mobbet.store import blogs, editions, targets
from mobbet.store import static_search as store
from mobbet.store.blogs import Blog
from mobbet.store.editions import PageRow
from mobbet.store.people import Person
from mobbet.store.snapshot import SiteSnapshot
from mobbet.store.static_search import Made


def set_rule(workshop: Workshop, person: Person, slug: str, every: str) -> None:
    """How often places outside get a new index. Only the owner may. Raises BadInput."""
    blog = owned_blog(workshop, person, slug)
    with changing(workshop, person):
        blogs.settle(workshop.db, blog.id, static_search=read_every(every))
        if every == NEVER:
            store.forget(workshop.db, blog.id)
        for target in targets.of_blog(workshop.db, blog.id):
            targets.set_behind(workshop.db, target.id)


def is_time(workshop: Workshop, blog: Blog) -> bool:
    """Whether the index has fallen behind the site for as long as the owner lets it."""
    if blog.static_search == NEVER:
        return False
    made = store.made(workshop.db, blog.id)
    is_current = made is not None and made.edition == editions.current_number(workshop.db, blog.id)
    return is_due(blog.static_search, made.made_at if made else None, is_current, workshop.clock())


def bring_up_to_date(workshop: Workshop, blog: Blog) -> None:
    """Makes the index anew where it is time to, and at once where it has words of posts that not everybody may read by now. Raises Broken."""
    if blog.static_search == NEVER:
        return
    rows, made = _rows(workshop, blog), store.made(workshop.db, blog.id)
    is_harmless = made is None or made.posts <= {row.key.number for row in rows}
    if is_harmless and not is_time(workshop, blog):
        return
    began, number = time.monotonic(), editions.current_number(workshop.db, blog.id)
    with workshop.db.reading():
        snapshot = SiteSnapshot(workshop.db, blog.id, workshop.clock())
    found = workshop.services.make_index(list(_pages(workshop, snapshot, rows)), snapshot.house.language)
    kept = {name: workshop.pages.put(body) for name, body in found.items()}
    workshop.pages.sync([path for _, paths in kept.values() for path in paths])
    made = Made(
        workshop.clock(),
        number,
        frozenset(row.key.number for row in rows),
        sum(map(len, found.values())),
        round((time.monotonic() - began) * 1000),
    )
    with changing(workshop):
        store.keep(workshop.db, blog.id, made, {name: hash for name, (hash, _) in kept.items()})
        for target in targets.of_blog(workshop.db, blog.id):
            if target.edition == number:  # it has everything but the new index
                targets.set_behind(workshop.db, target.id)


def _rows(workshop: Workshop, blog: Blog) -> list[PageRow]:
    """The pages of posts that everybody may read."""
    return [
        row
        for row in editions.pages(workshop.db, blog.id)
        if row.key.kind == "post" and row.audience == EVERYONE and row.shelf == "pages" and not row.leads_to
    ]


def _pages(workshop: Workshop, snapshot: SiteSnapshot, rows: list[PageRow]) -> Iterator[IndexedPage]:
    for row in rows:
        body, post = workshop.pages.read(row.hash), snapshot.post(row.key.number)
        if body is None or post is None:
            continue
        words = words_of_page(body)
        subjects = {
            "category": [
                snapshot.categories[one].name for one in post.categories if one in snapshot.categories
            ],
            "tag": [one.name for one in snapshot.tags(post.tags)],
        }
        yield IndexedPage(row.path, words.title, words.text, subjects)
