"""Addresses of the readers' screens."""

from __future__ import annotations

from mobbet.web.shell.address import Address

readers = Address("/desk/{slug}/readers", "group")
"""At a group, or at all readers."""
readers_add = Address("/desk/{slug}/readers/{what}")
group_change = Address("/desk/{slug}/readers/{number}/{what}")
answers = Address("/desk/{slug}/answers")
"""What readers answered to the questions of posts."""
answers_of = Address("/desk/{slug}/answers/{post}/{key}", "before", "told")
answers_file = Address("/desk/{slug}/answers/{post}/{key}/answers.csv")
answers_remove = Address("/desk/{slug}/answers/{post}/{key}/remove")
letters_of_blog = Address("/desk/{slug}/letters", "state", "words", "after", "told")
"""Letters to subscribers, and who gets them."""
letters_doing = Address("/desk/{slug}/letters/{what}")
subscribers_file = Address("/desk/{slug}/subscribers.csv")
read = Address("/desk/{slug}/read", "period", "first", "last", "post", "told", "beside")
"""What is read, in a stretch of time; with a post, of it alone."""
read_slip = Address("/desk/{slug}/read/slip")
reads_file = Address("/desk/{slug}/read.{name}")
comments = Address("/desk/{slug}/comments", "state", "post")
"""The comments of a state, under one post or under all."""
comments_change = Address("/desk/{slug}/comments/{what}")
comment_answer = Address("/desk/{slug}/comments/{number}/answer")


def readers_change(slug: str, what: str, group: int | None = None) -> str:
    """Where something is done with all readers, or with a group (0 is those of no group)."""
    return readers_add(slug, what) if group is None else group_change(slug, group, what)
