"""What needs attention on the desk, and the ideas that were noted."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.actions import backup_places, profiles, slots
from mobbet.actions.access import blog_for, has_right, is_keeper, owned_blog, owns_every_blog, title_for
from mobbet.actions.editions import held
from mobbet.actions.posts import begin_post, read_line, save_text
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.audience import COLLEAGUE_TITLE
from mobbet.core.document import schema
from mobbet.core.errors import BadInput, NotFound
from mobbet.core.rights import Action
from mobbet.core.timing import month_number, read_day_count
from mobbet.store import (
    addresses,
    assignments,
    blogs,
    comments,
    decisions,
    editions,
    ideas,
    people,
    posts,
    proofs,
    reads,
    targets,
    timetable,
)
from mobbet.store.blogs import Blog
from mobbet.store.holds import ASKS
from mobbet.store.people import Person
from mobbet.store.posts import Post
from mobbet.store.reads import OldAndRead

SOON, FREE_WITHIN = 7 * 86400, 14 * 86400
MOST_ASKED = 50
MOST, MOST_MISSED, MOST_OLD, MOST_IDEAS, OFTEN_ASKED = 4, 2, 2, 8, 3
MUCH_READ, LONGEST_AGE = 20, 3650
LONGEST_LINE = 300


@dataclass(frozen=True)
class Want:
    """One thing that wants doing: `what` is 'given', 'back', 'word', 'waiting', 'publication', 'held', 'marks', 'slot', 'comments', 'profile', 'target', 'backup', 'old' or 'missed';
    how many, of which post or place, when, and who it comes from or waits for ('' for any editor)."""

    what: str
    count: int
    title: str = ""
    post: int = 0
    instant: int = 0
    who: str = ""
    day: str = ""


def _of_backups(workshop: Workshop, person: Person) -> list[Want]:
    """Where no good backup was made for long, or one could not be read back: how many, and when the last good one was."""
    standing = backup_places.standing(workshop) if owns_every_blog(workshop, person) else None
    if standing is None or not (standing.is_late or standing.bad):
        return []
    return [Want("backup", len(standing.bad), instant=standing.good.at if standing.good else 0)]


def wants(workshop: Workshop, person: Person, blog: Blog) -> list[Want]:
    """What this person was given to write, what was sent back to them, whose word is waited for; a scheduled publication that failed, marks of posts that go out soon, slots without a post, comments that wait, places outside that are behind, old posts that are
    still read much, and addresses readers ask for in vain."""
    db, now = workshop.db, workshop.clock()
    due = [one for one in timetable.due(db, blog.id, now, now + SOON) if one[1] != COLLEAGUE_TITLE]
    counts = proofs.counts(db, [post for post, _, _ in due])
    problem = editions.publication_problem(db, blog.id)
    found = [*_in_hand(workshop, person, blog), *([Want("publication", 1, problem)] if problem else [])]
    stopped = held(workshop, person, blog)
    if stopped and stopped.due and stopped.hold.way == ASKS:
        found.append(Want("held", len(stopped.due), stopped.due[0], stopped.hold.edition))
    marked = {post: must + should for post, (must, should, _) in counts.items() if must or should}
    found += [
        Want("marks", marked[post], title, post, instant) for post, title, instant in due if post in marked
    ][:MOST]
    free = [turn for turn in slots.turns(workshop, blog, now, now + FREE_WITHIN) if turn.post_id is None]
    if free:
        found.append(Want("slot", len(free), instant=free[0].instant))
    waiting = comments.waiting(db, blog.id, 0 if is_keeper(workshop, person, blog) else person.id)
    if waiting:
        found.append(Want("comments", waiting))
    if is_keeper(workshop, person, blog):
        found += [Want("profile", 1, one.person.name) for one in profiles.waiting_on(workshop, blog)[:MOST]]
        behind = [
            one
            for one in targets.of_blog(db, blog.id)
            if one.problem and one.edition < editions.current_number(db, blog.id)
        ]
        found += [
            Want("target", editions.current_number(db, blog.id) - one.edition, one.address) for one in behind
        ]
        found += _of_backups(workshop, person)
        found += [
            Want("old", one.count, one.title, one.id, one.since) for one in _old_and_read(workshop, blog)
        ]
        found += [
            Want("missed", hits, path)
            for path, hits, _ in addresses.unknown(db, blog.id, MOST_MISSED)
            if hits >= OFTEN_ASKED
        ]
    return found


def _in_hand(workshop: Workshop, person: Person, blog: Blog) -> list[Want]:
    """First what is this person's to write or to mend, then what waits for their word, then what they wait for."""
    db = workshop.db

    def name(number: int | None) -> str:
        found = people.by_id(db, number) if number else None
        return found.name if found else ""

    def title(number: int) -> str:
        return title_for(workshop, person, number)

    given = [
        Want("given", 1, one.title or "No title yet", one.post_id, who=name(one.given_by), day=one.wanted_by)
        for one in assignments.of_person(db, blog.id, person.id, MOST)
    ]
    back = [
        Want("back", 1, title(one.post_id), one.post_id, one.decided_at, name(one.person_id))
        for one in decisions.sent_back(db, blog.id, person.id, MOST)
    ]
    asked = decisions.waiting(db, blog.id, MOST_ASKED)
    decides = has_right(workshop, person, blog, Action.GIVE_WORD, is_own=False)
    mine = [
        one for one in asked if decides and one.asked_of in (None, person.id) and one.person_id != person.id
    ]
    theirs = [one for one in asked if one.person_id == person.id]
    return [
        *given,
        *back,
        *(
            Want("word", 1, title(one.post_id), one.post_id, one.decided_at, name(one.person_id))
            for one in mine[:MOST]
        ),
        *(
            Want("waiting", 1, title(one.post_id), one.post_id, one.decided_at, name(one.asked_of))
            for one in theirs[:MOST]
        ),
    ]


