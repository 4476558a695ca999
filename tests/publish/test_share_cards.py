import io
import unittest

from PIL import Image

from mobbet.core.look.begun import BEGUN, begun_look
from mobbet.core.look.look import read_look_file
from mobbet.publish import share_cards
from mobbet.publish.share_cards import ACCENTS, INKS, draw

LONG = "Which glue, honestly, for a lamp with a loose foot and a cracked shade"


class ShareCardTests(unittest.TestCase):
    def test_a_title_that_fits_in_lines_keeps_every_letter(self) -> None:
        for words in (
            LONG,
            "Short",
            "A zip that will not close, and what the slider has to do with it, in four steps",
        ):
            _, lines = share_cards._set(words)
            self.assertEqual(" ".join(lines), words)

    def test_a_title_that_is_too_long_is_cut_at_its_end_alone(self) -> None:
        _, lines = share_cards._set("lamp " * 100)
        self.assertEqual([line.endswith("…") for line in lines], [False] * (len(lines) - 1) + [True])
        self.assertTrue(share_cards._set("l" * 200)[1][0].endswith("…"))

    def test_a_card_has_paper_ink_and_accent_where_they_belong(self) -> None:
        for name in BEGUN:
            with self.subTest(name):
                palette = read_look_file(begun_look(name)).light
                paper, ink, accent = (tuple(palette.colour(part)) for part in ("paper", "ink", "accent"))
                card = Image.open(io.BytesIO(draw(LONG, "The Mending Bench", palette)))
                self.assertEqual((card.format, card.size), ("PNG", (1200, 630)))
                colours = card.convert("RGB")
                self.assertEqual(
                    [colours.getpixel(at) for at in ((600, 20), (9, 300), (150, 512))],
                    [paper, accent, accent],
                )
                self.assertIn(ink, {colours.getpixel((x, 210)) for x in range(84, 600)})
                self.assertLessEqual(len(colours.getcolors()), INKS + ACCENTS + 1)
