"""Subscribers to a blog's letters: asking, confirming, changing, ending, and lists in and out.

A request of a reader is the same whoever they are, so that nobody learns who subscribes.
"""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable
from dataclasses import dataclass
from functools import partial

from mobbet.actions import entry
from mobbet.actions.access import require
from mobbet.actions.pacing import count_try, network
from mobbet.actions.subscription_words import is_offered, words_of
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.audience import EVERYONE
from mobbet.core.emails import is_email, read_email
from mobbet.core.errors import BadInput, NotFound, Refused
from mobbet.core.filing import path_in_words
from mobbet.core.keys import Name
from mobbet.core.letters import read_rules
from mobbet.core.names import one_line
from mobbet.core.rights import Action
from mobbet.core.sheets import cell, rows_in
from mobbet.core.subscriptions import (
    ALL,
    ASIDE,
    ASKED,
    AUTHOR,
    CATEGORY,
    CONFIRM_SECONDS,
    CONSENT_LENGTH,
    ENDED,
    EVERY,
    MOST_SUBSCRIPTIONS,
    ON,
    POST,
    SERIES,
    Wish,
    read_every,
    read_what,
)
from mobbet.store import filing, people, readers, series
from mobbet.store import subscribers as store
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.snapshot import SiteSnapshot
from mobbet.store.subscribers import Subscriber

MOST_ROWS, LONGEST_FILE = 100_000, 20_000_000
AGAIN_AFTER = 600
"""In seconds: how soon another letter goes to an address that was asked to confirm."""
FROM_FORM = "typed it on the site, and confirmed it by the link of a letter"
GONE = "This address for letters is known to nobody any more; subscribe anew."
CLOSED = "This blog writes no letters just now."
COLUMNS = ("email", "what", "every", "state", "since", "consent")


def server_of(blog: Blog) -> str:
    """The address below which this server answers readers' forms of a blog; ends with a slash."""
    return blog.server or blog.home


def own_address(blog: Blog, subscriber: Subscriber) -> str:
    """Where a subscriber changes their choice, without an account."""
    return f"{server_of(blog)}~/letters/{subscriber.key}"


def is_open(blog: Blog) -> bool:
    """Whether readers may subscribe."""
    return read_rules(blog.letters).is_open


def read_wishes(
    workshop: Workshop, blog: Blog, typed: Iterable[tuple[str, str]], held: frozenset[str] | None = None
) -> list[Wish]:
    """What somebody wants, from (what, how often). Readers, of whom it is known what they `held` so far, may have that and what everybody is offered.

    Raises BadInput for what the blog has not.
    """
    found: dict[str, Wish] = {}
    for what, every in typed:
        wish = Wish(read_what(what), read_every(every))
        may_have = held is None or wish.what in held or is_offered(workshop, blog, wish.what)
        if not may_have or not words_of(workshop, blog, wish.what):
            raise BadInput(f"“{what[:40]}” is nothing of this blog any more; choose again.", "what")
        found[wish.what] = wish
    if len(found) > MOST_SUBSCRIPTIONS:
        raise BadInput(f"These are {len(found)} choices; {MOST_SUBSCRIPTIONS} is the most.", "what")
    return [*found.values()]


def resolved(workshop: Workshop, blog: Blog, what: str) -> str:
    """What a form in a post subscribes to, such as `category-of:12`: the first category, the author or the series of that post; everything where it has none."""
    kind, of, number = what.partition("-of:")
    if not of:
        return what or ALL
    is_number = number.isascii() and number.isdecimal() and len(number) < 16
    post = SiteSnapshot(workshop.db, blog.id, workshop.clock()).post(int(number)) if is_number else None
    if post is None or post.audience != EVERYONE:
        return ALL
    which = {CATEGORY: next(iter(post.categories), None), AUTHOR: post.author_id, SERIES: post.series_id}.get(
        kind
    )
    return Name.of(kind, which) if which else ALL


def ask(workshop: Workshop, blog: Blog, email: str, what: str, every: str, address: str) -> None:
    """Keeps what a reader asks for and sends the letter by which they confirm it. Raises BadInput, TooSoon, Refused."""
    if not is_open(blog):
        raise Refused(CLOSED)
    email = read_email(email)
    wishes = read_wishes(workshop, blog, [(resolved(workshop, blog, what), every or POST)], frozenset())
    count_try(workshop, ("subscribe", f"{blog.id} {email.lower()}"), network(address))
    now = workshop.clock()
    with changing(workshop):
        known = store.by_email(workshop.db, blog.id, email)
        if known and known.asked and known.asked == tuple(wishes) and now - known.asked_at < AGAIN_AFTER:
            return  # the letter is on its way
        found = known or store.add(workshop.db, blog.id, email, entry.secret(), FROM_FORM, now)
        store.ask_for(workshop.db, found.id, wishes, FROM_FORM, now)
        words = words_of(workshop, blog, wishes[0].what)
        text = (
            f"Hello,\n\nsomebody asked {blog.name} to send letters to this address: {words}, {EVERY[wishes[0].every]}.\n\n"
            f"Open this link to have them, and to change what you get:\n{own_address(blog, found)}\n\n"
            f"It works for {CONFIRM_SECONDS // 86400} days. If it was not you, do nothing: without the link no letters come.\n"
        )
        readers.add_letter(workshop.db, blog.id, found.email, f"{blog.name}: shall letters come?", text, now)
    workshop.on_change()


