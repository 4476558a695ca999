"""How a reader signs in: by a link that is sent to their address."""

from __future__ import annotations

import secrets

from mobbet.actions import people as people_actions
from mobbet.actions.pacing import count_try, network
from mobbet.actions.people import Session
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.emails import read_email
from mobbet.core.errors import Refused
from mobbet.core.permalinks import one_form
from mobbet.core.tokens import token_digest
from mobbet.core.values import existing
from mobbet.store import people, readers
from mobbet.store.blogs import Blog
from mobbet.store.people import Person

ASKED_FOR = 10 * 60
"""For how many seconds a link is good that a reader asked for."""


def ask_to_enter(workshop: Workshop, blog: Blog, email: str, leads_to: str, address: str) -> None:
    """Sends somebody the link that signs them in, if they are a reader of the blog, or anyone may be one.

    Answers the same for everybody, so that nobody learns who is a reader. Raises BadInput, TooSoon.
    """
    email = read_email(email)
    count_try(workshop, ("letter", f"{blog.id} {email.lower()}"), network(address))
    with changing(workshop):
        reader = people.by_email(workshop.db, email)
        if reader is None and blog.open_entry:
            reader = people_actions.add_person(
                workshop, name=email.partition("@")[0], email=email, password=None
            )
        if reader is None:
            return
        if blog.open_entry:
            readers.add_reader(workshop.db, blog.id, reader.id, email.partition("@")[0], workshop.clock())
        if readers.is_reader(workshop.db, blog.id, reader.id):
            link = entry_link(workshop, blog, reader, _own_path(leads_to), ASKED_FOR)
            text = f"Hello {readers.name_of(workshop.db, blog.id, reader.id)},\n\nthis link signs you in to {blog.name}; it works once, within {ASKED_FOR // 60} minutes:\n{link}\n\nIf you did not ask for it, do nothing.\n"
            readers.add_letter(
                workshop.db,
                blog.id,
                reader.email,
                f"{blog.name}: your link to sign in",
                text,
                workshop.clock(),
            )
    workshop.on_change()


def _own_path(path: str) -> str:
    """A path below the blog's, never one of another site."""
    return one_form(path) if path.startswith("/") and not path.startswith(("//", "/\\")) else "/"


def entry_link(workshop: Workshop, blog: Blog, reader: Person, leads_to: str, seconds: int) -> str:
    token, now = secret(), workshop.clock()
    readers.add_entry(workshop.db, token_digest(token), blog.id, reader.id, leads_to, now, now + seconds)
    return f"{blog.home}~/in/{token}"


def is_good_entry(workshop: Workshop, blog: Blog, token: str) -> bool:
    found = readers.entry(workshop.db, token_digest(token), workshop.clock())
    return found is not None and found[0] == blog.id


def enter(workshop: Workshop, blog: Blog, token: str) -> tuple[Session, str]:
    """Signs a reader in by the link of a letter, once; answers with where they wanted to go. Raises Refused."""
    with changing(workshop):
        found = readers.entry(workshop.db, token_digest(token), workshop.clock())
        if found is None or found[0] != blog.id:
            raise Refused("This link was used already, or is too old; ask for another one.")
        readers.forget_entry(workshop.db, token_digest(token))
        readers.join(workshop.db, blog.id, found[1], workshop.clock())
        return people_actions.begin_session(
            workshop, existing(people.by_id(workshop.db, found[1])), blog.id
        ), found[2]


def secret() -> str:
    return secrets.token_urlsafe(24)
