"""Addresses of the published sites on this server, and what the server answers for beside their pages."""

from __future__ import annotations

from mobbet.web.shell.address import Address

public_page = Address("/b/{slug}{path:path}")
enter = Address("/~/{slug}/in")
enter_by_letter = Address("/~/{slug}/in/{token}")
leave = Address("/~/{slug}/out")
open_page = Address("/~/{slug}/open")
comment = Address("/~/{slug}/comment/{post_id}")
comment_slash = Address("/~/{slug}/comment/{post_id}/")
comment_change = Address("/~/{slug}/comment/{post_id}/change/{sign}")
comments_feed = Address("/~/{slug}/comments/{post_id}.atom")
all_comments_feed = Address("/~/{slug}/comments.atom")
comments_page = Address("/~/{slug}/comments/{post_id}", "page")
send_on = Address("/~/{slug}/send/{post_id}")
"""Where a reader sends a post on by one letter."""
ask = Address("/~/{slug}/ask/{post_id}/{key}")
"""The questions of a post by themselves; where their answers are sent, and where the outcome of a poll stands."""
mention = Address("/~/{slug}/mention")
"""Where other sites tell of pages that link here (Webmention)."""
letters = Address("/~/{slug}/letters", "what", "email")
letters_slash = Address("/~/{slug}/letters/")
letters_own = Address("/~/{slug}/letters/{key}")
letters_change = Address("/~/{slug}/letters/{key}/{doing}")
feed = Address("/~/{slug}/feed/{name}")
feed_media = Address("/~/{slug}/feed/{key}/media/{name}")


def public(slug: str, path: str = "/") -> str:
    """The public page at a path."""
    return public_page(slug, path)
