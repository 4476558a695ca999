"""Asks providers for the facts of their videos and sounds (oEmbed 1.0)."""

from __future__ import annotations

import json
from urllib.parse import urlencode

from mobbet.core.embeds import Found
from mobbet.core.errors import BadInput
from mobbet.services.contracts import EmbedFacts, Fetcher, OfferedVideo

MOST_BYTES = 200_000
MOST_POSTER = 10_000_000


class OEmbedHost:
    """The providers of the table, over the network. They offer no search of their own."""

    def __init__(self, fetch: Fetcher) -> None:
        self._fetch = fetch

    def search(self, words: str) -> list[OfferedVideo]:
        return []

    def tell(self, found: Found) -> EmbedFacts:
        answer = self._fetch(
            f"{found.provider.endpoint}?{urlencode({'url': found.address, 'format': 'json'})}", MOST_BYTES
        )
        try:
            facts = json.loads(answer.body)
            title, width, height = (
                str(facts.get("title", ""))[:300],
                int(facts.get("width") or 640),
                int(facts.get("height") or 360),
            )
        except (ValueError, AttributeError, TypeError):
            raise BadInput(
                f"{found.provider.name} said nothing about “{found.address}” that could be read; check the address.",
                "address",
            ) from None
        poster = self._fetch(facts["thumbnail_url"], MOST_POSTER).body if facts.get("thumbnail_url") else b""
        return EmbedFacts(
            title or found.address,
            str(facts.get("author_name", ""))[:200],
            min(10_000, max(1, width)),
            min(10_000, max(1, height)),
            poster,
        )
