import asyncio
import gzip
import unittest
from concurrent.futures import ThreadPoolExecutor

import brotli
from starlette.responses import Response, StreamingResponse
from starlette.types import ASGIApp

from mobbet.web.shell.compression import IN_A_THREAD, Compression

WORDS = b"A lamp whose flex has worn through. " * 200


def answer_of(app: ASGIApp, accepted: str) -> tuple[str | None, bytes]:
    """The content encoding and the body with which the packed app answers."""
    sent: list[dict] = []

    async def send(message: dict) -> None:
        sent.append(dict(message))

    async def receive() -> dict:
        await asyncio.sleep(1)
        return {"type": "http.disconnect"}

    scope = {
        "type": "http",
        "method": "GET",
        "path": "/",
        "headers": [(b"accept-encoding", accepted.encode())],
    }
    with ThreadPoolExecutor(1) as thread:  # another test of this process may have a loop of its own
        thread.submit(asyncio.run, Compression(app)(scope, receive, send)).result()
    head = dict(sent[0]["headers"])
    body = b"".join(one.get("body", b"") for one in sent[1:])
    if b"content-length" in head:
        assert int(head[b"content-length"]) == len(body)
    return head.get(b"content-encoding", b"").decode() or None, body


class CompressionTests(unittest.TestCase):
    def test_a_page_is_packed_as_the_browser_takes_it(self) -> None:
        for accepted, expected, unpacked in (
            ("gzip, deflate, br", "br", brotli.decompress),
            ("gzip", "gzip", gzip.decompress),
            ("br;q=0", None, bytes),
            ("", None, bytes),
        ):
            with self.subTest(accepted):
                encoding, body = answer_of(Response(WORDS, media_type="text/html"), accepted)
                self.assertEqual((encoding, unpacked(body)), (expected, WORDS))

    def test_a_long_answer_and_one_in_pieces_come_out_whole(self) -> None:
        long = WORDS * (IN_A_THREAD // len(WORDS) + 1)
        encoding, body = answer_of(Response(long, media_type="text/html"), "br")
        self.assertEqual((encoding, brotli.decompress(body)), ("br", long))

        async def pieces():
            for _ in range(3):
                yield WORDS

        encoding, body = answer_of(StreamingResponse(pieces(), media_type="text/csv"), "br")
        self.assertEqual((encoding, brotli.decompress(body)), ("br", WORDS * 3))

    def test_what_is_small_packed_or_a_part_goes_as_it_is(self) -> None:
        for name, answer in (
            ("small", Response(b"short", media_type="text/html")),
            ("picture", Response(WORDS, media_type="image/webp")),
            ("part", Response(WORDS, 206, media_type="text/html")),
        ):
            with self.subTest(name):
                self.assertIsNone(answer_of(answer, "br")[0])


if __name__ == "__main__":
    unittest.main()
