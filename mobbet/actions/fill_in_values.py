"""The fill-ins of a post with their current values."""

from __future__ import annotations

import json
from dataclasses import dataclass

from mobbet.actions.permalinks import proposed_path
from mobbet.actions.workshop import Workshop
from mobbet.core.fill_ins import FIELDS, values
from mobbet.core.timing import day_in_words, instant_of_wall
from mobbet.core.values import existing
from mobbet.store import people, placements, posts
from mobbet.store.blogs import Blog
from mobbet.store.posts import Post


@dataclass(frozen=True)
class FillIn:
    """One fill-in: its name, what it stands for in words, and its value now."""

    name: str
    words: str
    value: str


def house_fill_ins(blog: Blog) -> list[FillIn]:
    """The fill-ins that a saved block has wherever it stands: the name of the blog, its address, and its facts."""
    facts = [
        FillIn(name, f"the blog’s {name.replace('-', ' ')}", value) for name, value in json.loads(blog.facts)
    ]
    return [FillIn("blog", FIELDS["blog"], blog.name), *facts]


def fill_ins(workshop: Workshop, post: Post, blog: Blog) -> list[FillIn]:
    """Every fill-in of a post, the fields first and then the blog's facts."""
    db, now = workshop.db, workshop.clock()
    revision = posts.working(db, post.id)
    live = placements.shown_at(placements.of_post(db, post.id), now)
    goes_out = (
        instant_of_wall(post.goes_out_wall, blog.zone)
        if post.goes_out_wall
        else live.goes_out
        if live
        else now
    )
    path = proposed_path(
        workshop, post, blog, revision.title, tuple(posts.categories(db, post.id)), workshop.clock()
    )[0]
    facts = tuple(tuple(pair) for pair in json.loads(blog.facts))
    now_values = values(
        title=revision.title, subtitle=revision.subtitle, author=existing(people.by_id(db, post.author_id)).name, date=day_in_words(goes_out, blog.zone),
        updated=day_in_words(max(goes_out, live.shows_from if live else 0), blog.zone), blog=blog.name, address=blog.home + path[1:], facts=facts,
    )  # fmt: skip
    words = {**FIELDS, **{name: f"the blog’s {name.replace('-', ' ')}" for name, _ in facts}}
    return [FillIn(name, words[name], now_values[name]) for name in words]
