"""Actions on one or many posts at once, with their footprint beforehand and undo afterwards."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from mobbet.actions import (
    copy_to_blog,
    docket_lines,
    kept_blocks,
    placing,
    post_states,
    proofing,
    slots,
    undoing,
)
from mobbet.actions.access import blog_for, editable_post, post_to_withdraw, title_for
from mobbet.actions.workshop import Workshop
from mobbet.core import states
from mobbet.core.errors import BadInput, NotAllowed, NotFound, Refused
from mobbet.core.rights import Action
from mobbet.core.screen_dates import time_in_words
from mobbet.core.when import read_when
from mobbet.store import blogs, people, placements, posts
from mobbet.store import slots as slot_store
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.posts import Post

MOST_AT_ONCE = 200


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
    if said == "now" and post_states.state_of(workshop, post) != states.OUT:
        posts.settle(workshop.db, post.id, workshop.clock(), goes_out_wall=None)
    elif said not in ("", "now"):
        wall = read_when(said, workshop.clock(), blog.zone)
        docket_lines.set_time(workshop, person, post.id, "goes_out_wall", wall)
    if said:
        slot_store.set_queue(
            workshop.db,
            blog.id,
            [number for number in slot_store.queue(workshop.db, blog.id) if number != post.id],
        )
    placing.place(workshop, person, post.id)
    return []


def _withdraw(workshop: Workshop, person: Person, blog: Blog, post: Post, said: str) -> list[int]:
    placing.withdraw(workshop, person, post.id)
    return []


def _copy(workshop: Workshop, person: Person, blog: Blog, post: Post, said: str) -> list[int]:
    return [kept_blocks.begin_from(workshop, person, post.id).id]


def _give(workshop: Workshop, person: Person, blog: Blog, post: Post, said: str) -> list[int]:
    blog_for(workshop, person, blog.slug, Action.GIVE_POST)
    docket_lines.set_author(workshop, person, post.id, said)
    return []


def _move(workshop: Workshop, person: Person, blog: Blog, post: Post, said: str) -> list[int]:
    made = copy_to_blog.bring_over(workshop, person, post, blog, said)
    _aside(workshop, person, blog, post, "")
    return [made.id]


def _aside(workshop: Workshop, person: Person, blog: Blog, post: Post, said: str) -> list[int]:
    undoing.put_aside(workshop, person, post)
    return []


def _restore(workshop: Workshop, person: Person, blog: Blog, post: Post, said: str) -> list[int]:
    if post.aside_at is None:
        raise Refused("It is not set aside.")
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


_CHOSEN_BY = {"withdraw": post_to_withdraw}
"""What asks for another right than changing a post."""


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
    if asks == "blog" and said not in [
        one.slug for one in blogs.of_person(workshop.db, person.id) if one.id != blog.id
    ]:
        raise BadInput("No blog is chosen; choose the one they go to.", "said")


def handle(
    workshop: Workshop, person: Person, slug: str, name: str, numbers: list[int], said: str = ""
) -> Handled:
    """Does one thing with posts of a blog, in their order, all or none of them. Publishing is left to the caller.

    Raises BadInput, NotAllowed, NotFound and Refused with the title of the post that cannot be.
    """
    blog, what = blog_for(workshop, person, slug), doing(name)
    numbers = list(dict.fromkeys(numbers))
    if not numbers or len(numbers) > MOST_AT_ONCE:
        raise BadInput(f"{len(numbers):,} posts are chosen; choose 1 to {MOST_AT_ONCE}.", "post")
    check_said(workshop, person, blog, what.asks, said)
    made: list[int] = []
    handled: list[Post] = []

    def change() -> str:
        for number in numbers:
            post, own = _CHOSEN_BY.get(name, editable_post)(workshop, person, number)
            handled.append(post)
            if own.id != blog.id:
                raise NotFound(f"There is no post with the number {number} on this blog.")
            try:
                made.extend(what.run(workshop, person, blog, post, said))
            except Refused as error:
                raise _named(error, title_for(workshop, person, number)) from None
        return f"{_posts(len(numbers))} {'is' if len(numbers) == 1 else 'are'} {what.done}"

    words, number = undoing.record(workshop, person, blog, numbers, made, change)
    new = [editable_post(workshop, person, one) for one in made]
    if name == "move":  # what becomes of a post is told once: where it is now
        return Handled(
            words,
            [(title_for(workshop, person, post.id), f"a draft of {own.name}") for post, own in new],
            number,
        )
    now = [posts.again(workshop.db, post) for post in handled]
    return Handled(words, _rows(workshop, person, blog, [*now, *(post for post, _ in new)]), number)


def _named(error: Refused, title: str) -> Refused:
    """The same refusal with the title of the post it speaks of; nothing is changed then."""
    words = f"“{title}”: {error} Nothing is changed."
    return (
        NotAllowed(words) if isinstance(error, NotAllowed) else BadInput(words, getattr(error, "field", ""))
    )


def _posts(count: int) -> str:
    return f"{count} post{'s' if count != 1 else ''}"


def _rows(workshop: Workshop, person: Person, blog: Blog, handled: list[Post]) -> list[tuple[str, str]]:
    """(title, what holds of it now) of posts."""
    found, now = [], workshop.clock()
    for post in handled:
        state, number = post_states.state_of(workshop, post), post.id
        told = states.WORDS[state]
        live = next(
            (
                row
                for row in reversed(placements.of_post(workshop.db, number))
                if row.shows_from < row.shows_until and row.shows_until > now
            ),
            None,
        )
        if live and state == states.IN_TIMETABLE:
            told = f"goes out {time_in_words(live.goes_out, blog.zone, now)}"
        found.append((title_for(workshop, person, number), told))
    return found
