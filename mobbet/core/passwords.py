"""What a password must be (NIST SP 800-63B-4, 3.1.1): long, not common, not one's own name; of no prescribed kinds of characters."""

from __future__ import annotations

import re
import secrets
import unicodedata
from collections.abc import Callable, Iterable

from mobbet.core.errors import BadInput

SHORTEST, LONGEST = 15, 1000
"""In characters. Fifteen is what the standard asks of a password that is the only proof of who signs in."""
SHORTEST_BESIDE_FACTOR = 8
"""What the standard asks of a password beside a second factor."""
LEAST_BESIDE = 8
"""So many characters must be left of a password without the words that anyone would guess first."""
SHORTEST_FOR_POST = 8
"""Of the password of a post, which its author tells to others; a sealed page can be tried without the server."""
_PARTS = re.compile(r"[^\W_]{4,}")
_SYLLABLES = tuple(a + b for a in "bdfghklmnprstvz" for b in "aeiou")


def normalised(password: str) -> str:
    """The one form in which a password is hashed, however a keyboard composes its letters (NFKC, as NIST SP 800-63B-4 advises)."""
    return unicodedata.normalize("NFKC", password)


def forms(password: str) -> tuple[str, ...]:
    """What a kept digest may be of: the one form, and NFC, of which older digests were made."""
    return tuple(dict.fromkeys((normalised(password), unicodedata.normalize("NFC", password))))


def check(
    password: str,
    is_common: Callable[[str], bool],
    about: Iterable[str] = (),
    field: str = "password",
    shortest: int = SHORTEST,
) -> str:
    """A password that may be kept, normalised. `about` are one's name, address and blogs. Raises BadInput with the reason."""
    if len(password) > LONGEST:
        raise BadInput(f"The password is longer than {LONGEST:,} characters; choose a shorter one.", field)
    password = normalised(password)
    if len(password) < shortest:
        raise BadInput(
            f"The password has {len(password)} characters; use at least {shortest}. Three or four words are easy to keep in mind.",
            field,
        )
    plain = password.casefold()
    if any(is_common(one) for one in (plain, _unit(plain), re.sub(r"\W+", "", plain))) or len(set(plain)) < 5:
        raise BadInput(
            "This password is among those that are tried first; choose one that nobody else would think of.",
            field,
        )
    left = plain
    for word in sorted(
        {
            part
            for text in about
            for part in (text.casefold(), *_PARTS.findall(text.casefold()))
            if len(part) >= 4
        },
        key=len,
        reverse=True,
    ):
        left = left.replace(word, "")
    if len(left) < LEAST_BESIDE:
        raise BadInput(
            "This password is little more than your name, your address or the blog’s name; choose another one.",
            field,
        )
    return password


def _unit(text: str) -> str:
    """What a text repeats, `abc` of `abcabcabc`; the text itself where it repeats nothing."""
    at = (text + text).find(text, 1)
    return text[:at]


def generated_for_post() -> str:
    """A password for a post that is easily told: four invented words, 48 bits."""
    return "-".join("".join(secrets.choice(_SYLLABLES) for _ in range(2)) for _ in range(4))
