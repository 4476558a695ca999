"""A second factor: one-time codes (RFC 6238), passkeys (Web Authentication, level 2) and recovery codes."""

from __future__ import annotations

import hashlib
import secrets
from dataclasses import dataclass
from typing import Any

from mobbet.actions.pacing import count_try, forget_tries
from mobbet.actions.recording import note_everywhere
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput, NotFound, Refused
from mobbet.core.names import one_line
from mobbet.core.tokens import token_digest
from mobbet.core.values import existing
from mobbet.services.vault import Vault
from mobbet.store import accounts, people
from mobbet.store.people import Person

ISSUER = "Mobbet"
STEP, WINDOW = 30, 1
"""In seconds: how long a code is good; and how many steps before and after the present one are taken, for clocks that differ."""
CODES, CODE_LETTERS = 10, "abcdefghjkmnpqrstuvwxyz23456789"
MOST_PASSKEYS, LONGEST_LABEL = 20, 60
PASSKEY_SECONDS = 5 * 60
WRONG_CODE = "This code is not right, or it was used already; wait for the next one and type that."
WRONG_KEY = "This passkey could not be checked; try again, or use a code."


@dataclass(frozen=True)
class Factors:
    """What somebody has beside the password."""

    has_codes: bool
    passkeys: list[accounts.Passkey]
    recovery_left: int

    @property
    def is_any(self) -> bool:
        return self.has_codes or bool(self.passkeys)


def factors_of(workshop: Workshop, person: Person) -> Factors:
    """One's own factors."""
    now = existing(people.by_id(workshop.db, person.id))
    return Factors(
        bool(now.code_secret),
        accounts.passkeys(workshop.db, person.id),
        accounts.count_recovery_codes(workshop.db, person.id),
    )


def new_secret() -> str:
    """A secret for one-time codes, in base32, as programs for them take it."""
    import pyotp

    return pyotp.random_base32()


def secret_address(person: Person, secret: str) -> str:
    """The `otpauth:` address of a secret, which a QR code carries."""
    import pyotp

    return pyotp.TOTP(secret).provisioning_uri(name=person.email, issuer_name=ISSUER)


def turn_codes_on(workshop: Workshop, person: Person, secret: str, code: str) -> list[str]:
    """Keeps the secret once a code of it was typed; answers with recovery codes, shown once. Raises BadInput."""
    if not (16 <= len(secret) <= 64 and secret.isalnum() and secret.isascii()):
        raise BadInput("The secret is not as it was; begin again.", "code")
    count_try(workshop, ("factor", str(person.id)))
    step = _step_of(secret, code, workshop.clock())
    if step is None:
        raise BadInput(WRONG_CODE, "code")
    forget_tries(workshop, ("factor", str(person.id)))
    with changing(workshop, person):
        accounts.set_code_secret(workshop.db, person.id, _vault(workshop).seal(secret, _about(person)))
        accounts.use_step(workshop.db, person.id, step)
        note_everywhere(workshop, person, "factor-on", "one-time codes", person)
        return _recovery_if_first(workshop, person)


def _recovery_if_first(workshop: Workshop, person: Person) -> list[str]:
    return [] if accounts.count_recovery_codes(workshop.db, person.id) else renew_recovery(workshop, person)


def renew_recovery(workshop: Workshop, person: Person) -> list[str]:
    """Other recovery codes, shown once; those before are good no more."""
    codes = [
        "-".join("".join(secrets.choice(CODE_LETTERS) for _ in range(5)) for _ in range(3))
        for _ in range(CODES)
    ]
    with changing(workshop, person):
        accounts.set_recovery_codes(workshop.db, person.id, [_recovery_hash(person, one) for one in codes])
    return codes


def _recovery_hash(person: Person, code: str) -> str:
    plain = "".join(letter for letter in code.lower() if letter.isalnum())
    return hashlib.sha256(f"{person.id} {plain}".encode()).hexdigest()


def turn_off(workshop: Workshop, person: Person, by: Person | None) -> None:
    """Takes all factors away. Raises Refused while the password is too short to stand alone, but at the command line."""
    if by is not None and existing(people.by_id(workshop.db, person.id)).has_short_password:
        raise Refused(
            "Your password has fewer than 15 characters, which is enough only beside a second factor; choose a longer one first."
        )
    with changing(workshop, by):
        accounts.remove_factors(workshop.db, person.id)
        note_everywhere(workshop, person, "factor-off", person.name, by)