def of_key(workshop: Workshop, blog: Blog, key: str) -> Subscriber:
    """The subscriber of an address that only they know. Raises NotFound."""
    found = store.by_key(workshop.db, blog.id, key) if 0 < len(key) <= 64 else None
    if found is None:
        raise NotFound(GONE)
    return found


def can_confirm(workshop: Workshop, subscriber: Subscriber) -> bool:
    """Whether something was asked for that can still be confirmed."""
    return bool(subscriber.asked) and workshop.clock() - subscriber.asked_at <= CONFIRM_SECONDS


def confirm(workshop: Workshop, blog: Blog, key: str) -> None:
    """Has letters come that were asked for. Raises NotFound, Refused."""
    subscriber = of_key(workshop, blog, key)
    if not can_confirm(workshop, subscriber):
        if subscriber.state == ON:
            return
        raise Refused("Nothing waits to be confirmed here, or it is too long ago; subscribe anew.")
    now = workshop.clock()
    with changing(workshop):
        wishes = [wish for wish in subscriber.asked if words_of(workshop, blog, wish.what)]
        store.add_wishes(workshop.db, subscriber.id, wishes, now)
        store.confirm(workshop.db, subscriber.id, now)


def change(workshop: Workshop, blog: Blog, key: str, typed: Iterable[tuple[str, str]]) -> None:
    """Has a subscriber get just these letters from now on; with none of them, none. Raises NotFound, BadInput, Refused."""
    subscriber = of_key(workshop, blog, key)
    if subscriber.state != ON:
        raise Refused("No letters come to this address just now; subscribe anew.")
    held = frozenset(wish.what for wish in store.wishes_of(workshop.db, subscriber.id))
    wishes, now = read_wishes(workshop, blog, typed, held), workshop.clock()
    with changing(workshop):
        if wishes:
            store.set_wishes(workshop.db, subscriber.id, wishes, now)
        else:
            store.end(workshop.db, subscriber.id, now)


def end_by_key(workshop: Workshop, blog: Blog, key: str) -> None:
    """Ends all letters to somebody (RFC 8058). Raises NotFound."""
    subscriber = of_key(workshop, blog, key)
    if subscriber.state != ENDED:
        with changing(workshop):
            store.end(workshop.db, subscriber.id, workshop.clock())


@dataclass(frozen=True)
class Brought:
    """What came of a list: how many are new, how many were there already, and what could not be read, as (line, why)."""

    new: int
    known: int
    problems: tuple[tuple[int, str], ...] = ()


def add(
    workshop: Workshop, person: Person, blog: Blog, email: str, what: str, every: str, consent: str
) -> Subscriber:
    """Has letters go to somebody who agreed otherwise; `consent` says where. Raises BadInput, NotAllowed, Refused for one who ended them."""
    require(workshop, person, blog, Action.KEEP_READERS)
    email, consent = read_email(email), read_consent(consent)
    wishes = read_wishes(workshop, blog, [(what, every)])
    with changing(workshop, person):
        known = store.by_email(workshop.db, blog.id, email)
        if known and known.state in (ENDED, ASIDE):
            raise Refused(
                f"{email} {'ended letters' if known.state == ENDED else 'is set aside, since letters came back'}; they can subscribe again themselves."
            )
        return _put_in(workshop, blog, email, wishes, consent)


def _put_in(workshop: Workshop, blog: Blog, email: str, wishes: list[Wish], consent: str) -> Subscriber:
    now = workshop.clock()
    found = store.add(workshop.db, blog.id, email, entry.secret(), consent, now)
    store.ask_for(workshop.db, found.id, (), consent, now)
    store.add_wishes(workshop.db, found.id, wishes, now)
    if found.state != ON:
        store.confirm(workshop.db, found.id, now)
    return found


def read_consent(text: str) -> str:
    """Where somebody agreed to get letters. Raises BadInput without it."""
    words = one_line(text)
    if not words or len(words) > CONSENT_LENGTH:
        raise BadInput(
            f"Say in up to {CONSENT_LENGTH} letters where they agreed to get letters, such as “signed the list at the open evening”.",
            "consent",
        )
    return words


