"""What one does with one or many posts at once: its effect known before, and undone after."""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any

from mobbet.actions import keeping, moving_over, placing, proofing, queue, slots
from mobbet.actions import posts as post_actions
from mobbet.actions.permalinks import category_subjects
from mobbet.actions.workshop import Workshop, blog_for, keeper_of, post_for
from mobbet.core import states
from mobbet.core.errors import BadInput, NotAllowed, NotFound, Refused
from mobbet.core.filing import category_lists
from mobbet.core.timing import time_in_words
from mobbet.core.when import read_when
from mobbet.store import blogs, changes, people, placements, posts
from mobbet.store import slots as slot_store
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.posts import Post

MOST_AT_ONCE = 200
KIND = "posts"
_DOCKET = ("author_id", "goes_out_wall", "update_wall", "aside_at", "slug")
"""What of a docket these actions change, and undoing puts back."""


@dataclass(frozen=True)
class Doing:
    """One thing that can be done with a post: its verb (`{}` stands for the posts), what it asks for ('', 'when', 'author' or 'blog'), what is said of it afterwards,
    and the function that does it and answers with the numbers of the posts it made.
    """

    verb: str
    asks: str
    done: str
    run: Callable[[Workshop, Person, Blog, Post, str], list[int]]


@dataclass(frozen=True)
class Handled:
    """What was done, in words; for each post its title and what holds of it now; and the number by which it is undone."""

    words: str
    rows: list[tuple[str, str]]
    number: int


def _place(workshop: Workshop, person: Person, blog: Blog, post: Post, said: str) -> list[int]:
    if said == "queue":
        slots.put_in_queue(workshop, person, post.id)
        return []
    proofing.before_placing(workshop, person, post.id)
    if said == "now" and placing.state_of(workshop, post) != states.OUT:
        posts.settle(workshop.db, post.id, workshop.clock(), goes_out_wall=None)
    elif said not in ("", "now"):
        wall = read_when(said, workshop.clock(), blog.zone)
        post_actions.set_time(workshop, person, post.id, "goes_out_wall", wall)
    if said:
        slot_store.set_queue(workshop.db, blog.id, [number for number in slot_store.queue(workshop.db, blog.id) if number != post.id])
    placing.place(workshop, person, post.id)
    return []


def _withdraw(workshop: Workshop, person: Person, blog: Blog, post: Post, said: str) -> list[int]:
    placing.withdraw(workshop, person, post.id)
    return []


def _copy(workshop: Workshop, person: Person, blog: Blog, post: Post, said: str) -> list[int]:
    return [keeping.begin_from(workshop, person, post.id).id]


def _give(workshop: Workshop, person: Person, blog: Blog, post: Post, said: str) -> list[int]:
    keeper_of(workshop, person, blog.slug, "whose a post is")
    post_actions.set_author(workshop, person, post.id, said)
    return []


def _move(workshop: Workshop, person: Person, blog: Blog, post: Post, said: str) -> list[int]:
    made = moving_over.bring_over(workshop, person, post, blog, said)
    _aside(workshop, person, blog, post, "")
    return [made.id]


def _aside(workshop: Workshop, person: Person, blog: Blog, post: Post, said: str) -> list[int]:
    if placing.state_of(workshop, post) in (states.OUT, states.IN_TIMETABLE):
        placing.withdraw(workshop, person, post.id)
    placing.set_aside(workshop, person, post.id)
    return []


def _restore(workshop: Workshop, person: Person, blog: Blog, post: Post, said: str) -> list[int]:
    if post.aside_at is None:
        raise Refused("it is not set aside")
    placing.restore(workshop, person, post.id)
    return []


DOINGS = {
    "place": Doing("Place {}", "when", "placed", _place),
    "withdraw": Doing("Withdraw {}", "", "withdrawn", _withdraw),
    "copy": Doing("Copy {}", "", "copied", _copy),
    "give": Doing("Give {} to another author", "author", "given away", _give),
    "move": Doing("Move {} to another blog", "blog", "moved", _move),
    "aside": Doing("Set {} aside", "", "set aside", _aside),
    "restore": Doing("Restore {}", "", "restored", _restore),
}


def doing(name: str) -> Doing:
    """One of DOINGS. Raises NotFound."""
    if name not in DOINGS:
        raise NotFound(f"“{name}” is nothing that is done with posts; choose one of {', '.join(DOINGS)}.")
    return DOINGS[name]


def check_said(workshop: Workshop, person: Person, blog: Blog, asks: str, said: str) -> None:
    """Raises BadInput where what an action asks for is not said."""
    if asks == "when" and said not in ("", "now", "queue"):
        read_when(said, workshop.clock(), blog.zone)
    if asks == "author" and said not in [str(one.id) for one in people.of_blog(workshop.db, blog.id)]:
        raise BadInput("No author is chosen; choose who gets them.", "said")
    if asks == "blog" and said not in [one.slug for one in blogs.of_person(workshop.db, person.id) if one.id != blog.id]:
        raise BadInput("No blog is chosen; choose the one they go to.", "said")


