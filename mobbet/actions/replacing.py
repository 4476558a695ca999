"""Replaces an item of the library by another one, everywhere it is shown."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.actions import kept_blocks, placing, post_states
from mobbet.actions import posts as post_actions
from mobbet.actions.access import editable_item, editable_post, readable_item
from mobbet.actions.footprints import effect_of
from mobbet.actions.library import renumbered
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.document import schema
from mobbet.core.errors import BadInput, NotAllowed, NotFound
from mobbet.core.states import IN_TIMETABLE, OUT
from mobbet.store import kept, media, posts
from mobbet.store.people import Person
from mobbet.store.posts import Post


@dataclass(frozen=True)
class Replacement:
    """What replacing an item changes: posts (of them those that readers get or will get), saved blocks, public pages."""

    posts: tuple[Post, ...]
    placed: int
    kept: tuple[str, ...]
    pages: tuple[tuple[str, str], ...]


def footprint(workshop: Workshop, person: Person, media_id: int, other_id: int) -> Replacement:
    """What `replace` would change; nothing is kept of it."""
    _, blog = editable_item(workshop, person, media_id)
    effect = effect_of(workshop, blog, lambda: _replace(workshop, person, media_id, other_id))
    changed, placed, names = effect.answer
    pages = tuple((page.path, page.what) for page in effect.pages if not page.path.startswith("/media/"))
    return Replacement(tuple(changed), placed, tuple(names), pages)


def replace(workshop: Workshop, person: Person, media_id: int, other_id: int) -> Replacement:
    """Shows another item wherever one is shown: in drafts, in saved blocks, and in what is out or placed.

    A post with changes that are not out yet keeps them so: only its working text changes then.
    """
    with changing(workshop, person, "a picture changed"):
        changed, placed, names = _replace(workshop, person, media_id, other_id)
    return Replacement(tuple(changed), placed, tuple(names), ())


def _replace(
    workshop: Workshop, person: Person, media_id: int, other_id: int
) -> tuple[list[Post], int, list[str]]:
    row, blog = editable_item(workshop, person, media_id)
    other, _ = readable_item(workshop, person, other_id)
    if other.id == row.id or other.blog_id != row.blog_id or other.kind != row.kind:
        raise BadInput(
            f"“{other.name}” cannot take the place of “{row.name}”; choose another {row.kind} of this blog.",
            "other",
        )
    changed: list[Post] = []
    placed = 0
    for post_id in media.posts_showing(workshop.db, media_id, workshop.clock()):
        try:
            post, _ = editable_post(workshop, person, post_id)
        except (NotAllowed, NotFound):
            raise NotAllowed(
                f"“{row.name}” is shown in posts by others; ask an editor or the owner to replace it."
            ) from None
        is_settled = post_states.is_settled(workshop, post)
        before = posts.working(workshop.db, post.id)
        body = renumbered(schema.load(before.body), media_id, other_id)
        post_actions.save_text(
            workshop,
            person,
            post.id,
            base=post.revision,
            title=before.title,
            subtitle=before.subtitle,
            body=body,
            is_apart=True,
        )
        if post.lead_media == media_id:
            posts.settle(workshop.db, post.id, workshop.clock(), lead_media=other_id)
        changed.append(posts.again(workshop.db, post))
        if is_settled and post_states.state_of(workshop, post) in (OUT, IN_TIMETABLE):
            placing.place(workshop, person, post.id)
            placed += 1
    names = []
    for number, name in media.kept_showing(workshop.db, blog.id, media_id):
        document = renumbered(kept.document(workshop.db, blog.id, number), media_id, other_id)
        kept_blocks.change_kept(workshop, person, blog.slug, number, name, document)
        names.append(name)
    return changed, placed, names
