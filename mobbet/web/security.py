"""Headers and origin checks for every answer of the application."""

from __future__ import annotations

from urllib.parse import urlsplit

from starlette.types import ASGIApp, Message, Receive, Scope, Send

APP_POLICY = (
    "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' blob:; font-src 'self'; connect-src 'self'; "
    "frame-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'"
)
SITE_POLICY = (
    "default-src 'none'; style-src 'self'; img-src 'self'; font-src 'self'; media-src 'self'; connect-src 'self'; form-action 'none'; "
    "base-uri 'none'; frame-ancestors 'self'"
)
SAFE_METHODS = frozenset({"GET", "HEAD", "OPTIONS"})
LARGEST_REQUEST = 30_000_000
"""In bytes: a picture of the largest size that is let in, and what is sent around it."""
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

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        headers = dict(scope["headers"])
        if scope["method"] not in SAFE_METHODS and not is_same_origin(headers):
            await _refuse(send, 403, "This change was asked for by another site and was not made; open Mobbet itself and try again.")
            return
        if int(headers.get(b"content-length", b"0")) > LARGEST_REQUEST:
            await _refuse(send, 413, f"This is larger than {LARGEST_REQUEST // 1_000_000} MB; make it smaller and try again.")
            return

        async def send_with_headers(message: Message) -> None:
            if message["type"] == "http.response.start":
                present = {name.lower() for name, _ in message["headers"]}
                extra = [*COMMON, (b"content-security-policy", APP_POLICY.encode()), (b"cache-control", b"no-store")]
                message["headers"] = [*message["headers"], *((name, value) for name, value in extra if name not in present)]
            await send(message)

        await self.app(scope, receive, send_with_headers)


async def _refuse(send: Send, status: int, sentence: str) -> None:
    body = sentence.encode()
    headers = [(b"content-type", b"text/plain; charset=utf-8"), (b"content-length", str(len(body)).encode()), *COMMON]
    await send({"type": "http.response.start", "status": status, "headers": headers})
    await send({"type": "http.response.body", "body": body})
