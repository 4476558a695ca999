"""Page contexts of signing in, of what proves who somebody is, and of their sessions."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import ClassVar

from mobbet.web.shell.contexts import Bar


@dataclass(frozen=True)
class FactorPage:
    """Where a code, or a passkey, is asked for after the password."""

    TEMPLATE: ClassVar = "factor.html"
    token: str
    then: str
    has_codes: bool
    has_passkeys: bool
    problem: str = ""


@dataclass(frozen=True)
class ForgottenPage:
    TEMPLATE: ClassVar = "forgotten.html"
    email: str = ""
    is_sent: bool = False
    problem: str = ""


@dataclass(frozen=True)
class LinkPage:
    """Where a link of a letter leads: to another password, or to the confirmation of an address."""

    TEMPLATE: ClassVar = "account_link.html"
    what: str
    action: str
    problem: str = ""
    told: str = ""


@dataclass(frozen=True)
class AgainPage:
    """Where somebody proves once more who they are; `fields` are those of the form that waits, and is sent on."""

    TEMPLATE: ClassVar = "again.html"
    bar: Bar
    to_path: str
    fields: list[tuple[str, str]]
    has_codes: bool
    problem: str = ""


@dataclass(frozen=True)
class SessionLine:
    """One session: what ends it, which browser it is of, since when and from where, and whether it is this one."""

    key: str
    browser: str
    used: str
    begun: str
    origin: str
    is_this: bool


@dataclass(frozen=True)
class PasskeyLine:
    number: int
    label: str
    added: str
    used: str


@dataclass(frozen=True)
class SigningInPage:
    TEMPLATE: ClassVar = "signing_in.html"
    bar: Bar
    has_codes: bool
    passkeys: list[PasskeyLine]
    recovery_left: int
    sessions: list[SessionLine]
    secret: str = ""
    """A new secret for one-time codes that waits for its first code, and its QR code as SVG."""
    drawn: str = ""
    codes: list[str] = field(default_factory=list)
    """Recovery codes, shown once."""
    problem: str = ""
    problem_field: str = ""
    told: str = ""
