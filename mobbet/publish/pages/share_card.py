"""The drawn share card of a post that shows no picture."""

from __future__ import annotations

from mobbet.core.keys import MADE_ON_REQUEST, PageKey
from mobbet.core.search_results import can_be_drawn
from mobbet.publish import house_parts
from mobbet.publish.page_kind import FILE, PageKind
from mobbet.publish.pictures import card_path
from mobbet.publish.plan import Plan
from mobbet.publish.rendered import Rendered
from mobbet.publish.renderer import Renderer
from mobbet.publish.values import Page

PNG = "image/png"


def key(post_id: int) -> PageKey:
    return PageKey.of(MADE_ON_REQUEST, post_id)


def page(plan: Plan, key: PageKey) -> Page | None:
    """The drawn card; None for a post that shows a picture, and for a title whose letters the fonts lack."""
    house = plan.snapshot.house
    post = plan.snapshot.post(key.number)
    card = plan.cards.of(post) if post else None
    if post is None or card is None or card.picture or not can_be_drawn(card.title + house.name):
        return None
    context = (card.title, house.name)
    path = card_path(post.id, card.title, house.name)
    return Page(key, path, "card", context, context, post.audience)


def paths(plan: Plan) -> dict[PageKey, str | None]:
    """{key: where the share card of a post is, if it has one}, of every post that is out; None where the fonts lack a letter."""
    name = plan.snapshot.house.name
    return {
        key(post_id): card_path(post_id, title, name) if can_be_drawn(title + name) else None
        for post_id, title in plan.snapshot.titles()
    }


def _render(renderer: Renderer, page: Page) -> Rendered:
    from mobbet.publish import share_cards  # the pictures' package is large, and most processes draw none

    title, name = page.context
    return Rendered(PNG, share_cards.draw(title, name, renderer.house.look.light))


KIND = PageKind(
    name=MADE_ON_REQUEST,
    page=page,
    recipes={"card": _render},
    keys_of_post=lambda plan, post_id: (key(post_id),),
    touched=lambda changed: map(key, changed.posts),
    requested_type=PNG,
    is_of_post=True,
    shows_of_house=house_parts.CARD,
    counts_as=FILE,
)