def _old_and_read(workshop: Workshop, blog: Blog) -> list[OldAndRead]:
    """Posts older than the owner's limit that were read much this month and the last."""
    now = workshop.clock()
    if not blog.look_again_days:
        return []
    return reads.old_and_read(
        workshop.db,
        blog.id,
        month_number(now) - 1,
        now - blog.look_again_days * 86400,
        now,
        MUCH_READ,
        MOST_OLD,
    )


def still_holds(workshop: Workshop, person: Person, slug: str, post_id: int) -> None:
    """Notes that an old post was looked at and still holds."""
    blog = blog_for(workshop, person, slug, Action.KEEP_AGE)
    if posts.on_blog(workshop.db, blog.id, post_id) is None:
        raise NotFound(f"There is no post with the number {post_id} on this blog.")
    with changing(workshop):
        reads.set_looked(workshop.db, post_id, workshop.clock())


def look_again_after(workshop: Workshop, person: Person, slug: str, days: str) -> None:
    """Sets after how many days posts that are read much are to be looked at again; 0 for never. Raises BadInput."""
    blog = owned_blog(workshop, person, slug)
    count = read_day_count(days, LONGEST_AGE, "never")
    with changing(workshop):
        blogs.settle(workshop.db, blog.id, look_again_days=count)


def note_idea(workshop: Workshop, person: Person, slug: str, title: str, line: str = "") -> int:
    """Notes an idea down; answers with its number. Raises BadInput without a title."""
    blog = blog_for(workshop, person, slug)
    words, more = read_line(title, "title"), " ".join(line.split())
    if not words:
        raise BadInput("The idea has no title yet; a few words are enough.", "title")
    if len(more) > LONGEST_LINE:
        raise BadInput(f"The line has {len(more)} letters; {LONGEST_LINE} are enough for an idea.", "line")
    with changing(workshop):
        return ideas.note(workshop.db, blog.id, person.id, words, more, workshop.clock())


def begin_from_idea(workshop: Workshop, person: Person, slug: str, number: int) -> Post:
    """A draft with an idea's title, and its line as the first paragraph; the idea is no more."""
    blog = blog_for(workshop, person, slug)
    idea = ideas.by_id(workshop.db, blog.id, number)
    if idea is None:
        raise NotFound("This idea is no more; somebody began it, or dropped it.")
    paragraph = {
        "type": "paragraph",
        **({"content": [{"type": "text", "text": idea.line}]} if idea.line else {}),
    }
    with changing(workshop):
        post = begin_post(workshop, person, slug)
        save_text(
            workshop,
            person,
            post.id,
            base=post.revision,
            title=idea.title,
            subtitle="",
            body=schema.check({"type": "doc", "content": [paragraph]}),
        )
        ideas.drop(workshop.db, blog.id, number)
    return post


def drop_idea(workshop: Workshop, person: Person, slug: str, number: int) -> None:
    blog = blog_for(workshop, person, slug)
    with changing(workshop):
        ideas.drop(workshop.db, blog.id, number)
