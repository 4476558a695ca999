"""Tells other sites what is new here: links to them, feeds, announcements; and looks at pages that mention posts."""

from __future__ import annotations

from mobbet.actions import announcing, hubs, mentions, webhooks
from mobbet.actions.locks import only_one
from mobbet.actions.workshop import Workshop


def go_round(workshop: Workshop) -> int:
    """Does some of it; answers with how much. Of several processes on one data folder one does it at a time."""
    with only_one(workshop, "telling") as is_only:
        if not is_only:
            return 0
        return (
            mentions.look_at_some(workshop)
            + mentions.tell_some(workshop)
            + hubs.tell_some(workshop)
            + announcing.go_round(workshop)
            + webhooks.go_round(workshop)
        )
