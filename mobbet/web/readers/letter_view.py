"""The Letters screen put together: rules as sentences, what became of letters, and who gets them."""

from __future__ import annotations

from typing import Any

from mobbet.actions import letter_numbers, subscribers
from mobbet.actions.letter_numbers import LetterNumbers
from mobbet.actions.mailings import COMMENT, CORRECTION, DIGEST, OF_POST
from mobbet.actions.subscription_words import offered, words_of
from mobbet.actions.workshop import Workshop
from mobbet.core.letters import SHOWS, LetterRules, read_rules
from mobbet.core.screen_dates import ago_in_words, time_in_words
from mobbet.core.subscriptions import EVERY, MONTH, ON, STATES, WEEK, digest_next
from mobbet.store import comments, mailings
from mobbet.store import subscribers as store
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.subscribers import Subscriber
from mobbet.web.readers import addresses as to_readers
from mobbet.web.readers.letter_contexts import LettersPage, MailingShown, SubscriberShown
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.contexts import Choice
from mobbet.web.site.sentence_contexts import Sentence, Word
from mobbet.web.site.sentences import with_problem
from mobbet.web.write import addresses as to_write

ON_PAGE, MOST_LETTERS, MOST_WISHES = 100, 20, 12
DAYS = ("Mondays", "Tuesdays", "Wednesdays", "Thursdays", "Fridays", "Saturdays", "Sundays")
KINDS = {OF_POST: "about a post", DIGEST: "a digest", CORRECTION: "a correction", COMMENT: "about a comment"}


def letters_page(
    here: Workshop, me: Person, blog: Blog, state: str = ON, words: str = "", after: str = "", **more: Any
) -> LettersPage:
    rules, now = read_rules(blog.letters), here.clock()
    state = state if state in STATES else ON
    rows = store.page(here.db, blog.id, state, words, after, ON_PAGE + 1)
    counts = store.counts(here.db, blog.id)
    pause = mailings.pause(here.db)
    refused = more.pop("refused", ("", "", ""))
    return LettersPage(
        bar=bar_for(here, me, blog, "readers"),
        is_open=rules.is_open,
        rules=[with_problem(one, *refused) for one in _rules(rules)],
        coming=_coming(here, blog, rules) if rules.is_open else [],
        held=f"Nothing is handed over until {time_in_words(pause[1], blog.zone, now)}: {pause[2]}" if pause and pause[1] > now else "",
        keeps_letters=here.services.mail.keeps,
        address=f"{subscribers.server_of(blog)}~/letters",
        mailings=[_mailing(here, blog, one) for one in letter_numbers.newest(here, me, blog, MOST_LETTERS)],
        states=[
            Choice(to_readers.letters_of_blog(blog.slug, name), about.capitalize(), name == state, str(counts.get(name, 0)))
            for name, about in STATES.items()
            if counts.get(name) or name == ON
        ],
        state=state,
        words=words,
        subscribers=[_subscriber(here, blog, one) for one in rows[:ON_PAGE]],
        more=to_readers.letters_of_blog(blog.slug, state, words, after=rows[ON_PAGE - 1].email) if len(rows) > ON_PAGE else "",
        by_wish=_by_wish(here, blog),
        what=offered(here, blog),
        every=[*EVERY.items()],
        waiting=comments.waiting(here.db, blog.id, 0),
        **more,
    )  # fmt: skip


def _rules(rules: LetterRules) -> list[Sentence]:
    """What the blog says of its letters."""
    open_choices = (
        Choice("yes", "may subscribe to letters", rules.is_open, "A line below posts and a page of its own ask for their address."),
        Choice("", "get no letters", not rules.is_open, "Those who subscribed are kept, and written to once it is opened again."),
    )  # fmt: skip
    first: Sentence = [
        "Readers",
        Word("is_open", "whether readers may subscribe", open_choices[not rules.is_open].words, open_choices),
    ]
    if not rules.is_open:
        return [[*first, "."]]
    shows = tuple(Choice(value, words, value == rules.shows) for value, words in SHOWS.items())
    hold = Word(
        "hold",
        "after how many minutes a letter goes",
        f"{rules.hold} minutes",
        least=0,
        most=1440,
        number=rules.hold,
    )
    days = tuple(Choice(str(at), name, at == rules.weekday) for at, name in enumerate(DAYS))
    pace = Word("pace", "how many letters go a minute", f"{rules.pace:,} a minute", least=1, most=10_000, number=rules.pace, hint="Mail servers limit it; ask whoever runs yours.", verb="Keep")  # fmt: skip
    return [
        [
            *first, "by e-mail. One about a post shows", Word("shows", "what a letter shows", SHOWS[rules.shows], shows), "of it and goes", hold,
            "after it went out.",
        ],
        [
            "Who wants one letter a week gets it on", Word("weekday", "the day of weekly letters", DAYS[rules.weekday], days), ", who wants one a month on its first day, at",
            Word("at", "the time of digests", rules.at, text=rules.at, longest=5, hint="Such as 09:00, by the clock of the blog.", verb="Keep"),
            ". At most", pace, "are handed to the mail server.",
        ],
    ]  # fmt: skip


def _coming(here: Workshop, blog: Blog, rules: LetterRules) -> list[str]:
    """When the next digests go, and how many want them."""
    wanted = dict.fromkeys(EVERY, 0)
    for _, every, count in store.counts_by_wish(here.db, blog.id):
        wanted[every] += count
    now = here.clock()
    return [
        f"the {'weekly' if every == WEEK else 'monthly'} one on {time_in_words(digest_next(every, now, blog.zone, rules.weekday, rules.at), blog.zone, now)}"
        for every in (WEEK, MONTH)
        if wanted[every]
    ]


def _mailing(here: Workshop, blog: Blog, one: LetterNumbers) -> MailingShown:
    mailing, tally = one.mailing, one.tally
    return MailingShown(
        mailing.id, mailing.subject, KINDS[mailing.kind], ago_in_words(mailing.made_at, blog.zone, here.clock()),
        tally.sent, tally.waiting, tally.refused, tally.bounced, one.opened, to_write.write(mailing.post_id) if mailing.post_id else "",
        mailing.post_id or 0, mailing.text if here.services.mail.keeps else "", mailing.kind == OF_POST and tally.sent > 0,
    )  # fmt: skip


def _subscriber(here: Workshop, blog: Blog, one: Subscriber) -> SubscriberShown:
    wishes = store.wishes_of(here.db, one.id) or [*one.asked]
    what = "; ".join(
        f"{words_of(here, blog, wish.what) or 'what is no more'}, {EVERY[wish.every]}" for wish in wishes
    )
    since = ago_in_words(one.ended_at or one.confirmed_at or one.asked_at, blog.zone, here.clock())
    return SubscriberShown(one.id, one.email, what or "nothing", since, one.consent, one.problem)


def _by_wish(here: Workshop, blog: Blog) -> list[tuple[str, int]]:
    """(what in words, how many) of what is subscribed to most."""
    rows = store.counts_by_wish(here.db, blog.id)[:MOST_WISHES]
    return [
        (f"{words_of(here, blog, what) or 'what is no more'}, {EVERY[every]}", count)
        for what, every, count in rows
    ]
