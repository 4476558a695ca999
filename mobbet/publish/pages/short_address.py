"""The short address of a post, which redirects to its page."""

from __future__ import annotations

from mobbet.core.keys import PageKey
from mobbet.core.permalinks import short_path
from mobbet.publish import house_parts
from mobbet.publish.page_kind import ADDRESS, PageKind
from mobbet.publish.plan import Plan
from mobbet.publish.redirects import redirect
from mobbet.publish.renderer import HTML
from mobbet.publish.values import Page


def key(post_id: int) -> PageKey:
    return PageKey.of("short", post_id)


def page(plan: Plan, key: PageKey) -> Page | None:
    post = plan.snapshot.post(key.number)
    return redirect(plan.snapshot.house, key, short_path(post.id), post.path, post.audience) if post else None


KIND = PageKind(
    name="short",
    page=page,
    recipes={},
    keys_of_post=lambda plan, post_id: (key(post_id),),
    touched=lambda changed: map(key, changed.posts),
    requested_type=HTML,
    is_of_post=True,
    shows_of_house=house_parts.REDIRECT,
    counts_as=ADDRESS,
)
