"""The pattern of a blog's addresses, and the script they are written in."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.actions import refiling
from mobbet.actions.access import owned_blog
from mobbet.actions.permalinks import category_subjects, filed
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.audience import is_told_of
from mobbet.core.errors import BadInput
from mobbet.core.permalinks import path_of, read_pattern
from mobbet.core.slugs import SCRIPTS
from mobbet.core.values import existing
from mobbet.store import blogs, placements
from mobbet.store.blogs import Blog
from mobbet.store.people import Person


@dataclass(frozen=True)
class Pattern:
    """A pattern with a real post as example: its address as it would be, and as it is."""

    pattern: str
    title: str
    path: str
    before: str
    moved: int


def try_pattern(workshop: Workshop, blog: Blog, text: str) -> Pattern:
    """What a pattern would make of the newest post, and how many addresses it would move. Raises BadInput."""
    pattern = read_pattern(text)
    subjects, now = category_subjects(workshop, blog), workshop.clock()
    moved, example = 0, None
    for row in placements.live(workshop.db, blog.id, now):
        path = path_of(pattern, row.slug, filed(subjects, row.categories, row.goes_out, row.zone))
        moved += path != row.path
        if is_told_of(row.audience, workshop.db.viewer) and (
            example is None or row.goes_out > example[0].goes_out
        ):
            example = row, path
    if example is None:
        path = path_of(pattern, "a-post", filed(subjects, (), now, blog.zone))
        return Pattern(pattern, "A post", path, "", moved)
    return Pattern(pattern, placements.title_of(workshop.db, example[0]), example[1], example[0].path, moved)


def set_pattern(workshop: Workshop, person: Person, blog_slug: str, text: str) -> int:
    """Changes the pattern and moves every post; each old address redirects. Answers how many moved. Only the owner may."""
    blog = owned_blog(workshop, person, blog_slug)
    pattern = read_pattern(text)
    with changing(workshop):
        blogs.settle(workshop.db, blog.id, pattern=pattern)
        changed = existing(blogs.by_id(workshop.db, blog.id))
        return refiling.settle_posts(
            workshop,
            changed,
            placements.posts_live(workshop.db, blog.id, workshop.clock()),
            has_same_lists=True,
        )


def set_script(workshop: Workshop, person: Person, blog_slug: str, script: str) -> None:
    """Chooses Latin letters, or each title's own script, for addresses to come. Only the owner may."""
    blog = owned_blog(workshop, person, blog_slug)
    if script not in SCRIPTS:
        raise BadInput(f"“{script}” is no script; choose {' or '.join(SCRIPTS)}.", "script")
    with changing(workshop):
        blogs.settle(workshop.db, blog.id, slug_script=script)
