"""Setting up, signing in and out, passwords."""

from __future__ import annotations

import hashlib
import secrets
import threading
from collections.abc import Callable
from dataclasses import dataclass

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError

from mobbet.actions.workshop import Workshop
from mobbet.core.emails import read_email
from mobbet.core.errors import BadInput, Refused, TooSoon
from mobbet.store import people
from mobbet.store.people import Person

SHORTEST_PASSWORD = 8
FREE_TRIES = {"email": 5, "address": 20}
"""How many failures within WINDOW cost nothing, for one e-mail address and for one network address."""
WINDOW = 15 * 60
LONGEST_WAIT = 5 * 60

_hasher = PasswordHasher()
_two_at_a_time = threading.Semaphore(2)


@dataclass(frozen=True)
class Session:
    """A sign-in that has begun: the token for the cookie, and whose it is."""

    token: str
    person: Person


def read_password(text: str) -> str:
    if len(text) < SHORTEST_PASSWORD:
        raise BadInput(f"The password has {len(text)} characters; use at least {SHORTEST_PASSWORD}.", "password")
    if len(text) > 1000:
        raise BadInput("The password is longer than 1,000 characters; choose a shorter one.", "password")
    return text


def read_name(text: str, what: str, field: str, longest: int = 80) -> str:
    """A name of a person or blog in one line. Raises BadInput when it is empty or too long."""
    name = " ".join(text.split())
    if not name:
        raise BadInput(f"{what} is missing; type one.", field)
    if len(name) > longest:
        raise BadInput(f"{what} “{name[:30]}…” is longer than {longest} letters; shorten it.", field)
    return name


def add_person(workshop: Workshop, *, name: str, email: str, password: str | None, profile: str = "") -> Person:
    """A new person; without a password they cannot sign in yet. Raises BadInput, Refused for a known address."""
    name, email = read_name(name, "Your name", "name"), read_email(email)
    digest = hash_password(read_password(password)) if password is not None else None
    with workshop.db.transaction():
        if people.by_email(workshop.db, email):
            raise Refused(f"Somebody with the address {email} is here already; sign in instead.")
        return people.add(workshop.db, email=email, name=name, profile=profile, password_hash=digest, made_at=workshop.clock())


def sign_in(workshop: Workshop, email: str, password: str, address: str = "") -> Session:
    """A new session. Raises TooSoon while slowed down, Refused for a wrong address or password."""
    now = workshop.clock()
    keys = {"email": f"email:{email.strip().lower()}", "address": f"address:{address}"}
    check_pace(workshop, keys)
    person = people.by_email(workshop.db, email.strip())
    if not verify_password(person.password_hash if person else None, password):
        note_failure(workshop, keys, now)
        raise Refused("This e-mail address and password do not belong together; check both and try again.")
    with workshop.db.transaction():
        people.forget_failures(workshop.db, keys["email"], now - WINDOW)
    return begin_session(workshop, person)


def begin_session(workshop: Workshop, person: Person, blog_id: int | None = None) -> Session:
    """A session for all of Mobbet; with a blog, for reading that one alone."""
    token, now = secrets.token_urlsafe(32), workshop.clock()
    with workshop.db.transaction():
        people.begin_session(workshop.db, _digest(token), person.id, now, now + workshop.settings.session_days * 86400, blog_id)
    return Session(token, person)


def person_of(workshop: Workshop, token: str | None, blog_id: int | None = None) -> Person | None:
    """Who is signed in with that token, to all of Mobbet or to read one blog; None for nobody."""
    return people.of_session(workshop.db, _digest(token), workshop.clock(), blog_id) if token else None


def sign_out(workshop: Workshop, token: str) -> None:
    with workshop.db.transaction():
        people.end_session(workshop.db, _digest(token))


def change_password(workshop: Workshop, person: Person, old: str, new: str, token: str) -> None:
    """Sets a new password and ends the person's other sessions. Raises BadInput, Refused, TooSoon."""
    now, key = workshop.clock(), f"email:{person.email.lower()}"
    check_pace(workshop, {"email": key})
    if not verify_password(person.password_hash, old):
        note_failure(workshop, {"email": key}, now)
        raise BadInput("The present password is not right; type it again.", "old")
    digest = hash_password(read_password(new))
    with workshop.db.transaction():
        people.set_password(workshop.db, person.id, digest)
        people.end_other_sessions(workshop.db, person.id, _digest(token))


def hash_password(password: str) -> str:
    with _two_at_a_time:
        return _hasher.hash(password)


_NOBODY = hash_password(secrets.token_hex(8))


def verify_password(digest: str | None, password: str) -> bool:
    """Takes as long for an unknown person as for a known one."""
    with _two_at_a_time:
        try:
            return _hasher.verify(digest or _NOBODY, password) and digest is not None
        except (VerificationError, InvalidHashError):
            return False


def check_pace(workshop: Workshop, keys: dict[str, str]) -> None:
    """Raises TooSoon while tries under these keys, by kind as in FREE_TRIES, are slowed down."""
    now = workshop.clock()
    for kind, key in keys.items():
        count, last = people.failures(workshop.db, key, now - WINDOW)
        over = count - FREE_TRIES[kind]
        wait = last + min(LONGEST_WAIT, 5 * 2 ** min(over, 10)) - now if over >= 0 else 0
        if wait > 0:
            raise TooSoon(f"Too many tries; wait {wait} second{'s' if wait != 1 else ''} and try again.", wait)


def note_failure(workshop: Workshop, keys: dict[str, str], now: int) -> None:
    with workshop.db.transaction():
        for key in keys.values():
            people.add_failure(workshop.db, key, now)


def slowly(work: Callable[[], str]) -> str:
    """Does what takes a processor a while on purpose, for two people at a time."""
    with _two_at_a_time:
        return work()


def _digest(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()
