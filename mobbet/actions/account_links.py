"""What goes by a link of a letter: another password, and an e-mail address that is confirmed before it counts."""

from __future__ import annotations

import secrets
import time
from collections.abc import Iterator
from contextlib import contextmanager

from mobbet.actions import people as people_actions
from mobbet.actions.pacing import count_try, network
from mobbet.actions.people import read_password, write_to_account
from mobbet.actions.recording import note_everywhere
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.emails import read_email
from mobbet.core.errors import BadInput, Refused
from mobbet.core.tokens import token_digest
from mobbet.core.values import existing
from mobbet.store import accounts, people
from mobbet.store.people import Person

GOOD_FOR = 30 * 60
ADDRESS_GOOD_FOR = 86400
LEAST_SECONDS = 0.3
"""How long an answer takes at least that is not to tell whether an address is known."""
OVER = "This link was used already, or is too old; ask for another one."
PASSWORD, ADDRESS = "password", "address"


@contextmanager
def _as_long_as_any() -> Iterator[None]:
    """Takes the same time whatever is done within it, as far as that is done sooner."""
    until = time.monotonic() + LEAST_SECONDS
    try:
        yield
    finally:
        time.sleep(max(0.0, until - time.monotonic()))


def ask_for_password(workshop: Workshop, email: str, server: str) -> None:
    """Writes to somebody with a link by which they choose another password; the same for an address that nobody has. Raises BadInput, TooSoon."""
    email = read_email(email)
    with _as_long_as_any():
        count_try(workshop, ("letter", f"password {email.lower()}"), network(workshop.origin))
        person = people.by_email(workshop.db, email)
        if person is None or person.password_hash is None or person.suspended_at:
            return
        token, now = secrets.token_urlsafe(32), workshop.clock()
        with changing(workshop):
            accounts.add_link(workshop.db, token_digest(token), PASSWORD, person.id, "", now, now + GOOD_FOR)
            write_to_account(
                workshop, person, "another password",
                f"Open this link to choose another password:\n{server.rstrip('/')}/password/{token}\n\nIt works once, for {GOOD_FOR // 60} minutes. If you did not ask for it, do nothing.",
            )  # fmt: skip
    workshop.on_change()


def is_good(workshop: Workshop, token: str, what: str) -> bool:
    """Whether a link of a letter is good still. Counts guesses. Raises TooSoon."""
    found = (
        accounts.link(workshop.db, token_digest(token), what, workshop.clock()) if len(token) < 200 else None
    )
    if found is None:
        count_try(workshop, network(workshop.origin))
    return found is not None


def _person_of(workshop: Workshop, token: str, what: str) -> tuple[Person, str]:
    if not is_good(workshop, token, what):
        raise Refused(OVER)
    number, address = existing(accounts.link(workshop.db, token_digest(token), what, workshop.clock()))
    return existing(people.by_id(workshop.db, number)), address


def choose_password(workshop: Workshop, token: str, password: str) -> None:
    """Sets the password of whoever a link was sent to, once, and ends all their sessions. A second factor is asked for as before. Raises BadInput, Refused."""
    person, _ = _person_of(workshop, token, PASSWORD)
    digest = people_actions.hash_password(read_password(password, person.name, person.email))
    with changing(workshop):
        if person.suspended_at or not accounts.forget_link(workshop.db, token_digest(token)):
            raise Refused(OVER)
        people.set_password(workshop.db, person.id, digest)
        accounts.set_short_password(workshop.db, person.id, False)
        people.end_sessions(workshop.db, person.id)
        note_everywhere(workshop, person, "password-changed", person.name, person)
        write_to_account(
            workshop,
            person,
            "your password is changed",
            "Your password was changed by a link that was sent to this address. All sessions are ended.",
        )
    workshop.on_change()


def ask_for_address(workshop: Workshop, person: Person, email: str, server: str) -> None:
    """Writes to a new address with a link that confirms it; until then the old one counts. Raises BadInput, TooSoon."""
    email = read_email(email, "new_email")
    if email.lower() == person.email.lower():
        raise BadInput("That is your address already; type another one.", "new_email")
    count_try(workshop, ("letter", f"address {person.id}"))
    token, now = secrets.token_urlsafe(32), workshop.clock()
    with changing(workshop, person):
        accounts.add_link(
            workshop.db, token_digest(token), ADDRESS, person.id, email, now, now + ADDRESS_GOOD_FOR
        )
        words = f"Open this link to have {email} as the address of your account:\n{server.rstrip('/')}/address/{token}\n\nIt works once, for a day. If you did not ask for it, do nothing."
        if not write_to_account(workshop, person, "is this your address?", words, email):
            raise Refused("You work on no blog and read none, so no letter can be written in its name.")
    workshop.on_change()


def confirm_address(workshop: Workshop, token: str) -> str:
    """Makes the address count that a link was sent to; tells the old one. Raises Refused."""
    person, email = _person_of(workshop, token, ADDRESS)
    with changing(workshop, person):
        if people.by_email(workshop.db, email) is not None or not accounts.forget_link(
            workshop.db, token_digest(token)
        ):
            raise Refused(OVER)
        write_to_account(
            workshop,
            person,
            "another address",
            f"Your account has the address {email} from now on. If you did not change it, write to the owner of the blog.",
        )
        accounts.set_address(workshop.db, person.id, email)
        note_everywhere(workshop, person, "address-changed", actor=person)
    workshop.on_change()
    return email
