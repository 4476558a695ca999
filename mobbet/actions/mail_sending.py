"""Hands letters to subscribers over to the mail server: each once, at a pace, and on again after whatever ended the process.

What is about to be handed over is written down before, and what became of it after. A letter whose hand-over was cut short by the end of the process has the same
Message-ID when it is handed over again.
"""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import dataclass

from mobbet.actions import mailings as begun
from mobbet.actions.locks import only_one
from mobbet.actions.subscribers import own_address, server_of
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import NotTaken
from mobbet.core.letters import (
    CHANGE_LINK,
    END_LINK,
    GOING,
    MOST_TRIES,
    REFUSED,
    SENT,
    message_id,
    pause_after,
    read_rules,
)
from mobbet.core.subscriptions import MOST_BOUNCES, ON
from mobbet.core.values import existing
from mobbet.core.web_addresses import split_address
from mobbet.publish.letter_pages import LetterText
from mobbet.services.contracts import Envelope
from mobbet.store import blogs, mailings
from mobbet.store import subscribers as subscriber_store
from mobbet.store.blogs import Blog
from mobbet.store.mailings import Delivery, Mailing
from mobbet.store.subscribers import Subscriber

BATCH = 50
"""After so many letters it is checked anew who may get the next ones, and whether what they show is still out."""
MOST_SERVER_FAILURES = 3
"""After so many failures one after the other the server is left alone for a while."""


@dataclass
class Outcome:
    """How many letters were sent and refused, and how many wait for another try."""

    sent: int = 0
    waiting: int = 0
    refused: int = 0


def send_due(
    workshop: Workshop,
    is_ended: Callable[[], bool] = lambda: False,
    sleep: Callable[[float], object] = time.sleep,
    patience: float = 0,
) -> Outcome:
    """Begins the letters that are due and hands over what may go now, until all of it went or `is_ended`.

    Another process that is at it for longer than `patience` is left to it.
    """
    outcome = Outcome()
    with only_one(workshop, "letters", patience) as is_only:
        if is_only:
            with changing(workshop):
                mailings.take_up(workshop.db)
            begun.begin_due(workshop)
            pause = mailings.pause(workshop.db)
            if pause is None or pause[1] <= workshop.clock():
                _Sending(workshop, outcome, is_ended, sleep).run()
    outcome.waiting = mailings.count_waiting(workshop.db)
    return outcome


def is_due(workshop: Workshop) -> bool:
    """Whether there is something to hand over now."""
    pause = mailings.pause(workshop.db)
    return (pause is None or pause[1] <= workshop.clock()) and mailings.is_any_due(
        workshop.db, workshop.clock()
    )