def is_right_code(workshop: Workshop, person: Person, code: str, device: str = "") -> bool:
    """Whether a one-time code, or a recovery code, is right; each is taken once. Counts as a try, and apart for a browser (`device`) in which this
    person signed in before, so that nobody else's tries keep them out. Raises TooSoon."""
    is_known = bool(device) and people.is_device_of(workshop.db, person.id, token_digest(device))
    key = ("device", f"factor {token_digest(device)}") if is_known else ("factor", str(person.id))
    count_try(workshop, key)
    typed = "".join(code.split())[:40]
    now = existing(people.by_id(workshop.db, person.id))
    with changing(workshop):
        if now.code_secret and typed.isascii() and typed.isdecimal():
            secret = _vault(workshop).open(now.code_secret, _about(person))
            step = _step_of(secret, typed, workshop.clock())
            is_right = step is not None and accounts.use_step(workshop.db, person.id, step)
        else:
            is_right = accounts.use_recovery_code(workshop.db, person.id, _recovery_hash(person, typed))
    if is_right:
        forget_tries(workshop, key)
    return is_right


def _step_of(secret: str, code: str, now: int) -> int | None:
    """The time step of which a code is, among those that are taken; None for none."""
    import pyotp
    from pyotp.utils import strings_equal

    typed, codes = "".join(code.split()), pyotp.TOTP(secret)
    for step in range(now // STEP - WINDOW, now // STEP + WINDOW + 1):
        if strings_equal(codes.generate_otp(step), typed):
            return step
    return None


def _vault(workshop: Workshop) -> Vault:
    return Vault(workshop.settings.sealing_key)


def _about(person: Person) -> str:
    return f"codes of person {person.id}"


@dataclass(frozen=True)
class Place:
    """Where a passkey is for: the host name (`rp id`) and the origin of the page."""

    host: str
    origin: str


def begin_passkey(workshop: Workshop, person: Person, place: Place, token: str) -> str:
    """What the browser is asked for to make a passkey, as JSON (PublicKeyCredentialCreationOptions); `token` is known by the browser's cookie."""
    from webauthn import generate_registration_options, options_to_json
    from webauthn.helpers import base64url_to_bytes, bytes_to_base64url
    from webauthn.helpers.structs import (
        AuthenticatorSelectionCriteria,
        PublicKeyCredentialDescriptor,
        ResidentKeyRequirement,
        UserVerificationRequirement,
    )

    known = accounts.passkeys(workshop.db, person.id)
    if len(known) >= MOST_PASSKEYS:
        raise Refused(f"You have {MOST_PASSKEYS} passkeys, which is the most; remove one first.")
    options = generate_registration_options(
        rp_id=place.host, rp_name=ISSUER, user_id=str(person.id).encode(), user_name=person.email, user_display_name=person.name,
        authenticator_selection=AuthenticatorSelectionCriteria(
            resident_key=ResidentKeyRequirement.PREFERRED, user_verification=UserVerificationRequirement.REQUIRED
        ),
        exclude_credentials=[PublicKeyCredentialDescriptor(id=base64url_to_bytes(one.credential)) for one in known],
    )  # fmt: skip
    _remember(workshop, token, "new-passkey", person.id, bytes_to_base64url(options.challenge))
    return options_to_json(options)


def add_passkey(
    workshop: Workshop, person: Person, place: Place, token: str, answer: dict[str, Any], label: str
) -> list[str]:
    """Keeps a passkey that a browser made; answers with recovery codes where there were none. Raises BadInput, Refused."""
    from webauthn import verify_registration_response
    from webauthn.helpers import base64url_to_bytes, bytes_to_base64url
    from webauthn.helpers.exceptions import WebAuthnException

    asked = _taken(workshop, token, "new-passkey")
    if asked.person_id != person.id:
        raise Refused(WRONG_KEY)
    try:
        made = verify_registration_response(
            credential=answer, expected_challenge=base64url_to_bytes(asked.challenge), expected_rp_id=place.host, expected_origin=place.origin,
            require_user_verification=True,
        )  # fmt: skip
    except (WebAuthnException, ValueError, KeyError, TypeError):
        raise BadInput(WRONG_KEY, "passkey") from None
    credential = bytes_to_base64url(made.credential_id)
    with changing(workshop, person):
        if accounts.passkey(workshop.db, credential) is not None:
            raise Refused("This passkey is known here already.")
        accounts.add_passkey(
            workshop.db, person.id, credential, bytes_to_base64url(made.credential_public_key), made.sign_count, one_line(label)[:LONGEST_LABEL] or "a passkey",
            workshop.clock(),
        )  # fmt: skip
        note_everywhere(workshop, person, "factor-on", "a passkey", person)
        return _recovery_if_first(workshop, person)


def remove_passkey(workshop: Workshop, person: Person, number: int) -> None:
    """Removes one of one's passkeys. Raises NotFound, and Refused where the password is too short to stand alone."""
    found = factors_of(workshop, person)
    if (
        not found.has_codes
        and len(found.passkeys) == 1
        and existing(people.by_id(workshop.db, person.id)).has_short_password
    ):
        raise Refused(
            "Your password has fewer than 15 characters, which is enough only beside a second factor; choose a longer one first."
        )
    with changing(workshop, person):
        if not accounts.remove_passkey(workshop.db, person.id, number):
            raise NotFound("This passkey is no more; reload the page.")
        note_everywhere(workshop, person, "factor-off", person.name, person)


def ask_for_passkey(workshop: Workshop, place: Place, token: str, person: Person | None) -> str:
    """What the browser is asked for to sign in with a passkey, as JSON (PublicKeyCredentialRequestOptions); of one person, or of whoever has one."""
    from webauthn import generate_authentication_options, options_to_json
    from webauthn.helpers import base64url_to_bytes, bytes_to_base64url
    from webauthn.helpers.structs import PublicKeyCredentialDescriptor, UserVerificationRequirement

    known = accounts.passkeys(workshop.db, person.id) if person else []
    options = generate_authentication_options(
        rp_id=place.host, user_verification=UserVerificationRequirement.REQUIRED,
        allow_credentials=[PublicKeyCredentialDescriptor(id=base64url_to_bytes(one.credential)) for one in known],
    )  # fmt: skip
    _remember(
        workshop, token, "passkey", person.id if person else None, bytes_to_base64url(options.challenge)
    )
    return options_to_json(options)


def person_of_passkey(workshop: Workshop, place: Place, token: str, answer: dict[str, Any]) -> Person:
    """Who answered with a passkey. Raises Refused where it is nobody's, or does not fit."""
    from webauthn import verify_authentication_response
    from webauthn.helpers import base64url_to_bytes
    from webauthn.helpers.exceptions import WebAuthnException

    asked = _taken(workshop, token, "passkey")
    known = accounts.passkey(workshop.db, str(answer.get("id", ""))[:2000])
    person = people.by_id(workshop.db, known.person_id) if known else None
    if known is None or person is None or person.suspended_at or asked.person_id not in (None, person.id):
        raise Refused(WRONG_KEY)
    try:
        found = verify_authentication_response(
            credential=answer, expected_challenge=base64url_to_bytes(asked.challenge), expected_rp_id=place.host, expected_origin=place.origin,
            credential_public_key=base64url_to_bytes(known.public_key), credential_current_sign_count=known.signatures, require_user_verification=True,
        )  # fmt: skip
    except (WebAuthnException, ValueError, KeyError, TypeError):
        raise Refused(WRONG_KEY) from None
    with changing(workshop):
        accounts.use_passkey(workshop.db, known.id, found.new_sign_count, workshop.clock())
    return person


def _remember(workshop: Workshop, token: str, what: str, person_id: int | None, challenge: str) -> None:
    now = workshop.clock()
    with changing(workshop):
        accounts.ask_browser(
            workshop.db,
            token_digest(f"{what} {token}"),
            what,
            person_id,
            challenge,
            now,
            now + PASSKEY_SECONDS,
        )


def _taken(workshop: Workshop, token: str, what: str) -> accounts.AskedOf:
    """What the browser was asked for; each question is answered once. Raises Refused."""
    digest = token_digest(f"{what} {token}")
    with changing(workshop):
        asked = accounts.asked_of(workshop.db, digest, what, workshop.clock())
        accounts.forget_asked(workshop.db, digest)
    if asked is None:
        raise Refused("This took too long; try again.")
    return asked
