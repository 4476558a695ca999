"""Pages beside posts: a post becomes a page and back, stands below another page, and moves with it."""

from __future__ import annotations

from mobbet.actions.access import editable_post
from mobbet.actions.permalinks import NO_FACTS, free_paths, path_of_page
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput
from mobbet.core.pages import DEEPEST, read_kind
from mobbet.core.permalinks import one_form
from mobbet.store import addresses, filed, placements, posts, stale
from mobbet.store import pages as page_store
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.posts import Post


def set_kind(workshop: Workshop, person: Person, post_id: int, kind: str) -> None:
    """Makes a text a post, or a page of a kind (`post`, `page`, `about`, `contact`); readers get it so once it is placed. Raises BadInput."""
    post, _ = editable_post(workshop, person, post_id)
    with changing(workshop):
        posts.settle(workshop.db, post.id, workshop.clock(), kind=read_kind(kind))


def set_below(workshop: Workshop, person: Person, post_id: int, typed: str) -> None:
    """Has a page stand below another one, named by its address, title or number; '' for none. Raises BadInput where that cannot be."""
    post, blog = editable_post(workshop, person, post_id)
    words = " ".join(typed.split())
    parent = _named(workshop, blog, words) if words else None
    if words and (parent is None or not parent.is_page):
        raise BadInput(
            f"There is no page “{words}” on this blog; type the title or the address of one.", "below"
        )
    if parent is not None:
        _check_place(workshop, blog, post, parent)
    with changing(workshop):
        posts.settle(workshop.db, post.id, workshop.clock(), below=parent.id if parent else None)


def _named(workshop: Workshop, blog: Blog, words: str) -> Post | None:
    if words.startswith("/"):
        return page_at(workshop, blog, words)
    number = posts.titled(workshop.db, blog.id, words)
    if number is None and words.isascii() and words.isdecimal() and len(words) < 16:
        number = int(words)
    return posts.on_blog(workshop.db, blog.id, number) if number is not None else None


def page_at(workshop: Workshop, blog: Blog, path: str) -> Post | None:
    """The page that lives at an address, or that would if it went out; None for none that the person may be told of."""
    path = one_form(path)
    owner = addresses.owner(workshop.db, blog.id, path)
    if owner and owner[0] == "post":
        return posts.on_blog(workshop.db, blog.id, owner[1])
    found = page_store.every(workshop.db, blog.id)
    return next((page for page in found if path_of_page(workshop, blog, page.id) == path), None)


def _check_place(workshop: Workshop, blog: Blog, page: Post, parent: Post) -> None:
    """Raises BadInput where a page would stand below itself, or too deep."""
    above, step = [parent.id], parent.below
    while step is not None and len(above) <= DEEPEST:
        above.append(step)
        found = page_store.of_number(workshop.db, blog.id, step)
        step = found.below if found else None
    if page.id in above:
        raise BadInput(
            f"“{page.title}” cannot stand below itself; choose a page that is not part of it.", "below"
        )
    if len(above) + page_store.depth_below(workshop.db, page.id) >= DEEPEST:
        raise BadInput(
            f"Pages stand below one another {DEEPEST} deep at the most; choose a page further up than “{parent.title}”.",
            "below",
        )


def readdress_below(workshop: Workshop, blog: Blog, post_id: int, depth: int = DEEPEST) -> None:
    """Gives the pages that are out below a page, or to come, the addresses that follow from its own; their former ones redirect."""
    now = workshop.clock()
    for number in placements.pages_below(workshop.db, post_id, now) if depth else ():
        base = path_of_page(workshop, blog, post_id)
        rows = [row for row in filed.of_posts(workshop.db, [number]) if row.is_for_readers(now) and row.kind]
        moving = [row for row in rows if row.path.rstrip("/").rpartition("/")[0] + "/" != base]
        for row in moving:
            path, slug = free_paths(workshop, blog, [(number, row.slug, NO_FACTS)], f"{base}{{slug}}/")[0]
            moved = row.living_at(path, slug)
            filed.refile(workshop.db, [(row, moved)])
            filed.take_addresses(workshop.db, [moved], now)
        if moving:
            stale.mark_posts(workshop.db, blog.id, number)
            readdress_below(workshop, blog, number, depth - 1)
