"""The line of the docket that says what goes to subscribers."""

from __future__ import annotations

from mobbet.actions.workshop import Workshop
from mobbet.core.letters import NONE, SHOWS, read_rules
from mobbet.store import mailings
from mobbet.store.blogs import Blog
from mobbet.store.posts import Post
from mobbet.web.shell.contexts import Choice
from mobbet.web.write.contexts import LetterSetting, Setting

NO_LETTER = "no letter"


def letter_of(workshop: Workshop, post: Post, blog: Blog) -> LetterSetting | None:
    """What goes to subscribers of a post; None of a page, and where nobody may subscribe."""
    rules = read_rules(blog.letters)
    if post.is_page or not rules.is_open:
        return None
    begun = mailings.of_post(workshop.db, post.id)
    tally = mailings.tallies(workshop.db, [begun.id]).get(begun.id, mailings.Tally()) if begun else None
    shows = post.letter or rules.shows
    words = NO_LETTER if shows == NONE else f"a letter with {SHOWS[shows]}"
    if tally:
        words = f"a letter ({tally.sent} sent{f', {tally.waiting} waiting' if tally.waiting else ''})"
    choices = [
        Choice("", f"{SHOWS[rules.shows]}, as all letters of the blog", not post.letter),
        *(Choice(value, about, value == post.letter) for value, about in SHOWS.items()),
        Choice(NONE, "nothing: none is sent", post.letter == NONE),
    ]
    told = "It has begun to go; a change holds for what has not gone yet." if begun else ""
    label = "Change the letter to subscribers"
    return LetterSetting(
        Setting("letter", words, label),
        "got" if begun else "get",
        choices,
        post.letter_subject,
        post.letter_line,
        told,
    )
