"""Which addresses a link or a picture may have."""

from __future__ import annotations

import re
from urllib.parse import parse_qsl, unquote

from mobbet.core.web_addresses import split_address

SCHEMES = frozenset({"http", "https", "mailto", "tel"})
LONGEST = 2048
_CONTROL = re.compile(r"[\x00-\x20\x7f-\x9f\u200b-\u200f\u2028\u2029\ufeff]")
_SCHEME = re.compile(r"^([a-zA-Z][a-zA-Z0-9+.-]*):")


def clean_address(address: object) -> str | None:
    """The address without control characters, or None when it is empty, too long or of a foreign scheme.

    Browsers drop tabs and line breaks inside a scheme, so they are dropped before it is judged.
    Addresses without a scheme (a path, `#heading`, `example.example/page`) are kept as they are;
    `post:<number>` is another post of the blog, wherever it lives.
    """
    if not isinstance(address, str):
        return None
    cleaned = _CONTROL.sub("", address)
    if not cleaned or len(cleaned) > LONGEST:
        return None
    scheme = _SCHEME.match(cleaned)
    if scheme and scheme.group(1).lower() not in SCHEMES and post_number(cleaned) is None:
        return None
    return cleaned


def clean_picture(address: object) -> str | None:
    """The `src` of a picture: `media:<number>` for one of the library's, or a clean address."""
    if isinstance(address, str) and re.fullmatch(r"media:\d{1,12}", address):
        return address
    return clean_address(address)


def clean_item(address: object) -> str | None:
    """The `src` of a sound, a video or a file, which is always one of the library's: `media:<number>`."""
    return address if isinstance(address, str) and re.fullmatch(r"media:\d{1,12}", address) else None


def media_number(src: str) -> int | None:
    """The number in `media:17`; None for any other address."""
    return int(src[6:]) if src.startswith("media:") and src[6:].isdecimal() else None


def media_src(number: int) -> str:
    """The `src` of an item of the library."""
    return f"media:{number}"


def post_number(href: str) -> int | None:
    """The number in `post:17`, or in `post:17#part`; None for any other address."""
    found = re.fullmatch(r"post:([1-9]\d{0,11})(#[\w-]*)?", href)
    return int(found.group(1)) if found else None


_WRAPPERS = frozenset("url redirect redir link l.php away out click go r exit leave goto".split())
_TARGETS = frozenset("url u q target to dest destination redirect redirect_url link".split())


def unwrapped(href: str) -> str:
    """The address that a redirecting one of a mail or office program leads to; any other as it is."""
    for _ in range(3):
        inner = _inside(href)
        if inner is None:
            break
        href = inner
    return href


def _inside(href: str) -> str | None:
    if not href.lower().startswith(("http://", "https://")):
        return None
    marked = re.search(r"/v[23]/__(?=https?:/)", href)
    end = href.find("__;", marked.end()) if marked else -1
    if marked and end > 0:
        return re.sub(r"^(https?):/+", r"\1://", href[marked.end() : end])
    try:
        parts = split_address(href)
    except ValueError:
        return None
    is_wrapper = (
        parts.path.rstrip("/").rpartition("/")[2].lower() in _WRAPPERS or "safelinks" in parts.netloc.lower()
    )
    if not is_wrapper:
        return None
    for name, value in parse_qsl(parts.query):
        value = unquote(value) if value.lower().startswith(("http%3a", "https%3a")) else value
        if name.lower() in _TARGETS and value.lower().startswith(("http://", "https://")):
            return clean_address(value)
    return None
