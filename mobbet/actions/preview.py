"""A post as it would be for readers if its working text and docket went out."""

from __future__ import annotations

import json
from dataclasses import dataclass

from mobbet.actions.permalinks import proposed_path, with_catch_all
from mobbet.actions.workshop import Workshop
from mobbet.core.audience import audience_of
from mobbet.core.document import outline, schema
from mobbet.core.document.mentions import expanded, linked_posts
from mobbet.core.facts import OutPost
from mobbet.core.timing import instant_of_wall
from mobbet.publish.plan import Plan
from mobbet.publish.values import Page
from mobbet.store import kept as kept_store
from mobbet.store import people, placements, posts
from mobbet.store.blogs import Blog
from mobbet.store.posts import Post
from mobbet.store.snapshot import SiteSnapshot


@dataclass(frozen=True)
class Previewed:
    """The post as facts, and its page of the plan."""

    post: OutPost
    page: Page


class _WithDraft(SiteSnapshot):
    """The facts of now, but for one post, whose body is given."""

    def __init__(self, workshop: Workshop, blog: Blog, body: dict) -> None:
        super().__init__(workshop.db, blog.id, workshop.clock())
        self._body = body
        self.draft_id = 0

    def body(self, post: OutPost) -> dict:
        return self._body if post.id == self.draft_id else super().body(post)


def as_it_would_be(workshop: Workshop, post: Post, blog: Blog) -> Previewed:
    """The page of a post made from its working revision and docket, among the pages that are out."""
    db, now = workshop.db, workshop.clock()
    revision = posts.revision(db, post.id, post.revision)
    kept = schema.load(revision.body)
    body = expanded(kept, lambda number: kept_store.document(db, blog.id, number))
    current = next((row for row in placements.of_post(db, post.id) if row.shows_from <= now < row.shows_until), None)
    goes_out = instant_of_wall(post.goes_out_wall, blog.zone) if post.goes_out_wall else current.goes_out if current else now
    categories = with_catch_all(blog, tuple(posts.categories(db, post.id)))
    shown = OutPost(
        id=post.id,
        revision=post.revision,
        path=proposed_path(workshop, post, blog, revision.title, categories, goes_out)[0],
        audience=audience_of(post.visibility, post.author_id),
        title=revision.title or "No title yet",
        subtitle=revision.subtitle,
        author=people.by_id(db, post.author_id).name,
        zone=blog.zone,
        goes_out=goes_out,
        updated=max(goes_out, current.shows_from if current else 0),
        excerpt=post.excerpt,
        description=post.description,
        categories=categories,
        tags=tuple(posts.tags(db, post.id)),
        media=outline.items(body),
        links=linked_posts(body),
        series_id=post.series_id,
        series_position=post.series_position,
        lead_media=post.lead_media,
        lead=post.lead and json.loads(post.lead)["digest"],
        heading=post.heading,
        front=post.front,
        search_title=post.search_title,
        place=post.place,
    )
    snapshot = _WithDraft(workshop, blog, body)
    snapshot.draft_id = post.id
    return Previewed(shown, Plan(snapshot).page_of_post(shown, body))
