"""What devices are told of, and how a device is named (W3C Push API; RFC 8291)."""

from __future__ import annotations

import base64
import binascii
from dataclasses import dataclass

from mobbet.core.errors import BadInput
from mobbet.core.web_addresses import split_address

WORD, COMMENT, FAILED = "word", "comment", "failed"
KINDS = {
    WORD: "somebody asks for my word",
    COMMENT: "a comment waits",
    FAILED: "something went wrong in going out",
}
"""{kind of notice: its words}."""
POINT, SECRET = 65, 16
"""The bytes of a device's public key (an uncompressed point of P-256) and of its secret."""
LONGEST = 2000
_BAD = (
    "The browser named its push service in a way that is not known here; try again, or with another browser."
)


@dataclass(frozen=True)
class Device:
    """Where notices to a device are sent, and with what they are encrypted for it, as base64url."""

    endpoint: str
    public_key: str
    secret: str


def read_device(endpoint: object, public_key: object, secret: object) -> Device:
    """A device as its browser names it. Raises BadInput."""
    if not (isinstance(endpoint, str) and isinstance(public_key, str) and isinstance(secret, str)):
        raise BadInput(_BAD, "endpoint")
    parts = split_address(endpoint)
    is_fine = parts.scheme == "https" and parts.hostname and len(endpoint) <= LONGEST and not parts.username
    if not is_fine or len(decoded(public_key)) != POINT or len(decoded(secret)) != SECRET:
        raise BadInput(_BAD, "endpoint")
    return Device(endpoint, public_key, secret)


def read_kinds(chosen: list[str]) -> tuple[str, ...]:
    """The kinds of notices among what was chosen, in order. Raises BadInput for one that does not exist."""
    for one in chosen:
        if one not in KINDS:
            raise BadInput(f"“{one}” is nothing that a device is told of; choose from the list.", "kinds")
    return tuple(kind for kind in KINDS if kind in chosen)


def decoded(text: str) -> bytes:
    """The bytes of base64url without its filling (RFC 7515, 2). Raises BadInput."""
    try:
        return base64.urlsafe_b64decode(text + "=" * (-len(text) % 4))
    except (binascii.Error, ValueError):
        raise BadInput(_BAD, "endpoint") from None


def encoded(data: bytes) -> str:
    return base64.urlsafe_b64encode(data).rstrip(b"=").decode()
