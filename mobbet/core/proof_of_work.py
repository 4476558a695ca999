"""A little work that a reader's browser does before it sends a comment, so that sending very many costs a robot time.

The browser finds a nonce with which SHA-256 of the form's sign, the text and the nonce begins with so many zero bits (as Hashcash does, Back 2002).
"""

from __future__ import annotations

from hashlib import sha256

BITS = 14
"""About 16,000 tries, a fraction of a second."""
LONGEST_NONCE = 20


def is_done(sign: str, text: str, nonce: str) -> bool:
    """Whether the work was done for this form and this text."""
    if not (nonce.isascii() and nonce.isdecimal() and len(nonce) <= LONGEST_NONCE):
        return False
    digest = sha256(f"{sign}.{text}.{nonce}".encode()).digest()
    return int.from_bytes(digest[:4], "big") >> (32 - BITS) == 0
