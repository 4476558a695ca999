"""Providers of video and sound elsewhere: which addresses are theirs, where they tell about one, and its frame.

The providers that ship are made up, and answered by a stand-in; a real one is one more row.
"""

from __future__ import annotations

import re
from dataclasses import dataclass

from mobbet.core.errors import BadInput
from mobbet.core.values import existing


@dataclass(frozen=True)
class Provider:
    """One row: a name, what its pages' addresses look like, its oEmbed endpoint, and the address of its frame.

    `pattern` has one group, the work's own name, which `frame` has as `{id}`. `frame` may begin with a slash: a
    provider of this very server.
    """

    name: str
    pattern: str
    endpoint: str
    frame: str
    kind: str = "video"


@dataclass(frozen=True)
class Found:
    """An address that belongs to a provider, with the address of its frame."""

    provider: Provider
    address: str
    frame: str


PROVIDERS: tuple[Provider, ...] = (
    Provider(
        "Harbour Reel",
        r"https://reel\.example/watch/([a-z0-9-]{1,60})",
        "https://reel.example/oembed",
        "/stand-ins/reel/{id}",
    ),
    Provider(
        "Quay Sound",
        r"https://quay-sound\.example/listen/([a-z0-9-]{1,60})",
        "https://quay-sound.example/oembed",
        "/stand-ins/quay/{id}",
        "sound",
    ),
)
_SOURCE = re.compile(r"""<iframe\b[^>]*?\bsrc\s*=\s*["']?([^"'\s>]+)""", re.IGNORECASE)


def match(address: str) -> Found | None:
    """The provider whose pages look like that address; None when there is none."""
    for provider in PROVIDERS:
        found = re.fullmatch(provider.pattern + r"/?(?:[?#].*)?", address.strip())
        if found:
            clean = existing(re.match(provider.pattern, address.strip())).group(0)
            return Found(provider, clean, provider.frame.replace("{id}", found.group(1)))
    return None


def recognise(typed: str) -> Found:
    """The work that an address, or a piece of embed code, stands for.

    Raises BadInput, with the reason, for code that loads a frame from elsewhere or for another address.
    """
    text = typed.strip()
    if "<" in text:
        source = _SOURCE.search(text)
        if source is None:
            raise BadInput(
                "This code holds no frame to show; copy the address of the page itself instead.", "address"
            )
        text = _page_of(source.group(1))
    found = match(text)
    if found:
        return found
    host = re.sub(r"^https?://(?:www\.)?([^/?#]+).*$", r"\1", text)[:80]
    names = " and ".join(provider.name for provider in PROVIDERS)
    raise BadInput(
        f"“{host}” is none of the providers whose frames may stand in a post ({names}); link to its page instead.",
        "address",
    )


def _page_of(frame: str) -> str:
    """The address of the page whose frame this is; other addresses as they are."""
    for provider in PROVIDERS:
        host = existing(re.match(r"https://([^/]+)", provider.endpoint)).group(0)
        found = re.fullmatch(re.escape(host) + r"/(?:frame|embed)/([a-z0-9-]{1,60})(?:[?#].*)?", frame)
        if found:
            return provider.pattern.replace(r"\.", ".").replace("([a-z0-9-]{1,60})", found.group(1))
    return frame


def origins() -> tuple[str, ...]:
    """The origins from which a page may show frames, for its Content-Security-Policy."""
    found = (re.match(r"https://[^/]+", provider.frame) for provider in PROVIDERS)
    return tuple(dict.fromkeys(one.group(0) for one in found if one))
