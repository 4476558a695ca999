"""Wraps what a backup writes, so that a byte that was changed is noticed: with a hash, or encrypted with AES-256-GCM (NIST SP 800-38D)."""

from __future__ import annotations

import hmac
import os
from hashlib import sha256
from typing import Protocol

from cryptography.exceptions import InvalidTag
from cryptography.hazmat.primitives.ciphers.aead import AESGCM

from mobbet.core.errors import Broken

NONCE_BYTES = 12
HASH_BYTES = 32


class Sealing(Protocol):
    """How the objects of a place are named and wrapped. `fingerprint` says which key it is, without telling the key; '' for none."""

    fingerprint: str

    def name(self, digest: str) -> str:
        """The name of the object with that content hash."""
        ...

    def seal(self, name: str, body: bytes) -> bytes: ...

    def open(self, name: str, sealed: bytes) -> bytes:
        """What was sealed under that name. Raises Broken where a byte is another one."""
        ...


class Plain:
    """Readable by everyone; a hash stands before each body."""

    fingerprint = ""

    def name(self, digest: str) -> str:
        return digest

    def seal(self, name: str, body: bytes) -> bytes:
        return sha256(name.encode() + body).digest() + body

    def open(self, name: str, sealed: bytes) -> bytes:
        body = sealed[HASH_BYTES:]
        if sha256(name.encode() + body).digest() != sealed[:HASH_BYTES]:
            raise Broken(f"{name} in the backup is damaged; restore another copy.")
        return body


class Encrypted:
    """Readable with the key alone; names tell nothing of the content."""

    def __init__(self, key: bytes) -> None:
        self._naming = hmac.digest(key, b"names", "sha256")
        self._cipher = AESGCM(hmac.digest(key, b"bodies", "sha256"))
        self.fingerprint = hmac.digest(key, b"fingerprint", "sha256").hex()[:16]

    def name(self, digest: str) -> str:
        return hmac.digest(self._naming, digest.encode(), "sha256").hex()

    def seal(self, name: str, body: bytes) -> bytes:
        nonce = os.urandom(NONCE_BYTES)
        return nonce + self._cipher.encrypt(nonce, body, name.encode())

    def open(self, name: str, sealed: bytes) -> bytes:
        try:
            return self._cipher.decrypt(sealed[:NONCE_BYTES], sealed[NONCE_BYTES:], name.encode())
        except (InvalidTag, ValueError):
            raise Broken(f"{name} in the backup is damaged, or the key is another one.") from None
