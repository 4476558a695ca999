"""Tracks the block that was chosen to lead a post through changes of its text."""

from __future__ import annotations

import json
from dataclasses import asdict
from typing import Any

from mobbet.actions.workshop import Workshop
from mobbet.core.document.leading import Reference, carried
from mobbet.store import posts
from mobbet.store.posts import Post


def chosen(post: Post) -> Reference | None:
    """The block that was chosen to lead, as it was last seen."""
    return Reference(**json.loads(post.lead)) if post.lead else None


def carry_lead(workshop: Workshop, post: Post, before: dict[str, Any], after: dict[str, Any]) -> None:
    """Follows the chosen block through a change of the text; call it inside the transaction of the save."""
    found = chosen(post)
    if found is None:
        return
    now = carried(found, before, after)
    if now != found:
        posts.settle(workshop.db, post.id, workshop.clock(), lead=json.dumps(asdict(now)))
