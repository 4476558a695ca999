"""One's sessions: listed, ended; and proving once more who one is before what matters."""

from __future__ import annotations

from mobbet.actions.factors import is_right_code
from mobbet.actions.pacing import count_try, forget_tries
from mobbet.actions.people import IDLE, verify_password
from mobbet.actions.recording import note_everywhere
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core import passwords
from mobbet.core.errors import BadInput, NotFound
from mobbet.core.tokens import token_digest
from mobbet.store import accounts, people
from mobbet.store.accounts import OpenSession
from mobbet.store.people import Person

PROVED_FOR = 30 * 60
"""In seconds: how long a proof of who one is lasts for what matters."""


def of_person(workshop: Workshop, person: Person) -> list[OpenSession]:
    """One's open sessions."""
    return accounts.sessions(workshop.db, person.id, workshop.clock(), IDLE)


def is_this(one: OpenSession, token: str) -> bool:
    """Whether a session is the one with that token."""
    return one.token_hash == token_digest(token)


def end(workshop: Workshop, person: Person, token_hash: str) -> None:
    """Ends one of one's sessions. Raises NotFound."""
    with changing(workshop, person):
        if not accounts.end_session(workshop.db, person.id, token_hash[:64]):
            raise NotFound("This session has ended already.")
        note_everywhere(workshop, person, "sessions-ended", person.name, person)


def end_others(workshop: Workshop, person: Person, token: str) -> None:
    """Ends all of one's sessions but this one."""
    with changing(workshop, person):
        people.end_other_sessions(workshop.db, person.id, token_digest(token))
        note_everywhere(workshop, person, "sessions-ended", person.name, person)


def is_proved(workshop: Workshop, token: str) -> bool:
    """Whether it was proved a short while ago whose session it is."""
    return workshop.clock() - accounts.proved_at(workshop.db, token_digest(token)) <= PROVED_FOR


def prove(workshop: Workshop, person: Person, token: str, password: str, code: str) -> None:
    """Proves who one is by the password, or by a code of the second factor. Raises BadInput, TooSoon."""
    if code.strip():
        if not is_right_code(workshop, person, code):
            raise BadInput("This code is not right, or it was used already; type the next one.", "again_code")
    else:
        key = ("device", f"proof {person.id}")
        count_try(workshop, key)
        if not verify_password(person.password_hash, password[: passwords.LONGEST + 1]):
            raise BadInput("This is not your password; type it again.", "again_password")
        forget_tries(workshop, key)
    with changing(workshop, person):
        accounts.prove_session(workshop.db, token_digest(token), workshop.clock())
