"""Encrypts credentials in the database: AES-256-GCM (NIST SP 800-38D) with a key in a separate file."""

from __future__ import annotations

import base64
import hmac
import os
from hashlib import sha256
from pathlib import Path

from cryptography.exceptions import InvalidTag
from cryptography.hazmat.primitives.ciphers.aead import AESGCM

from mobbet.core.errors import Broken

KEY_BYTES, NONCE_BYTES = 32, 12


class Vault:
    """Seals with the key of a file, which is made when something is sealed for the first time."""

    def __init__(self, file: Path) -> None:
        self._file = file

    def seal(self, text: str, about: str) -> str:
        """The text sealed, as base64; it opens only with the same `about`."""
        nonce = os.urandom(NONCE_BYTES)
        return base64.b64encode(
            nonce + AESGCM(self._key(is_made=True)).encrypt(nonce, text.encode(), about.encode())
        ).decode()

    def open(self, sealed: str, about: str) -> str:
        """What was sealed. Raises Broken where the key is another one, or missing."""
        data = base64.b64decode(sealed)
        try:
            return (
                AESGCM(self._key()).decrypt(data[:NONCE_BYTES], data[NONCE_BYTES:], about.encode()).decode()
            )
        except (InvalidTag, ValueError):
            raise Broken(
                f"The credentials cannot be opened with the key in {self._file}; type them again."
            ) from None

    def mac(self, text: str) -> str:
        """A keyed digest of a text (HMAC with SHA-256, RFC 2104), which says nothing of it to whoever has not the key."""
        return hmac.new(self._key(is_made=True), text.encode(errors="replace"), sha256).hexdigest()

    def _key(self, is_made: bool = False) -> bytes:
        try:
            return self._file.read_bytes()
        except FileNotFoundError:
            if not is_made:
                raise Broken(
                    f"The key file {self._file} is missing; restore it, or type the credentials again."
                ) from None
        try:
            descriptor = os.open(self._file, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
        except FileExistsError:
            return self._file.read_bytes()
        except OSError as error:
            raise Broken(
                f"The key file {self._file} cannot be written ({error.strerror}); name another one with MOBBET_KEY_FILE."
            ) from None
        key = os.urandom(KEY_BYTES)
        with os.fdopen(descriptor, "wb") as out:
            out.write(key)
            out.flush()
            os.fsync(out.fileno())
        return key
