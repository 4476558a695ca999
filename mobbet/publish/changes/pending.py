"""The input of a publication: posts whose state may differ from the current edition, and the keys that follow."""

from __future__ import annotations

from collections.abc import Iterable

from mobbet.core.keys import PageKey
from mobbet.publish.changes.change_set import Changes
from mobbet.publish.house_parts import PROMOS, HouseDigest
from mobbet.publish.pages.kinds import all_keys, touched
from mobbet.publish.plan import Plan
from mobbet.publish.renderer import house_digest
from mobbet.store import editions, placements, stale
from mobbet.store.database import Database
from mobbet.store.editions import Edition


def changed_states(db: Database, plan: Plan, blog_id: int, base: Edition | None, read_up_to: int) -> Changes:
    """{post: (state in the edition `base`, state now)} of every post that may have changed; of all posts, without an edition."""
    if base is None:
        before = editions.all_shown(db, blog_id)
        posts = sorted({*plan.snapshot.post_ids(), *before})
        return {post_id: (before.get(post_id), plan.state(post_id)) for post_id in posts}
    turned = placements.turned_between(db, blog_id, base.instant, plan.snapshot.instant)
    posts = sorted(
        {*stale.posts(db, blog_id, read_up_to), *turned, *_with_other_blocks(db, plan, blog_id, base)}
    )
    plan.cards.read_ahead(posts)
    return {post_id: (editions.shown(db, blog_id, post_id), plan.state(post_id)) for post_id in posts}


def _with_other_blocks(db: Database, plan: Plan, blog_id: int, base: Edition) -> list[int]:
    """The posts below which other saved blocks stand than in the edition, since the rules are others, or their time came or went."""
    before, now = HouseDigest(base.house), house_digest(plan.snapshot.house)
    if not before.differs_in(PROMOS, now):
        return []
    found = []
    for number in plan.snapshot.posts_in_reach(before.reach.joined(now.reach)):
        state, post = editions.shown(db, blog_id, number), plan.snapshot.post(number)
        blocks = [shown.block.id for shown in plan.promos_of(post)] if post else []
        if (state or {}).get("promos", []) != blocks:
            found.append(number)
    return found


def keys_to_compare(
    db: Database, plan: Plan, blog_id: int, states: Changes, is_whole: bool
) -> tuple[Iterable[PageKey], int]:
    """The keys of the pages that may differ, every one with `is_whole`, and the sequence number of the last changed fact among what they follow from."""
    facts = stale.facts(db, blog_id)
    up_to = facts[-1][0] if facts else 0
    if is_whole:
        return dict.fromkeys([*all_keys(plan), *editions.keys(db, blog_id)]), up_to
    keys = touched(plan, states, [fact for _, fact in facts])
    for _, fact in facts:
        if fact.list_name:
            keys.update(editions.keys(db, blog_id, f"list/{fact}/"))
    return sorted(keys), up_to
