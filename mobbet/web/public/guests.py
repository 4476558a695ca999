"""Identifies the reader of a published site from the cookies of a request."""

from __future__ import annotations

from mobbet.actions import preview_readers
from mobbet.actions.people import person_of
from mobbet.actions.workshop import Workshop
from mobbet.core.audience import STRANGER, Reader
from mobbet.store.blogs import Blog
from mobbet.web.shell.cookies import guest_cookie, proofs_cookie, session_cookie

MOST_PROOFS = 30


def reader_of_request(workshop: Workshop, blog: Blog, cookies: dict[str, str]) -> Reader:
    """What whoever sent these cookies may read of a blog."""
    person = person_of(workshop, cookies.get(session_cookie(workshop.settings)))
    guest = person_of(workshop, cookies.get(guest_cookie(workshop.settings, blog)), blog.id)
    proofs = frozenset(cookies.get(proofs_cookie(workshop.settings, blog), "").split(".")[:MOST_PROOFS]) - {
        ""
    }
    if person is None and guest is None and not proofs:
        return STRANGER
    return preview_readers.reader_of(workshop, blog, person, guest, proofs)
