import unittest

from mobbet.core.embeds import match, origins, recognise
from mobbet.core.errors import BadInput


class EmbedTests(unittest.TestCase):
    def test_an_address_or_a_providers_code_is_the_same_work(self) -> None:
        for typed in (
            "https://reel.example/watch/eye-splice", " https://reel.example/watch/eye-splice/?from=mail#t=3 ",
            '<iframe width="560" src="https://reel.example/embed/eye-splice?rel=0" onload="x()"></iframe>', "<div><IFRAME SRC=https://reel.example/frame/eye-splice></IFRAME></div>",
        ):  # fmt: skip
            with self.subTest(typed):
                found = recognise(typed)
                self.assertEqual(
                    (found.provider.name, found.address, found.frame),
                    ("Harbour Reel", "https://reel.example/watch/eye-splice", "/stand-ins/reel/eye-splice"),
                )

    def test_anything_else_is_refused_with_the_reason(self) -> None:
        for typed, message in (
            ("https://other.example/watch/x", "“other.example” is none of the providers"), ("<script src='https://reel.example/x.js'></script>", "holds no frame"),
            ("<iframe src='https://evil.example/embed/eye-splice'></iframe>", "“evil.example” is none"), ("javascript:alert(1)", "is none of the providers"),
            ("https://reel.example.evil.example/watch/x", "is none of the providers"), ("https://reel.example/watch/<b>", "holds no frame|none of the providers"),
        ):  # fmt: skip
            with self.subTest(typed), self.assertRaisesRegex(BadInput, message):
                recognise(typed)
        self.assertIsNone(match("https://reel.example/watch/"))

    def test_frames_of_this_server_need_no_origin(self) -> None:
        self.assertEqual(origins(), ())
