"""What wants attention on the desk, in sentences."""

from __future__ import annotations

from collections.abc import Callable

from mobbet.actions import attention
from mobbet.actions.attention import Want
from mobbet.actions.workshop import Workshop
from mobbet.core.numbers import spelled, times_in_words
from mobbet.core.places_outside import shown
from mobbet.core.screen_dates import ago_in_words, short_date, time_in_words
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.web.desk import addresses as to_desk
from mobbet.web.desk.contexts import WantShown
from mobbet.web.filing import addresses as to_filing
from mobbet.web.readers import addresses as to_readers
from mobbet.web.site import addresses as to_site
from mobbet.web.timetable import addresses as to_timetable
from mobbet.web.write import addresses as to_write

Words = dict[str, Callable[[Want], tuple[str, str]]]
"""By what it is: (a sentence, where it is settled)."""


def wants(workshop: Workshop, person: Person, blog: Blog) -> list[WantShown]:
    """What wants attention, each in a sentence that leads to where it is settled."""
    now = workshop.clock()
    words = _of_people(blog, now) | _of_blog(blog, now)
    settled = {"old": lambda one: to_desk.look_again(blog.slug, one.post)}
    return [
        WantShown(*words[one.what](one), settled.get(one.what, lambda one: "")(one))
        for one in attention.wants(workshop, person, blog)
    ]


def _of_people(blog: Blog, now: int) -> Words:
    """What colleagues gave, asked or said."""
    return {
        "given": lambda one: (
            f"“{one.title}” is yours to write{f' by {short_date(one.day)}' if one.day else ''}{f', from {one.who}' if one.who else ''}",
            to_write.write(one.post),
        ),
        "back": lambda one: (
            f"{one.who or 'An editor'} sent “{one.title}” back {ago_in_words(one.instant, blog.zone, now)}",
            to_write.write(one.post),
        ),
        "word": lambda one: (
            f"{one.who} asked {ago_in_words(one.instant, blog.zone, now)} for your word on “{one.title}”",
            to_write.write(one.post),
        ),
        "waiting": lambda one: (
            f"“{one.title}” waits for {f'the word of {one.who}' if one.who else 'an editor’s word'}, asked {ago_in_words(one.instant, blog.zone, now)}",
            to_write.write(one.post),
        ),
    }


def _of_blog(blog: Blog, now: int) -> Words:
    return {
        "publication": lambda one: (
            f"What fell due could not be published, and is tried again: {one.title}",
            to_site.editions(blog.slug),
        ),
        "held": lambda one: (
            f"“{one.title}”{f' and {one.count - 1} more' if one.count > 1 else ''} was due, and waits since edition {one.post} was put back: let it go out?",
            to_site.editions(blog.slug),
        ),
        "marks": lambda one: (
            f"“{one.title}” goes out {time_in_words(one.instant, blog.zone, now)} with {one.count} mark{'s' if one.count != 1 else ''} to settle",
            to_write.write(one.post),
        ),
        "slot": lambda one: (
            f"{spelled(one.count).capitalize()} slot{'s' if one.count != 1 else ''} in two weeks without a post, the first {time_in_words(one.instant, blog.zone, now)}",
            to_timetable.timetable(blog.slug),
        ),
        "target": lambda one: (
            f"{shown(one.title)} is behind by {one.count} edition{'s' if one.count != 1 else ''}",
            to_site.targets(blog.slug),
        ),
        "backup": lambda one: (
            ("A backup could not be read back" if one.count else "No good backup was made of late")
            + (
                f"; the last good one is of {time_in_words(one.instant, blog.zone, now)}"
                if one.instant
                else ""
            ),
            to_site.backups(blog.slug),
        ),
        "old": lambda one: (
            f"“{one.title}” is {_months_in_words(now - one.instant)} old and was read {times_in_words(one.count)} of late: look at it again",
            to_write.write(one.post),
        ),
        "comments": lambda one: (
            f"{spelled(one.count).capitalize()} comment{'s wait' if one.count != 1 else ' waits'} to be read",
            to_readers.comments(blog.slug),
        ),
        "profile": lambda one: (
            f"{one.title} has another profile, which readers get after your word",
            to_site.profiles(blog.slug),
        ),
        "missed": lambda one: (
            f"Readers asked {times_in_words(one.count)} for {one.title}, and found nothing",
            to_filing.filing(blog.slug, "addresses"),
        ),
    }


def _months_in_words(seconds: int) -> str:
    """“14 months”, “2 years”."""
    months = max(1, round(seconds / (30.44 * 86400)))
    return f"{months // 12} years" if months >= 24 else f"{months} month{'s' if months != 1 else ''}"
