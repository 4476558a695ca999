"""Carries out what somebody did without a network.

A *step* is one of the acts of `ACTS`, with a key of the device's own. Each is carried out once: sent again with its key it is answered as before. What is
refused leaves no trace, so that it may be sent again when the reason is gone, or with other arguments and another key.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any

from mobbet.actions import docket_lines, placing, posts, proofing, queue, tags
from mobbet.actions.access import blog_for, editable_post, has_right
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.document import schema
from mobbet.core.errors import BadInput, Conflict, Refused
from mobbet.core.filing import path_in_words
from mobbet.core.rights import Action
from mobbet.core.timing import instant_of_wall, read_wall
from mobbet.store import filing, offline_steps, people, readers, slots
from mobbet.store import posts as post_store
from mobbet.store.people import Person

KEPT_FOR = 90 * 86400
"""How long a step's key is known, in seconds; a device that was away for longer sends a text that is already there, which changes nothing."""
DONE, REFUSED, CONFLICT = "done", "refused", "conflict"
Facts = dict[str, Any]
MOST_TAGS = 300


@dataclass(frozen=True)
class Step:
    """One step: its key, what is done, the post that it concerns (0 for none), and with what."""

    key: str
    act: str
    post: int = 0
    args: Mapping[str, Any] = field(default_factory=dict)

    def text(self, name: str) -> str:
        """A text among the arguments; '' where there is none. Raises BadInput."""
        value = self.args.get(name, "")
        if not isinstance(value, str):
            raise BadInput(f"“{name}” of the step is no text; write the post again.", name)
        return value

    def number(self, name: str) -> int:
        value = self.args.get(name, 0)
        if not isinstance(value, int) or isinstance(value, bool) or not 0 <= value < 2**53:
            raise BadInput(f"“{name}” of the step is no number; write the post again.", name)
        return value


@dataclass(frozen=True)
class Result:
    """What a step came to: done with its facts, refused with the reason, or in conflict with the revision that came first."""

    state: str
    words: str = ""
    facts: Facts = field(default_factory=dict)


def carry_out(workshop: Workshop, person: Person, step: Step) -> Result:
    """Carries a step out, or says what it came to before. Raises BadInput for an act that does not exist."""
    act = ACTS.get(step.act)
    if act is None:
        raise BadInput(f"“{step.act}” is nothing that is done offline; load the page anew.", "act")
    try:
        with changing(workshop, person):
            known = offline_steps.facts(workshop.db, person.id, step.key)
            if known is not None:
                return Result(DONE, facts=known)
            facts = act(workshop, person, step)
            now = workshop.clock()
            offline_steps.forget(workshop.db, now - KEPT_FOR)
            offline_steps.keep(workshop.db, person.id, step.key, now, facts)
    except Conflict as error:
        return Result(CONFLICT, str(error), {"current": error.current})
    except Refused as error:
        return Result(REFUSED, str(error))
    return Result(DONE, facts=facts)


def _begin(workshop: Workshop, person: Person, step: Step) -> Facts:
    post = posts.begin_post(workshop, person, step.text("blog"))
    return {"post": post.id, "revision": post.revision}


def _text(workshop: Workshop, person: Person, step: Step) -> Facts:
    """Saves the text, which may follow saves of this device that were never answered. Raises Conflict when the post has another one by now."""
    after = step.args.get("after", [])
    if not isinstance(after, list) or len(after) > 20 or not all(isinstance(one, str) for one in after):
        raise BadInput("The keys of earlier saves of the step are no list; write the post again.", "after")
    saved = posts.save_text(
        workshop, person, step.post, base=step.number("base"), title=step.text("title"),
        subtitle=step.text("subtitle"), body=step.args.get("document", schema.EMPTY), save_key=step.key, after=after,
    )  # fmt: skip
    return {"revision": saved.revision}


def _apart(workshop: Workshop, person: Person, step: Step) -> Facts:
    """Keeps a text that met another one as a draft of its own."""
    copy = posts.keep_as_draft(
        workshop, person, step.post, title=step.text("title"), subtitle=step.text("subtitle"),
        body=step.args.get("document", schema.EMPTY),
    )  # fmt: skip
    return {"post": copy.id, "revision": copy.revision}


