"""People: accounts, passwords, signing in and out."""

from __future__ import annotations

import hashlib
import json
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
from mobbet.core.emails import LONGEST, read_email
from mobbet.core.errors import BadInput, Refused, TooSoon
from mobbet.core.names import one_line
from mobbet.core.networks import one_client
from mobbet.core.values import existing
from mobbet.core.web_addresses import read_web_address
from mobbet.services.common_passwords import is_common
from mobbet.store import blogs, media, people, stale
from mobbet.store.blogs import Blog
from mobbet.store.people import Person

if TYPE_CHECKING:
    from argon2 import PasswordHasher

IDLE = 14 * 86400
"""In seconds: a session that was not used for so long has ended."""
NOTED = 86400 // 2
"""In seconds: how often it is written down that a session is in use."""
AT_ONCE, WAITING = max(1, min(2, (os.cpu_count() or 1) // 2)), 6
"""How many passwords are hashed at once, each with 64 MB and one processor, and how many more may wait."""
NOT_TOGETHER = "This e-mail address and password do not belong together; check both and try again."

_hashing, _places = threading.Semaphore(AT_ONCE), threading.Semaphore(AT_ONCE + WAITING)


@dataclass(frozen=True)
class Session:
    """A sign-in that has begun: the token for the cookie, whose it is, and the token by which the browser is known the next time ('' where it has one)."""

    token: str
    person: Person
    device: str = ""


THEMES = {"": "as this device has it", "light": "light", "dark": "dark"}
"""How the application's screens can be."""


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
    workshop: Workshop, email: str, password: str, address: str = "", device: str = "", before: str = ""
) -> Session:
    """A new session, which ends the one that the browser had `before`.

    Each try counts before the password is looked at: by account and network, by network, and by account from everywhere. A browser
    in which this person signed in before (`device`) has a pace of its own, so nobody else's tries keep the right person out.
    Raises TooSoon while slowed down, Refused for a wrong address or password.
    """
    email, now = email.strip(), workshop.clock()
    person = people.by_email(workshop.db, email) if len(email) <= LONGEST else None
    is_known = bool(person and device and people.is_device_of(workshop.db, person.id, _digest(device)))
    account = email.lower()[:LONGEST]
    keys = (
        (("device", _digest(device)),)
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
    token = device if is_known else secrets.token_urlsafe(32)
    with changing(workshop):
        people.add_device(workshop.db, person.id, _digest(token), now)
        note_everywhere(workshop, person, "signed-in", actor=person)
        if before:
            people.end_session(workshop.db, _digest(before))
    return replace(begin_session(workshop, person), device=token)


def begin_session(workshop: Workshop, person: Person, blog_id: int | None = None) -> Session:
    """A session for all of Mobbet; with a blog, for reading that one alone."""
    token, now = secrets.token_urlsafe(32), workshop.clock()
    with changing(workshop):
        people.begin_session(
            workshop.db,
            _digest(token),
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
    found = people.of_session(workshop.db, _digest(token), now, blog_id, IDLE)
    if found is None:
        return None
    if now - found[1] > NOTED:
        with changing(workshop):
            people.use_session(workshop.db, _digest(token), now)
    return found[0]


def sign_out(workshop: Workshop, token: str) -> None:
    person = person_of(workshop, token)
    with changing(workshop):
        if person is not None:
            note_everywhere(workshop, person, "signed-out", actor=person)
        people.end_session(workshop.db, _digest(token))


def set_theme(workshop: Workshop, person: Person, theme: str) -> None:
    """Whether the application is light or dark for this person; '' for as their device has it. Raises BadInput."""
    if theme not in THEMES:
        raise BadInput(
            f"“{theme[:40]}” is no way to show the screens; choose light, dark, or as the device has it.",
            "theme",
        )
    with changing(workshop):
        people.set_theme(workshop.db, person.id, theme)


LONGEST_LINE, LONGEST_PROFILE, MOST_LINKS = 160, 2000, 8


def set_profile(
    workshop: Workshop,
    person: Person,
    *,
    name: str,
    line: str,
    text: str,
    links: str,
    pictures: dict[str, int | None],
) -> None:
    """How readers see somebody: the name, a line, a text in paragraphs, web addresses one a line; and the picture on each of their blogs, by slug.
    Raises BadInput."""
    name, line, text = (
        read_name(name, "Your name", "name"),
        one_line(line),
        text.replace("\r\n", "\n").strip(),
    )
    if len(line) > LONGEST_LINE:
        raise BadInput(f"The line about you has {len(line)} letters; {LONGEST_LINE} is the most.", "line")
    if len(text) > LONGEST_PROFILE:
        raise BadInput(
            f"The text about you has {len(text):,} letters; {LONGEST_PROFILE:,} is the most.", "text"
        )
    found = [_read_link(one) for one in links.split()]
    if len(found) > MOST_LINKS:
        raise BadInput(f"These are {len(found)} addresses; {MOST_LINKS} is the most.", "links")
    with changing(workshop, person, f"the profile of {person.name} changed"):
        people.set_profile(workshop.db, person.id, name, line, text, json.dumps(found))
        for blog in blogs.of_person(workshop.db, person.id):
            if blog.slug in pictures:
                _set_picture(workshop, blog, person, pictures[blog.slug])
            stale.mark_fact(workshop.db, blog.id, "author", person.id)
        stale.mark_posts_of(workshop.db, person.id, workshop.clock())


def _read_link(text: str) -> str:
    try:
        return read_web_address(text)
    except BadInput as error:
        raise BadInput(str(error), "links") from None


def _set_picture(workshop: Workshop, blog: Blog, person: Person, item: int | None) -> None:
    row = media.on_blog(workshop.db, blog.id, item) if item is not None else None
    if item is not None and (row is None or row.kind != "picture" or row.aside_at):
        raise BadInput(f"That is no picture of the library of “{blog.name}”; choose another one.", "picture")
    for one in {people.picture(workshop.db, blog.id, person.id), item} - {None}:
        stale.mark_fact(workshop.db, blog.id, "media", one or 0)
    people.set_picture(workshop.db, blog.id, person.id, item)


def set_web_address(workshop: Workshop, person: Person, text: str) -> None:
    """Where a person stands on the web, which search engines are told with each of their posts; '' for nowhere. Raises BadInput."""
    address = read_web_address(text)
    with changing(workshop, person, f"the web address of {person.name} changed"):
        people.set_web_address(workshop.db, person.id, address)
        stale.mark_posts_of(workshop.db, person.id, workshop.clock())


def change_password(workshop: Workshop, person: Person, old: str, new: str, token: str) -> None:
    """Sets a new password and ends the person's other sessions. Raises BadInput, Refused, TooSoon."""
    key = ("device", f"password {person.id}")
    count_try(workshop, key)
    if not verify_password(person.password_hash, old[: passwords.LONGEST + 1]):
        raise BadInput("The present password is not right; type it again.", "old")
    digest = hash_password(read_password(new, *_about(workshop, person), field="new"))
    forget_tries(workshop, key)
    with changing(workshop):
        people.set_password(workshop.db, person.id, digest)
        people.end_other_sessions(workshop.db, person.id, _digest(token))
        note_everywhere(workshop, person, "password-changed", person.name, person)


def set_password(workshop: Workshop, person: Person, password: str) -> None:
    """Sets a password for somebody, at the command line; ends all their sessions. Raises BadInput."""
    digest = hash_password(read_password(password, *_about(workshop, person)))
    with changing(workshop):
        people.set_password(workshop.db, person.id, digest)
        people.end_sessions(workshop.db, person.id)
        note_everywhere(workshop, person, "password-changed", person.name)


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


def _digest(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()
