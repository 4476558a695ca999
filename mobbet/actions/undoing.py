"""Undo for changes of posts: keeps their state before each change."""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import replace
from typing import Any

from mobbet.actions import placing, post_states, queue
from mobbet.actions.access import blog_for, editable_post
from mobbet.actions.approvals import require_may_go_out
from mobbet.actions.permalinks import category_subjects
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core import states
from mobbet.core.errors import NotFound, Refused
from mobbet.core.filing import category_lists
from mobbet.core.values import existing
from mobbet.store import changes, placements, posts, stale
from mobbet.store import slots as slot_store
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.posts import Post

POSTS = "posts"
Change = Callable[[], str]
_DOCKET = ("author_id", "goes_out_wall", "update_wall", "aside_at", "slug")
"""What of a docket such changes alter, and undoing puts back."""


def record(
    workshop: Workshop, person: Person, blog: Blog, numbers: list[int], made: list[int], change: Change
) -> tuple[str, int]:
    """Makes a change of posts in one transaction; `change` answers with its words and may add to `made` what it makes.

    Answers with the words and the number by which it is undone. Raises what the change raises.
    """
    with changing(workshop, person, "posts were changed") as unit:
        before: dict[str, Any] = {
            "posts": [
                _stands(workshop, post)
                for number in numbers
                if (post := posts.on_blog(workshop.db, blog.id, number))
            ],
            "queue": slot_store.queue(workshop.db, blog.id),
        }
        words = change()
        before["made"] = made
        before["after"] = {one["id"]: _live(workshop, one["id"]) for one in before["posts"]}
        return words, unit.can_be_undone(blog, person, words, json.dumps(before), POSTS)


def undo(workshop: Workshop, person: Person, slug: str, number: int) -> str:
    """Puts posts back to how they stood before a change; answers its words.

    Raises NotFound, NotAllowed where a colleague made it and the post needs somebody's word, and Refused where it is undone already or one of the posts was placed, moved or withdrawn again since.
    """
    blog = blog_for(workshop, person, slug)
    with changing(workshop, person, "a change was undone"):
        change = changes.by_id(workshop.db, blog.id, number, POSTS)
        if change is None:
            raise NotFound("There is no such change of posts on this blog.")
        if change.undone_at is not None:
            raise Refused("This change is undone already.")
        before = json.loads(change.before)
        if not before["posts"] and not before["made"]:
            raise Refused("This post is for its author alone; only they put it back.")
        for one in before["posts"]:
            post, _ = editable_post(workshop, person, one["id"])
            if (
                change.person_id != person.id
            ):  # what a colleague did goes back to readers by the same word as anything else
                require_may_go_out(workshop, person, post, blog)
            if [list(pair) for pair in _live(workshop, post.id)] != before["after"][str(post.id)]:
                raise Refused(
                    f"“{post.title or 'No title yet'}” was placed, moved or withdrawn again since; change it by itself."
                )
        for one in before["posts"]:
            _put_back(workshop, blog, one)
        for made in before["made"]:
            copy, _ = editable_post(workshop, person, made)
            put_aside(workshop, person, copy)
        slot_store.set_queue(workshop.db, blog.id, before["queue"])
        queue.refill(workshop, blog, is_strict=False)
        changes.set_undone(workshop.db, number, workshop.clock())
    return change.words


def put_aside(workshop: Workshop, person: Person, post: Post) -> None:
    """Sets a post aside, and withdraws it first where readers get it or will get it."""
    state = post_states.state_of(workshop, post)
    if state in (states.OUT, states.IN_TIMETABLE):
        placing.withdraw(workshop, person, post.id)
    if state != states.SET_ASIDE:
        placing.set_aside(workshop, person, post.id)


def _live(workshop: Workshop, post_id: int) -> list[tuple[int, int]]:
    """(number, until when) of what readers get, or will get, of a post."""
    now = workshop.clock()
    return [
        (row.id, row.shows_until)
        for row in placements.of_post(workshop.db, post_id)
        if row.shows_until > now and row.shows_from < row.shows_until
    ]


def _stands(workshop: Workshop, post: Post) -> dict[str, Any]:
    return {
        "id": post.id,
        "docket": {name: getattr(post, name) for name in _DOCKET},
        "live": _live(workshop, post.id),
    }


def _put_back(workshop: Workshop, blog: Blog, before: dict[str, Any]) -> None:
    """What readers got, or were going to get, of a post they get again; from now on, if it was out."""
    now, number = workshop.clock(), before["id"]
    posts.settle(workshop.db, number, now, **before["docket"])
    live = _live(workshop, number)
    if [list(pair) for pair in live] == before["live"]:
        return
    for row_id, _ in live:
        placements.end(workshop.db, row_id, now)
    for row_id, until in before["live"]:
        row = existing(placements.by_id(workshop.db, row_id))
        again = replace(row, shows_from=max(now, row.shows_from), shows_until=until)
        if again.shows_from < again.shows_until:
            placements.add(
                workshop.db, again, category_lists(category_subjects(workshop, blog), again.categories)
            )
    stale.mark_posts(workshop.db, blog.id, number)
