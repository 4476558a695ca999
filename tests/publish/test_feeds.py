import json
from email.utils import parsedate_to_datetime
from xml.etree import ElementTree

from tests.shops import ShopCase

ATOM = "{http://www.w3.org/2005/Atom}"
MAP = "{http://www.sitemaps.org/schemas/sitemap/0.9}"


class FeedTests(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.write(
            "First <one> & more",
            "Words *here*.",
            date="2026-01-01 09:00",
            categories="Lamps",
            description="What it is",
        )
        self.write("Second", "![a](https://x.example/a.png)", date="2026-02-01 09:00")
        self.write("Hidden", "Marmalade.", date="2026-02-02", visibility="only-me")
        self.write("Coming", date="2027-01-01")
        self.pages = self.site()

    def test_atom_has_the_newest_posts_first_with_their_whole_text(self) -> None:
        root = ElementTree.fromstring(self.pages["/feed.atom"])
        entries = root.findall(f"{ATOM}entry")
        self.assertEqual(
            [entry.findtext(f"{ATOM}title") for entry in entries], ["Second", "First <one> & more"]
        )
        first = entries[1]
        self.assertEqual(first.findtext(f"{ATOM}content"), "<p>Words <em>here</em>.</p>")
        self.assertEqual(
            first.find(f"{ATOM}link").attrib["href"], "https://bench.example/lamps/first-one-more/"
        )
        self.assertEqual(first.findtext(f"{ATOM}published"), "2026-01-01T09:00:00Z")
        self.assertEqual(root.findtext(f"{ATOM}updated"), "2026-02-01T09:00:00Z")
        self.assertEqual(len({entry.findtext(f"{ATOM}id") for entry in entries}), 2)

    def test_rss_has_the_same_posts(self) -> None:
        channel = ElementTree.fromstring(self.pages["/feed.rss"]).find("channel")
        items = channel.findall("item")
        self.assertEqual([item.findtext("title") for item in items], ["Second", "First <one> & more"])
        self.assertEqual(
            parsedate_to_datetime(items[1].findtext("pubDate")).isoformat(), "2026-01-01T09:00:00+00:00"
        )
        self.assertEqual(items[1].findtext("description"), "What it is")
        self.assertEqual(items[1].find("guid").attrib, {"isPermaLink": "false"})

    def test_json_feed_has_the_same_posts(self) -> None:
        feed = json.loads(self.pages["/feed.json"])
        self.assertEqual(feed["version"], "https://jsonfeed.org/version/1.1")
        self.assertEqual([item["title"] for item in feed["items"]], ["Second", "First <one> & more"])
        self.assertEqual(feed["items"][1]["tags"], ["Lamps"])
        self.assertEqual(feed["items"][1]["content_html"], "<p>Words <em>here</em>.</p>")

    def test_the_site_map_is_an_index_of_months(self) -> None:
        index = ElementTree.fromstring(self.pages["/sitemap.xml"])
        parts = [node.text for node in index.iter(f"{MAP}loc")]
        self.assertEqual(
            parts,
            ["https://bench.example/sitemap-2026-01-1.xml", "https://bench.example/sitemap-2026-02-1.xml"],
        )
        month = ElementTree.fromstring(self.pages["/sitemap-2026-02-1.xml"])
        self.assertEqual(
            [node.text for node in month.iter(f"{MAP}loc")], ["https://bench.example/posts/second/"]
        )

    def test_what_not_everyone_may_read_is_in_none_of_them(self) -> None:
        for path, body in self.pages.items():
            with self.subTest(path):
                self.assertNotIn(b"Marmalade", body)
                self.assertNotIn(b"/hidden/", body)
                self.assertNotIn(b"/coming/", body)

    def test_crawlers_are_led_to_the_site_map(self) -> None:
        self.assertIn(b"Sitemap: https://bench.example/sitemap.xml", self.pages["/robots.txt"])

    def test_each_feed_comes_with_its_type(self) -> None:
        self.publish()
        from mobbet.store import editions

        types = {
            path: editions.page_at(self.shop.db, self.blog.id, path).type.split(";")[0]
            for path in ("/feed.atom", "/feed.rss", "/feed.json", "/sitemap.xml")
        }
        self.assertEqual(
            list(types.values()),
            ["application/atom+xml", "application/rss+xml", "application/feed+json", "application/xml"],
        )
