import unittest

from mobbet.core.document import outline
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.document.html import Html
from mobbet.core.document.write import to_html, to_text


class OutlineTests(unittest.TestCase):
    def test_headings_have_the_anchors_of_the_html(self) -> None:
        document = from_markdown("## One\n\ntext\n\n> ### Two\n\n## One")
        found = outline.headings(document)
        self.assertEqual(
            [(h.level, h.words, h.anchor, h.block) for h in found],
            [(2, "One", "one", 0), (3, "Two", "two", 2), (2, "One", "one-2", 3)],
        )
        for heading in found:
            self.assertIn(f'id="{heading.anchor}"', to_html(document, Html(is_page=True)))

    def test_words_are_counted_in_any_script(self) -> None:
        for text, count in (
            ("one two’s three-four", 3),
            ("", 0),
            ("修理ノート and words", 7),
            ("- a\n- b", 2),
        ):
            with self.subTest(text):
                self.assertEqual(outline.count_words(from_markdown(text)), count)

    def test_reading_takes_at_least_a_minute(self) -> None:
        self.assertEqual([outline.minutes(n) for n in (0, 1, 230, 231, 1140)], [1, 1, 1, 2, 5])

    def test_the_teaser_is_the_first_paragraph_without_its_links(self) -> None:
        document = from_markdown("## H\n\nSee [the *shop*](https://a.example) first.\n\nThen more.")
        self.assertEqual(outline.teaser_html(document), "See the <em>shop</em> first.")

    def test_the_teaser_text_is_cut_after_a_whole_word(self) -> None:
        text = outline.teaser_text(from_markdown("word " * 60))
        self.assertTrue(text.endswith("word…"))
        self.assertLessEqual(len(text), 161)

    def test_pictures_of_the_library_are_named_once(self) -> None:
        document = from_markdown("![a](media:3)\n\n![b](media:9)\n\n![c](media:3)\n\n![d](x.png)")
        self.assertEqual(outline.items(document), (3, 9))

    def test_a_picture_without_files_becomes_a_link(self) -> None:
        html = to_html(
            from_markdown("![a lamp](https://x.example/l.png)"), Html(lambda src, sizes: None, is_page=True)
        )
        self.assertEqual(
            html, '<figure class="picture"><a href="https://x.example/l.png">a lamp</a></figure>'
        )

    def test_text_keeps_the_shape_of_lists(self) -> None:
        self.assertEqual(to_text(from_markdown("1. a\n2. b\n\n> q\n\n---")), "1. a\n2. b\n\nq\n\n* * *")
