"""Checks whether an address still answers: rate limited, public addresses only, and as robots.txt allows (RFC 9309)."""

from __future__ import annotations

import time
from collections.abc import Callable
from contextlib import suppress
from urllib.parse import urljoin
from urllib.robotparser import RobotFileParser

import httpx

from mobbet.core.errors import BadInput
from mobbet.core.web_addresses import split_address
from mobbet.services.connecting import Resolve, TooLarge, TooSlow, Web, resolve
from mobbet.services.contracts import LinkReply

MOST_STEPS = 5
MOST_SECONDS = 15.0
MOST_BYTES, MOST_RULES = 16_384, 200_000
RULES_LAST = 24 * 3600
AGENT = "Mobbet/1 (a blog's links)"
FOR_GOOD = (301, 308)
LEADS_ON = (301, 302, 303, 307, 308)
CLOSED = (401, 402, 403, 405, 406, 407, 418, 429, 451, 999)
"""Answers of a place that is there, and does not want to be asked by a program."""


class PublicAsker:
    """Asks by HEAD, and by GET where HEAD is not understood; reads a few bytes and goes away."""

    def __init__(
        self,
        resolve: Resolve = resolve,
        transport: httpx.BaseTransport | None = None,
        clock: Callable[[], float] = time.monotonic,
        seconds: float = MOST_SECONDS,
    ) -> None:
        self._resolve, self._transport, self._clock, self._seconds = resolve, transport, clock, seconds
        self._rules: dict[str, tuple[float, RobotFileParser | None]] = {}

    def __call__(self, address: str) -> LinkReply:
        try:
            with Web(self._seconds, self._resolve, self._transport, self._clock) as web:
                return self._followed(web, address)
        except BadInput as error:
            return LinkReply(
                "lies inside the network" if "inside the network" in str(error) else "is not to be found"
            )
        except TooSlow:
            return LinkReply(f"took more than {self._seconds:.0f} seconds to answer")
        except (httpx.HTTPError, httpx.InvalidURL, ValueError, OSError):
            return LinkReply("could not be reached")

    def _followed(self, web: Web, address: str) -> LinkReply:
        seen, now, is_for_good = {address}, address, True
        for _ in range(MOST_STEPS + 1):
            if not self._may(web, now):
                return LinkReply(is_known=False)
            status, leads_to, wait = self._answer(web, now)
            if status in LEADS_ON and leads_to:
                is_for_good = is_for_good and status in FOR_GOOD
                now = urljoin(now, leads_to).partition("#")[0]
                if now in seen:
                    return LinkReply("leads round in a circle")
                seen.add(now)
            elif status == 429:
                return LinkReply(is_known=False, wait=wait)
            elif status < 400 or status in CLOSED:
                return LinkReply(ends_at=now if now != address and is_for_good and status < 400 else "")
            else:
                return LinkReply(f"answered with {status}")
        return LinkReply(f"redirects more than {MOST_STEPS} times")

    def _answer(self, web: Web, address: str) -> tuple[int, str, int]:
        """(status, where it redirects, seconds it asks to be left alone)."""
        status, leads_to, wait = self._sent(web, "HEAD", address)
        if status >= 400 and status != 429:
            status, leads_to, wait = self._sent(web, "GET", address)
        return status, leads_to, wait

    def _sent(self, web: Web, method: str, address: str) -> tuple[int, str, int]:
        response, _ = self._got(web, method, address, MOST_BYTES)
        asked = response.headers.get("retry-after", "")
        return (
            response.status_code,
            response.headers.get("location", ""),
            min(7 * 86400, int(asked)) if asked.isdecimal() else 0,
        )

    def _got(self, web: Web, method: str, address: str, most: int) -> tuple[httpx.Response, bytes]:
        """The answer, and its first bytes; a place that sends them drop by drop is left."""
        body = bytearray()
        with (
            web.asked(method, address, AGENT) as response,
            suppress(httpx.DecodingError, TooLarge),
        ):  # what is packed, or too long, did answer
            for chunk in web.chunks(response, most):
                body += chunk
        return response, bytes(body[:most])

    def _may(self, web: Web, address: str) -> bool:
        """Whether the place lets programs ask for this address; its rules are kept a day."""
        parts = split_address(address)
        place = f"{parts.scheme}://{parts.netloc}"
        kept = self._rules.get(place)
        if kept is None or kept[0] < self._clock():
            if len(self._rules) > 2000:
                self._rules.clear()
            kept = self._rules[place] = (self._clock() + RULES_LAST, self._rules_of(web, place))
        return kept[1] is None or kept[1].can_fetch(AGENT, address)

    def _rules_of(self, web: Web, place: str) -> RobotFileParser | None:
        try:
            response, body = self._got(web, "GET", f"{place}/robots.txt", MOST_RULES)
        except (httpx.HTTPError, OSError):
            return None
        if response.status_code != 200:
            return None
        rules = RobotFileParser()
        rules.parse(body.decode("utf-8", "replace").splitlines())
        return rules
