"""Tokens of cookies and links, as they are kept."""

from __future__ import annotations

import hashlib


def token_digest(token: str) -> str:
    """The SHA-256 of a token in hexadecimal, so that whoever reads the database has none of them."""
    return hashlib.sha256(token.encode()).hexdigest()
