import unittest

from mobbet.core.errors import BadInput
from mobbet.core.media import captions, kinds, places
from mobbet.core.media.licences import LICENCE, read_licence
from mobbet.core.media.rows import rows


class RowTests(unittest.TestCase):
    def test_every_picture_stands_once_and_in_order(self) -> None:
        for shapes in ([1.5], [0.5] * 7, [3.0, 0.4, 1.5, 1.5, 0.7, 1.0, 1.8, 1.3, 0.6], [1.5] * 40):
            self.assertEqual([at for row in rows(shapes) for at in row], list(range(len(shapes))))

    def test_lines_are_even(self) -> None:
        shapes = [1.5, 0.67, 1.33, 1.0, 1.78, 0.75, 1.5, 1.5, 1.0, 0.67, 1.5]
        heights = [1 / sum(shapes[at] for at in row) for row in rows(shapes)]
        self.assertLess(max(heights) / min(heights), 1.6)

    def test_no_picture_is_left_alone_in_a_line(self) -> None:
        for count in range(2, 20):
            self.assertTrue(all(len(row) > 1 for row in rows([1.5] * count)), count)


class PlaceTests(unittest.TestCase):
    def test_a_browser_is_told_how_wide_a_picture_stands(self) -> None:
        self.assertEqual(places.sizes("full"), "(min-width: 43rem) 40rem, calc(100vw - 2.3rem)")
        self.assertEqual(places.sizes("wide"), "(min-width: 63rem) 60rem, calc(100vw - 2.3rem)")
        self.assertEqual(places.sizes("small"), "(min-width: 43rem) 13.33rem, calc(50vw - 1.15rem)")
        self.assertEqual(places.sizes("full", 0.25), "(min-width: 43rem) 10rem, calc(25vw - 0.575rem)")
        self.assertEqual(
            places.sizes("full", 0.25, is_stacked=True), "(min-width: 43rem) 10rem, calc(100vw - 2.3rem)"
        )

    def test_a_width_that_does_not_fit_is_told_with_its_numbers(self) -> None:
        self.assertEqual(places.fit_words("full", 400), "400 px wide, too small for a place of 640 px")
        self.assertEqual(
            places.fit_words("small", 4000), "4,000 px wide, far more than its place of 213 px needs"
        )
        self.assertEqual(places.fit_words("full", 1600), "")


class CaptionTests(unittest.TestCase):
    def test_webvtt_subrip_and_plain_lines_are_read(self) -> None:
        vtt = "WEBVTT - a title\n\nNOTE nobody reads this\nor this\n\nSTYLE\n::cue { color: red }\n\nintro\n00:01.000 --> 00:02.500 align:start\nHello\n<i>there</i>\n\n00:03.000 --> 00:04.000\nAgain"
        srt = "1\r\n00:00:01,000 --> 00:00:02,500\r\nHello\r\n<i>there</i>\r\n\r\n2\r\n00:00:03,000 --> 00:00:04,000\r\nAgain\r\n"
        plain = "0:01 - 0:02.5 Hello\n<i>there</i>\n0:03 - 0:04 Again"
        for text in (vtt, srt, plain):
            with self.subTest(text[:10]):
                cues = captions.read(text, 5)
                self.assertEqual(
                    [(cue.start, cue.end, cue.words) for cue in cues],
                    [(1, 2.5, "Hello\n<i>there</i>"), (3, 4, "Again")],
                )

    def test_what_is_written_is_read_back(self) -> None:
        cues = (captions.Cue(0.5, 3661.25, "A < B --> C & D"), captions.Cue(4000, 4001, "x"))
        written = captions.write(cues)
        self.assertTrue(written.startswith("WEBVTT\n\n00:00:00.500 --> 01:01:01.250\nA &lt; B"))
        self.assertEqual(
            [(cue.start, cue.end) for cue in captions.read(captions.as_lines(captions.read(written)))],
            [(0.5, 3661.25), (4000, 4001)],
        )

    def test_a_mistake_is_named_with_its_line(self) -> None:
        for text, message in (
            ("0:01 - 0:02 a\n0:05 - 0:04 b", "Line 2 of the captions ends at 0:04.000, before it begins at 0:05.000"), ("0:99 - 1:00 a", "“0:99” in line 1"),
            ("hello", "Line 1 of the captions, “hello”, stands before any time"), ("0:20 - 0:21 late", "after the video's end at 0:06.000"),
        ):  # fmt: skip
            with self.subTest(message), self.assertRaisesRegex(BadInput, message):
                captions.read(text, 6)


class KindTests(unittest.TestCase):
    def test_no_ending_stands_for_two_types(self) -> None:
        endings = [ending for row in kinds.TYPES for ending in row.endings]
        self.assertEqual(len(endings), len(set(endings)))

    def test_names_are_cleaned(self) -> None:
        for name, wanted in (
            ("C:\\pictures\\lamp.jpg", "lamp.jpg"),
            ("../../etc/x.png", "x.png"),
            ("", "file"),
            (" . ", "file"),
            ("a\x00b\n.png", "ab.png"),
            ("x" * 200 + ".jpeg", "x" * 115 + ".jpeg"),
        ):
            self.assertEqual(kinds.clean_name(name), wanted)

    def test_limits_are_told_before_the_wait_and_held(self) -> None:
        limits = kinds.Limits(2, 12, 9)
        self.assertIn("up to 2 MB and 12 megapixels", limits.words)
        for act, message in (
            (lambda: kinds.refuse_size("a.jpg", 3_000_000, "picture", limits), "“a.jpg” has 3 MB, more than 2 MB"), (lambda: kinds.refuse_size("a.mp3", 0, "sound", limits), "“a.mp3” is empty"),
            (lambda: kinds.refuse_pixels("a.jpg", 5000, 4000, limits), "5,000 × 4,000 pixels .20 megapixels., more than 12"),
        ):  # fmt: skip
            with self.subTest(message), self.assertRaisesRegex(BadInput, message):
                act()

    def test_a_licence_is_one_of_the_table(self) -> None:
        self.assertTrue(LICENCE[read_licence("cc-by")].asks_credit)
        with self.assertRaisesRegex(BadInput, "“gpl” is no licence"):
            read_licence("gpl")
