"""Reuse of text: saved blocks and standing copies, templates, copies, series, splitting."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, cast

from mobbet.actions import posts as post_actions
from mobbet.actions.access import EditablePost, blog_for, editable_kept, editable_post, readable_kept
from mobbet.actions.footprints import Effect, effect_of
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.canonical import canonical
from mobbet.core.document import outline, schema
from mobbet.core.document.mentions import expanded, linked_posts, standing_copies
from mobbet.core.document.splitting import split
from mobbet.core.errors import BadInput, NotFound
from mobbet.store import kept, placements, posts, series, stale
from mobbet.store.blogs import Blog
from mobbet.store.kept import Kept
from mobbet.store.people import Person
from mobbet.store.posts import Post

LONGEST_NAME = 80


@dataclass(frozen=True)
class ShownIn:
    """What a change of standing copy reaches: posts that show it, and how many of them are out or placed."""

    posts: tuple[Post, ...]
    placed: int


def keep_blocks(workshop: Workshop, person: Person, blog_slug: str, name: str, blocks: Any) -> Kept:
    """Keeps blocks under a new name. Raises BadInput when the name is taken or missing."""
    blog = blog_for(workshop, person, blog_slug)
    name, document = _name(name), schema.check({"type": "doc", "content": blocks})
    with changing(workshop, person, "a standing copy changed"):
        if kept.by_name(workshop.db, blog.id, name):
            raise BadInput(f"“{name}” is kept already; choose another name.", "name")
        return kept.add(workshop.db, blog.id, name, canonical(document), person.id, workshop.clock())


def reach(workshop: Workshop, blog: Blog, number: int) -> ShownIn:
    """The posts that a change of this standing copy would reach."""
    showing = kept.posts_showing(workshop.db, blog.id, number)
    placed = {post_id for _, post_id in kept.placements_of(workshop.db, number, workshop.clock())}
    found = (
        posts.on_blog(workshop.db, blog.id, post_id) for post_id in dict.fromkeys([*showing, *sorted(placed)])
    )
    return ShownIn(tuple(post for post in found if post), len(placed))


def footprint_of_change(
    workshop: Workshop, person: Person, blog_slug: str, number: int, document: Any
) -> Effect:
    """The footprint of a change of standing copy; nothing is kept of it."""
    blog = blog_for(workshop, person, blog_slug)
    one = editable_kept(workshop, person, blog, number)
    return effect_of(
        workshop, blog, lambda: change_kept(workshop, person, blog_slug, number, one.name, document)
    )


def change_kept(
    workshop: Workshop, person: Person, blog_slug: str, number: int, name: str, document: Any
) -> Kept:
    """Changes saved blocks; every post that shows them as standing copy changes with the next edition."""
    blog = blog_for(workshop, person, blog_slug)
    one = editable_kept(workshop, person, blog, number)
    name, document = _name(name), schema.check(document)
    if number in standing_copies(document):
        raise BadInput("Standing copy cannot show itself; take it out of its own text.", "document")
    with changing(workshop, person, "a standing copy changed"):
        other = kept.by_name(workshop.db, blog.id, name)
        if other and other.id != number:
            raise BadInput(f"“{name}” is kept already; choose another name.", "name")
        kept.change(workshop.db, one.id, name, canonical(document), person.id, workshop.clock())
        _settle_placements(workshop, blog, number)
        stale.mark_fact(workshop.db, blog.id, "kept", number)
    return readable_kept(workshop, blog, number)


def _settle_placements(workshop: Workshop, blog: Blog, number: int) -> None:
    """Marks the posts that show a standing copy, with the pictures and links that it has now."""
    for placement_id, post_id in kept.placements_of(workshop.db, number, workshop.clock()):
        body = schema.load(placements.body(workshop.db, placement_id))
        whole = expanded(body, lambda other: kept.document(workshop.db, blog.id, other))
        placements.set_mentions(workshop.db, placement_id, outline.items(whole), linked_posts(whole))
        stale.mark_posts(workshop.db, blog.id, post_id)


def remove_kept(workshop: Workshop, person: Person, blog_slug: str, number: int, is_text_left: bool) -> None:
    """Takes blocks from the list. Posts that show them keep their last text, or lose it, by choice."""
    blog = blog_for(workshop, person, blog_slug)
    one = editable_kept(workshop, person, blog, number)
    with changing(workshop, person, "a standing copy changed"):
        if not is_text_left:
            kept.change(workshop.db, number, one.name, canonical(schema.EMPTY), person.id, workshop.clock())
            _settle_placements(workshop, blog, number)
        kept.remove(workshop.db, number, workshop.clock())
        stale.mark_fact(workshop.db, blog.id, "kept", number)


def _name(name: str) -> str:
    name = " ".join(str(name).split())
    if not name or len(name) > LONGEST_NAME:
        raise BadInput(f"The name has {len(name)} letters; give it one to {LONGEST_NAME}.", "name")
    return name


def begin_from(workshop: Workshop, person: Person, post_id: int) -> Post:
    """A new draft with the text and the filing of a post or a template."""
    post, blog = editable_post(workshop, person, post_id)
    with changing(workshop, person, "a standing copy changed"):
        before = posts.working(workshop.db, post.id)
        copy = post_actions.begin_post(workshop, person, blog.slug)
        post_actions.save_text(
            workshop,
            person,
            copy.id,
            base=copy.revision,
            title=before.title,
            subtitle=before.subtitle,
            body=schema.load(before.body),
        )
        now = workshop.clock()
        posts.set_categories(workshop.db, copy.id, posts.categories(workshop.db, post.id), now)
        posts.set_tags(workshop.db, copy.id, posts.tags(workshop.db, post.id), now)
        posts.settle(
            workshop.db,
            copy.id,
            now,
            visibility=post.visibility,
            password_key=post.password_key,
            listed=post.listed,
        )
    return posts.again(workshop.db, copy)


def set_template(workshop: Workshop, person: Person, post_id: int, is_template: bool) -> None:
    """Keeps a post as a template, a starting shape for others, or makes it a draft again."""
    post, _ = editable_post(workshop, person, post_id)
    with changing(workshop, person, "a standing copy changed"):
        if is_template and any(
            row.shows_until > workshop.clock() and row.shows_from < row.shows_until
            for row in placements.of_post(workshop.db, post.id)
        ):
            raise BadInput(
                "Readers get this post, or are going to; begin a copy of it and keep that as a template.",
                "state",
            )
        posts.settle(workshop.db, post.id, workshop.clock(), is_template=int(is_template))


def set_series(workshop: Workshop, person: Person, post_id: int, name: str, position: str = "") -> None:
    """Makes the post a part of a named series, at a place in it or after the last; no name takes it out."""
    post, blog = editable_post(workshop, person, post_id)
    with changing(workshop, person, "a standing copy changed"):
        if not name.strip():
            posts.settle(workshop.db, post.id, workshop.clock(), series_id=None, series_position=0)
            return
        if position.strip() and not (position.strip().isdecimal() and 1 <= int(position) <= 999):
            raise BadInput(
                f"“{position.strip()}” is no place in a series; type a number from 1 to 999.", "position"
            )
        number = series.find_or_add(workshop.db, blog.id, _name(name))
        stays = post.series_id == number and not position.strip()
        place = (
            post.series_position
            if stays
            else int(position)
            if position.strip()
            else series.last_position(workshop.db, number) + 1
        )
        posts.settle(workshop.db, post.id, workshop.clock(), series_id=number, series_position=place)


def split_post(workshop: Workshop, person: Person, post_id: int, blocks: list[int]) -> list[Post]:
    """Cuts a post before these top-level blocks into a series of drafts; the first part stays in the post.

    The post's own text is kept as a revision, so that putting it back undoes the cut.
    """
    with changing(
        workshop, person, "a standing copy changed"
    ):  # a save that comes between would make the post another one
        post, blog = editable_post(workshop, person, post_id)
        before = posts.working(workshop.db, post.id)
        parts = split(schema.load(before.body), blocks, before.title)
        set_series(
            workshop,
            person,
            post.id,
            before.title or f"Post {post.id}",
            "1" if post.series_id is None else "",
        )
        made = [post]
        for title, document in parts[1:]:
            part = post_actions.begin_post(workshop, person, blog.slug)
            post_actions.save_text(
                workshop, person, part.id, base=part.revision, title=title, subtitle="", body=document
            )
            posts.set_categories(
                workshop.db, part.id, posts.categories(workshop.db, post.id), workshop.clock()
            )
            posts.set_tags(workshop.db, part.id, posts.tags(workshop.db, post.id), workshop.clock())
            set_series(workshop, person, part.id, before.title or f"Post {post.id}")
            made.append(cast(EditablePost, part))
        post_actions.save_text(
            workshop,
            person,
            post.id,
            base=post.revision,
            title=before.title,
            subtitle=before.subtitle,
            body=parts[0][1],
            is_apart=True,
        )
    return [posts.again(workshop.db, one) for one in made]


def undo_split(workshop: Workshop, person: Person, post_id: int, revision: int, parts: list[int]) -> None:
    """Puts a post back together: its text of before the cut, and the drafts of the parts set aside."""
    with changing(workshop, person, "a standing copy changed"):
        post, _ = editable_post(workshop, person, post_id)
        before = posts.revision(workshop.db, post.id, revision)
        if before is None:
            raise NotFound(
                f"Post {post_id} keeps no revision {revision}; look at the list of those it keeps."
            )
        post_actions.save_text(
            workshop, person, post.id, base=post.revision, title=before.title, subtitle=before.subtitle,
            body=schema.load(before.body), is_apart=True,
        )  # fmt: skip
        posts.settle(workshop.db, post.id, workshop.clock(), series_id=None, series_position=0)
        for part_id in parts:
            part, _ = editable_post(workshop, person, part_id)
            posts.settle(
                workshop.db,
                part.id,
                workshop.clock(),
                aside_at=workshop.clock(),
                series_id=None,
                series_position=0,
            )
