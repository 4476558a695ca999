"""Keeps the search index up to date. Saving only marks a post as stale, so that it stays fast."""

from __future__ import annotations

from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.searching import spaced
from mobbet.store import search
from mobbet.store.blogs import Blog

INDEX_AT_ONCE = 500


def bring_up_to_date(workshop: Workshop, blog: Blog) -> None:
    """Indexes the posts that were saved since the index was last brought up to date."""
    if not search.stale(workshop.db, blog.id, 1):
        return
    from mobbet.core.document import schema
    from mobbet.core.document.write import to_text

    while search.stale(workshop.db, blog.id, 1):
        with changing(workshop):  # a save that came between would be forgotten
            for row in search.stale(workshop.db, blog.id, INDEX_AT_ONCE):
                text = to_text(schema.load(row.body))
                search.index(workshop.db, row.post_id, spaced(row.title), spaced(f"{row.subtitle}\n{text}"))
