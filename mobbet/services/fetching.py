"""Gets files from public addresses, and from nowhere inside the network."""

from __future__ import annotations

import re
from urllib.parse import unquote, urljoin

import httpx

from mobbet.core.errors import BadInput
from mobbet.core.web_addresses import split_address
from mobbet.services.connecting import Resolve, TooLarge, TooSlow, Web, resolve
from mobbet.services.contracts import Fetched

MOST_REDIRECTS = 5
SECONDS = 60.0
"""In all, redirects among them."""
AGENT = "Mobbet/1 (a blog's library)"


class PublicFetcher:
    """Asks only addresses that are public after the name was resolved, on every redirect anew."""

    def __init__(
        self,
        resolve: Resolve = resolve,
        transport: httpx.BaseTransport | None = None,
        seconds: float = SECONDS,
    ) -> None:
        self._resolve, self._transport, self._seconds = resolve, transport, seconds

    def __call__(self, address: str, most_bytes: int) -> Fetched:
        begun = address
        try:
            with Web(self._seconds, self._resolve, self._transport) as web:
                for _ in range(MOST_REDIRECTS + 1):
                    answer = self._ask(web, address, most_bytes)
                    if isinstance(answer, Fetched):
                        return answer
                    address = answer
        except TooSlow:
            raise BadInput(
                f"“{begun[:120]}” took more than {self._seconds:g} seconds; try again, or bring the file in from your machine.",
                "address",
            ) from None
        except TooLarge:
            raise BadInput(
                f"What lies at “{begun[:120]}” is larger than {most_bytes / 1_000_000:g} MB; bring in a smaller one.",
                "address",
            ) from None
        except (httpx.HTTPError, httpx.InvalidURL, OSError) as error:
            raise BadInput(
                f"“{begun[:120]}” could not be reached ({type(error).__name__}); check the address and the network.",
                "address",
            ) from None
        raise BadInput(
            f"“{begun[:120]}” redirects more than {MOST_REDIRECTS} times; use the address it ends at.",
            "address",
        )

    def _ask(self, web: Web, address: str, most_bytes: int) -> Fetched | str:
        """What lies there, or the address it redirects to."""
        with web.asked("GET", address, AGENT) as response:
            if response.is_redirect and "location" in response.headers:
                return urljoin(address, response.headers["location"][:4000])
            if response.status_code != 200:
                raise BadInput(
                    f"“{address[:120]}” answered with {response.status_code}; check the address in a browser.",
                    "address",
                )
            return Fetched(address, _name(response, address), b"".join(web.chunks(response, most_bytes)))


def _name(response: httpx.Response, address: str) -> str:
    told = re.search(r'filename="?([^";]+)', response.headers.get("content-disposition", ""))
    return (told.group(1) if told else unquote(split_address(address).path.rpartition("/")[2])) or "file"