def end(workshop: Workshop, person: Person, blog: Blog, number: int) -> Subscriber:
    """Ends letters to somebody, as they asked. Raises NotFound, NotAllowed."""
    require(workshop, person, blog, Action.KEEP_READERS)
    found = _of_blog(workshop, blog, number)
    with changing(workshop, person):
        store.end(workshop.db, found.id, workshop.clock())
    return found


def forget(workshop: Workshop, person: Person, blog: Blog, number: int) -> Subscriber:
    """Removes all that is known of a subscriber. Raises NotFound, NotAllowed."""
    require(workshop, person, blog, Action.KEEP_READERS)
    found = _of_blog(workshop, blog, number)
    with changing(workshop, person):
        store.remove(workshop.db, found.id)
    return found


def by_email(workshop: Workshop, blog: Blog, email: str) -> Subscriber:
    """A subscriber by address. Raises NotFound."""
    found = store.by_email(workshop.db, blog.id, email.strip())
    if found is None:
        raise NotFound(
            f"{email[:80]} does not subscribe to {blog.name}; mobbet subscriber list shows who does."
        )
    return found


def _of_blog(workshop: Workshop, blog: Blog, number: int) -> Subscriber:
    found = store.by_id(workshop.db, number)
    if found is None or found.blog_id != blog.id:
        raise NotFound("This subscriber is no more; reload the page.")
    return found


def bring_in(
    workshop: Workshop, person: Person, blog: Blog, source: str, consent: str, words_to_what: dict[str, str]
) -> Brought:
    """Adds the subscribers of a CSV file with a column `email` and perhaps `what`, `every`, `state` and `consent`; those who ended stay ended.

    `consent` holds for lines that say nothing of it; `words_to_what` knows what the words of the column `what` mean. Raises BadInput.
    """
    require(workshop, person, blog, Action.KEEP_READERS)
    if len(source) > LONGEST_FILE:
        raise BadInput(f"The list has {len(source):,} letters; {LONGEST_FILE:,} is the most.", "file")
    default, new, known, problems = one_line(consent), 0, 0, []
    with changing(workshop, person):
        for line, row in rows_in(source, "email", MOST_ROWS):
            try:
                if not is_email(row["email"]):
                    raise BadInput(f"“{row['email'][:80]}” is no e-mail address.")
                wanted = row.get("what", "") or ALL
                parts = [words_to_what.get(part.strip(), part.strip()) for part in wanted.split(";")]
                every = row.get("every", "").split(";")
                typed = [
                    (part, every[min(at, len(every) - 1)].strip() or POST) for at, part in enumerate(parts)
                ]
                wishes = read_wishes(workshop, blog, typed)
                agreed = read_consent(row.get("consent", "") or default)
            except BadInput as error:
                problems.append((line, str(error)))
                continue
            there = store.by_email(workshop.db, blog.id, row["email"])
            if there is not None and there.state != ASKED:
                known += 1
                continue
            found = _put_in(workshop, blog, row["email"], wishes, agreed)
            if row.get("state") in (ENDED, ASIDE):  # so that nobody who ended is written to after a move
                store.end(workshop.db, found.id, workshop.clock())
            new += 1
    return Brought(new, known, tuple(problems))


def as_csv(workshop: Workshop, person: Person, blog: Blog) -> str:
    """All subscribers as CSV (RFC 4180), in the columns that `bring_in` reads; `since` is a day. Raises NotAllowed."""
    require(workshop, person, blog, Action.KEEP_READERS)
    from mobbet.core.timing import local

    file = io.StringIO()
    rows = csv.writer(file)
    rows.writerow(COLUMNS)
    day = partial(local, zone_name=blog.zone)
    for one in store.every(workshop.db, blog.id):
        wishes = store.wishes_of(workshop.db, one.id)
        since = day(one.confirmed_at or one.asked_at).date().isoformat()
        values = (
            one.email, ";".join(wish.what for wish in wishes), ";".join(wish.every for wish in wishes), one.state, since, one.consent,
        )  # fmt: skip
        rows.writerow([cell(value) for value in values])
    return file.getvalue()


def forget_unconfirmed(workshop: Workshop) -> int:
    """Forgets those who asked for letters and never confirmed it; answers with how many."""
    with changing(workshop):
        return store.remove_unconfirmed(workshop.db, workshop.clock() - CONFIRM_SECONDS)


def spellings(workshop: Workshop, blog: Blog) -> dict[str, str]:
    """{words in a list of subscribers: what they mean here}: categories by path, authors by address and series by name."""
    subjects = filing.subjects(workshop.db, blog.id)
    found: dict[str, str] = {
        Name.of(CATEGORY, path_in_words(subjects, number)): Name.of(CATEGORY, number) for number in subjects
    }
    for one in people.of_blog(workshop.db, blog.id):
        found[f"author:{one.email}"] = f"author:{one.id}"
    return found | {
        f"series:{name}": f"series:{series.named(workshop.db, blog.id, name)}"
        for name in series.names(workshop.db, blog.id)
    }
