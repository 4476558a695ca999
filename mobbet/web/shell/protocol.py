"""HTTP/1.1 with the limits of `web/shell/limits.py`: slow or large clients are disconnected."""

from __future__ import annotations

import asyncio
from collections import Counter
from typing import ClassVar

from uvicorn.protocols.http.httptools_impl import HttpToolsProtocol

from mobbet.web.shell.limits import CONNECTIONS_OF_ONE, HEAD_BYTES, HEAD_SECONDS, STALLED_SECONDS

TOO_LARGE = b"The head of this request is larger than 8 kB; clear the cookies of this site and try again."
MOST_BESIDE_BODY = 1_000_000
"""Bytes that come with a body and are none of it: the edges of its chunks, and trailers."""
REFUSED = (
    b"HTTP/1.1 431 Request Header Fields Too Large\r\ncontent-type: text/plain; charset=utf-8\r\nx-content-type-options: nosniff\r\n"
    b"content-security-policy: default-src 'none'\r\nconnection: close\r\ncontent-length: %d\r\n\r\n%s"
    % (len(TOO_LARGE), TOO_LARGE)
)


class LimitedProtocol(HttpToolsProtocol):
    """Counts the bytes of a head before it is whole, and times heads and sending; bodies are counted by the application."""

    of_one: ClassVar[Counter[str]] = Counter()
    unlimited: ClassVar[frozenset[str]] = frozenset()
    """Addresses of proxies, through which everybody comes."""

    _timer: asyncio.TimerHandle | None = None
    _head_bytes = _beside_body = 0
    _is_in_head = True
    _is_counted = False

    def connection_made(self, transport: asyncio.Transport) -> None:  # type: ignore[override]
        super().connection_made(transport)
        host = self._host = self.client[0] if self.client else ""
        self.of_one[host] += 1
        self._is_counted = True
        if self.of_one[host] > CONNECTIONS_OF_ONE and host not in self.unlimited:
            transport.abort()
            return
        self._begin_head()

    def connection_lost(self, exc: Exception | None) -> None:
        self._stop_timer()
        if self._is_counted:
            self._is_counted = False
            self.of_one[self._host] -= 1
            if self.of_one[self._host] <= 0:
                del self.of_one[self._host]
        super().connection_lost(exc)

    def data_received(self, data: bytes) -> None:
        if self._is_in_head:
            end = data.find(b"\r\n\r\n")
            self._head_bytes += len(data) if end < 0 else end
            if self._head_bytes > HEAD_BYTES:
                self._stop_timer()
                self.transport.write(REFUSED)
                self.transport.close()
                return
            if self._timer is None:
                self._start_timer(HEAD_SECONDS)
        else:
            self._beside_body += len(data)
            if self._beside_body > MOST_BESIDE_BODY:
                self.transport.abort()
                return
        super().data_received(data)

    def on_body(self, body: bytes) -> None:
        self._beside_body -= len(body)
        super().on_body(body)

    def on_headers_complete(self) -> None:
        self._is_in_head = False
        self._stop_timer()
        super().on_headers_complete()

    def on_message_complete(self) -> None:
        super().on_message_complete()
        self._is_in_head, self._head_bytes, self._beside_body = True, 0, 0

    def pause_writing(self) -> None:
        super().pause_writing()
        self._stop_timer()
        self._start_timer(STALLED_SECONDS)

    def resume_writing(self) -> None:
        super().resume_writing()
        self._stop_timer()

    def _begin_head(self) -> None:
        self._is_in_head, self._head_bytes = True, 0
        self._start_timer(HEAD_SECONDS)

    def _start_timer(self, seconds: float) -> None:
        self._timer = self.loop.call_later(seconds, self._let_go)

    def _stop_timer(self) -> None:
        if self._timer is not None:
            self._timer.cancel()
            self._timer = None

    def _let_go(self) -> None:
        self._timer = None
        self.transport.abort()
