"""A post as readers would get it if its working text and docket went out now."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from mobbet.actions import moments, placing
from mobbet.actions.access import has_right
from mobbet.actions.moments import Answer
from mobbet.actions.permalinks import proposed_path, with_catch_all
from mobbet.actions.work import dry_run
from mobbet.actions.workshop import Workshop
from mobbet.core.audience import Reader, audience_of
from mobbet.core.docket import SHOWN, frozen
from mobbet.core.document import outline, schema
from mobbet.core.document.mentions import expanded, linked_posts
from mobbet.core.errors import Refused
from mobbet.core.facts import OutPost
from mobbet.core.rights import Action
from mobbet.core.timing import instant_of_wall
from mobbet.core.values import existing
from mobbet.publish.pages import post as post_page
from mobbet.publish.pages.kinds import render
from mobbet.publish.plan import Plan
from mobbet.publish.renderer import Renderer
from mobbet.publish.values import Page
from mobbet.store import kept as kept_store
from mobbet.store import placements, posts, profiles
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.posts import Post
from mobbet.store.snapshot import SiteSnapshot


@dataclass(frozen=True)
class Previewed:
    """The post as facts, its page of the plan, and the facts that this is of."""

    post: OutPost
    page: Page
    snapshot: SiteSnapshot


class _WithDraft(SiteSnapshot):
    """The facts of now, but for one post, whose body is given."""

    def __init__(self, workshop: Workshop, blog: Blog, body: dict[str, Any]) -> None:
        super().__init__(workshop.db, blog.id, workshop.clock())
        self._draft = body
        self.draft_id = 0

    def body(self, post: OutPost) -> dict[str, Any]:
        return self._draft if post.id == self.draft_id else super().body(post)


@dataclass(frozen=True)
class Written:
    """A text as it stands on the sheet, saved or not yet."""

    title: str
    subtitle: str
    document: dict[str, Any]


def as_it_would_be(workshop: Workshop, post: Post, blog: Blog, written: Written | None = None) -> Previewed:
    """The page of a post made from its docket and a text (its working revision, without one), among the pages that are out."""
    db, now = workshop.db, workshop.clock()
    revision = posts.working(db, post.id)
    written = written or Written(revision.title, revision.subtitle, schema.load(revision.body))
    kept = written.document
    body = expanded(kept, lambda number: kept_store.document(db, blog.id, number))
    current = placements.shown_at(placements.of_post(db, post.id), now)
    goes_out = (
        instant_of_wall(post.goes_out_wall, blog.zone)
        if post.goes_out_wall
        else current.goes_out
        if current
        else now
    )
    categories = with_catch_all(blog, tuple(posts.categories(db, post.id)))
    shown = OutPost(
        id=post.id,
        revision=revision.number,
        path=proposed_path(workshop, post, blog, written.title, categories, goes_out)[0],
        audience=audience_of(post.visibility, post.author_id, post.id),
        title=written.title or "No title yet",
        subtitle=written.subtitle,
        author=existing(profiles.author(db, blog.id, post.author_id)).name,
        zone=blog.zone,
        goes_out=goes_out,
        updated=max(goes_out, current.shows_from if current else 0),
        categories=categories,
        tags=tuple(posts.tags(db, post.id)),
        media=outline.items(body),
        links=linked_posts(body),
        **frozen(post, SHOWN),
    )
    snapshot = _WithDraft(workshop, blog, body)
    snapshot.draft_id = post.id
    return Previewed(shown, post_page.page_of(Plan(snapshot), shown, lambda: body), snapshot)


@dataclass(frozen=True)
class PreviewedPage:
    """A page of the site as it would be with a post placed as its docket says, and why it cannot be, where it cannot."""

    looked: Answer
    path: str
    moment: int
    problem: str = ""


def with_it_placed(
    workshop: Workshop,
    person: Person,
    post: Post,
    blog: Blog,
    path: str | None,
    reader: Reader,
    at: int | None,
    root: str,
) -> PreviewedPage:
    """A page of the whole site as it stands at a moment (when the post goes out, without one) with the post placed; nothing is kept of that.

    Without a path it is the post's own page. A post that cannot be placed yet is shown as a page of its own. To those who do not look ahead, it is
    shown as if it went out now.
    """
    looks_ahead = has_right(workshop, person, blog, Action.LOOK_AHEAD)
    try:
        effect = dry_run(
            workshop,
            lambda: _placed_and_seen(
                workshop, person, post, blog, path, reader, at if looks_ahead else None, root, looks_ahead
            ),
        )
    except Refused as error:
        shown = as_it_would_be(workshop, post, blog)
        snapshot = SiteSnapshot(workshop.db, blog.id, workshop.clock())
        if path in (None, shown.page.path):
            rendered = render(Renderer(snapshot.house, snapshot.item), shown.page)
            return PreviewedPage(
                Answer(rendered.body, rendered.type), shown.page.path, shown.post.goes_out, str(error)
            )
        return PreviewedPage(
            moments.look(workshop, blog, path, workshop.clock(), reader, root),
            shown.page.path,
            shown.post.goes_out,
            str(error),
        )
    return effect


def _placed_and_seen(
    workshop: Workshop,
    person: Person,
    post: Post,
    blog: Blog,
    path: str | None,
    reader: Reader,
    at: int | None,
    root: str,
    looks_ahead: bool,
) -> PreviewedPage:
    if not looks_ahead:
        posts.settle(
            workshop.db, post.id, workshop.clock(), goes_out_wall=None, update_wall=None, waits_turn=0
        )
    placed = placing.place(workshop, person, post.id)
    moment = at if at is not None else max(workshop.clock(), placed.goes_out, placed.waits_until)
    return PreviewedPage(
        moments.look(workshop, blog, path or placed.path, moment, reader, root), placed.path, moment
    )
