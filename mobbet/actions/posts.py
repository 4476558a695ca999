"""Begins a post, and saves its text."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from mobbet.actions import presence
from mobbet.actions.access import blog_for, editable_post
from mobbet.actions.lead_tracking import carry_lead
from mobbet.actions.notes import follow_text
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.audience import EVERYONE
from mobbet.core.canonical import canonical
from mobbet.core.docket import COLUMNS, Docket, own_pictures
from mobbet.core.document import outline, schema
from mobbet.core.document.anchors import carried
from mobbet.core.document.characters import UNPRINTABLE
from mobbet.core.errors import BadInput, Conflict, Refused
from mobbet.core.revisions import Aged, to_drop
from mobbet.core.values import existing
from mobbet.store import media, people, placements, posts, revisions
from mobbet.store.people import Person
from mobbet.store.posts import Post, Revision

STRETCH = 5 * 60
"""Saves by one person within so many seconds replace each other; the first after it is kept apart."""
LONGEST = {"alt": 2000, "title": 300, "subtitle": 300, "excerpt": 600, "description": 320}


@dataclass(frozen=True)
class Saved:
    """A save that is safe on the disk."""

    revision: int
    words: int
    minutes: int


def begin_post(workshop: Workshop, person: Person, blog_slug: str) -> Post:
    """A new, empty draft by this person."""
    blog = blog_for(workshop, person, blog_slug)
    with changing(workshop):
        post = posts.add(workshop.db, blog_id=blog.id, author_id=person.id, made_at=workshop.clock())
        save_text(workshop, person, post.id, base=0, title="", subtitle="", body=schema.EMPTY)
    return posts.again(workshop.db, post)


def new_post(workshop: Workshop, person: Person, blog_slug: str) -> Post:
    """An empty draft by this person: one they began before and left untouched, or another one."""
    blog = blog_for(workshop, person, blog_slug)
    for post in posts.as_begun(workshop.db, blog.id, person.id):
        if _is_untouched(workshop, post) and not presence.on_it(workshop, post.id):
            return post
    return begin_post(workshop, person, blog_slug)


def _is_untouched(workshop: Workshop, post: Post) -> bool:
    """Whether nothing at all was put into a post since it was begun."""
    usual = Docket()
    return (
        (post.slug, post.visibility, post.goes_out_wall, post.comes_down_wall, post.is_template)
        == ("", EVERYONE, None, None, 0)
        and all(getattr(post, column) == getattr(usual, column) for column in COLUMNS)
        and not posts.categories(workshop.db, post.id)
        and not posts.tags(workshop.db, post.id)
        and posts.working_body(workshop.db, post.id) == canonical(schema.EMPTY)
    )


def save_text(
    workshop: Workshop, person: Person, post_id: int, *, base: int, title: str, subtitle: str, body: object,
    save_key: str = "", is_apart: bool = False, after: Sequence[str] = (),
) -> Saved:  # fmt: skip
    """Saves title, subtitle and document as a new revision, upon revision `base`.

    The same `save_key` sent again is answered as before, without a second revision; a text equal to
    the working one makes none. `after` are the keys of saves of this sheet that were never answered: when one
    of them arrived all the same, this one follows it. `is_apart` keeps the text before as a revision however new it is. Raises Conflict when the working revision is not `base`,
    BadDocument and BadInput for a text that cannot be kept.
    """
    post, _ = editable_post(workshop, person, post_id)
    check_home(workshop, post)
    title, subtitle = read_line(title, "title"), read_line(subtitle, "subtitle")
    document = schema.check(body)
    words = outline.count_words(document)
    with changing(workshop):
        post = posts.again(workshop.db, post)
        before = posts.revision(workshop.db, post_id, post.revision)
        text = canonical(carried(document, schema.load(before.body)) if before else document)
        if before and (
            (save_key and before.save_key == save_key)
            or (before.title, before.subtitle, before.body) == (title, subtitle, text)
        ):
            return Saved(before.number, words, outline.minutes(words))
        if post.revision != base and not (
            before and before.save_key and before.save_key in after and before.person_id == person.id
        ):
            raise _conflict(workshop, person, post, existing(before))
        now = workshop.clock()
        is_same_stretch = (
            before is not None
            and not is_apart
            and not before.name
            and before.person_id == person.id
            and now - before.begun_at < STRETCH
            and not posts.is_placed(workshop.db, post_id, before.number)
        )
        begun = before.begun_at if before and is_same_stretch else now
        number = post.revision + 1
        revision = Revision(post_id, number, person.id, title, subtitle, text, save_key, begun, now)
        posts.add_revision(workshop.db, revision, words)
        if before is not None:
            follow_text(workshop, before, revision)
        if before is not None:
            carry_lead(workshop, post, schema.load(before.body), schema.load(text))
        note_items(workshop, document, post)
        if before and is_same_stretch:
            posts.drop_revision(workshop.db, post_id, before.number)
        elif before is not None:
            thin(workshop, post_id)
    return Saved(number, words, outline.minutes(words))


def check_home(workshop: Workshop, post: Post) -> None:
    """Raises Refused for a post that lives in another blog, where its text and its times are."""
    home = posts.home_of(workshop.db, post) if post.home_post and not workshop.follows_home else None
    if home:
        raise Refused(
            f"This post lives in {home}; write and place it there. Here it can be filed and taken off the site."
        )


def note_items(workshop: Workshop, document: dict[str, Any], post: Post) -> None:
    """Notes everything of its blog's library that a post shows, in its text or in lists, with what the text says of it."""
    said = outline.said_of_items(document)
    shown = [*said, *([post.lead_media] if post.lead_media else []), *own_pictures(post.own_look)]
    numbers = media.of_blog(workshop.db, post.blog_id, shown)  # a text may name what is no item of the blog
    media.set_post_media(workshop.db, post.id, {number: said.get(number, ("", "")) for number in numbers})


