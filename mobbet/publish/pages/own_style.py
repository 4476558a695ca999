"""The style sheet of a post on a background of its own. It keeps its address when its colours, or those of the site, change."""

from __future__ import annotations

import re
from collections.abc import Iterator

from mobbet.core.audience import EVERYONE
from mobbet.core.keys import PageKey
from mobbet.publish import house_parts
from mobbet.publish.changes.change_set import ChangeSet
from mobbet.publish.look_style import own_path, own_style
from mobbet.publish.page_kind import FILE, PageKind
from mobbet.publish.plan import Plan
from mobbet.publish.rendered import Rendered
from mobbet.publish.renderer import Renderer, version
from mobbet.publish.values import Page

_PATH = re.compile(r"/look-of-([1-9]\d{0,14})\.css")


def key(post_id: int) -> PageKey:
    return PageKey.of("own", post_id)


def page(plan: Plan, key: PageKey) -> Page | None:
    """The style sheet of a post that is out; None where it has the colours of the site."""
    post, look = plan.snapshot.post(key.number), plan.snapshot.house.look
    if post is None or not post.own_look:
        return None
    css = own_style(look, post.own_look)
    if not css:
        return None
    # the page of a post behind a password stands for everyone as a sealed one
    audience = EVERYONE if post.audience.startswith("password:") else post.audience
    reads = [version(), post.own_look, look.light.model_dump(), look.in_dark.model_dump()]
    return Page(key, own_path(post.id), "own-style", reads, css, audience)


def keys_now(plan: Plan) -> list[PageKey]:
    """The style sheets of all posts that have one, which follow from the colours of the site."""
    return [key(number) for number in plan.snapshot.posts_with_own_look()]


def _touched(changed: ChangeSet) -> Iterator[PageKey]:
    yield from map(key, changed.posts)


def _at(plan: Plan, path: str) -> PageKey | None:
    found = _PATH.fullmatch(path)
    return key(int(found[1])) if found else None


def _render(renderer: Renderer, page: Page) -> Rendered:
    return Rendered("text/css; charset=utf-8", page.context)


KIND = PageKind(
    name="own",
    page=page,
    recipes={"own-style": _render},
    keys_of_post=lambda plan, post_id: (key(post_id),),
    touched=_touched,
    at=_at,
    shows_of_house=house_parts.NONE,
    counts_as=FILE,
)
