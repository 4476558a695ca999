import unittest
from dataclasses import replace

from mobbet.core.document.html import Html, Playing, Rendition
from mobbet.core.document.leading import lead
from mobbet.core.document.outline import items
from mobbet.core.document.schema import check
from mobbet.core.document.write import to_html, to_markdown, to_text
from mobbet.core.errors import BadDocument


def shown(src: str, sizes: str) -> Rendition:
    """Pictures of 1200 by 800 pixels; those with an odd number stand upright."""
    is_upright = int(src[6:]) % 2 == 1
    size = (800, 1200) if is_upright else (1200, 800)
    return Rendition(
        f"/{src[6:]}.jpg",
        *size,
        f"/{src[6:]}.jpg 800w",
        sizes,
        (("image/webp", f"/{src[6:]}.webp 800w"),),
        ("#112233",) * 12,
        colour="#445566",
    )


def played(src: str) -> Playing:
    return Playing(
        "switch.mp4",
        "/s.mp4",
        "video/mp4",
        1_234_567,
        41.2,
        640,
        360,
        "/p.webp",
        "/c.vtt",
        "/w.svg",
        "One.\n\nTwo & three.",
    )


PAGE = Html(shown, played, is_page=True, language="pt", frame_hosts=("reel.example",))


def doc(*nodes: dict) -> dict:
    return check({"type": "doc", "content": list(nodes)})


def picture(number: int = 2, *caption: str, **attrs: object) -> dict:
    return {
        "type": "picture",
        "attrs": {"src": f"media:{number}", "alt": "A <lamp>", **attrs},
        "content": [{"type": "text", "text": words} for words in caption],
    }


class PageTests(unittest.TestCase):
    def page(self, *nodes: dict) -> str:
        return to_html(doc(*nodes), PAGE)

    def test_a_picture_is_offered_in_its_formats_with_its_size_and_stand_in(self) -> None:
        html = self.page(picture())
        for part in (
            '<source type="image/webp" srcset="/2.webp 800w" sizes="(min-width: 43rem) 40rem, calc(100vw - 2.3rem)">', 'width="1200" height="800"', 'alt="A &lt;lamp&gt;"',
            'fetchpriority="high"', '<svg class="tiny" viewBox="0 0 4 3"', 'fill="#445566"',
        ):  # fmt: skip
            self.assertIn(part, html)
        self.assertNotIn(" style=", html)

    def test_its_settings_are_classes_and_around_needs_a_side(self) -> None:
        self.assertIn(
            'class="picture size-half place-left around frame-lined space-more"',
            self.page(picture(size="half", place="left", around=True, frame="lined", space="more")),
        )
        self.assertIn('class="picture size-wide"', self.page(picture(size="wide", around=True)))

    def test_decoration_has_no_words_credit_and_link_have_theirs(self) -> None:
        html = self.page(
            picture(2, "Caption", decoration=True, credit="Ines & co", address="https://a.example/x")
        )
        for part in (
            'alt=""',
            '<a href="https://a.example/x" aria-label="Caption">',
            '<figcaption>Caption <span class="credit">Ines &amp; co</span></figcaption>',
        ):
            self.assertIn(part, html)

    def test_pictures_in_rows_are_told_as_equally_high(self) -> None:
        html = self.page(
            {"type": "gallery", "attrs": {"layout": "rows"}, "content": [picture(2), picture(1), picture(4)]}
        )
        self.assertEqual(html.count('class="row"'), 1)
        self.assertEqual(
            (html.count('width="1500" height="1000"'), html.count('width="667" height="1000"')), (2, 1)
        )
        self.assertIn("(min-width: 43rem) 16.36rem, calc(40.91vw", html)

    def test_slides_and_grids_need_no_script(self) -> None:
        slides = self.page(
            {"type": "gallery", "attrs": {"layout": "slides"}, "content": [picture(2), picture(4)]}
        )
        self.assertIn(
            '<div class="gallery slides" tabindex="0" role="group" aria-label="2 pictures, one beside the other">',
            slides,
        )
        self.assertIn(
            '<div class="gallery grid">',
            self.page({"type": "gallery", "attrs": {"layout": "grid"}, "content": [picture(2)]}),
        )

    def test_beside_text_a_picture_has_its_share_of_the_line(self) -> None:
        side = {"type": "side", "content": [picture(2)]}
        html = self.page({"type": "beside", "attrs": {"share": 25}, "content": [side, side]})
        self.assertIn("(min-width: 43rem) 10rem, calc(100vw - 2.3rem)", html)
        self.assertIn("(min-width: 43rem) 30rem, calc(100vw - 2.3rem)", html)

    def test_players_load_nothing_before_they_are_asked(self) -> None:
        sound = self.page({"type": "sound", "attrs": {"src": "media:4", "title": "A motor"}})
        for part in (
            '<audio controls preload="none" src="/s.mp4" aria-label="A motor">',
            "0:41",
            '<img class="wave" src="/w.svg" width="480" height="80"',
            "<p>Two &amp; three.</p>",
        ):
            self.assertIn(part, sound)
        video = self.page({"type": "video", "attrs": {"src": "media:5", "size": "wide"}})
        for part in (
            'class="video size-wide"',
            'preload="none" width="640" height="360" poster="/p.webp"',
            '<track kind="captions" src="/c.vtt" srclang="pt"',
        ):
            self.assertIn(part, video)
        self.assertIn(
            "MP4, 1.2 MB", self.page({"type": "file", "attrs": {"src": "media:7", "words": "The clip"}})
        )

    def test_an_embed_is_a_link_until_a_reader_asks_for_its_frame(self) -> None:
        html = self.page(
            {
                "type": "embed",
                "attrs": {"address": "https://reel.example/watch/a-b", "title": "Knots", "poster": "media:2"},
            }
        )
        self.assertIn(
            '<a class="facade" href="https://reel.example/watch/a-b" data-frame="/stand-ins/reel/a-b" data-shape="640 360">',
            html,
        )
        self.assertNotIn("<iframe", html)
        self.assertNotIn(
            "data-frame",
            self.page(
                {
                    "type": "embed",
                    "attrs": {
                        "address": "https://elsewhere.example/x",
                        "frame": "https://elsewhere.example/f",
                    },
                }
            ),
        )

    def test_in_a_feed_what_plays_is_a_picture_with_a_link(self) -> None:
        blocks = (
            {"type": "video", "attrs": {"src": "media:5"}},
            {"type": "sound", "attrs": {"src": "media:4"}},
            {"type": "embed", "attrs": {"address": "https://reel.example/watch/a-b", "poster": "media:2"}},
            picture(2),
        )
        html = to_html(doc(*blocks), replace(PAGE, is_feed=True))
        self.assertNotRegex(html, "<video|<audio|data-frame|<picture|<svg")
        self.assertIn('<a href="/s.mp4"><img src="/p.webp" alt=""><br>Watch: switch.mp4 (0:41)</a>', html)

    def test_what_readers_cannot_be_given_is_left_out(self) -> None:
        bare = Html(lambda src, sizes: None, is_page=True)
        self.assertEqual(
            to_html(
                doc(
                    {"type": "sound", "attrs": {"src": "media:4"}},
                    {"type": "file", "attrs": {"src": "media:7"}},
                ),
                bare,
            ).strip(),
            "",
        )


