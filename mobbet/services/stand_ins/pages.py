"""Pages of other sites as they were put here, for tests and for machines without a network; what is sent to them is kept."""

from __future__ import annotations

from mobbet.core.errors import Broken
from mobbet.services.contracts import OtherPage


class ScriptedPages:
    """Answers with the pages it was given; any other is not to be reached."""

    def __init__(self, pages: dict[str, OtherPage] | None = None) -> None:
        self.pages = pages or {}
        self.sent: list[tuple[str, dict[str, str]]] = []
        self.bytes_sent: list[tuple[str, bytes, dict[str, str]]] = []
        self.statuses: dict[str, int] = {}

    def get(self, address: str) -> OtherPage:
        if address not in self.pages:
            raise Broken(f"“{address[:120]}” could not be reached; no way out is set.")
        return self.pages[address]

    def post(self, address: str, fields: dict[str, str], headers: dict[str, str] | None = None) -> OtherPage:
        self.sent.append((address, fields))
        return OtherPage(address, 202, "", [], b"")

    def send(self, address: str, body: bytes, headers: dict[str, str]) -> int:
        self.bytes_sent.append((address, body, headers))
        return self.statuses.get(address, 201)
