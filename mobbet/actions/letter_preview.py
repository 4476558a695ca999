"""The letter about a post as it would be, to be looked at here or sent to oneself."""

from __future__ import annotations

from dataclasses import replace

from mobbet.actions import entry
from mobbet.actions.access import editable_post
from mobbet.actions.mail_sending import filled
from mobbet.actions.mailings import preview
from mobbet.actions.pacing import count_try
from mobbet.actions.preview import as_it_would_be
from mobbet.actions.workshop import Workshop
from mobbet.core.emails import read_email
from mobbet.core.letters import LETTER_HERE
from mobbet.core.subscriptions import ON
from mobbet.publish.letter_pages import LetterText
from mobbet.store.people import Person
from mobbet.store.subscribers import Subscriber


def of_post(workshop: Workshop, person: Person, post_id: int) -> LetterText:
    """The letter about a post made of its working text. Raises NotFound, NotAllowed."""
    post, blog = editable_post(workshop, person, post_id)
    shown = as_it_would_be(workshop, post, blog)
    return preview(blog, shown.post, shown.snapshot)


def send_to(workshop: Workshop, person: Person, post_id: int, email: str) -> None:
    """Sends the letter about a post to one address, to be looked at. Raises BadInput, TooSoon, Broken."""
    post, blog = editable_post(workshop, person, post_id)
    email = read_email(email)
    count_try(workshop, ("letter", f"look {person.id}"))
    letter = of_post(workshop, person, post.id)
    nobody = Subscriber(0, blog.id, email, entry.secret(), ON, "", 0, None, None, 0, "")
    envelope = filled(workshop, blog, replace(letter, subject=f"{LETTER_HERE}{letter.subject}"), nobody, 0)
    workshop.services.mail.send(replace(envelope, message_id="", headers=()))
