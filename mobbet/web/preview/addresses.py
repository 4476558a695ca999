"""Addresses of the preview."""

from __future__ import annotations

from mobbet.web.shell.address import Address

preview = Address("/posts/{post_id}/preview")
preview_page = Address("/posts/{post_id}/preview/site{path:path}")
preview_seen = Address("/posts/{post_id}/preview/in/{view}/site{path:path}")
preview_as = Address("/posts/{post_id}/preview/as/{kind}")
"""How a post looks in a search result, when it is shared, in a feed reader, in a letter."""
preview_letter = Address("/posts/{post_id}/preview/letter")
"""The letter to subscribers about a post, as a mail program shows it."""
preview_letter_send = Address("/posts/{post_id}/preview/letter/send")
preview_live = Address("/posts/{post_id}/preview/live")
post_as = Address("/posts/{post_id}/out/{format}")
"""A post as a file that somebody takes out."""
posts_as = Address("/desk/{slug}/out", "which", "format")


def preview_site(post_id: int, path: str = "/", view: str = "") -> str:
    """A page of the site with the post as it would be; `view` says for whom and in what light (`preview/views.py`)."""
    return preview_seen(post_id, view, path) if view else preview_page(post_id, path)
