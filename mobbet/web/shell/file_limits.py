"""What scripts check of a file before they send it."""

from __future__ import annotations

from mobbet.actions.workshop import Workshop
from mobbet.store.blogs import Blog


def limits_of(here: Workshop, blog: Blog) -> dict[str, int]:
    """What a file may be, and whether a phone makes large pictures smaller first."""
    return {**here.settings.limits.__dict__, "scales_pictures": blog.scales_pictures}
