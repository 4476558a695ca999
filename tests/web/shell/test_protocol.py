"""The limits of a connection, tried over real sockets."""

from __future__ import annotations

import asyncio
import socket
import threading
import time
from contextlib import closing, suppress
from dataclasses import replace
from unittest import mock

import uvicorn

from mobbet.web.shell import protocol
from mobbet.web.shell.app import create_app
from mobbet.web.shell.protocol import LimitedProtocol
from tests.shops import ShopCase


class ProtocolCase(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.publish()
        for name, value in (("HEAD_SECONDS", 0.6), ("STALLED_SECONDS", 0.6), ("CONNECTIONS_OF_ONE", 30)):
            changed = mock.patch.object(protocol, name, value)
            changed.start()
            self.addCleanup(changed.stop)
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            self.port = probe.getsockname()[1]
        self.shop.settings = replace(self.shop.settings, hosts=("mobbet.example",))
        config = uvicorn.Config(
            create_app(self.shop),
            host="127.0.0.1",
            port=self.port,
            http=LimitedProtocol,
            ws="none",
            proxy_headers=False,
            log_level="critical",
            lifespan="off",
        )
        self.server = uvicorn.Server(config)
        self.thread = threading.Thread(target=lambda: asyncio.run(self.server.serve()), daemon=True)
        self.thread.start()
        while not self.server.started:
            time.sleep(0.01)
        self.addCleanup(self.stop)

    def stop(self) -> None:
        self.server.should_exit = True
        self.thread.join(10)

    def connect(self) -> socket.socket:
        return socket.create_connection(("127.0.0.1", self.port), timeout=10)

    def ask(self, data: bytes) -> bytes:
        """Everything that comes back until the server closes."""
        with closing(self.connect()) as line:
            with suppress(OSError):
                line.sendall(data)
            return self.rest(line)

    def rest(self, line: socket.socket) -> bytes:
        found = b""
        with suppress(OSError):
            while chunk := line.recv(65536):
                found += chunk
        return found


class ProtocolTests(ProtocolCase):
    GOOD = b"GET /b/bench/ HTTP/1.1\r\nHost: mobbet.example\r\nConnection: close\r\n\r\n"

    def test_a_page_is_served(self) -> None:
        self.assertTrue(self.ask(self.GOOD).startswith(b"HTTP/1.1 200"))

    def test_a_head_that_is_too_large_is_cut_off_as_it_comes(self) -> None:
        head = b"GET / HTTP/1.1\r\nHost: mobbet.example\r\n"
        self.assertTrue(self.ask(head + b"X-Large: " + b"a" * 9000).startswith(b"HTTP/1.1 431"))
        self.assertTrue(self.ask(b"GET /" + b"a" * 20_000).startswith(b"HTTP/1.1 431"))
        self.assertIn(
            b"431", self.ask(head + b"Cookie: a=" + b"\\" * 7000 + b"\r\nConnection: close\r\n\r\n")[:30]
        )

    def test_a_client_that_sends_its_head_drop_by_drop_is_let_go(self) -> None:
        with closing(self.connect()) as line:
            began = time.monotonic()
            with suppress(OSError):
                for letter in b"GET /b/bench/ HTTP/1.1\r\nHost: mobbet.example\r\nX-Slow: " + b"a" * 60:
                    line.sendall(bytes([letter]))
                    time.sleep(0.05)
            self.assertEqual(self.rest(line), b"")
            self.assertLess(time.monotonic() - began, 5)

    def test_a_client_that_says_nothing_is_let_go(self) -> None:
        with closing(self.connect()) as line:
            self.assertEqual(self.rest(line), b"")

    def test_a_body_that_does_not_come_is_not_waited_for(self) -> None:
        with mock.patch("mobbet.web.shell.door.BODY_SECONDS", 0.4):
            head = b"POST /sign-in HTTP/1.1\r\nHost: mobbet.example\r\nOrigin: http://mobbet.example\r\nContent-Type: application/x-www-form-urlencoded\r\nContent-Length: 100\r\n\r\nemail="
            self.assertTrue(self.ask(head).startswith(b"HTTP/1.1 408"))

    def test_one_client_has_so_many_connections_and_no_more(self) -> None:
        protocol.HEAD_SECONDS = 5
        lines = [self.connect() for _ in range(40)]
        time.sleep(0.2)
        shut = 0
        for line in lines:
            line.settimeout(0.05)
            try:
                shut += line.recv(1) == b""
            except TimeoutError:
                pass
            except OSError:
                shut += 1
        self.assertEqual(shut, 10)
        for line in lines:
            line.close()
        time.sleep(0.3)
        self.assertTrue(self.ask(self.GOOD).startswith(b"HTTP/1.1 200"))
        self.assertLess(sum(LimitedProtocol.of_one.values()), 5)

    def test_trailers_and_the_edges_of_chunks_are_bounded(self) -> None:
        head = b"POST /sign-in HTTP/1.1\r\nHost: mobbet.example\r\nOrigin: http://mobbet.example\r\nTransfer-Encoding: chunked\r\n\r\n"
        answer = self.ask(
            head + b"0\r\n" + b"".join(b"X-%d: %s\r\n" % (number, b"a" * 1000) for number in range(3000))
        )
        self.assertLess(len(answer), 20_000)
        self.assertTrue(self.ask(self.GOOD).startswith(b"HTTP/1.1 200"))

    def test_requests_that_two_servers_would_read_differently_are_refused(self) -> None:
        for more in (
            b"Content-Length: 4\r\nTransfer-Encoding: chunked\r\n\r\n0\r\n\r\n",
            b"Content-Length: 4\r\nContent-Length: 5\r\n\r\nabcd",
            b"Transfer-Encoding: xchunked\r\n\r\n",
            b"Content-Length: +4\r\n\r\nabcd",
        ):
            with self.subTest(more):
                answer = self.ask(
                    b"POST /sign-in HTTP/1.1\r\nHost: mobbet.example\r\nOrigin: http://mobbet.example\r\nConnection: close\r\n"
                    + more
                )
                self.assertRegex(answer[:12], rb"^HTTP/1.1 4\d\d$|^$")
