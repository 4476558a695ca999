"""Addresses on the web that somebody typed or pasted, taken apart."""

from __future__ import annotations

from urllib.parse import SplitResult, urljoin, urlsplit

from mobbet.core.errors import BadInput

LONGEST = 300


def split_address(text: str) -> SplitResult:
    """`urlsplit` for any text: one that is no address, such as `http://[x/` or `http://a:b/`, is all path."""
    try:
        parts = urlsplit(text)
        _ = parts.port  # raises for one that is no number
    except ValueError:
        return SplitResult("", "", text, "", "")
    return parts


def join_address(base: str, link: str) -> str:
    """`urljoin` for any text; '' where the two make no address."""
    try:
        return urljoin(base, link)
    except ValueError:
        return ""


def read_web_address(text: str) -> str:
    """An address over http or https, as it was typed; '' for none. Raises BadInput."""
    typed = text.strip()
    parts = split_address(typed)
    is_plain = len(typed) <= LONGEST and not any(letter.isspace() or letter in "<>\"'" for letter in typed)
    if typed and not (
        is_plain and parts.scheme in ("http", "https") and parts.hostname and not parts.username
    ):
        raise BadInput(
            f"“{typed[:80]}” is no web address; write it like https://my-name.example/, or leave it empty.",
            "web_address",
        )
    return typed