def handle(workshop: Workshop, person: Person, slug: str, name: str, numbers: list[int], said: str = "") -> Handled:
    """Does one thing with posts of a blog, in their order, all or none of them. Publishing is left to the caller.

    Raises BadInput, NotAllowed, NotFound and Refused with the title of the post that cannot be.
    """
    blog, what = blog_for(workshop, person, slug), doing(name)
    numbers = list(dict.fromkeys(numbers))
    if not numbers or len(numbers) > MOST_AT_ONCE:
        raise BadInput(f"{len(numbers):,} posts are chosen; choose 1 to {MOST_AT_ONCE}.", "post")
    check_said(workshop, person, blog, what.asks, said)
    before: dict[str, Any] = {"posts": [], "made": [], "queue": slot_store.queue(workshop.db, blog.id)}
    with workshop.db.transaction():
        for number in numbers:
            post, own = post_for(workshop, person, number)
            if own.id != blog.id:
                raise NotFound(f"There is no post with the number {number} on this blog.")
            before["posts"].append(_stands(workshop, post))
            try:
                before["made"] += what.run(workshop, person, blog, post, said)
            except Refused as error:
                raise _named(error, post) from None
        before["after"] = {post["id"]: _live(workshop, post["id"]) for post in before["posts"]}  # only now, since the queue moves those placed before
        words = f"{_posts(len(numbers))} {'is' if len(numbers) == 1 else 'are'} {what.done}"
        made = changes.add(workshop.db, blog.id, person.id, words, json.dumps(before), workshop.clock(), KIND)
        return Handled(words, _rows(workshop, blog, [*numbers, *before["made"]] if name == "copy" else numbers), made)


def _named(error: Refused, post: Post) -> Refused:
    """The same refusal with the title of the post it speaks of; nothing is changed then."""
    words = f"“{post.title or 'No title yet'}”: {error} Nothing is changed."
    return NotAllowed(words) if isinstance(error, NotAllowed) else BadInput(words, getattr(error, "field", ""))


def _posts(count: int) -> str:
    return f"{count} post{'s' if count != 1 else ''}"


def _rows(workshop: Workshop, blog: Blog, numbers: list[int]) -> list[tuple[str, str]]:
    """(title, what holds of it now) of posts."""
    found, now = [], workshop.clock()
    for number in numbers:
        post = posts.by_id(workshop.db, number)
        state = placing.state_of(workshop, post)
        told = states.WORDS[state]
        live = next((row for row in reversed(placements.of_post(workshop.db, number)) if row.shows_from < row.shows_until and row.shows_until > now), None)
        if live and state == states.IN_TIMETABLE:
            told = f"goes out {time_in_words(live.goes_out, blog.zone, now)}"
        found.append((post.title or "No title yet", told))
    return found


def _live(workshop: Workshop, post_id: int) -> list[tuple[int, int]]:
    """(number, until when) of what readers get, or will get, of a post."""
    now = workshop.clock()
    return [(row.id, row.shows_until) for row in placements.of_post(workshop.db, post_id) if row.shows_until > now and row.shows_from < row.shows_until]


def _stands(workshop: Workshop, post: Post) -> dict[str, Any]:
    return {"id": post.id, "docket": {name: getattr(post, name) for name in _DOCKET}, "live": _live(workshop, post.id)}


def undo(workshop: Workshop, person: Person, slug: str, number: int) -> str:
    """Puts posts back to how they stood before something was done with them; answers its words.

    Raises NotFound, and Refused where it is undone already or one of the posts was placed or withdrawn again since.
    """
    blog = blog_for(workshop, person, slug)
    with workshop.db.transaction():
        change = changes.by_id(workshop.db, blog.id, number, KIND)
        if change is None:
            raise NotFound("There is no such change of posts on this blog.")
        if change.undone_at is not None:
            raise Refused("This change is undone already.")
        before = json.loads(change.before)
        for one in before["posts"]:
            post, _ = post_for(workshop, person, one["id"])
            if [list(pair) for pair in _live(workshop, post.id)] != before["after"][str(post.id)]:
                raise Refused(f"“{post.title or 'No title yet'}” was placed, moved or withdrawn again since; change it by itself.")
        for one in before["posts"]:
            _put_back(workshop, blog, one)
        for made in before["made"]:
            copy, its_blog = post_for(workshop, person, made)
            if placing.state_of(workshop, copy) != states.SET_ASIDE:
                _aside(workshop, person, its_blog, copy, "")
        slot_store.set_queue(workshop.db, blog.id, before["queue"])
        queue.refill(workshop, blog, is_strict=False)
        changes.set_undone(workshop.db, number, workshop.clock())
    return change.words


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
        row = placements.by_id(workshop.db, row_id)
        again = replace(row, shows_from=max(now, row.shows_from), shows_until=until)
        if again.shows_from < again.shows_until:
            placements.add(workshop.db, again, category_lists(category_subjects(workshop, blog), again.categories))
    placements.mark_unsettled(workshop.db, blog.id, number)
