"""The 100,000 most common passwords, shipped with Mobbet; a look-up takes no network."""

from __future__ import annotations

from functools import lru_cache
from pathlib import Path

LIST = Path(__file__).parent / "common_passwords.txt.br"
"""Brotli of lines in small letters, in order."""


@lru_cache(maxsize=1)
def _lines() -> str:
    import brotli

    return "\n" + brotli.decompress(LIST.read_bytes()).decode()


def is_common(password: str) -> bool:
    """Whether a password, in small letters, is on the list."""
    return bool(password) and "\n" not in password and f"\n{password}\n" in _lines()