def thin(workshop: Workshop, post_id: int) -> None:
    """Drops the revisions that age has made superfluous; called when a new stretch of writing begins."""
    rows = revisions.of_post(workshop.db, post_id)
    aged = [Aged(row.number, row.saved_at, row.is_placed or bool(row.name)) for row in rows]
    for number in to_drop(aged, workshop.clock()):
        posts.drop_revision(workshop.db, post_id, number)


def save_over(
    workshop: Workshop, person: Person, post_id: int, *, over: int, title: str, subtitle: str, body: object
) -> Saved:
    """Saves a text although revision `over` came in between; that one is kept as a revision of its own."""
    post, _ = editable_post(workshop, person, post_id)
    title, subtitle = read_line(title, "title"), read_line(subtitle, "subtitle")
    document = schema.check(body)
    words = outline.count_words(document)
    with changing(workshop):
        post = posts.again(workshop.db, post)
        if post.revision != over:
            raise _conflict(workshop, person, post, posts.working(workshop.db, post_id))
        now = workshop.clock()
        before = existing(posts.revision(workshop.db, post_id, over))
        document = _with_anchors_of(workshop, post_id, document, schema.load(before.body), now)
        revision = Revision(post_id, over + 1, person.id, title, subtitle, canonical(document), "", now, now)
        posts.add_revision(workshop.db, revision, words)
        follow_text(workshop, before, revision)
        carry_lead(workshop, post, schema.load(before.body), document)
        note_items(workshop, document, post)
    return Saved(over + 1, words, outline.minutes(words))


def _with_anchors_of(
    workshop: Workshop, post_id: int, document: dict[str, Any], over: dict[str, Any], now: int
) -> dict[str, Any]:
    """A text with the anchors of its headings as readers have them, and then as the text has that it is saved over."""
    live = placements.shown_at(placements.of_post(workshop.db, post_id), now)
    if live is not None:
        document = carried(document, schema.load(posts.body(workshop.db, post_id, live.revision)))
    return carried(document, over)


def keep_as_draft(
    workshop: Workshop, person: Person, post_id: int, *, title: str, subtitle: str, body: object
) -> Post:
    """Keeps a text that met another one as a draft of its own."""
    post, blog = editable_post(workshop, person, post_id)
    with changing(workshop):
        copy = begin_post(workshop, person, blog.slug)
        save_text(workshop, person, copy.id, base=copy.revision, title=title, subtitle=subtitle, body=body)
        posts.set_categories(workshop.db, copy.id, posts.categories(workshop.db, post_id), workshop.clock())
    return posts.again(workshop.db, copy)


def _conflict(workshop: Workshop, person: Person, post: Post, other: Revision | None) -> Conflict:
    who = existing(people.by_id(workshop.db, other.person_id)).name if other else "Somebody"
    if other and other.person_id == person.id:
        who = "You, in another tab or on another device,"
    return Conflict(
        f"{who} saved another text of this post in the meantime; choose which one goes on.", post.revision
    )


def read_line(text: object, field: str) -> str:
    """A title, subtitle, excerpt or description in one line. Raises BadInput when it is too long."""
    line = " ".join(UNPRINTABLE.sub(" ", str(text)).split())
    if len(line) > LONGEST[field]:
        raise BadInput(f"The {field} has {len(line)} letters; {LONGEST[field]} is the most.", field)
    return line
