"""Headers and origin checks for every answer of the application."""

from __future__ import annotations

from collections.abc import Callable
from urllib.parse import urlsplit

from starlette.types import ASGIApp, Message, Receive, Scope, Send

from mobbet.core.embeds import origins

APP_POLICY = (
    "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' blob:; font-src 'self'; connect-src 'self'; "
    "media-src 'self' blob:; frame-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'"
)
FRAMES = " ".join(("'self'", *origins()))
SITE_POLICY = (
    "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self'; font-src 'self'; media-src 'self'; connect-src 'self'; "
    f"frame-src {FRAMES}; form-action 'none'; base-uri 'none'; frame-ancestors 'self'"
)
ASK_POLICY = SITE_POLICY.replace("form-action 'none'", "form-action 'self'")
"""For the pages of a site that ask a reader for something."""
ALONE_POLICY = "default-src 'none'; sandbox"
"""For what is a file by itself: it loads nothing and runs nothing, wherever it is opened."""
DRAWING_POLICY = "default-src 'none'; style-src 'unsafe-inline'; sandbox"
"""For a drawing that Mobbet cleaned; its own styles are shown."""


def shown_headers(type: str, is_download: bool, policy: str = SITE_POLICY) -> list[tuple[bytes, bytes]]:
    """The headers that tell a browser what a body is and what it may do.

    A file as somebody brought it in is offered for saving, never shown, and so is every type that could run something.
    """
    if is_download:
        return [(b"content-type", b"application/octet-stream"), (b"content-disposition", b"attachment"), (b"content-security-policy", ALONE_POLICY.encode())]
    policy = DRAWING_POLICY if type.startswith("image/svg") else policy
    return [(b"content-type", type.encode()), (b"content-security-policy", policy.encode())]


SAFE_METHODS = frozenset({"GET", "HEAD", "OPTIONS"})
LARGEST_REQUEST = 30_000_000
AROUND = 1_000_000
"""In bytes: what may be sent as a rule, and what is sent around the largest file that is let in."""
UPLOADS = ("/library", "/bring-in")
"""How addresses end that take files."""

Headers = dict[bytes, bytes]
COMMON = [
    (b"x-content-type-options", b"nosniff"),
    (b"referrer-policy", b"same-origin"),
    (b"cross-origin-opener-policy", b"same-origin"),
]


def is_same_origin(headers: dict[bytes, bytes]) -> bool:
    """True when a request that changes something comes from a page of this very server.

    Browsers name the origin on every such request; one without is taken for a foreign page's.
    """
    origin, host = headers.get(b"origin", b""), headers.get(b"host", b"")
    if origin:
        return urlsplit(origin.decode("latin-1")).netloc.encode("latin-1") == host
    return headers.get(b"sec-fetch-site", b"") == b"same-origin"


class Guard:
    """Refuses changes asked for by other sites and what is too large to read, and adds the security headers."""

    def __init__(self, app: ASGIApp, largest: int, is_known: Callable[[Headers], bool]) -> None:
        """`largest` is that of a file that may be sent, in bytes; only people whom `is_known` knows may send as much."""
        self.app = app
        self.largest = largest + AROUND
        self.is_known = is_known

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        headers = dict(scope["headers"])
        if scope["method"] not in SAFE_METHODS and not is_same_origin(headers):
            await _refuse(send, 403, "This change was asked for by another site and was not made; open Mobbet itself and try again.")
            return
        most = self._most(scope, headers)
        too_large = f"This is larger than {most // 1_000_000} MB; make it smaller and try again."
        if int(headers.get(b"content-length", b"0")) > most:
            await _refuse(send, 413, too_large)
            return
        received, is_refused = 0, False

        async def receive_counted() -> Message:
            """What came, up to the limit; after that the sender is taken to have gone."""
            nonlocal received
            message = await receive()
            received += len(message.get("body", b""))
            return message if received <= most else {"type": "http.disconnect"}

        async def send_with_headers(message: Message) -> None:
            nonlocal is_refused
            if received > most:
                if not is_refused:
                    is_refused = True
                    await _refuse(send, 413, too_large)
                return
            if message["type"] == "http.response.start":
                present = {name.lower() for name, _ in message["headers"]}
                extra = [*COMMON, (b"content-security-policy", APP_POLICY.encode()), (b"cache-control", b"no-store")]
                message["headers"] = [*message["headers"], *((name, value) for name, value in extra if name not in present)]
            await send(message)

        await self.app(scope, receive_counted, send_with_headers)
        if received > most and not is_refused:
            await _refuse(send, 413, too_large)

    def _most(self, scope: Scope, headers: Headers) -> int:
        """How many bytes this request may have."""
        takes_files = scope["method"] == "POST" and scope["path"].endswith(UPLOADS)
        return self.largest if takes_files and self.is_known(headers) else LARGEST_REQUEST


async def _refuse(send: Send, status: int, sentence: str) -> None:
    body = sentence.encode()
    headers = [(b"content-type", b"text/plain; charset=utf-8"), (b"content-length", str(len(body)).encode()), *COMMON]
    await send({"type": "http.response.start", "status": status, "headers": headers})
    await send({"type": "http.response.body", "body": body})
