"""An address that a post, a category or a tag had before, or that a person added: it redirects to where that is now."""

from __future__ import annotations

from collections.abc import Iterator

from mobbet.core.audience import EVERYONE
from mobbet.core.facts import OutPost
from mobbet.core.keys import ListName, PageKey
from mobbet.publish import house_parts
from mobbet.publish.changes.change_set import ChangeSet
from mobbet.publish.page_kind import ADDRESS, PageKind
from mobbet.publish.plan import Plan
from mobbet.publish.redirects import RECIPE, redirect
from mobbet.publish.renderer import HTML
from mobbet.publish.snapshot import Snapshot
from mobbet.publish.values import Page, Step


def key(path: str) -> PageKey:
    return PageKey.of("former", path)


def page(plan: Plan, key: PageKey) -> Page | None:
    """The redirect from a former address; None where it leads nowhere, or a page stands there."""
    path, snapshot = key.rest, plan.snapshot
    home = snapshot.address_owner(path)
    if home is None or "?" in path:  # an address with a question mark is no file; the server knows it
        return None
    if home.kind == "post":
        post = snapshot.post(home.number) or successor(snapshot, home.number)
        if post is None or post.path == path:
            return None
        return redirect(snapshot.house, key, path, post.path, post.audience)
    if home.kind == "away":
        return redirect(snapshot.house, key, path, home.target)
    name = ListName.of(home.kind, home.number)
    step = plan.lists.step(name) if plan.lists.has_page(name) else Step("Subjects", "/subjects/")
    return redirect(snapshot.house, key, path, step.path) if step and step.path != path else None


def successor(snapshot: Snapshot, post_id: int) -> OutPost | None:
    """The post to which the address of one redirects that came down; None where it answers that it is gone."""
    seen = {post_id}
    number = snapshot.redirect_target(post_id)
    while number and number not in seen:
        post = snapshot.post(number)
        if post is not None:
            return post if post.audience == EVERYONE else None
        seen.add(number)
        number = snapshot.redirect_target(number)
    return None


def keys_of(plan: Plan, kind: str, number: int) -> list[PageKey]:
    """The keys of all addresses that a post, a category or a tag has had."""
    return [key(path) for path in plan.snapshot.addresses_of(kind, number)]


def _keys(plan: Plan) -> Iterator[PageKey]:
    for number in plan.snapshot.categories:
        yield from keys_of(plan, "category", number)
    for number in plan.snapshot.tag_numbers():
        yield from keys_of(plan, "tag", number)
    yield from map(key, plan.snapshot.addresses_away())
    for number in plan.snapshot.redirected_posts():
        yield from keys_of(plan, "post", number)


def _touched(changed: ChangeSet) -> Iterator[PageKey]:
    plan = changed.plan
    for post_id in changed.posts:
        yield from keys_of(plan, "post", post_id)
    for post_id in changed.moved_posts:
        for number in _redirecting_to(plan, post_id):
            yield from keys_of(plan, "post", number)
    yield from (key(state["path"]) for _, state in changed.states)
    for one in changed.lists:
        if one.begins_or_ends and one.name.kind in ("category", "tag", "under"):
            yield from keys_of(plan, one.name.shown_on.kind, one.name.number)
    for name in changed.subjects:
        yield from keys_of(plan, name.kind, name.number)
    yield from (key(fact.which) for fact in changed.facts_of("away"))


def _redirecting_to(plan: Plan, post_id: int) -> set[int]:
    """The posts that came down whose addresses redirect to one, be it by way of another that came down too."""
    found: set[int] = set()
    waiting = [post_id]
    while waiting:
        for number in plan.snapshot.redirecting_to(waiting.pop()):
            if number not in found:
                found.add(number)
                waiting.append(number)
    return found


def _at(plan: Plan, path: str) -> PageKey | None:
    home = plan.snapshot.address_owner(path)
    return key(path) if home and home.kind in ("post", "away") else None


KIND = PageKind(
    name="former",
    page=page,
    recipes={RECIPE: lambda renderer, page: renderer.template(page)},
    keys=_keys,
    keys_of_post=lambda plan, post_id: keys_of(plan, "post", post_id),
    touched=_touched,
    at=_at,
    requested_type=HTML,
    shows_of_house=house_parts.REDIRECT,
    counts_as=ADDRESS,
)
