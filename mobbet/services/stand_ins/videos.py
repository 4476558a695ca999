"""Made-up hosts of video and sound: they answer for their pages as the web would, and work without a network."""

from __future__ import annotations

import json
from html import escape
from urllib.parse import parse_qs, urlencode

from mobbet.core.embeds import MADE_UP
from mobbet.core.errors import BadInput
from mobbet.core.web_addresses import split_address
from mobbet.services.contracts import Fetched, Fetcher, Heavy, OfferedVideo
from mobbet.services.oembed import OEmbedHost
from mobbet.services.stand_ins.drawing import draw

_REEL, _QUAY = "https://reel.example/watch/", "https://quay-sound.example/listen/"
_ROWS = (
    ("boat", _REEL, "caulking-a-skiff", "Caulking a skiff, start to finish", "Colm Tarrant", 734), ("boat", _REEL, "launching-day", "Launching day at Port Alder", "Edda Rusk", 212),
    ("boat", _REEL, "sail-patch", "A patch for an old sail", "Marit Loew", 405), ("lamp", _REEL, "lamp-rewire", "Rewiring a lamp, filmed close", "Bento Salgado", 518),
    ("lamp", _REEL, "flex-and-grommet", "Flex, grommet, cord grip", "Bento Salgado", 267), ("clock", _REEL, "clock-bath", "A clock in its bath", "Yusuf Arden", 331),
    ("clock", _REEL, "escapement-slow", "An escapement at one tenth speed", "Yusuf Arden", 64), ("clock", _REEL, "winding", "How far to wind it", "Edda Rusk", 145),
    ("gull", _REEL, "gulls-count", "Counting gulls from the ferry", "Marit Loew", 388), ("rope", _REEL, "eye-splice", "An eye splice in eight tucks", "Colm Tarrant", 449),
    ("rope", _REEL, "whipping", "Whipping a rope’s end", "Colm Tarrant", 198), ("window", _REEL, "sash-cord", "A new sash cord without breaking glass", "Edda Rusk", 603),
    ("gull", _QUAY, "harbour-at-five", "The harbour at five in the morning", "Marit Loew", 920), ("boat", _QUAY, "engine-cold-start", "An engine started cold", "Yusuf Arden", 48),
    ("clock", _QUAY, "nine-clocks", "Nine clocks, not together", "Edda Rusk", 277), ("window", _QUAY, "rain-on-glass", "Rain on the sail loft’s window", "Bento Salgado", 1180),
)  # fmt: skip
BY_ADDRESS = {
    f"{start}{slug}": (subject, title, by, seconds) for subject, start, slug, title, by, seconds in _ROWS
}
HOSTS = {"reel.example": "Harbour Reel", "quay-sound.example": "Quay Sound"}


class MadeUpPages:
    """A fetcher that answers for the made-up hosts, and hands every other address on; None for nobody to hand it to."""

    def __init__(self, others: Fetcher | None) -> None:
        self._others = others

    def __call__(self, address: str, most_bytes: int) -> Fetched:
        parts = split_address(address)
        host = parts.hostname or ""
        if host in MADE_UP:
            return Fetched(address, "page", self._page(host, parts.path, parts.query, address))
        if self._others is None:
            raise BadInput(
                f"This server asks no hosts of videos, so not “{host[:80]}”; link to its page instead.",
                "address",
            )
        return self._others(address, most_bytes)

    def _page(self, host: str, path: str, query: str, address: str) -> bytes:
        if path == "/oembed":
            return _told(host, parse_qs(query).get("url", [""])[0])
        if path.startswith("/posters/"):
            subject, title, by, seconds = _work(host, path.rpartition("/")[2].removesuffix(".jpg"), address)
            return draw(subject, seconds, 1280, 720)
        _, title, _, _ = _work(host, path.rstrip("/").rpartition("/")[2], address)
        at = f"https://{host}/oembed?{urlencode({'url': address, 'format': 'json'})}"
        link = f'<link rel="alternate" type="application/json+oembed" href="{escape(at)}">'
        return f"<!doctype html><head><title>{escape(title)}</title>{link}</head>".encode()


def _told(host: str, address: str) -> bytes:
    slug = split_address(address).path.rstrip("/").rpartition("/")[2]
    _, title, by, _ = _work(host, slug, address)
    frame = f'<iframe src="https://{host}/frame/{slug}" width="640" height="360"></iframe>'
    facts = {
        "version": "1.0", "type": "video", "title": title, "author_name": by, "provider_name": HOSTS[host], "width": 640, "height": 360,
        "html": frame, "thumbnail_url": f"https://{host}/posters/{slug}.jpg",
    }  # fmt: skip
    return json.dumps(facts).encode()


def _work(host: str, slug: str, address: str) -> tuple[str, str, str, int]:
    found = BY_ADDRESS.get(f"{_QUAY if host == 'quay-sound.example' else _REEL}{slug}")
    if found is None:
        raise BadInput(f"{HOSTS[host]} has nothing at “{address[:120]}”; check the address.", "address")
    return found


class MadeUpHosts(OEmbedHost):
    """Sixteen videos and sounds of two hosts, which can be searched, and any other host that tells of its works."""

    def __init__(self, heavy: Heavy, others: Fetcher | None = None) -> None:
        super().__init__(MadeUpPages(others), heavy)

    def search(self, words: str) -> list[OfferedVideo]:
        wanted = words.casefold().split()
        rows = (
            OfferedVideo(address, title, by, seconds)
            for address, (subject, title, by, seconds) in BY_ADDRESS.items()
            if all(word in f"{title} {by} {subject}".casefold() for word in wanted)
        )
        return list(rows)
