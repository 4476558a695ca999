"""A collection of pictures that is searched by an OpenSearch address and answers with an Atom feed.

Each entry has a title, an author, `rights`, a link to its page, and the picture as an enclosure.
"""

from __future__ import annotations

from urllib.parse import quote

from lxml import etree

from mobbet.core.errors import BadInput
from mobbet.core.media.licences import LICENCES
from mobbet.services.contracts import Fetched, Fetcher, Offered

ATOM = "{http://www.w3.org/2005/Atom}"
MEDIA = "{http://search.yahoo.com/mrss/}"
MOST_FEED = 3_000_000
MOST_PICTURE = 50_000_000
MOST = 60


class OpenSearchCollection:
    """`template` is the collection's address with `{searchTerms}` in it, as OpenSearch 1.1 writes it."""

    def __init__(self, fetch: Fetcher, template: str, name: str) -> None:
        self._fetch, self._template, self.name = fetch, template, name
        self._seen: dict[str, tuple[Offered, str, str]] = {}

    def search(self, words: str) -> list[Offered]:
        feed = self._fetch(self._template.replace("{searchTerms}", quote(words)), MOST_FEED)
        try:
            root = etree.fromstring(feed.body, etree.XMLParser(resolve_entities=False, no_network=True))
        except etree.XMLSyntaxError:
            raise BadInput(
                f"{self.name} gave no answer that could be read; try again later.", "words"
            ) from None
        found = [self._offered(entry) for entry in root.iter(f"{ATOM}entry")]
        return [offered for offered in found if offered][:MOST]

    def _offered(self, entry: etree._Element) -> Offered | None:
        links = {link.get("rel", "alternate"): link.get("href", "") for link in entry.iter(f"{ATOM}link")}
        if not links.get("enclosure"):
            return None
        rights = (entry.findtext(f"{ATOM}rights") or "").strip()
        licence = next(
            (
                row.key
                for row in LICENCES
                if row.page and row.page in rights or row.key and row.words == rights
            ),
            "permission",
        )
        thumb = next((node.get("url", "") for node in entry.iter(f"{MEDIA}thumbnail")), links["enclosure"])
        number = entry.findtext(f"{ATOM}id") or links["enclosure"]
        offered = Offered(
            number,
            entry.findtext(f"{ATOM}title") or number,
            entry.findtext(f"{ATOM}author/{ATOM}name") or "",
            licence,
            links.get("alternate", ""),
            0,
            0,
            "",
        )
        self._seen[number] = (offered, links["enclosure"], thumb)
        return offered

    def find(self, id: str) -> Offered | None:
        return self._seen[id][0] if id in self._seen else None

    def take(self, id: str) -> Fetched:
        if id not in self._seen:
            raise BadInput("This picture is no longer offered; search again.", "id")
        return self._fetch(self._seen[id][1], MOST_PICTURE)

    def small(self, id: str) -> bytes:
        if id not in self._seen:
            raise BadInput("This picture is no longer offered; search again.", "id")
        return self._fetch(self._seen[id][2], MOST_PICTURE).body
