"""Encrypts notices for devices (RFC 8291) and says who sends them (VAPID, RFC 8292). How they are sent is `OtherPages`' matter."""

from __future__ import annotations

import http_ece
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.hazmat.primitives.serialization import Encoding, PublicFormat
from py_vapid import Vapid02

from mobbet.core.pushes import Device, decoded, encoded
from mobbet.core.web_addresses import split_address

GOOD_FOR = 12 * 3600
"""How long the word of who sends is good, in seconds; a day is the most that push services take."""
KEPT_FOR = 24 * 3600
"""How long a push service keeps a notice for a device that is off, in seconds."""


def new_key() -> tuple[str, str]:
    """(private key as PEM, public key as base64url) of a server."""
    key = Vapid02()
    key.generate_keys()
    point = key.public_key.public_bytes(Encoding.X962, PublicFormat.UncompressedPoint)
    return key.private_pem().decode(), encoded(point)


def encrypted(payload: bytes, device: Device) -> bytes:
    """The payload so that the device alone can read it."""
    body: bytes = http_ece.encrypt(
        payload,
        private_key=ec.generate_private_key(ec.SECP256R1()),
        dh=decoded(device.public_key),
        auth_secret=decoded(device.secret),
        version="aes128gcm",
    )
    return body


def headers_of(private_key: str, endpoint: str, subject: str, now: int) -> dict[str, str]:
    """The headers of a notice: who sends it, how it is encrypted, and how long it is kept."""
    parts = split_address(endpoint)
    claims = {"sub": subject, "aud": f"{parts.scheme}://{parts.netloc}", "exp": now + GOOD_FOR}
    signed: dict[str, str] = Vapid02.from_pem(private_key.encode()).sign(claims)
    return {
        **signed,
        "Content-Encoding": "aes128gcm",
        "Content-Type": "application/octet-stream",
        "TTL": str(KEPT_FOR),
    }
