"""Saved blocks where they stand outside of a post's text: as sections of the front page, and below posts by a rule."""

from __future__ import annotations

from collections.abc import Callable

from mobbet.core.document import outline
from mobbet.core.document.mentions import linked_posts, walk
from mobbet.core.facts import OutPost
from mobbet.core.promo_places import Filed, standing, text_of
from mobbet.core.promos import Promos
from mobbet.publish.snapshot import Snapshot
from mobbet.publish.values import ShownBlock

MayRead = Callable[[str], bool]
"""Whether the reader finds posts of an audience."""


def shown_block(snapshot: Snapshot, may_read: MayRead, number: int) -> ShownBlock | None:
    """The block for one reader; None for one that is no longer on the list, or empty."""
    block = snapshot.saved_block(number)
    if block is None or not block.document.get("content"):
        return None
    house = snapshot.house
    posts = ((target, snapshot.post(target)) for target in linked_posts(block.document))
    items = map(snapshot.item, outline.items(block.document))
    media = tuple((item.id, item.version) for item in items if item)
    known = {**dict(house.facts), "blog": house.name, "address": house.home}
    used = {node["attrs"]["name"] for node in walk(block.document) if node["type"] == "fillIn"}
    return ShownBlock(
        block,
        {target: post.path for target, post in posts if post and may_read(post.audience)},
        media,
        tuple((name, value) for name, value in known.items() if name in used),
        bool(media) or any(node["type"] == "embed" for node in walk(block.document)),
    )


def promos_below(snapshot: Snapshot, may_read: MayRead, post: OutPost) -> tuple[ShownBlock, ...]:
    """The blocks that stand below a post by a rule of the house, in order."""
    house = snapshot.house
    if not house.promos or post.is_page:
        return ()
    words = lambda: text_of(snapshot.body(post), post.title, post.subtitle)  # noqa: E731
    filed = Filed(post.id, post.categories, post.tags)
    rules = standing(Promos(house.promos, house.promos_most), filed, snapshot.categories, words)
    return tuple(block for rule in rules if (block := shown_block(snapshot, may_read, rule.block)))
