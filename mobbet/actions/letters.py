"""Sends waiting letters; what the mail server refuses is retried after growing pauses."""

from __future__ import annotations

import html
import logging
import re
import textwrap

from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.emails import is_email
from mobbet.core.errors import MobbetError
from mobbet.core.values import existing
from mobbet.publish.cards import Card, Cards
from mobbet.services.contracts import Envelope
from mobbet.store import blogs, placements, readers
from mobbet.store.blogs import Blog
from mobbet.store.placements import Placement
from mobbet.store.readers import Group, Letter
from mobbet.store.snapshot import SiteSnapshot

log = logging.getLogger("mobbet.letters")
FIRST_PAUSE, LONGEST_PAUSE = 60, 6 * 3600
AT_ONCE = 20
_TAG = re.compile(r"<[^<>]+>")


def announce(workshop: Workshop) -> int:
    """Writes to each group about posts for it that went out; once for each post. Answers with how many letters that are."""
    written = 0
    for group_id, placement_id in readers.to_announce(workshop.db, workshop.clock()):
        placement = existing(placements.by_id(workshop.db, placement_id))
        group = existing(readers.group(workshop.db, group_id))
        blog = existing(blogs.by_id(workshop.db, placement.blog_id))
        try:
            letter = _about(workshop, blog, group, placement)
        except Exception as error:  # whatever is odd about one post holds up no other
            log.exception("the letter about post %d could not be made", placement.post_id)
            letter = None
            with changing(workshop):
                readers.set_announced(workshop.db, placement.post_id, group.id)
                number = readers.add_letter(
                    workshop.db, blog.id, group.name, placement.path, "", workshop.clock()
                )
                readers.set_letter_aside(
                    workshop.db,
                    number,
                    f"The letter about {placement.path} cannot be made ({type(error).__name__}).",
                    workshop.clock(),
                )
        if letter is None:
            continue
        with changing(workshop):
            if readers.set_announced(workshop.db, placement.post_id, group.id):
                for address in readers.addresses_in(workshop.db, group.id):
                    readers.add_letter(workshop.db, blog.id, address, *letter, workshop.clock())
                    written += 1
    return written


def _about(workshop: Workshop, blog: Blog, group: Group, placement: Placement) -> tuple[str, str] | None:
    """(subject, text) of the letter to a group about a post; None where it is not out."""
    with workshop.db.reading():
        snapshot = SiteSnapshot(workshop.db, blog.id, workshop.clock())
        post = snapshot.post(placement.post_id)
        card = Cards(snapshot).of(post) if post else None
    return announcement(blog.name, group.name, card, blog.home + placement.path[1:]) if card else None


def announcement(blog: str, group: str, card: Card, address: str) -> tuple[str, str]:
    """(subject, text) of the letter about a post: what lists show of it, and where it is."""
    teaser = textwrap.fill(" ".join(html.unescape(_TAG.sub("", card.teaser)).split()), 72)
    parts = [
        card.title,
        card.subtitle,
        f"By {card.author}, {card.date}",
        teaser,
        f"Read it here:\n{address}",
        f"You get this because you are in the group “{group}” of {blog}.",
    ]
    return f"{blog}: {card.title}", "\n\n".join(part for part in parts if part) + "\n"


def go_round(workshop: Workshop) -> None:
    """What is done every few seconds: letters about posts are written, and those that wait are sent."""
    announce(workshop)
    send_waiting(workshop)


def _set_aside(workshop: Workshop, letter: Letter, problem: str) -> None:
    with changing(workshop):
        readers.set_letter_aside(workshop.db, letter.id, problem, workshop.clock())


def send_waiting(workshop: Workshop) -> int:
    """Hands the letters over that may be sent now; answers with how many were taken."""
    taken = 0
    for letter in readers.waiting(workshop.db, workshop.clock(), AT_ONCE):
        if not is_email(letter.recipient):
            _set_aside(
                workshop,
                letter,
                f"“{letter.recipient[:80]}” is no address that a mail server takes; correct it and invite them again.",
            )
            continue
        blog = existing(blogs.by_id(workshop.db, letter.blog_id))
        sender = workshop.settings.mail_from or f"{blog.slug}@mobbet.invalid"
        try:
            workshop.services.mail.send(Envelope(sender, letter.recipient, letter.subject, letter.text))
        except MobbetError as error:
            pause = min(LONGEST_PAUSE, FIRST_PAUSE * 2 ** min(letter.tries, 12))
            with changing(workshop):
                readers.set_failed(workshop.db, letter.id, str(error), workshop.clock() + pause)
            continue
        except Exception as error:  # whatever is odd about one letter holds up no other
            log.exception("letter %d could not be made", letter.id)
            _set_aside(
                workshop,
                letter,
                f"This letter cannot be made ({type(error).__name__}); look at its address and its words.",
            )
            continue
        with changing(workshop):
            readers.set_sent(
                workshop.db, letter.id, workshop.clock(), keeps_text=workshop.services.mail.keeps
            )
        taken += 1
    return taken
