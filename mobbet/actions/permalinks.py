"""The permalink of a post, from its blog's pattern, its category, slug and date."""

from __future__ import annotations

from collections.abc import Iterable
from itertools import chain

from mobbet.actions.workshop import Workshop
from mobbet.core.facts import Subject
from mobbet.core.filing import trail
from mobbet.core.pages import DEEPEST
from mobbet.core.permalinks import PermalinkFacts, is_own_path, path_of
from mobbet.core.slugs import slug_of
from mobbet.core.timing import instant_of_wall
from mobbet.store import addresses, filing, pages, placements
from mobbet.store.blogs import Blog
from mobbet.store.posts import Post

MOST_TRIES = 20
NO_FACTS = PermalinkFacts(0, "UTC", ())
"""For permalinks that follow from their slug alone."""


def category_subjects(workshop: Workshop, blog: Blog) -> dict[int, Subject]:
    return filing.subjects(workshop.db, blog.id)


def filed(
    subjects: dict[int, Subject], categories: Iterable[int], goes_out: int, zone: str
) -> PermalinkFacts:
    return PermalinkFacts(goes_out, zone, category_slugs(subjects, categories))


def category_slugs(subjects: dict[int, Subject], categories: Iterable[int]) -> tuple[str, ...]:
    """The slugs of the main one of these categories, from the top down; none without any."""
    main = next((number for number in categories if number in subjects), None)
    return tuple(step.slug for step in trail(subjects, main)) if main is not None else ()


def proposed_path(
    workshop: Workshop, post: Post, blog: Blog, title: str, categories: tuple[int, ...], now: int
) -> tuple[str, str]:
    """(path, slug) that a post has, or would get if it went out as its docket says."""
    goes_out = instant_of_wall(post.goes_out_wall, blog.zone) if post.goes_out_wall else now
    slug = wanted_slug(post, blog, title)
    if post.is_page:
        return free_page_path(workshop, blog, post, slug)
    subjects = category_subjects(workshop, blog)
    return free_path(
        workshop, blog, post.id, slug, filed(subjects, with_catch_all(blog, categories), goes_out, blog.zone)
    )


def wanted_slug(post: Post, blog: Blog, title: str) -> str:
    """The slug that was chosen, or the one that follows from the title."""
    return post.slug or slug_of(title, f"post-{post.id}", blog.slug_script, blog.language)


def with_catch_all(blog: Blog, categories: tuple[int, ...]) -> tuple[int, ...]:
    """The categories of a post when it is placed: those of its docket, or the blog's catch-all."""
    return categories or ((blog.catch_all,) if blog.catch_all else ())


def free_path(
    workshop: Workshop, blog: Blog, post_id: int, slug: str, where: PermalinkFacts
) -> tuple[str, str]:
    """(path, slug) of this slug, or of `slug-2`, `slug-3` …: the first that nothing else ever had."""
    return free_paths(workshop, blog, [(post_id, slug, where)])[0]


def free_page_path(workshop: Workshop, blog: Blog, page: Post, slug: str) -> tuple[str, str]:
    """(path, slug) of a page: below the path of the page that it stands below, or at the top."""
    pattern = f"{path_of_page(workshop, blog, page.below)}{{slug}}/"
    return free_paths(workshop, blog, [(page.id, slug, NO_FACTS)], pattern)[0]


def path_of_page(workshop: Workshop, blog: Blog, number: int | None, depth: int = DEEPEST) -> str:
    """Where a page lives, is going to live, or would live if it went out; '/' for what is no page any more."""
    page = pages.of_number(workshop.db, blog.id, number) if number is not None and depth else None
    if page is None:
        return "/"
    path = placements.live_path(workshop.db, page.id, workshop.clock())
    slug = wanted_slug(page, blog, page.title)
    return path or f"{path_of_page(workshop, blog, page.below, depth - 1)}{slug}/"


def free_paths(
    workshop: Workshop, blog: Blog, wanted: list[tuple[int, str, PermalinkFacts]], pattern: str = ""
) -> list[tuple[str, str]]:
    """(path, slug) for each (post, slug, what its permalink is made of), one after the other, as `free_path` finds it; by the blog's pattern, or by another."""
    pattern = pattern or blog.pattern
    first = [path_of(pattern, slug, where) for _, slug, where in wanted]
    owners = Owners(workshop, blog, first, pattern)
    return [
        owners.give(post_id, slug, where, path)
        for (post_id, slug, where), path in zip(wanted, first, strict=True)
    ]


class Owners:
    """What has, or ever had, the addresses of a blog, with those that are given here; `first` are the ones that are asked for at once."""

    def __init__(self, workshop: Workshop, blog: Blog, first: list[str], pattern: str) -> None:
        self._cabinet = workshop.filing_writer
        self._pattern = pattern
        self._blog = blog
        self._known = self._ask(first)

    def _ask(self, paths: list[str]) -> dict[str, tuple[str, int] | None]:
        """{path: who has it, or ever had it}."""
        return {**dict.fromkeys(paths), **self._cabinet.owners(self._blog.id, paths)}

    def give(self, post_id: int, slug: str, where: PermalinkFacts, first: str) -> tuple[str, str]:
        """The first (path, slug) that nothing else ever had, beginning with the path of the slug itself; the post's from now on."""
        more = chain(
            (f"-{number}" for number in range(2, MOST_TRIES)),
            (f"-{post_id}",),
            (f"-{post_id}-{number}" for number in range(2, 99)),
        )
        found = chain(
            ((first, slug),),
            ((path_of(self._pattern, slug + ending, where), slug + ending) for ending in more),
        )
        path, slug = next(pair for pair in found if self._is_free(post_id, pair[0]))
        self._known[path] = ("post", post_id)
        return path, slug

    def _is_free(self, post_id: int, path: str) -> bool:
        if path not in self._known:
            self._known.update(self._ask([path]))
        return not is_own_path(path) and self._known[path] in (None, ("post", post_id))


def is_free(workshop: Workshop, blog: Blog, post_id: int, path: str) -> bool:
    """Whether a post may live at an address: the site keeps it for nothing, and nothing else ever had it."""
    return not is_own_path(path) and addresses.owner(workshop.db, blog.id, path) in (None, ("post", post_id))