def _categories(workshop: Workshop, person: Person, step: Step) -> Facts:
    """Files a post under categories the blog had when the device heard of it last. Raises Refused for one that is gone."""
    _, blog = editable_post(workshop, person, step.post)
    chosen, known = (
        step.args.get("categories", []),
        {one.id for one in filing.categories(workshop.db, blog.id)},
    )
    if not isinstance(chosen, list) or len(chosen) > 20:
        raise BadInput("The categories of the step are no list; choose them again.", "categories")
    for one in chosen:
        if not isinstance(one, dict) or one.get("id") not in known:
            name = str(one.get("name", "") if isinstance(one, dict) else one)[:80]
            raise Refused(f"The category “{name}” is not there any more; choose another.")
    numbers = [str(one["id"]) for one in chosen]
    docket_lines.set_categories(workshop, person, step.post, numbers[0] if numbers else "", numbers[1:])
    return {}


def _tags(workshop: Workshop, person: Person, step: Step) -> Facts:
    tags.set_tags(workshop, person, step.post, step.text("tags"))
    return {}


def _time(workshop: Workshop, person: Person, step: Step) -> Facts:
    """Gives a post its time. Raises Refused for a time that has passed, and for a slot that another post took."""
    post, blog = editable_post(workshop, person, step.post)
    wall = read_wall(step.text("wall"), "wall")
    instant = instant_of_wall(wall, blog.zone)
    if instant <= workshop.clock():
        raise Refused("Its time has passed while there was no network; choose another, or let it go out now.")
    if step.args.get("slot") is True and instant in _taken(workshop, blog.id, post.id):
        free = queue.next_free(workshop, blog).wall.replace("T", " at ")
        raise Refused(f"Another post took that slot meanwhile; the next free one is {free}.")
    docket_lines.set_time(workshop, person, step.post, "goes_out_wall", wall)
    return {}


def _taken(workshop: Workshop, blog_id: int, but: int) -> set[int]:
    pending = slots.to_come(workshop.db, blog_id, workshop.clock())
    return {instant for instant, post_id, _ in pending if post_id != but}


def _readers(workshop: Workshop, person: Person, step: Step) -> Facts:
    docket_lines.set_visibility(workshop, person, step.post, step.text("visibility"))
    return {}


def _author(workshop: Workshop, person: Person, step: Step) -> Facts:
    """Makes a colleague the post's author. Raises Refused for one who does not work on the blog any more."""
    _, blog = editable_post(workshop, person, step.post)
    number = step.number("id")
    if number not in {one.id for one in people.of_blog(workshop.db, blog.id)}:
        raise Refused(
            f"“{step.text('name')[:80]}” does not work on this blog any more; choose somebody else."
        )
    docket_lines.set_author(workshop, person, step.post, str(number))
    return {}


def _place(workshop: Workshop, person: Person, step: Step) -> Facts:
    """Lets the post go out, at its time or now. Raises Refused like the button in the writing room."""
    proofing.before_placing(workshop, person, step.post)
    placed = placing.place(workshop, person, step.post)
    return {"state": placed.state, "goes_out": placed.goes_out}


ACTS: dict[str, Callable[[Workshop, Person, Step], Facts]] = {
    "begin": _begin,
    "text": _text,
    "apart": _apart,
    "categories": _categories,
    "tags": _tags,
    "time": _time,
    "readers": _readers,
    "author": _author,
    "place": _place,
}


def facts_of(workshop: Workshop, person: Person, blog_slug: str, most_slots: int = 12) -> Facts:
    """What a device must know of a blog to begin a post for it without a network: its categories, tags, groups of
    readers, next free slots (wall times), and the people whom this person may make its author."""
    blog = blog_for(workshop, person, blog_slug)
    free = {one.wall: one.instant for one in queue.free_ahead(workshop, blog, 120 * 86400)}
    taken, subjects = _taken(workshop, blog.id, 0), filing.subjects(workshop.db, blog.id)
    return {
        "slug": blog.slug,
        "name": blog.name,
        "zone": blog.zone,
        "language": blog.language,
        "categories": sorted(
            ([number, path_in_words(subjects, number)] for number in subjects),
            key=lambda pair: pair[1].casefold(),
        ),
        "people": [[one.id, one.name] for one in people.of_blog(workshop.db, blog.id)]
        if has_right(workshop, person, blog, Action.GIVE_POST)
        else [],
        "groups": [group.name for group in readers.groups(workshop.db, blog.id)],
        "tags": [tag.name for tag in filing.tag_counts(workshop.db, blog.id, most=MOST_TAGS)],
        "slots": [wall for wall, instant in free.items() if instant not in taken][:most_slots],
    }


def recent_posts(workshop: Workshop, person: Person, most: int) -> list[int]:
    """The posts that somebody wrote last, the newest first: those that a device keeps on wish."""
    return post_store.written_last_by(workshop.db, person.id, most)
