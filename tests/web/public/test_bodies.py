"""What a request asks for of a page that is ready."""

import unittest

from mobbet.web.public.bodies import best_encoding, is_same, packed, part_of


class BodiesTests(unittest.TestCase):
    def test_a_range_is_read_as_the_standard_has_it(self) -> None:
        for asked, part in (
            ("bytes=0-9", (0, 9)), ("bytes=90-", (90, 99)), ("bytes=90-400", (90, 99)), ("bytes=-5", (95, 99)), ("bytes=-500", (0, 99)), ("bytes=100-", ()),
            ("bytes=-0", ()), ("bytes=9-3", None), ("bytes=-", None), ("bytes=0-1,5-6", None), ("lines=0-9", None), (f"bytes=0-{'9' * 5000}", None),
        ):  # fmt: skip
            with self.subTest(asked[:20]):
                self.assertEqual(part_of(asked.encode(), 100), part)

    def test_the_smallest_encoding_that_is_accepted_is_sent(self) -> None:
        both = {b"": b"", b"gzip": b"", b"br": b""}
        for accepted, chosen in (
            (b"gzip, deflate, br", b"br"),
            (b"gzip", b"gzip"),
            (b"br;q=0, gzip;q=0.5", b"gzip"),
            (b"gzip;q=0.0, br; q=0.000", b""),
            (b"gzip;q=0.01", b"gzip"),
            (b"", b""),
            (b"zstd", b""),
        ):
            with self.subTest(accepted):
                self.assertEqual(best_encoding(accepted, both), chosen)

    def test_an_etag_is_the_same_whatever_the_encoding(self) -> None:
        etag = b'"0123"'
        self.assertEqual(
            [is_same(wanted, etag) for wanted in (b'"0123"', b'W/"0123-br"', b"*", b'"another"', b"")],
            [True, True, True, False, False],
        )

    def test_what_is_small_or_compressed_already_is_not_packed(self) -> None:
        self.assertEqual(
            [
                sorted(packed(type, body))
                for type, body in (
                    ("text/html", b"x" * 2000),
                    ("text/html", b"x"),
                    ("image/webp", b"x" * 2000),
                )
            ],
            [[b"br", b"gzip"], [], []],
        )