class _Sending:
    """One run over all letters that are due."""

    def __init__(
        self,
        workshop: Workshop,
        outcome: Outcome,
        is_ended: Callable[[], bool],
        sleep: Callable[[float], object],
    ) -> None:
        self._workshop, self._outcome, self._is_ended, self._sleep = workshop, outcome, is_ended, sleep
        self._failures = 0
        self._next = 0.0

    def run(self) -> None:
        db, after = self._workshop.db, (0, 0)
        with self._workshop.services.mail.open() as send:
            while not self._is_stopped() and (
                batch := mailings.due(db, self._workshop.clock(), BATCH, after)
            ):
                after = (batch[-1].mailing_id, batch[-1].subscriber_id)
                for mailing_id in dict.fromkeys(one.mailing_id for one in batch):
                    self._send_some([one for one in batch if one.mailing_id == mailing_id], send)

    def _is_stopped(self) -> bool:
        return self._is_ended() or self._failures >= MOST_SERVER_FAILURES

    def _send_some(self, rows: list[Delivery], send: Callable[[Envelope], None]) -> None:
        """Hands over letters of one mailing, as far as they may still go."""
        workshop = self._workshop
        mailing = existing(mailings.by_id(workshop.db, rows[0].mailing_id))
        blog = existing(blogs.by_id(workshop.db, mailing.blog_id))
        current = (
            None if blog.closed or blog.set_aside_at else begun.bring_up_to_date(workshop, blog, mailing)
        )
        if current is None:
            return  # it goes on once the post is out again
        may_go = begun.may_go(workshop, blog, current)
        for row in rows:
            if self._is_stopped():
                return
            subscriber = subscriber_store.by_id(workshop.db, row.subscriber_id)
            if subscriber is None or subscriber.state != ON or not may_go(subscriber.id):
                with changing(workshop):
                    mailings.drop(workshop.db, row)
                continue
            self._wait_for_pace(read_rules(blog.letters).pace)
            self._hand_over(blog, current, row, subscriber, send)

    def _wait_for_pace(self, pace: int) -> None:
        if not self._workshop.services.mail.keeps:
            now = time.monotonic()
            if self._next > now:
                self._sleep(self._next - now)
            self._next = max(self._next, now) + 60 / pace

    def _hand_over(
        self,
        blog: Blog,
        mailing: Mailing,
        row: Delivery,
        subscriber: Subscriber,
        send: Callable[[Envelope], None],
    ) -> None:
        workshop, db = self._workshop, self._workshop.db
        with changing(workshop):
            mailings.set_state(db, row, GOING, workshop.clock())
        try:
            send(envelope(workshop, blog, mailing, subscriber))
        except NotTaken as error:
            self._note_failure(row, subscriber, error)
        else:
            self._failures = 0
            with changing(workshop):
                mailings.set_state(db, row, SENT, workshop.clock())
                mailings.end_pause(db)
            self._outcome.sent += 1

    def _note_failure(self, row: Delivery, subscriber: Subscriber, error: NotTaken) -> None:
        workshop, db, now = self._workshop, self._workshop.db, self._workshop.clock()
        with changing(workshop):
            if error.why == "final" or row.tries + 1 >= MOST_TRIES:
                mailings.set_state(db, row, REFUSED, now, str(error))
                subscriber_store.count_bounce(db, subscriber.id, str(error), MOST_BOUNCES)
                self._outcome.refused += 1
                self._failures = 0
                return
            is_server = error.why == "server"  # which says nothing of this letter
            pause = 0 if is_server else pause_after(row.tries)
            mailings.set_again(db, row, now + pause, str(error), row.tries + (not is_server))
            self._failures = self._failures + 1 if error.why in ("server", "broken") else 0
            if self._failures >= MOST_SERVER_FAILURES:
                earlier = mailings.pause(db)
                count = earlier[0] + 1 if earlier else 0
                mailings.set_pause(db, count, now + pause_after(count), str(error))


def envelope(workshop: Workshop, blog: Blog, mailing: Mailing, subscriber: Subscriber) -> Envelope:
    """The letter of a mailing to a subscriber, with the headers by which mail programs end letters (RFC 2369, RFC 8058)."""
    return filled(
        workshop, blog, LetterText(mailing.subject, mailing.text, mailing.html), subscriber, mailing.id
    )


def filled(
    workshop: Workshop, blog: Blog, letter: LetterText, subscriber: Subscriber, mailing: int
) -> Envelope:
    host = split_address(server_of(blog)).hostname or "mobbet.invalid"
    change = own_address(blog, subscriber)
    end = f"{change}/end"
    parts = [part.replace(END_LINK, end).replace(CHANGE_LINK, change) for part in (letter.text, letter.html)]
    headers = (
        ("List-Id", f"{blog.slug} <{blog.slug}.letters.{host}>"),
        ("List-Unsubscribe", f"<{end}>"),
        ("List-Unsubscribe-Post", "List-Unsubscribe=One-Click"),
    )
    return Envelope(
        workshop.settings.mail_from or f"{blog.slug}@mobbet.invalid", subscriber.email, letter.subject, parts[0], parts[1], blog.name,
        message_id(mailing, subscriber.id, subscriber.key, host), headers,
    )  # fmt: skip
