"""What a blog refuses for good in comments: words, domains and e-mail addresses."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Iterable

from mobbet.core.errors import BadInput
from mobbet.core.names import one_line
from mobbet.core.near import folded
from mobbet.core.searching import words_of

MOST, LONGEST, SHORTEST = 200, 80, 2
"""How many entries there may be, and how many letters each may have."""
_DOMAIN = re.compile(r"[\w-]{1,63}(?:\.[\w-]{1,63}){1,8}")
_EMAIL = re.compile(r"[^\s@]{1,64}@[\w-]{1,63}(?:\.[\w-]{1,63}){1,8}")
_ADDRESS_TOKEN, _HOST_TOKEN = re.compile(r"[^\s<>()\"',;:]+"), re.compile(r"[\w.-]+")


def read_blocklist(typed: str) -> tuple[str, ...]:
    """Entries, typed one a line; each once, as it was typed first. Raises BadInput, naming the entry."""
    entries: dict[str, str] = {}
    for line in typed.splitlines():
        entry = one_line(line)
        if not entry:
            continue
        if len(entry) > LONGEST:
            raise BadInput(f"“{entry[:40]}…” has {len(entry)} letters; {LONGEST} is the most.", "blocklist")
        if len("".join(words_of(entry))) < SHORTEST:
            raise BadInput(
                f"“{entry}” would refuse nearly every comment, or none; write a word, a domain or an e-mail address.",
                "blocklist",
            )
        entries.setdefault(_plain(entry), entry)
    if len(entries) > MOST:
        raise BadInput(f"There are {len(entries)} entries; {MOST} is the most.", "blocklist")
    return tuple(entries.values())


def blocked_by(entries: Iterable[str], name: str, email: str, text: str) -> str:
    """The first entry that a comment has in its name, its text or its writer's e-mail address; '' where it has none.

    Words are found as whole words in their order, whatever their case, accents and punctuation; a domain with all that is below it; an e-mail address as a whole.
    """
    known = tuple(entries)
    if not known:
        return ""
    said = _plain(f"{name}\n{email}\n{text}")
    emails = {token.strip(".") for token in _ADDRESS_TOKEN.findall(said) if "@" in token}
    hosts = [_decoded(token.strip(".-")) for token in _HOST_TOKEN.findall(said) if "." in token]
    words = f" {_words(f'{name} . {text}')} "
    return next((one for one in known if _has(one, emails, hosts, words)), "")


def _has(entry: str, emails: set[str], hosts: list[str], words: str) -> bool:
    plain = _plain(entry)
    if _EMAIL.fullmatch(plain):
        return plain in emails
    if _DOMAIN.fullmatch(plain):
        domain = _decoded(plain)
        return any(host == domain or host.endswith(f".{domain}") for host in hosts)
    return f" {_words(entry)} " in words


def _plain(text: str) -> str:
    """A text without differences of case and of width, and without letters that nobody sees."""
    shown = "".join(letter for letter in text if unicodedata.category(letter) != "Cf")
    return unicodedata.normalize("NFKC", shown).casefold()


def _words(text: str) -> str:
    return " ".join(word for word in map(folded, words_of(_plain(text))) if word)


def _decoded(host: str) -> str:
    """A host name in the letters that people read, also one that is written with `xn--` (RFC 5890)."""
    if "xn--" not in host:
        return host
    try:
        return host.encode("ascii").decode("idna").casefold()
    except UnicodeError:
        return host
