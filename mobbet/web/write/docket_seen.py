"""The part of the docket that says who has seen a draft: its reading copies, and who reads it now."""

from __future__ import annotations

from mobbet.actions import presence, reading_copies
from mobbet.actions.reading_copies import LETS
from mobbet.actions.workshop import Workshop
from mobbet.core.screen_dates import ago_in_words, time_in_words
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.posts import Post
from mobbet.store.reading_copies import NOTE, CopyReader
from mobbet.web.shell.contexts import Choice
from mobbet.web.write.contexts import CopyShown, SeenShown

ALL_OF_IT = 95
"""In percent: from so much of a page on, somebody read it to the end."""


def seen_of(workshop: Workshop, me: Person | None, post: Post, blog: Blog, server: str) -> SeenShown | None:
    """Who has seen it, and what may be done about that; None for those who make no reading copies of it."""
    if me is None or not reading_copies.may_share(workshop, me, post, blog):
        return None
    now = workshop.clock()
    copies = [
        CopyShown(
            copy.id, f"revision {copy.of_revision} alone" if copy.of_revision else "this revision and later ones", time_in_words(copy.ends_at, blog.zone, now),
            LETS[copy.lets], bool(copy.word_hash), reading_copies.address_of(workshop, copy, server), [_words(one, blog, now) for one in readers if one.reader_name or one.share],
        )
        for copy, readers in reading_copies.of_post(workshop, me, post.id)
    ]  # fmt: skip
    here = [
        (one.name, f"reading now{f', at “{one.heading}”' if one.heading else ''}")
        for one in presence.rooms(workshop, post.id, me.id)
    ]
    return SeenShown(copies, here, [Choice(value, words, value == NOTE) for value, words in LETS.items()])


def _words(reader: CopyReader, blog: Blog, now: int) -> tuple[str, str]:
    """(who, how far they read and when)."""
    when = ago_in_words(reader.last_at, blog.zone, now)
    if reader.share >= ALL_OF_IT:
        how = f"read to the end, {when}"
    elif reader.share:
        how = f"read {reader.share} %{f', to “{reader.came_to}”' if reader.came_to else ''}, {when}"
    else:
        how = f"opened it {when}"
    return reader.reader_name or "somebody", how
