import unittest

from mobbet.core.embeds import LONGEST_CODE, is_allowed, read_embed_code, read_hosts, shown_frame
from mobbet.core.errors import BadInput

FILMS = ("films.example",)


class HostTests(unittest.TestCase):
    def test_hosts_are_read_from_names_and_addresses_each_once(self) -> None:
        self.assertEqual(
            read_hosts(" Films.Example, https://www.films.example/a\nmünchen.example "),
            ("films.example", "xn--mnchen-3ya.example"),
        )

    def test_what_is_no_host_name_is_refused_by_its_name(self) -> None:
        for typed in (
            "com",
            "127.0.0.1",
            "films.example;script-src",
            "https://",
            "a..example",
            "*.example",
            "[::1]",
        ):
            with self.subTest(typed), self.assertRaisesRegex(BadInput, "is no host name"):
                read_hosts(typed)

    def test_a_frame_is_allowed_of_the_host_and_those_below_it_over_https(self) -> None:
        for frame, expected in (
            ("https://films.example/f/1", True), ("https://player.films.example/1?x=2", True), ("https://films.example:443/1", True),
            ("http://films.example/1", False), ("https://films.example:8443/1", False), ("https://afilms.example/1", False),
            ("https://films.example.evil.example/1", False), ("https://films.example@evil.example/1", False), ("//films.example/1", False),
            ("https://films.example:x/1", False), ("javascript:films.example", False), ("", False),
        ):  # fmt: skip
            with self.subTest(frame):
                self.assertEqual(is_allowed(frame, FILMS), expected)

    def test_a_frame_shows_only_while_its_host_is_allowed(self) -> None:
        page, frame = "https://films.example/watch/a", "https://player.films.example/a"
        self.assertEqual(shown_frame(page, frame, FILMS), frame)
        self.assertEqual(shown_frame(page, frame, ()), "")
        self.assertEqual(shown_frame(page, "", FILMS), "")

    def test_frames_of_the_made_up_hosts_are_of_this_server(self) -> None:
        for page, frame in (
            ("https://reel.example/watch/a-b", "https://reel.example/frame/a-b"),
            ("https://reel.example/watch/a-b", ""),
        ):
            with self.subTest(frame):
                self.assertEqual(shown_frame(page, frame, ("reel.example",)), "/stand-ins/reel/a-b")


class CodeTests(unittest.TestCase):
    def test_code_has_a_frame_a_page_and_words(self) -> None:
        code = read_embed_code(
            "<blockquote><IFRAME SRC=//films.example/f/1 title='A  film' width=560 height=100% onload=x()></IFRAME>"
            "<a href='https://films.example/1'>On its page</a></blockquote>"
        )
        self.assertEqual(
            (code.frame, code.page, code.words, code.width, code.height),
            ("https://films.example/f/1", "https://films.example/1", "A film", 560, 360),
        )

    def test_addresses_that_are_none_of_the_web_are_left_out(self) -> None:
        code = read_embed_code(
            "<iframe src='data:text/html,x'></iframe><a href='java\tscript:x'>y</a><script src=//z.example></script>"
        )
        self.assertEqual((code.frame, code.page, code.words), ("", "", "y"))

    def test_what_is_longer_than_any_code_is_refused(self) -> None:
        with self.assertRaisesRegex(BadInput, "20,007 letters"):
            read_embed_code("<div>" + "x" * (LONGEST_CODE + 2))
