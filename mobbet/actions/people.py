"""People: accounts, passwords, signing in and out."""

from __future__ import annotations

import os
import secrets
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, replace
from functools import cache
from typing import TYPE_CHECKING

from mobbet.actions.pacing import count_try, forget_tries, network
from mobbet.actions.recording import note_everywhere
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core import passwords
from mobbet.core.addresses import free_slug, make_slug
from mobbet.core.browsers import in_words
from mobbet.core.emails import LONGEST, read_email
from mobbet.core.errors import BadInput, NeedsFactor, Refused, TooSoon
from mobbet.core.names import one_line
from mobbet.core.networks import one_client
from mobbet.core.tokens import token_digest
from mobbet.core.values import existing
from mobbet.services.common_passwords import is_common
from mobbet.store import accounts, blogs, people, readers
from mobbet.store.people import Person

if TYPE_CHECKING:
    from argon2 import PasswordHasher

IDLE = 14 * 86400
"""In seconds: a session that was not used for so long has ended."""
NOTED = 86400 // 2
"""In seconds: how often it is written down that a session is in use."""
AT_ONCE, WAITING = max(1, min(2, (os.cpu_count() or 1) // 2)), 6
"""How many passwords are hashed at once, each with 64 MB and one processor, and how many more may wait."""
FACTOR_SECONDS = 10 * 60
"""In seconds: how long a sign-in waits for the second factor."""
NOT_TOGETHER = "This e-mail address and password do not belong together; check both and try again."

_hashing, _places = threading.Semaphore(AT_ONCE), threading.Semaphore(AT_ONCE + WAITING)


@dataclass(frozen=True)
class Session:
    """A sign-in that has begun: the token for the cookie, whose it is, and the token by which the browser is known the next time ('' where it has one)."""

    token: str
    person: Person
    device: str = ""


def read_password(text: str, *about: str, field: str = "password") -> str:
    """A password that may be kept; `about` are the names and addresses it must not be made of. Raises BadInput."""
    return passwords.check(text, is_common, about, field)


def read_name(text: str, what: str, field: str, longest: int = 80) -> str:
    """A name of a person or blog in one line. Raises BadInput when it is empty or too long."""
    name = one_line(text)
    if not name:
        raise BadInput(f"{what} is missing; type one.", field)
    if len(name) > longest:
        raise BadInput(f"{what} “{name[:30]}…” is longer than {longest} letters; shorten it.", field)
    return name


def add_person(
    workshop: Workshop, *, name: str, email: str, password: str | None, profile: str = ""
) -> Person:
    """A new person; without a password they cannot sign in yet. Raises BadInput, Refused for a known address."""
    name, email = read_name(name, "Your name", "name"), read_email(email)
    digest = hash_password(read_password(password, name, email)) if password is not None else None
    with changing(workshop):
        if people.by_email(workshop.db, email):
            raise Refused(f"Somebody with the address {email} is here already; sign in instead.")
        return people.add(
            workshop.db,
            email=email,
            name=name,
            profile=profile,
            password_hash=digest,
            made_at=workshop.clock(),
            slug=free_slug(
                make_slug(name, "writer"), lambda slug: people.with_slug(workshop.db, slug) is not None
            ),
        )


def with_password(workshop: Workshop, email: str, name: str, digest: str) -> Person:
    """The account of an address under a name, with the digest of its first password; made where there is none. Raises Refused."""
    with changing(workshop):
        known = people.by_email(workshop.db, email) or add_person(
            workshop, name=name, email=email, password=None
        )
        people.set_password(workshop.db, known.id, digest)
        people.set_name(workshop.db, known.id, name)
        return existing(people.by_id(workshop.db, known.id))


def sign_in(
    workshop: Workshop,
    email: str,
    password: str,
    address: str = "",
    device: str = "",
    before: str = "",
    agent: str = "",
) -> Session:
    """A new session, which ends the one that the browser had `before`; `agent` is what the browser calls itself.

    Each try counts before the password is looked at: by account and network, by network, and by account from everywhere. A browser
    in which this person signed in before (`device`) has a pace of its own, so nobody else's tries keep the right person out.
    Raises TooSoon while slowed down, Refused for a wrong address or password, NeedsFactor where a second factor is asked for.
    """
    email, now = email.strip(), workshop.clock()
    person = people.by_email(workshop.db, email) if len(email) <= LONGEST else None
    is_known = _knows(workshop, person, device)
    account = email.lower()[:LONGEST]
    keys = (
        (("device", token_digest(device)),)
        if is_known
        else (("pair", f"{account} {one_client(address)}"), network(address), ("account", account))
    )
    count_try(workshop, *keys)
    if len(email) > LONGEST:  # nobody has it
        raise Refused(NOT_TOGETHER)
    if (
        not verify_password(person.password_hash if person else None, password[: passwords.LONGEST + 1])
        or person is None
        or person.suspended_at
    ):
        if person is not None:
            note_everywhere(workshop, person, "sign-in-failed", person.name)
        raise Refused(NOT_TOGETHER)
    forget_tries(workshop, keys[0])
    if accounts.has_factor(workshop.db, person.id):
        token = secrets.token_urlsafe(32)
        with changing(workshop):
            accounts.ask_browser(
                workshop.db, token_digest(token), "sign-in", person.id, "", now, now + FACTOR_SECONDS
            )
        raise NeedsFactor("Type the code of your second factor.", token)
    return signed_in(workshop, person, device, before, agent)


def begun_sign_in(workshop: Workshop, token: str) -> Person:
    """Whose sign-in it is that waits for a second factor. Raises Refused where it took too long."""
    asked = (
        accounts.asked_of(workshop.db, token_digest(token), "sign-in", workshop.clock())
        if len(token) < 200
        else None
    )
    person = people.by_id(workshop.db, asked.person_id or 0) if asked else None
    if person is None or person.suspended_at:
        raise Refused("This took too long; type your password once more.")
    return person


def note_wrong_factor(workshop: Workshop, person: Person) -> None:
    """Records a wrong code."""
    note_everywhere(workshop, person, "factor-failed", person.name)


def end_begun_sign_in(workshop: Workshop, token: str) -> None:
    with changing(workshop):
        accounts.forget_asked(workshop.db, token_digest(token))


def signed_in(
    workshop: Workshop, person: Person, device: str = "", before: str = "", agent: str = ""
) -> Session:
    """The session of somebody who proved who they are. A browser in which they never signed in before is told by letter."""
    is_known, now = _knows(workshop, person, device), workshop.clock()
    token = device if is_known else secrets.token_urlsafe(32)
    with changing(workshop):
        if not is_known and people.count_devices(workshop.db, person.id):
            _tell_of_browser(workshop, person, in_words(agent))
        people.add_device(workshop.db, person.id, token_digest(token), now)
        note_everywhere(workshop, person, "signed-in", actor=person)
        if before:
            people.end_session(workshop.db, token_digest(before))
        begun = replace(begin_session(workshop, person), device=token)
        accounts.describe_session(
            workshop.db, token_digest(begun.token), in_words(agent), workshop.origin, now
        )
    return begun


def _knows(workshop: Workshop, person: Person | None, device: str) -> bool:
    return bool(person and device and people.is_device_of(workshop.db, person.id, token_digest(device)))


def _tell_of_browser(workshop: Workshop, person: Person, browser: str) -> None:
    write_to_account(
        workshop, person, "a new browser",
        f"Somebody signed in as you just now, with {browser}{f', from {workshop.origin}' if workshop.origin else ''}.\n\n"
        "If that was you, do nothing. If not, change your password, and end the other sessions in your account.",
    )  # fmt: skip


def write_to_account(workshop: Workshop, person: Person, about: str, words: str, address: str = "") -> bool:
    """A letter about an account, in the name of the first blog that the person works on, or reads; False where there is none."""
    theirs = blogs.of_person(workshop.db, person.id) or [
        blog
        for slug in readers.blogs_read(workshop.db, person.id)[:1]
        if (blog := blogs.by_slug(workshop.db, slug))
    ]
    if not theirs:
        return False
    text = f"Hello {person.name},\n\n{words}\n"
    readers.add_letter(
        workshop.db,
        theirs[0].id,
        address or person.email,
        f"{theirs[0].name}: {about}",
        text,
        workshop.clock(),
        is_private=True,
    )
    return True


def begin_session(workshop: Workshop, person: Person, blog_id: int | None = None) -> Session:
    """A session for all of Mobbet; with a blog, for reading that one alone."""
    token, now = secrets.token_urlsafe(32), workshop.clock()
    with changing(workshop):
        people.begin_session(
            workshop.db,
            token_digest(token),
            person.id,
            now,
            now + workshop.settings.session_days * 86400,
            blog_id,
            IDLE,
        )
    return Session(token, person)


def person_of(workshop: Workshop, token: str | None, blog_id: int | None = None) -> Person | None:
    """Who is signed in with that token, to all of Mobbet or to read one blog; None for nobody."""
    if not token or len(token) > 200:
        return None
    now = workshop.clock()
    found = people.of_session(workshop.db, token_digest(token), now, blog_id, IDLE)
    if found is None:
        return None
    if now - found[1] > NOTED:
        with changing(workshop):
            people.use_session(workshop.db, token_digest(token), now)
    return found[0]


def sign_out(workshop: Workshop, token: str) -> None:
    person = person_of(workshop, token)
    with changing(workshop):
        if person is not None:
            note_everywhere(workshop, person, "signed-out", actor=person)
        people.end_session(workshop.db, token_digest(token))


def change_password(workshop: Workshop, person: Person, old: str, new: str, token: str) -> None:
    """Sets a new password and ends the person's other sessions. With a second factor it may be shorter. Raises BadInput, Refused, TooSoon."""
    key = ("device", f"password {person.id}")
    count_try(workshop, key)
    if not verify_password(person.password_hash, old[: passwords.LONGEST + 1]):
        raise BadInput("The present password is not right; type it again.", "old")
    has_factor = accounts.has_factor(workshop.db, person.id)
    shortest = passwords.SHORTEST_BESIDE_FACTOR if has_factor else passwords.SHORTEST
    chosen = passwords.check(new, is_common, _about(workshop, person), "new", shortest)
    digest = hash_password(chosen)
    forget_tries(workshop, key)
    with changing(workshop):
        people.set_password(workshop.db, person.id, digest)
        accounts.set_short_password(workshop.db, person.id, len(chosen) < passwords.SHORTEST)
        people.end_other_sessions(workshop.db, person.id, token_digest(token))
        note_everywhere(workshop, person, "password-changed", person.name, person)


def set_password(workshop: Workshop, person: Person, password: str) -> None:
    """Sets a password for somebody, at the command line; ends all their sessions. Raises BadInput."""
    digest = hash_password(read_password(password, *_about(workshop, person)))
    with changing(workshop):
        people.set_password(workshop.db, person.id, digest)
        accounts.set_short_password(workshop.db, person.id, False)
        people.end_sessions(workshop.db, person.id)
        note_everywhere(workshop, person, "password-changed", person.name)


def end_sessions(workshop: Workshop, person: Person) -> None:
    """Ends all sessions of somebody, at the command line."""
    with changing(workshop):
        people.end_sessions(workshop.db, person.id)
        note_everywhere(workshop, person, "sessions-ended", person.name)


def suspend(workshop: Workshop, person: Person, is_suspended: bool = True) -> None:
    """Lets somebody sign in no more, and ends their sessions; or lets them in again. What they wrote stays."""
    with changing(workshop):
        people.set_suspended(workshop.db, person.id, workshop.clock() if is_suspended else None)
        people.end_sessions(workshop.db, person.id)
        note_everywhere(workshop, person, "suspended" if is_suspended else "let-in", person.name)


def _about(workshop: Workshop, person: Person) -> tuple[str, ...]:
    """What a person's password must not be made of."""
    return person.name, person.email, *(blog.name for blog in blogs.of_person(workshop.db, person.id))


def hash_word(word: str) -> str:
    """The digest of a word that opens something, which is no password of a person. Raises BadInput for one that is too long."""
    if len(word) > 200:
        raise BadInput(f"The word has {len(word)} letters; 200 is the most.", "word")
    return hash_password(word)


def hash_password(password: str) -> str:
    with hashing():
        return _hasher().hash(passwords.normalised(password))


@contextmanager
def hashing() -> Iterator[None]:
    """For what takes a processor and memory a while on purpose: for AT_ONCE people at a time, with a few more waiting. Raises TooSoon for others."""
    if not _places.acquire(blocking=False):
        raise TooSoon("Too many people sign in just now; try again in a few seconds.", 5)
    try:
        with _hashing:
            yield
    finally:
        _places.release()


@cache
def _hasher() -> PasswordHasher:
    from argon2 import PasswordHasher

    return PasswordHasher(parallelism=1)


@cache
def _unknown() -> str:
    """The digest that a password is compared with where there is no such person."""
    return _hasher().hash(secrets.token_hex(8))


def verify_password(digest: str | None, password: str) -> bool:
    """Takes as long for an unknown person as for a known one."""
    with hashing():
        tried = [_matches(digest or _unknown(), form) for form in passwords.forms(password)]
    return any(tried) and digest is not None


def _matches(digest: str, password: str) -> bool:
    from argon2.exceptions import InvalidHashError, VerificationError

    try:
        return _hasher().verify(digest, password)
    except (VerificationError, InvalidHashError):
        return False
