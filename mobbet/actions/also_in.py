"""One post in several blogs: it lives in one, its home, and stands in others, whose filing and look it has there. A post of each other blog follows the text
and the times of its home with the change that alters those."""

from __future__ import annotations

import json
from collections.abc import Iterable
from dataclasses import asdict, dataclass, replace
from typing import Any

from mobbet.actions import copy_to_blog, placing
from mobbet.actions import posts as post_actions
from mobbet.actions.access import blog_for, editable_post, may_edit_post
from mobbet.actions.approvals import refusal
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.audience import EVERYONE, SIGNED_IN
from mobbet.core.canonical import digest
from mobbet.core.docket import MOVING
from mobbet.core.document import schema
from mobbet.core.document.leading import place_of, reference
from mobbet.core.errors import BadInput, NotAllowed, Refused
from mobbet.core.rights import Action
from mobbet.core.timing import FOREVER, wall
from mobbet.core.values import existing
from mobbet.store import blogs, filing, guests, placements, posts
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.placements import Placement
from mobbet.store.posts import Post, Revision

CARRIED = (EVERYONE, SIGNED_IN)
"""The audiences that mean the same in another blog. A post for others stands in its home alone."""


@dataclass(frozen=True)
class Guest:
    """Where else a post stands: the blog, the post there, where that is filed, its public address ('' while it is not out), and whether its text there
    is an earlier one, since whoever changed it last may not change the other blog."""

    blog: Blog
    post: Post
    categories: tuple[int, ...]
    path: str
    is_behind: bool


def guests_of(workshop: Workshop, post: Post) -> list[Guest]:
    """The other blogs in which a post stands, by name."""
    found, now, state = [], workshop.clock(), _state(workshop, post)
    for one in guests.of(workshop.db, post.id):
        blog = existing(blogs.by_id(workshop.db, one.blog_id))
        live = placements.shown_at(placements.of_post(workshop.db, one.id), now)
        filed = tuple(posts.categories(workshop.db, one.id))
        found.append(
            Guest(blog, one, filed, live.path if live else "", bool(one.followed) and one.followed != state)
        )
    return sorted(found, key=lambda guest: guest.blog.name.casefold())


def offered(workshop: Workshop, person_id: int, post: Post) -> list[Blog]:
    """The blogs in which a person may have the post stand as well."""
    if post.is_page or post.home_post:
        return []
    there = {post.blog_id, *(one.blog_id for one in guests.of(workshop.db, post.id))}
    mine = blogs.of_person(workshop.db, person_id)
    return [blog for blog in mine if blog.id not in there and blog.set_aside_at is None]


def add(workshop: Workshop, person: Person, post_id: int, slug: str) -> Post:
    """Has a post stand in another blog of this person too: with it from now on, or once it goes out. Raises BadInput and Refused."""
    post, blog = editable_post(workshop, person, post_id)
    other = blog_for(workshop, person, slug, Action.BEGIN_POST)
    if other.id == blog.id:
        raise BadInput("The post lives in this blog already; choose another one.", "also_in")
    if post.is_page:
        raise Refused("A page stands in one blog alone; make it a post first.")
    if post.home_post:
        raise Refused("The post lives in another blog; choose there where else it stands.")
    with changing(workshop, person, f"“{post.title}” stands in {other.name} too"):
        there = guests.in_blog(workshop.db, post.id, other.id)
        if there is None:
            there = copy_to_blog.bring_over(_following(workshop), person, post, blog, other.slug)
            guests.set_home(workshop.db, there.id, post.id)
        elif there.aside_at is None:
            raise BadInput(f"The post stands in {other.name} already.", "also_in")
        posts.settle(workshop.db, there.id, workshop.clock(), aside_at=None)
        guests.set_followed(workshop.db, there.id, "")
        reason = refusal(workshop, person, posts.again(workshop.db, there), other)
        if reason:
            raise NotAllowed(f"In {other.name}: {reason}")
        _follow_one(workshop, person, post, blog, posts.again(workshop.db, there))
    return posts.again(workshop.db, there)


def remove(workshop: Workshop, person: Person, post_id: int, slug: str) -> None:
    """Takes a post out of another blog: its address there says that it is gone. Raises BadInput where it does not stand there."""
    post, _ = editable_post(workshop, person, post_id)
    other = blogs.by_slug(workshop.db, slug)
    there = guests.in_blog(workshop.db, post.id, other.id) if other else None
    if other is None or there is None or there.aside_at is not None:
        raise BadInput(f"The post does not stand in “{slug[:60]}”; look at it again.", "also_in")
    with changing(workshop, person, f"“{post.title}” does not stand in {other.name} any more"):
        _withdraw(workshop, there)
        posts.settle(workshop.db, there.id, workshop.clock(), aside_at=workshop.clock())
        guests.set_followed(workshop.db, there.id, "")


