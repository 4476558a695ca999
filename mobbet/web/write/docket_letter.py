"""The lines of the docket that say what goes to subscribers, and where the post is announced."""

from __future__ import annotations

from mobbet.actions import announcing
from mobbet.actions.preview import as_it_would_be
from mobbet.actions.workshop import Workshop
from mobbet.core.announcing import NONE as NO_NOTICE
from mobbet.core.announcing import WHAT
from mobbet.core.letters import NONE, SHOWS, read_rules
from mobbet.core.numbers import spelled
from mobbet.store import announcing as store
from mobbet.store import mailings
from mobbet.store.blogs import Blog
from mobbet.store.posts import Post
from mobbet.web.shell.contexts import Choice
from mobbet.web.write.contexts import LetterSetting, NoticesPart, Setting

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


def announce_of(workshop: Workshop, post: Post, blog: Blog) -> Setting | None:
    """Whether a post is announced; None of a page, and where the blog has no account."""
    count = len(store.of_blog(workshop.db, blog.id))
    if post.is_page or not count:
        return None
    words = f"at {spelled(count)} place{'s' if count != 1 else ''}"
    return Setting(
        "announce", "nowhere" if post.announce == NO_NOTICE else words, "Change whether it is announced"
    )


def notices_of(workshop: Workshop, post: Post, blog: Blog) -> NoticesPart:
    """How a post is, or would be, announced at each account."""
    shown = as_it_would_be(workshop, post, blog)
    done = {one.account_id: one for one in store.of_post(workshop.db, post.id)}
    rows = []
    for account in store.of_blog(workshop.db, blog.id):
        known = done.get(account.id)
        text = (
            known.text
            if known
            else announcing.notice_of(workshop, blog, account, shown.post, shown.snapshot).text
        )
        what = f"{WHAT[known.state]}:" if known else "when it goes out:"
        rows.append((account.name, what, text, f"{len(text)} of {account.longest} letters"))
    return NoticesPart(rows)