class KindTests(unittest.TestCase):
    def test_every_item_of_a_text_is_named_once(self) -> None:
        document = doc(
            picture(2),
            {"type": "gallery", "content": [picture(2), picture(4)]},
            {"type": "video", "attrs": {"src": "media:5"}},
            {"type": "embed", "attrs": {"address": "https://a.example/", "poster": "media:6"}},
        )
        self.assertEqual(items(document), (2, 4, 5, 6))

    def test_the_first_picture_wide_enough_leads(self) -> None:
        document = doc(
            picture(1), {"type": "video", "attrs": {"src": "media:5", "title": "A film"}}, picture(4)
        )
        self.assertEqual(lead(document, "", lambda number: number >= 4).src, "media:5")
        self.assertEqual(lead(document, "", lambda number: False).src, "media:1")

    def test_sounds_videos_and_files_are_always_the_librarys(self) -> None:
        for kind in ("sound", "video", "file"):
            for src in ("https://a.example/a.mp3", "javascript:alert(1)", "media:x", ""):
                with self.subTest(f"{kind} {src}"), self.assertRaises(BadDocument):
                    doc({"type": kind, "attrs": {"src": src}})
        with self.assertRaises(BadDocument):
            doc({"type": "gallery", "content": []})

    def test_words_stand_in_for_what_plays(self) -> None:
        document = doc(
            {
                "type": "sound",
                "attrs": {"src": "media:4", "title": "A motor"},
                "content": [{"type": "text", "text": "Listen."}],
            },
            {"type": "file", "attrs": {"src": "media:7", "words": "A table"}},
        )
        self.assertEqual(to_text(document), "[A motor]\nListen.\n\nA table")
        self.assertEqual(
            to_markdown(document),
            '~~~ mobbet:sound src=media:4 title="A motor"\nListen.\n~~~\n\n~~~ mobbet:file src=media:7 words="A table"\n~~~\n',
        )
