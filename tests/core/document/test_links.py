import unittest

from mobbet.core.document.html import Html, Rendition
from mobbet.core.document.links import clean_address, clean_picture, media_number
from mobbet.core.document.schema import check
from mobbet.core.document.write import inline_html, to_html

GOOD = (
    "https://a.example/b?c=d#e",
    "http://a.example",
    "mailto:a@b.example",
    "tel:+351",
    "/lamps/",
    "#part",
    "a.example/page",
    "//a.example/x",
)
BAD = (
    "",
    " ",
    "javascript:alert(1)",
    "JaVaScRiPt:x",
    "java\tscript:x",
    "\x01javascript:x",
    "vbscript:x",
    "data:text/html,x",
    "file:///etc/passwd",
    "ftp://a.example",
    "x" * 2049,
    None,
    7,
)


class LinkTests(unittest.TestCase):
    def test_good_addresses_are_kept_as_they_are(self) -> None:
        for address in GOOD:
            with self.subTest(address):
                self.assertEqual(clean_address(address), address)

    def test_foreign_schemes_and_empty_addresses_are_refused(self) -> None:
        for address in BAD:
            with self.subTest(str(address)[:30]):
                self.assertIsNone(clean_address(address))

    def test_control_characters_are_taken_out(self) -> None:
        self.assertEqual(clean_address(" https://a.example/\u200bb\n"), "https://a.example/b")

    def test_a_picture_may_be_one_of_the_library(self) -> None:
        self.assertEqual(clean_picture("media:17"), "media:17")
        self.assertEqual(
            (media_number("media:17"), media_number("media:x"), media_number("a.png")), (17, None, None)
        )
        for address in ("media:", "media:1x", "media:-1", "javascript:x"):
            self.assertIsNone(clean_picture(address))


class HtmlTests(unittest.TestCase):
    def picture(self, number: int) -> dict:
        return {"type": "picture", "attrs": {"src": f"media:{number}", "alt": 'a "lamp" <b>'}}

    def test_the_first_picture_loads_at_once_and_the_others_when_they_come_near(self) -> None:
        html = to_html(
            check({"type": "doc", "content": [self.picture(1), self.picture(2)]}),
            Html(lambda src, sizes: Rendition("x.webp", 800, 500, "x.webp 800w", "100vw"), is_page=True),
        )
        first, second = html.split("\n")
        self.assertIn('fetchpriority="high"', first)
        self.assertIn('loading="lazy"', second)
        for line in (first, second):
            self.assertIn('srcset="x.webp 800w" sizes="100vw" width="800" height="500"', line)
            self.assertIn('alt="a &quot;lamp&quot; &lt;b&gt;"', line)

    def test_neighbours_with_one_mark_stand_in_one_element(self) -> None:
        strong, em = {"type": "strong"}, {"type": "emphasis"}
        nodes = [
            {"type": "text", "text": "a", "marks": [strong]},
            {"type": "text", "text": "b", "marks": [strong, em]},
            {"type": "text", "text": "<c>"},
        ]
        self.assertEqual(inline_html(nodes), "<strong>a<em>b</em></strong>&lt;c&gt;")

    def test_words_and_addresses_are_escaped(self) -> None:
        link = {"type": "link", "attrs": {"href": 'https://a.example/"><script>'}}
        tree = {
            "type": "doc",
            "content": [
                {"type": "paragraph", "content": [{"type": "text", "text": "<script>", "marks": [link]}]}
            ],
        }
        self.assertEqual(
            to_html(check(tree)),
            '<p><a href="https://a.example/&quot;&gt;&lt;script&gt;">&lt;script&gt;</a></p>',
        )

    def test_items_of_one_paragraph_need_no_paragraph_inside(self) -> None:
        item = {
            "type": "listItem",
            "content": [{"type": "paragraph", "content": [{"type": "text", "text": "a"}]}],
        }
        tree = {"type": "doc", "content": [{"type": "orderedList", "attrs": {"start": 5}, "content": [item]}]}
        self.assertEqual(to_html(check(tree)), '<ol start="5">\n<li>a</li>\n</ol>')
