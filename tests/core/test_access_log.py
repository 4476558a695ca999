import unittest

from mobbet.core.access_log import instant_of, path_of, read_line

COMBINED = '192.0.2.7 - - [10/Oct/2026:13:55:36 +0100] "GET /lamps/?from=poster HTTP/1.1" 200 2326 "https://links.example/a" "Some \\"agent\\" 1.0"'
COMMON = '2001:db8::1 - frank [10/Oct/2026:13:55:36 -0730] "GET / HTTP/1.0" 304 -'


class AccessLogTests(unittest.TestCase):
    def test_both_formats_are_read(self) -> None:
        one = read_line(COMBINED)
        assert one is not None
        self.assertEqual(
            (one.address, one.method, one.target, one.status),
            ("192.0.2.7", "GET", "/lamps/?from=poster", 200),
        )
        self.assertEqual((one.referrer, one.agent), ("https://links.example/a", 'Some "agent" 1.0'))
        other = read_line(COMMON)
        assert other is not None
        self.assertEqual((other.target, other.status, other.referrer, other.agent), ("/", 304, "", ""))

    def test_what_is_no_line_is_none(self) -> None:
        for text in ("", "nonsense", COMBINED[:60], '1.2.3.4 - - [x] "GET /" 200 1', COMMON.replace("304", "30x"), COMMON + " " * 20_000, '1 - - [10/Oct/2026:13:55:36 -0730] "GET" 200 1'):  # fmt: skip
            with self.subTest(text[:40]):
                self.assertIsNone(read_line(text))

    def test_times_are_instants_in_their_zone(self) -> None:
        self.assertEqual(instant_of("10/Oct/2026:13:55:36 +0000"), 1_791_640_536)
        self.assertEqual(instant_of("10/Oct/2026:14:55:36 +0100"), 1_791_640_536)
        self.assertEqual(instant_of("10/Oct/2026:06:25:36 -0730"), 1_791_640_536)
        for text in ("32/Oct/2026:13:55:36 +0000", "10/Xxx/2026:13:55:36 +0000", "10/Oct/2026"):
            self.assertIsNone(instant_of(text))

    def test_paths_are_decoded_and_stand_below_the_blogs(self) -> None:
        for target, root, path in [
            ("/b/bench/lamps/?x=1", "/b/bench/", "/lamps/"), ("/lamps/index.html", "/", "/lamps/"), ("https://bench.example/lamps/", "/", "/lamps/"),
            ("/%D0%BB/", "/", "/л/"), ("/other/", "/b/bench/", None), ("https://bench.example", "/", "/"), ("*", "/", None), ("/%ff%00/", "/", "/\ufffd\x00/"),
        ]:  # fmt: skip
            with self.subTest(target):
                self.assertEqual(path_of(target, root), path)
