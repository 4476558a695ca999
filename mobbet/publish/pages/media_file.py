"""A file of an item of the library, which a post, a category or the look shows."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from mobbet.core.audience import widest
from mobbet.core.facts import ORIGINAL, item_at
from mobbet.core.keys import PageKey
from mobbet.publish import house_parts
from mobbet.publish.changes.change_set import ChangeSet
from mobbet.publish.page_kind import FILE, PageKind, Successors
from mobbet.publish.plan import Plan
from mobbet.publish.rendered import Rendered
from mobbet.publish.renderer import Renderer
from mobbet.publish.values import Page


def page(plan: Plan, key: PageKey) -> Page | None:
    item = plan.snapshot.item(key.number)
    file = next((file for file in item.files if file.key == key), None) if item else None
    audience = widest(plan.snapshot.media_audiences(item.id)) if item and file else None
    return Page(key, file.path, "media", file.hash, file, audience) if file and audience else None


def _keys(plan: Plan) -> Iterator[PageKey]:
    shown = set(plan.snapshot.media_shown())
    shown.update(
        page.picture for page in map(plan.snapshot.category_page, plan.snapshot.categories) if page.picture
    )
    shown.update((*plan.snapshot.house.pictures, *plan.snapshot.author_pictures()))
    for media_id in sorted(shown):
        yield from plan.media_keys(media_id)


def _touched(changed: ChangeSet) -> Iterator[PageKey]:
    for _, state in changed.states:
        for media_id in state["media"]:
            yield from changed.plan.media_keys(media_id)
        yield from map(PageKey, state.get("files", ()))
    for fact in changed.facts_of("media"):
        yield from changed.plan.media_keys(fact.number)


def _at(plan: Plan, path: str) -> PageKey | None:
    number = item_at(path)
    item = plan.snapshot.item(number) if number is not None else None
    return next((file.key for file in item.files if file.path == path), None) if item else None


def _successors(key: PageKey, known: Successors) -> Iterable[PageKey]:
    """The files that stand in for a removed one of the same item: those of the same type and nearly its width first.

    A page that a reader opened before still shows its first copies, a shared link the picture as it was cut then.
    """
    number, use, *type, width = key.parts

    def distance(other: PageKey) -> tuple[bool, bool, int]:
        _, other_use, *other_type, other_width = other.parts
        return other_use != use, other_type != type, abs(int(other_width) - int(width))

    uses = dict.fromkeys((use, "whole"))
    found = sorted((other for one in uses for other in known.files(int(number), one)), key=distance)
    return (key, *found)


def _render(renderer: Renderer, page: Page) -> Rendered:
    file = page.context
    return Rendered(file.type, media_hash=file.hash, is_download=file.use == ORIGINAL)


KIND = PageKind(
    name="media",
    page=page,
    recipes={"media": _render},
    keys=_keys,
    touched=_touched,
    at=_at,
    successors=_successors,
    shows_of_house=house_parts.NONE,
    counts_as=FILE,
)
