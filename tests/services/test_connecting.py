from __future__ import annotations

import gzip
import ipaddress
import socket
import threading
import time
import unittest
import zlib

import brotli
import httpx

from mobbet.core.errors import BadInput
from mobbet.services.connecting import is_public, machine
from mobbet.services.fetching import PublicFetcher

PUBLIC = ("93.184.215.14", "2606:2800:21f:cb07:6820:80da:af6b:8b2c", "8.8.8.8")
INSIDE = (
    "127.0.0.1", "10.1.2.3", "172.16.0.1", "192.168.1.1", "169.254.169.254", "100.64.0.1", "0.0.0.0", "0.1.2.3", "192.0.0.8", "192.0.2.1", "198.18.0.1", "198.51.100.1", "203.0.113.1", "224.0.0.1", "240.0.0.1", "255.255.255.255", "192.88.99.1",
    "::", "::1", "::127.0.0.1", "::8.8.8.8", "::ffff:127.0.0.1", "::ffff:8.8.8.8", "64:ff9b::7f00:1", "64:ff9b::808:808", "64:ff9b:1::1", "100::1", "2001::1", "2001:db8::1", "2002:7f00:1::", "2002:808:808::1", "fc00::1", "fd12::1", "fe80::1", "fec0::1", "ff02::1", "3fff::1", "5f00::1",
)  # fmt: skip


class AddressTests(unittest.TestCase):
    def test_which_addresses_are_of_the_public_network(self) -> None:
        for text in PUBLIC:
            self.assertTrue(is_public(ipaddress.ip_address(text)), text)
        for text in INSIDE:
            self.assertFalse(is_public(ipaddress.ip_address(text)), text)

    def test_one_inner_address_of_a_name_is_enough(self) -> None:
        with self.assertRaisesRegex(BadInput, "lies inside the network"):
            machine("two.example", 22, False, lambda host, port: ["93.184.215.14", "10.0.0.1"])
        self.assertEqual(
            machine("one.example", 22, False, lambda host, port: ["93.184.215.14"]), "93.184.215.14"
        )
        self.assertEqual(machine("store.lan", 22, True), "store.lan")


class BombTests(unittest.TestCase):
    def fetch(self, body: bytes, packing: str, most: int = 1_000_000) -> bytes:
        answer = lambda request: httpx.Response(
            200, headers={"content-encoding": packing}, stream=httpx.ByteStream(body)
        )  # noqa: E731
        fetcher = PublicFetcher(lambda host, port: ["93.184.215.14"], httpx.MockTransport(answer))
        return fetcher("https://a.example/x.bin", most).body

    def test_what_is_packed_is_unpacked_bit_by_bit(self) -> None:
        self.assertEqual(self.fetch(gzip.compress(b"lamp" * 1000), "gzip"), b"lamp" * 1000)
        self.assertEqual(self.fetch(zlib.compress(b"lamp"), "deflate"), b"lamp")

    def test_a_bomb_is_left_before_it_grows(self) -> None:
        packer = zlib.compressobj(9, wbits=31)
        bomb = b"".join(packer.compress(bytes(1_000_000)) for _ in range(300)) + packer.flush()
        with self.assertRaisesRegex(BadInput, "is larger than 1 MB"):
            self.fetch(bomb, "gzip")
        for packing in ("br", "zstd", "gzip, gzip"):
            with (
                self.subTest(packing),
                self.assertRaisesRegex(BadInput, "could not be reached .DecodingError"),
            ):
                self.fetch(brotli.compress(bytes(1_000_000)), packing)


class DeadlineTests(unittest.TestCase):
    """A server on this machine that sends one letter at a time, and a fetcher that is told it were public."""

    def test_a_place_that_drips_is_left_when_the_time_is_over(self) -> None:
        listening = socket.create_server(("127.0.0.1", 0))
        self.addCleanup(listening.close)

        def drip() -> None:
            line, _ = listening.accept()
            with line:
                for letter in b"HTTP/1.1 200 OK\r\nX-Long: " + b"a" * 1000:
                    try:
                        line.sendall(bytes([letter]))
                    except OSError:
                        return
                    time.sleep(0.05)

        threading.Thread(target=drip, daemon=True).start()
        port = listening.getsockname()[1]

        class Near(httpx.HTTPTransport):
            def handle_request(self, request: httpx.Request) -> httpx.Response:
                request.url = request.url.copy_with(scheme="http", host="127.0.0.1", port=port)
                return super().handle_request(request)

        fetcher = PublicFetcher(lambda host, port: ["93.184.215.14"], Near(), seconds=1.0)
        began = time.monotonic()
        with self.assertRaises(BadInput):
            fetcher("http://a.example/x", 1000)
        self.assertLess(time.monotonic() - began, 15)
