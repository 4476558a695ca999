"""Pages say in their classes what they are (microformats2), for readers that are programs."""

from selectolax.lexbor import LexborHTMLParser, LexborNode

from mobbet.actions import appearance, placing
from tests.shops import ShopCase


class MicroformatTests(ShopCase):
    def entry(self, heading: tuple[str, ...] | None = None, title: str = "Lamps & more") -> LexborNode:
        post = self.write(title, "The **text**.", date="2026-11-10", tags="flex", subtitle="Below it")
        if heading is not None:
            appearance.set_heading(self.shop, self.me, post.id, "none" if not heading else "", list(heading))
            placing.place(self.shop, self.me, post.id)
        self.publish()
        slug = self.again(post).slug
        page = next(body for path, body in self.site().items() if path.endswith(f"/{slug}/"))
        found = LexborHTMLParser(page).css_first("article.h-entry")
        assert found is not None
        return found

    def text(self, entry: LexborNode, selector: str) -> str:
        node = entry.css_first(selector)
        assert node is not None, selector
        return node.attributes.get("value") or node.attributes.get("datetime") or node.text().strip()

    def test_a_post_is_an_entry_with_name_author_time_address_and_content(self) -> None:
        entry = self.entry()
        self.assertEqual(self.text(entry, ".p-name"), "Lamps & more")
        self.assertEqual(self.text(entry, ".p-author"), "Ines Farrow")
        self.assertTrue(self.text(entry, ".dt-published").startswith("2026-11-10T"))
        self.assertTrue(self.text(entry, ".u-url").startswith("https://bench.example/"))
        self.assertEqual(self.text(entry, ".e-content"), "The text.")
        self.assertEqual(self.text(entry, ".p-category"), "flex")

    def test_what_a_heading_does_not_show_is_said_all_the_same(self) -> None:
        for heading in ((), ("title",)):
            with self.subTest(heading):
                entry = self.entry(heading, f"Lamp {len(heading)}")
                self.assertEqual(self.text(entry, ".p-author"), "Ines Farrow")
                self.assertTrue(self.text(entry, ".dt-published").startswith("2026-11-10T"))
                self.assertEqual(self.text(entry, ".p-name"), f"Lamp {len(heading)}")

    def test_a_list_is_a_feed_of_entries(self) -> None:
        self.entry()
        front = LexborHTMLParser(self.site()["/"])
        [entry] = front.css(".h-feed > .h-entry")
        self.assertEqual(self.text(entry, ".p-name"), "Lamps & more")
        self.assertEqual(self.text(entry, ".p-author"), "Ines Farrow")
