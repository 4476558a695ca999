"""Addresses: where each one leads, what stood there, and what stands near it."""

from __future__ import annotations

import re
from dataclasses import dataclass
from urllib.parse import unquote

from mobbet.actions.workshop import Workshop
from mobbet.core.audience import EVERYONE
from mobbet.core.permalinks import number_of_code, one_form
from mobbet.store import addresses, blogs, editions, placements, posts
from mobbet.store.blogs import Blog
from mobbet.store.database import Database
from mobbet.store.placements import Placement

PAGE, LEADS_ON, GONE, NOTHING = "page", "leads-on", "gone", "nothing"


@dataclass(frozen=True)
class Answer:
    """What an address answers with: `kind` is 'page', 'leads-on', 'gone' or 'nothing'; `path` is where the page is, or where it leads.

    `post` is the post that is gone, for everyone who may have read it.
    """

    kind: str
    path: str = ""
    post: int | None = None


def resolve(workshop: Workshop, blog: Blog, asked: str) -> Answer:
    """What readers get at an address below the blog's, in whatever spelling. An address leads on at most once."""
    path = one_form(asked.partition("?")[0])
    target = old_query(workshop, blog, asked) if "?" in asked else None
    if target:
        return Answer(LEADS_ON, target)
    found = _at(workshop, blog, path) or (_at(workshop, blog, path.rstrip("/")) if path != "/" else None)
    if found is None:
        return Answer(NOTHING)
    return (
        Answer(LEADS_ON, found.path)
        if found.kind == PAGE and found.path != asked.partition("?")[0]
        else found
    )


def old_query(workshop: Workshop, blog: Blog, asked: str) -> str | None:
    """Where an old address with a question mark leads; None where it is none of those that were added."""
    home = addresses.home_of(workshop.db, blog.id, _with_query(asked), workshop.clock())
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
    home = addresses.home_of(db, blog.id, path, workshop.clock())
    if home is not None:
        return _of_home(workshop, blog, home.kind, home.number, home.target)
    if path.startswith("/~"):
        number = number_of_code(path.strip("/~"))
        post = posts.by_id(db, number) if number else None
        return _of_post(workshop, blog, post.id) if post and post.blog_id == blog.id else None
    before = editions.last_page_at(db, blog.id, path)
    return _of_key(workshop, blog, before.key) if before is not None and before.audience == EVERYONE else None


def _of_home(workshop: Workshop, blog: Blog, kind: str, number: int, target: str) -> Answer | None:
    if kind == "away":
        return Answer(LEADS_ON, target)
    if kind == "post":
        return _of_post(workshop, blog, number)
    return _of_key(workshop, blog, f"list/{kind}:{number}/0")


def _of_post(workshop: Workshop, blog: Blog, number: int) -> Answer | None:
    row = editions.page_of(workshop.db, blog.id, f"post/{number}")
    if row is not None:
        return Answer(LEADS_ON, row.path)
    now, placed = workshop.clock(), placements.of_post(workshop.db, number)
    if any(one.shows_from <= now < one.shows_until for one in placed):
        return None  # it is out, but for the edition that is being made
    led = (
        editions.page_of(workshop.db, blog.id, f"former/{path}")
        for path in addresses.of(workshop.db, "post", number, now)
    )
    on = next((row.leads_to for row in led if row is not None and row.leads_to), None)
    if on:
        return Answer(LEADS_ON, on)
    was_public = any(
        one.audience == EVERYONE and one.shows_from < one.shows_until and one.shows_from <= now
        for one in placed
    )
    return Answer(GONE, post=number) if was_public or posts.by_id(workshop.db, number) is None else None


def _of_key(workshop: Workshop, blog: Blog, key: str) -> Answer:
    """Where the page is now that once was made from a key: the same, the list's newest, or what lists all of its kind."""
    kind, _, rest = key.partition("/")
    wanted = [key]
    if kind == "list":
        name = rest.rpartition("/")[0]
        wanted += [f"list/{name}/0", "archive/" if name.startswith("month:") else "subjects/"]
        gone = re.fullmatch(r"(category|tag):(\d+)", name)
        if gone:
            heirs = addresses.heir(
                workshop.db,
                blog.id,
                gone[1],
                int(gone[2]),
                editions.paths_of(workshop.db, blog.id, f"list/{name}/0"),
            )
            wanted[1:1] = [f"list/{heirs[0]}:{heirs[1]}/0"] if heirs else []
    elif kind == "feed":
        name, _, format = rest.rpartition("/")
        heirs = None
        if name.startswith("category:"):
            heirs = addresses.heir(
                workshop.db,
                blog.id,
                "category",
                int(name[9:]),
                editions.paths_of(workshop.db, blog.id, f"list/{name}/0"),
            )
        wanted += [*([f"feed/{heirs[0]}:{heirs[1]}/{format}"] if heirs else []), f"feed/all/{format}"]
    elif kind == "post":
        return _of_post(workshop, blog, int(rest)) or Answer(NOTHING)
    elif kind == "sitemap":
        wanted += ["sitemap/index"]
    elif kind == "media":
        wanted += _files_alike(workshop, blog, key)
    rows = (editions.page_of(workshop.db, blog.id, one) for one in wanted)
    row = next((row for row in rows if row is not None), None)
    return Answer(LEADS_ON, row.path) if row is not None else Answer(NOTHING)


def _files_alike(workshop: Workshop, blog: Blog, key: str) -> list[str]:
    """What an item of the library has now in the place of a file that it had: one of the same type and nearly its width first.

    A page that a reader opened before still shows its first copies, a shared link the picture as it was cut then.
    """
    _, number, use, *type, width = key.split("/")

    def distance(other: str) -> tuple[bool, bool, int]:
        _, _, other_use, *other_type, other_width = other.split("/")
        return other_use != use, other_type != type, abs(int(other_width) - int(width))

    uses = dict.fromkeys((use, "whole"))
    return sorted(
        (other for one in uses for other in editions.keys(workshop.db, blog.id, f"media/{number}/{one}/")),
        key=distance,
    )


def neighbours_of(workshop: Workshop, blog: Blog, post_id: int) -> list[Placement]:
    """The posts that a page of one that is gone offers: those beside it in time, and the newest of its main category."""
    now, db = workshop.clock(), workshop.db
    last = next(
        (row for row in reversed(placements.of_post(db, post_id)) if row.shows_from < row.shows_until), None
    )
    if last is None:
        return placements.newest_listed(db, blog.id, "all", now, 3)
    beside = placements.beside(db, blog.id, last.goes_out, post_id, now)
    alike = (
        placements.newest_listed(db, blog.id, f"category:{last.categories[0]}", now, 3)
        if last.categories
        else []
    )
    return list({row.post_id: row for row in (*beside, *alike) if row.post_id != post_id}.values())
