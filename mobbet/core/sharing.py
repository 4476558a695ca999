"""How readers may share a post: without anybody's button, by what a browser can do and by addresses of the owner's own."""

from __future__ import annotations

import json
from urllib.parse import quote

from mobbet.core.errors import BadInput
from mobbet.core.names import one_line
from mobbet.core.web_addresses import split_address

COPY, DEVICE, MAIL, PRINT, PHONE = "copy", "device", "mail", "print", "phone"
WAYS = {
    COPY: "copy its address",
    DEVICE: "share it with what their device has for that",
    MAIL: "mail it",
    PRINT: "print it",
    PHONE: "open it on a phone by a code",
}
"""{way: what readers may do, in words}, in the order in which they stand below a post."""
OF_SCRIPT = frozenset({COPY, DEVICE, PRINT})
"""Those that a script does, and that only stand there where it runs."""
NONE = "none"
"""What a post says that has none of them."""
MOST, LONGEST_WORDS, LONGEST_PATTERN = 8, 40, 300


def with_way(stored: str, way: str, is_wanted: bool) -> str:
    """The ways of a blog, as kept, with one more or one less. Raises BadInput for one that there is not."""
    if way not in WAYS:
        raise BadInput(f"“{way[:20]}” is no way to share a post; choose {', '.join(WAYS)}.", "sharing")
    chosen = {*json.loads(stored), way} if is_wanted else set(json.loads(stored)) - {way}
    return json.dumps([one for one in WAYS if one in chosen])


def with_link(stored: str, typed: str, words: str) -> str:
    """The share addresses of a blog, as kept: with `words` the one of that name is another one, or gone for ''; without, one more, typed as words and an
    address with {address} and, as one likes, {title}. Raises BadInput."""
    known: dict[str, str] = dict(json.loads(stored))
    if words and not typed.strip():
        return json.dumps([pair for pair in known.items() if pair[0] != words], ensure_ascii=False)
    if not words:
        words, _, typed = one_line(typed).rpartition(" ")
    pattern = typed.strip()
    parts = split_address(pattern.replace("{address}", "x").replace("{title}", "x"))
    host, _, rest = pattern.partition("://")[2].replace("?", "/?").partition("/")
    is_whole = parts.scheme == "https" and parts.hostname and "{" not in host and "{address}" in rest
    if not words or not is_whole or len(pattern) > LONGEST_PATTERN or set('"<>\\') & set(pattern):
        raise BadInput(
            f"“{one_line(typed)[:60]}” is no share address; write words and an address, like Tell the harbour https://harbour.example/tell?about={{address}}&words={{title}}.",
            "share_link",
        )
    if len(words) > LONGEST_WORDS:
        raise BadInput(
            f"“{words[:30]}…” has {len(words)} letters; {LONGEST_WORDS} is the most.", "share_link"
        )
    if len({*known, words}) > MOST:
        raise BadInput(
            f"There are {MOST} share addresses, which is the most; take one away first.", "share_link"
        )
    return json.dumps([*{**known, words: pattern}.items()], ensure_ascii=False)


def filled(pattern: str, address: str, title: str) -> str:
    """A share address for one post."""
    return pattern.replace("{address}", quote(address, safe="")).replace("{title}", quote(title, safe=""))


def mail_to(address: str, title: str) -> str:
    """An address that begins a letter about a post (RFC 6068)."""
    subject, body = (quote(words, safe="") for words in (title, f"{title}\r\n{address}"))
    return f"mailto:?subject={subject}&body={body}"
