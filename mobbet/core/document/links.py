"""Which addresses a link or a picture may have."""

from __future__ import annotations

import re

SCHEMES = frozenset({"http", "https", "mailto", "tel"})
LONGEST = 2048
_CONTROL = re.compile(r"[\x00-\x20\x7f-\x9f\u200b-\u200f\u2028\u2029\ufeff]")
_SCHEME = re.compile(r"^([a-zA-Z][a-zA-Z0-9+.-]*):")


def clean_address(address: object) -> str | None:
    """The address without control characters, or None when it is empty, too long or of a foreign scheme.

    Browsers drop tabs and line breaks inside a scheme, so they are dropped before it is judged.
    Addresses without a scheme (a path, `#heading`, `example.example/page`) are kept as they are.
    """
    if not isinstance(address, str):
        return None
    cleaned = _CONTROL.sub("", address)
    if not cleaned or len(cleaned) > LONGEST:
        return None
    scheme = _SCHEME.match(cleaned)
    if scheme and scheme.group(1).lower() not in SCHEMES:
        return None
    return cleaned


def clean_picture(address: object) -> str | None:
    """The `src` of a picture: `media:<number>` for one of the library's, or a clean address."""
    if isinstance(address, str) and re.fullmatch(r"media:\d{1,12}", address):
        return address
    return clean_address(address)


def media_number(src: str) -> int | None:
    """The number in `media:17`; None for any other address."""
    return int(src[6:]) if src.startswith("media:") and src[6:].isdigit() else None