def file_under(workshop: Workshop, person: Person, post_id: int, slug: str, category: int) -> None:
    """Files the post in another blog under one of its categories, by the rights of that blog. Raises BadInput."""
    post, _ = editable_post(workshop, person, post_id)
    other = blog_for(workshop, person, slug)
    there = guests.in_blog(workshop.db, post.id, other.id)
    if there is None or there.aside_at is not None:
        raise BadInput(f"The post does not stand in {other.name}; look at it again.", "also_in")
    if category not in filing.subjects(workshop.db, other.id):
        raise BadInput(f"{other.name} has no such category; choose one of the list.", "also_in")
    editable_post(workshop, person, there.id)
    with changing(workshop, person, f"“{post.title}” is filed in {other.name}"):
        posts.set_categories(workshop.db, there.id, [category], workshop.clock())
        if _live(workshop, there):
            placing.place(_following(workshop), person, there.id)


def follow(workshop: Workshop, person: Person | None, homes: Iterable[int]) -> None:
    """Has the posts in other blogs follow those of which something changed. Where the person may not change them there, they stay as they are; what is no
    longer out at home is out nowhere."""
    for number in homes:
        post = guests.home(workshop.db, number)
        blog = existing(blogs.by_id(workshop.db, post.blog_id))
        for there in guests.of(workshop.db, post.id):
            _follow_one(workshop, person, post, blog, there)


def _following(workshop: Workshop) -> Workshop:
    return replace(workshop, follows_home=True)


def _follow_one(workshop: Workshop, person: Person | None, post: Post, blog: Blog, there: Post) -> None:
    rows, state = _carried(workshop, post), _state(workshop, post)
    if there.followed == state:
        return
    if not rows:
        _withdraw(workshop, there)
        guests.set_followed(workshop.db, there.id, "")
        return
    if person is None or not _may(workshop, person, there):
        return
    if there.followed and not _live(workshop, there):
        return  # somebody of that blog took it off
    other = existing(blogs.by_id(workshop.db, there.blog_id))
    with changing(workshop, person):
        if rows[0].shows_from > workshop.clock():
            _withdraw(workshop, there)
        for row in rows:
            _bring(workshop, person, post, blog, there, row, other.zone)
            try:
                placing.place(_following(workshop), person, there.id)
            except (BadInput, Refused) as error:
                raise BadInput(f"In {other.name}: {error}", "also_in") from error
        guests.set_followed(workshop.db, there.id, state)


def _may(workshop: Workshop, person: Person, there: Post) -> bool:
    other = existing(blogs.by_id(workshop.db, there.blog_id))
    return may_edit_post(workshop, person, there.id) and not refusal(workshop, person, there, other)


def _live(workshop: Workshop, post: Post) -> list[Placement]:
    """The placements of a post that readers get, or are going to, in the order in which they begin."""
    now = workshop.clock()
    rows = placements.of_post(workshop.db, post.id)
    return sorted(
        (row for row in rows if row.shows_until > now and row.shows_from < row.shows_until),
        key=lambda row: row.shows_from,
    )


def _carried(workshop: Workshop, post: Post) -> list[Placement]:
    """Those of them that other blogs have too."""
    return [row for row in _live(workshop, post) if row.audience in CARRIED and not row.kind]


def _state(workshop: Workshop, post: Post) -> str:
    """A digest of what of a post other blogs follow."""
    rows = [
        [row.revision, row.goes_out, row.shows_from, row.shows_until, row.audience, row.lead, [getattr(row, name) for name in MOVING]]
        for row in _carried(workshop, post)
    ]  # fmt: skip
    return digest(rows)


def _withdraw(workshop: Workshop, there: Post) -> None:
    for row in _live(workshop, there):
        placements.end(workshop.db, row.id, workshop.clock())
    guests.mark(workshop.db, there)


def _bring(
    workshop: Workshop, person: Person, post: Post, blog: Blog, there: Post, row: Placement, zone: str
) -> None:
    """Gives the post of the other blog the text and the docket of one placement of its home."""
    db, now = workshop.db, workshop.clock()
    other = existing(blogs.by_id(db, there.blog_id))
    revision: Revision = existing(posts.revision(db, post.id, row.revision))
    body = schema.load(revision.body)
    document, items = copy_to_blog.text_for(workshop, blog, other, body, row.lead_media)
    there = posts.again(db, there)
    post_actions.save_text(
        _following(workshop), person, there.id, base=there.revision, title=revision.title, subtitle=revision.subtitle,
        body=document, is_apart=True,
    )  # fmt: skip
    is_out = placements.shown_at(placements.of_post(db, there.id), now) is not None
    is_update = is_out and row.shows_from > now
    lines = {name: getattr(row, name) for name in MOVING}
    posts.settle(
        db, there.id, now, **lines, visibility=row.audience, lead_media=items.get(row.lead_media or 0), lead=_lead(body, document, row),
        goes_out_wall=wall(row.goes_out, zone) if row.goes_out != now else None,
        comes_down_wall=wall(row.comes_down, zone) if row.comes_down < FOREVER else None,
        update_wall=wall(row.shows_from, zone) if is_update else None,
    )  # fmt: skip


def _lead(body: dict[str, Any], document: dict[str, Any], row: Placement) -> str:
    """The reference to the block that leads the text in the other blog, which stands where the one does that leads it at home; '' for none."""
    at = place_of(body, row.lead) if row.lead else None
    found = reference(document, at) if at is not None else None
    return json.dumps(asdict(found)) if found else ""
