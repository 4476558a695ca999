"""Addresses: where each one leads, what was there before, and the nearest pages to offer instead."""

from __future__ import annotations

from dataclasses import dataclass
from urllib.parse import unquote

from mobbet.actions.workshop import Workshop
from mobbet.core.audience import EVERYONE
from mobbet.core.keys import ALL, ListName, PageKey
from mobbet.core.permalinks import number_of_code, one_form
from mobbet.store import addresses, blogs, editions, placements, posts
from mobbet.store.blogs import Blog
from mobbet.store.database import Database
from mobbet.store.placements import Placement
from mobbet.store.snapshot import SiteSnapshot

PAGE, REDIRECT, GONE, NOTHING = "page", "leads-on", "gone", "nothing"


@dataclass(frozen=True)
class Answer:
    """What an address answers with: `kind` is 'page', 'leads-on', 'gone' or 'nothing'; `path` is where the page is, or the address it redirects to.

    `post` is the post that is gone, for everyone who may have read it.
    """

    kind: str
    path: str = ""
    post: int | None = None


def resolve(workshop: Workshop, blog: Blog, asked: str) -> Answer:
    """What readers get at an address below the blog's, in whatever spelling. An address redirects at most once."""
    path = one_form(asked.partition("?")[0])
    target = old_query(workshop, blog, asked) if "?" in asked else None
    if target:
        return Answer(REDIRECT, target)
    found = _at(workshop, blog, path) or (_at(workshop, blog, path.rstrip("/")) if path != "/" else None)
    if found is None:
        return Answer(NOTHING)
    return (
        Answer(REDIRECT, found.path)
        if found.kind == PAGE and found.path != asked.partition("?")[0]
        else found
    )


def old_query(workshop: Workshop, blog: Blog, asked: str) -> str | None:
    """Where an old address with a question mark leads; None where it is none of those that were added."""
    home = addresses.address_owner(workshop.db, blog.id, _with_query(asked), workshop.clock())
    answer = _of_home(workshop, blog, home.kind, home.number, home.target) if home else None
    return answer.path if answer and answer.path else None


def blogs_with_queries(db: Database) -> set[int]:
    """The blogs that have old addresses with a question mark."""
    return {blog.id for blog in blogs.every(db) if addresses.with_query(db, blog.id)}


def _with_query(asked: str) -> str:
    path, _, query = asked.partition("?")
    return f"{one_form(path)}?{unquote(query)}".lower()


def _at(workshop: Workshop, blog: Blog, path: str) -> Answer | None:
    """What stands at the one spelling of an address, or stood there."""
    db = workshop.db
    row = editions.page_at(db, blog.id, path)
    if row is not None and row.leads_to is None:
        return Answer(PAGE, row.path)
    if row is not None and row.key.kind == "numbered":
        return Answer(REDIRECT, row.leads_to or "")
    home = addresses.address_owner(db, blog.id, path, workshop.clock())
    if home is not None:
        return _of_home(workshop, blog, home.kind, home.number, home.target)
    if path.startswith("/~"):
        number = number_of_code(path.strip("/~"))
        found = posts.by_id(db, number) if number else None
        return _of_post(workshop, blog, found.id) if found and found.blog_id == blog.id else None
    before = editions.last_page_at(db, blog.id, path)
    return _of_key(workshop, blog, before.key) if before is not None and before.audience == EVERYONE else None


def _of_home(workshop: Workshop, blog: Blog, kind: str, number: int, target: str) -> Answer | None:
    if kind == "away":
        return Answer(REDIRECT, target)
    if kind == "post":
        return _of_post(workshop, blog, number)
    return _of_key(workshop, blog, PageKey.of("list", ListName.of(kind, number), 0))


def _of_post(workshop: Workshop, blog: Blog, number: int) -> Answer | None:
    row = editions.page_of(workshop.db, blog.id, PageKey.of("post", number))
    if row is not None:
        return Answer(REDIRECT, row.path)
    now, placed = workshop.clock(), placements.of_post(workshop.db, number)
    if any(one.shows_from <= now < one.shows_until for one in placed):
        return None  # it is out, but for the edition that is being made
    led = (
        editions.page_of(workshop.db, blog.id, PageKey.of("former", path))
        for path in addresses.of(workshop.db, "post", number, now)
    )
    on = next((row.leads_to for row in led if row is not None and row.leads_to), None)
    if on:
        return Answer(REDIRECT, on)
    was_public = any(
        one.audience == EVERYONE and one.shows_from < one.shows_until and one.shows_from <= now
        for one in placed
    )
    return Answer(GONE, post=number) if was_public or posts.by_id(workshop.db, number) is None else None


def _of_key(workshop: Workshop, blog: Blog, key: PageKey) -> Answer:
    """Where the page is now that once was made from a key: the same, or what its kind names as its successors."""
    from mobbet.publish.pages.kinds import (
        KINDS,  # it loads what renders pages, which most answers do not need
    )

    if key.kind == "post":
        return _of_post(workshop, blog, key.number) or Answer(NOTHING)
    wanted = KINDS[key.kind].successors(key, _Successors(workshop, blog))
    rows = (editions.page_of(workshop.db, blog.id, one) for one in wanted)
    row = next((row for row in rows if row is not None), None)
    return Answer(REDIRECT, row.path) if row is not None else Answer(NOTHING)


class _Successors:
    """What came in the place of lists and files, from the addresses and the current edition of a blog."""

    def __init__(self, workshop: Workshop, blog: Blog) -> None:
        self._db = workshop.db
        self._blog_id = blog.id

    def list_name(self, name: ListName) -> ListName | None:
        paths = editions.paths_of(self._db, self._blog_id, PageKey.of("list", name, 0))
        heir = addresses.heir(self._db, self._blog_id, name.kind, name.number, paths)
        return ListName.of(*heir) if heir else None

    def page_holding(self, name: ListName, post_id: int) -> int:
        from mobbet.publish.plan import Plan

        edition, placed = editions.current(self._db, self._blog_id), placements.of_post(self._db, post_id)
        if edition is None or not placed:
            return 0
        lists = Plan(SiteSnapshot(self._db, self._blog_id, edition.instant)).lists
        return lists.page_holding(name, (placed[-1].goes_out, post_id))

    def files(self, media_id: int, use: str) -> list[PageKey]:
        return editions.keys(self._db, self._blog_id, f"{PageKey.of('media', media_id, use)}/")


def neighbours_of(workshop: Workshop, blog: Blog, post_id: int | None) -> list[Placement]:
    """The posts that a page of one that is gone offers: those beside it in time, and the newest of its main category."""
    now, db = workshop.clock(), workshop.db
    if post_id is None:
        return placements.newest_listed(db, blog.id, ALL, now, 3)
    last = next(
        (row for row in reversed(placements.of_post(db, post_id)) if row.shows_from < row.shows_until), None
    )
    if last is None:
        return placements.newest_listed(db, blog.id, ALL, now, 3)
    beside = placements.beside(db, blog.id, last.goes_out, post_id, now)
    alike = (
        placements.newest_listed(db, blog.id, ListName.of("category", last.categories[0]), now, 3)
        if last.categories
        else []
    )
    return list({row.post_id: row for row in (*beside, *alike) if row.post_id != post_id}.values())
