"""Videos and sound of other hosts: the hosts that a blog allows, its frames, and embed code (oEmbed 1.0, 2.3.4)."""

from __future__ import annotations

import re
from dataclasses import dataclass

from selectolax.lexbor import LexborHTMLParser

from mobbet.core.errors import BadInput
from mobbet.core.link_rules import is_domain
from mobbet.core.names import one_line
from mobbet.core.web_addresses import split_address

MOST_HOSTS = 50
LONGEST_CODE = 20_000
"""In letters: embed code is a few hundred."""
MADE_UP = {"reel.example": "reel", "quay-sound.example": "quay"}
"""The hosts that ship with Mobbet, in a domain reserved for examples (RFC 2606); this server answers for their frames."""
_MADE_UP_PAGE = re.compile(
    r"https://([a-z-]+\.example)/(?:watch|listen|frame|embed)/([a-z0-9-]{1,60})/?(?:[?#].*)?"
)


@dataclass(frozen=True)
class EmbedCode:
    """What a piece of embed code holds: the address of its frame, that of the page it links to, each '' for none, and its words."""

    frame: str
    page: str
    words: str
    width: int
    height: int


def read_hosts(text: str) -> tuple[str, ...]:
    """Host names parted by white space or commas, each once, without `www.`. Raises BadInput for a text that is none."""
    found: dict[str, None] = {}
    for typed in re.split(r"[\s,]+", text.strip()):
        if not typed:
            continue
        name = (host_of(typed) if "//" in typed else _ascii(typed.lower().rstrip("/."))).removeprefix("www.")
        if not is_domain(name) or name.rpartition(".")[2].isdigit():
            raise BadInput(f"“{typed[:80]}” is no host name; write it like films.example.", "video_hosts")
        found[name] = None
    if len(found) > MOST_HOSTS:
        raise BadInput(f"These are {len(found)} hosts; allow {MOST_HOSTS} at most.", "video_hosts")
    return tuple(found)


def host_of(address: str) -> str:
    """The host name of a web address in ASCII and small letters; '' for any other text."""
    try:
        parts = split_address(address.strip())
        if parts.scheme not in ("http", "https") or parts.username is not None or parts.password is not None:
            return ""
        return _ascii((parts.hostname or "").rstrip("."))
    except ValueError:
        return ""


def _ascii(name: str) -> str:
    try:
        return name.encode("idna").decode()
    except UnicodeError:
        return ""


def is_allowed(frame: str, hosts: tuple[str, ...]) -> bool:
    """Whether a frame is of an allowed host, or of one below it, and comes over https from its usual port."""
    try:
        parts = split_address(frame)
        if parts.scheme != "https" or parts.port not in (None, 443):
            return False
    except ValueError:
        return False
    host = host_of(frame)
    return is_domain(host) and any(host == name or host.endswith(f".{name}") for name in hosts)


def shown_frame(address: str, frame: str, hosts: tuple[str, ...]) -> str:
    """The address of the frame that a page may show of a work; '' where its host is not allowed.

    Texts from before frames were kept name the made-up hosts alone, whose frames follow from the address.
    """
    made_up = _MADE_UP_PAGE.fullmatch(frame or address)
    if not is_allowed(frame or address, hosts):
        return ""
    if made_up and made_up.group(1) in MADE_UP:
        return f"/stand-ins/{MADE_UP[made_up.group(1)]}/{made_up.group(2)}"
    return frame


def read_embed_code(typed: str) -> EmbedCode:
    """The parts of embed code. Raises BadInput where it is too long to be any."""
    if len(typed) > LONGEST_CODE:
        raise BadInput(
            f"This code has {len(typed):,} letters; paste the address of the page itself instead.", "address"
        )
    tree = LexborHTMLParser(typed)
    frame, link = tree.css_first("iframe[src]"), tree.css_first("a[href]")
    source = frame.attributes if frame else {}
    words = one_line(source.get("title") or (link.text() if link else "") or "")[:300]
    return EmbedCode(
        _secure(source.get("src")),
        _web(link.attributes.get("href") if link else ""),
        words,
        _pixels(source.get("width"), 640),
        _pixels(source.get("height"), 360),
    )


def _secure(address: str | None) -> str:
    """An address of a frame; those without a scheme are taken for https."""
    text = (address or "").strip()
    return _web(f"https:{text}" if text.startswith("//") else text)


def _web(address: str | None) -> str:
    text = (address or "").strip()
    return text if len(text) <= 2000 and host_of(text) else ""


def _pixels(text: object, usual: int) -> int:
    digits = str(text or "").strip()
    return min(10_000, max(1, int(digits))) if re.fullmatch(r"[0-9]{1,6}", digits) else usual
