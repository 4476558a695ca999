"""Posts behind a password: the key made of a password, proof of having typed it, and pages that only it opens.

The key is PBKDF2-HMAC-SHA-256 (RFC 8018) of the password and the blog's salt; a sealed page is AES-256-GCM
(NIST SP 800-38D) of its bytes. Both are what browsers have as WebCrypto, so a static host can serve them.
"""

from __future__ import annotations

import hashlib
import hmac
import unicodedata
from functools import lru_cache

from mobbet.core.errors import BadInput
from mobbet.core.passwords import SHORTEST_FOR_POST

ROUNDS = 600_000
"""How often PBKDF2 goes round; it takes about as long as a blink."""
SHORTEST, LONGEST = SHORTEST_FOR_POST, 200
NONCE_BYTES = 12


def read_post_password(text: str) -> str:
    """A password for a post, in the one form of its white space. Raises BadInput."""
    password = normalised(text)
    if len(password) < SHORTEST:
        raise BadInput(
            f"The password has {len(password)} letters; give it at least {SHORTEST}, or let Mobbet make one.",
            "password",
        )
    if len(password) > LONGEST:
        raise BadInput(f"The password has {len(password)} letters; {LONGEST} is the most.", "password")
    return password


def normalised(password: str) -> str:
    """The one form of a password, however a keyboard composes its letters (NFKC, as NIST SP 800-63B-4 advises)."""
    return " ".join(unicodedata.normalize("NFKC", password).split())


def key_of(password: str, salt: str) -> str:
    """The key of a password as 64 hexadecimal digits; `salt` is hexadecimal too."""
    return _key(normalised(password), salt)


def keys_of(password: str, salt: str) -> tuple[str, ...]:
    """The keys that a password may open: of its one form, and as it is typed, which is what older keys were made of."""
    typed = " ".join(password.split())
    return tuple(_key(form, salt) for form in dict.fromkeys((normalised(password), typed)))


@lru_cache(maxsize=256)
def _key(password: str, salt: str) -> str:
    return hashlib.pbkdf2_hmac("sha256", password.encode(), bytes.fromhex(salt), ROUNDS, 32).hex()


def proof_of(key: str) -> str:
    """What the browser of somebody who typed the password keeps: it follows from the key and does not give it away."""
    return hmac.new(bytes.fromhex(key), b"mobbet: may read", hashlib.sha256).hexdigest()[:40]


def seal(key: str, body: bytes) -> bytes:
    """A page that only the key opens: the nonce, then the ciphertext with its tag.

    The nonce is a keyed hash of the page, so the same page is sealed to the same bytes, and no two pages share one.
    """
    from cryptography.hazmat.primitives.ciphers.aead import AESGCM

    nonce = hmac.new(bytes.fromhex(key), b"nonce" + body, hashlib.sha256).digest()[:NONCE_BYTES]
    return nonce + AESGCM(bytes.fromhex(key)).encrypt(nonce, body, None)


def unseal(key: str, sealed: bytes) -> bytes:
    """The page again. Raises cryptography's InvalidTag for another key or altered bytes."""
    from cryptography.hazmat.primitives.ciphers.aead import AESGCM

    return AESGCM(bytes.fromhex(key)).decrypt(sealed[:NONCE_BYTES], sealed[NONCE_BYTES:], None)
