"""Pages of other sites: gets them and sends forms to them, at public addresses or at those that the operator named (MOBBET_INSIDE)."""

from __future__ import annotations

from collections.abc import Callable
from urllib.parse import urlencode, urljoin

import httpx

from mobbet.core.errors import BadInput, Broken, NotTaken
from mobbet.core.webmention import LARGEST
from mobbet.services.connecting import Resolve, TooLarge, TooSlow, Web, resolve
from mobbet.services.contracts import OtherPage

MOST_REDIRECTS = 5
SECONDS = 15.0
"""In all, redirects among them."""
AGENT = "Mobbet/1 (a blog's mentions)"


class PublicPages:
    """Asks one page at a time; the whole of it within SECONDS and LARGEST bytes."""

    def __init__(
        self,
        inside: tuple[str, ...] = (),
        resolve: Resolve = resolve,
        transport: httpx.BaseTransport | None = None,
        seconds: float = SECONDS,
    ) -> None:
        self._inside, self._resolve, self._transport, self._seconds = (
            frozenset(inside),
            resolve,
            transport,
            seconds,
        )

    def get(self, address: str) -> OtherPage:
        def follow(web: Web) -> OtherPage:
            now = address
            for _ in range(MOST_REDIRECTS + 1):
                with web.asked("GET", now, AGENT) as response:
                    if response.is_redirect and "location" in response.headers:
                        now = urljoin(now, response.headers["location"][:4000])
                        continue
                    kind = response.headers.get("content-type", "").partition(";")[0].strip().lower()
                    body = b"".join(web.chunks(response, LARGEST)) if response.status_code == 200 else b""
                    return OtherPage(now, response.status_code, kind, response.headers.get_list("link"), body)
            raise Broken(f"“{address[:120]}” redirects more than {MOST_REDIRECTS} times.")

        return self._done(address, follow)

    def post(self, address: str, fields: dict[str, str], headers: dict[str, str] | None = None) -> OtherPage:
        def send(web: Web) -> OtherPage:
            more = {"Content-Type": "application/x-www-form-urlencoded", **(headers or {})}
            with web.asked("POST", address, AGENT, urlencode(fields).encode(), more) as response:
                place = response.headers.get("location", "")
                return OtherPage(
                    urljoin(address, place) if place else address, response.status_code, "", [], b""
                )

        return self._done(address, send)

    def send(self, address: str, body: bytes, headers: dict[str, str]) -> int:
        def post(web: Web) -> OtherPage:
            with web.asked("POST", address, AGENT, body, headers) as response:
                return OtherPage(address, response.status_code, "", [], b"")

        return self._done(address, post).status

    def _done(self, address: str, work: Callable[[Web], OtherPage]) -> OtherPage:
        try:
            with Web(self._seconds, self._resolve, self._transport, named=self._inside) as web:
                return work(web)
        except TooSlow:
            problem = f"took more than {self._seconds:g} seconds"
        except TooLarge:
            problem = f"has more than {LARGEST:,} bytes"
        except BadInput as error:
            raise NotTaken(str(error), "final") from None
        except (httpx.ConnectError, httpx.ConnectTimeout) as error:
            raise NotTaken(
                f"“{address[:120]}” could not be reached ({type(error).__name__}).", "later"
            ) from None
        except (httpx.HTTPError, httpx.InvalidURL, ValueError, OSError) as error:
            problem = f"could not be reached ({type(error).__name__})"
        raise Broken(f"“{address[:120]}” {problem}.")
