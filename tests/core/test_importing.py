"""Posts of another site are read from feeds, Markdown files, tables and HTML pages."""

import json
import unittest

from mobbet.core.errors import BadInput
from mobbet.core.importing.feeds import read_feed
from mobbet.core.importing.front_matter import read_markdown_file
from mobbet.core.importing.html_pages import read_page
from mobbet.core.importing.item import Item, NotRead, addresses, read_date
from mobbet.core.importing.links import with_whole_links
from mobbet.core.importing.tables import read_table

ATOM = """<?xml version="1.0"?><feed xmlns="http://www.w3.org/2005/Atom" xmlns:thr="http://purl.org/syndication/thread/1.0" xml:base="https://old.example/">
<title>Old</title><author><name>Ines</name></author><link rel="next" href="feed2.xml"/>
<entry><id>tag:1</id><title type="html">Glue &amp;amp; wire</title><link href="2019/glue/"/><published>2019-03-04T10:00:00+01:00</published>
<category term="materials" label="Materials"/><summary>In short.</summary><content type="html">&lt;p&gt;Words &lt;em&gt;here&lt;/em&gt;.&lt;/p&gt;</content></entry>
<entry><id>tag:2</id><title>In XHTML</title><updated>2019-03-05T10:00:00Z</updated><content type="xhtml"><div xmlns="http://www.w3.org/1999/xhtml"><p>Some <b>words</b>.</p></div></content></entry>
<entry><id>tag:3</id><title>Re: Glue</title><thr:in-reply-to ref="tag:1"/><content>I agree.</content></entry>
</feed>"""
RSS = """<rss version="2.0" xmlns:content="http://purl.org/rss/1.0/modules/content/" xmlns:dc="http://purl.org/dc/elements/1.1/"><channel>
<item><title>Kettles &amp;amp; fuses</title><link>https://old.example/kettles</link><guid>k1</guid><pubDate>Mon, 04 Mar 2019 10:00:00 GMT</pubDate>
<category>Kitchen</category><category>Kitchen</category><dc:creator>Tomas</dc:creator><description>Short &lt;b&gt;one&lt;/b&gt;.</description><content:encoded><![CDATA[<p>Long.</p>]]></content:encoded></item>
<item><title>No text</title><link>/x</link></item><item/></channel></rss>"""
PAGE = """<html><head><title>A lamp | Old</title>{head}</head><body><nav>Home</nav><main><article><h1>A lamp</h1><p>The flex has worn through where it enters the base.</p>
<script>alert(1)</script><p>Cut it back, and tin the ends.</p><a rel="tag" href="/t/flex">flex</a></article></main><footer>Foot</footer></body></html>"""


class FeedTests(unittest.TestCase):
    def test_an_atom_feed_is_read_with_its_next_page(self) -> None:
        feed = read_feed(ATOM.encode(), "https://old.example/feed.xml")
        self.assertEqual(feed.older, "https://old.example/feed2.xml")
        first, second, answer = feed.items
        self.assertEqual(
            first,
            Item(
                "tag:1", "Glue & wire", "<p>Words <em>here</em>.</p>", published="2019-03-04T10:00:00+01:00", categories=("Materials",),
                author="Ines", excerpt="In short.", addresses=("/2019/glue/",), base="https://old.example/2019/glue/",
            ),
        )  # fmt: skip
        self.assertIn("<b>words</b>", second.text)
        self.assertEqual((answer.key, answer.to), ("tag:3", ("tag:1",)))

    def test_an_rss_feed_is_read(self) -> None:
        first, second, third = read_feed(RSS.encode(), "https://old.example/").items
        self.assertEqual((first.key, first.title, first.text), ("k1", "Kettles & fuses", "<p>Long.</p>"))
        self.assertEqual(first.published, "2019-03-04T10:00:00+00:00")
        self.assertEqual(
            (first.categories, first.author, first.excerpt), (("Kitchen",), "Tomas", "Short one .")
        )
        self.assertEqual((second.addresses, second.published), (("/x",), ""))
        self.assertEqual(third.reason, "it has neither an identifier nor a title")

    def test_a_json_feed_is_read(self) -> None:
        feed = {
            "next_url": "2.json",
            "items": [
                {"id": 7, "url": "/a", "title": "A", "content_text": "One\n\nTwo <", "date_published": "2020-01-02T03:04:05Z", "tags": ["x"], "authors": [{"name": "Ines"}]},
                "nonsense",
            ],
        }  # fmt: skip
        read = read_feed(json.dumps(feed).encode(), "https://old.example/1.json")
        self.assertEqual(read.older, "https://old.example/2.json")
        (item,) = read.items
        self.assertEqual((item.key, item.text, item.author), ("7", "<p>One</p><p>Two &lt;</p>", "Ines"))

    def test_what_is_no_feed_is_refused_in_a_sentence(self) -> None:
        for data in (
            b"",
            b"{",
            b'{"items": 3}',
            b"<html><body>x</body></html>",
            b"[" * 100_000,
            b"{" * 100_000,
            b"\x00\xff",
        ):
            with self.subTest(data[:12]), self.assertRaisesRegex(BadInput, "This is no (JSON )?[Ff]eed"):
                read_feed(data)

    def test_addresses_and_names_that_cannot_be_are_no_reason_to_stop(self) -> None:
        text = "<rss xml:base='http://[x'><channel><http:/><item><http:><link>http://[x</link></http:><title>a</title><link>http://[y</link><pubDate>1 Jan 2019 10:00 +9999</pubDate></item></channel></rss>"
        (item,) = read_feed(text.encode(), "https://old.example/").items
        self.assertEqual((item.key, item.addresses, item.published), ("a", (), ""))

    def test_entities_that_grow_are_not_followed_and_no_file_is_read(self) -> None:
        bomb = "".join(f'<!ENTITY l{n} "{f"&l{n - 1};" * 10 if n else "lol"}">' for n in range(12))
        text = f'<!DOCTYPE x [{bomb}<!ENTITY f SYSTEM "file:///etc/passwd">]><rss><channel><item><title>a</title><description>&l11;&f;b</description></item></channel></rss>'
        (item,) = read_feed(text.encode()).items
        self.assertLess(len(item.text), 100)
        self.assertNotIn("root:", item.text)


class MarkdownTests(unittest.TestCase):
    def read(self, text: str, path: str = "posts/a-lamp.md") -> Item | NotRead:
        return read_markdown_file(text, path)

    def test_front_matter_of_each_kind_is_read(self) -> None:
        for text in (
            "---\ntitle: A clock\ndate: 2018-05-06\ntags: [spring, brass]\ncategories: Clocks\naliases: [/old/clock/]\nauthor: Ines\n---\nText.\n",
            '+++\ntitle = "A clock"\ndate = 2018-05-06\nauthor = "Ines"\naliases = ["/old/clock/"]\n[taxonomies]\ntags = ["spring", "brass"]\ncategories = ["Clocks"]\n+++\nText.\n',
            '{"title": "A clock", "date": "2018-05-06", "tags": ["spring", "brass"], "category": "Clocks", "redirect_from": "/old/clock/", "authors": [{"name": "Ines"}]}\nText.\n',
        ):
            with self.subTest(text[:3]):
                item = self.read(text)
                self.assertEqual(
                    (item.title, item.published, item.author), ("A clock", "2018-05-06T12:00:00", "Ines")
                )
                self.assertEqual((item.categories, item.tags), (("Clocks",), ("spring", "brass")))
                self.assertEqual((item.addresses, item.text.strip()), (("/old/clock/",), "Text."))

    def test_names_and_headings_stand_in_for_what_is_missing(self) -> None:
        dated = self.read("Words.", "2017-01-02-a-dated-name.md")
        self.assertEqual((dated.title, dated.published), ("A dated name", "2017-01-02T12:00:00"))
        headed = self.read("# The heading #\n\nWords.")
        self.assertEqual((headed.title, headed.text.strip()), ("The heading", "Words."))

    def test_drafts_are_known_by_any_usual_word(self) -> None:
        for line in ("draft: true", "published: false", "status: draft", "draft: 'yes'"):
            with self.subTest(line):
                self.assertTrue(self.read(f"---\ntitle: x\n{line}\n---\ny").is_draft)
        self.assertFalse(self.read("---\ntitle: x\npublished: 2019-01-01\n---\ny").is_draft)

    def test_front_matter_that_cannot_be_read_is_told(self) -> None:
        for text in (
            "---\na: [\n---\n",
            "---\ndate: 2019-99-99\n---\n",
            "+++\na = \n+++\n",
            "---\n- a\n---\n",
        ):
            with self.subTest(text):
                self.assertIsInstance(self.read(text), NotRead)


class TableTests(unittest.TestCase):
    def test_a_table_is_read_whatever_parts_its_columns(self) -> None:
        for sign in (",", ";", "\t"):
            rows = [
                ["Title", "Content", "Date", "Tags", "ID"],
                ["A", "Some words", "2019-01-02", '"x, y"', "7"],
            ]
            (item,) = read_table("\n".join(sign.join(row) for row in rows))
            self.assertEqual(
                (item.key, item.title, item.kind, item.published), ("7", "A", "md", "2019-01-02T12:00:00")
            )
            self.assertEqual(item.tags, ("x", "y"))

    def test_a_table_without_a_title_or_text_is_refused(self) -> None:
        with self.assertRaisesRegex(BadInput, "no column for the text; name one “content”"):
            read_table("title,date\na,b\n")
        self.assertEqual(
            read_table("title,content\n,\n"), [NotRead("row 1", "it has neither a title nor a text")]
        )


class PageTests(unittest.TestCase):
    def test_the_text_is_found_by_structure(self) -> None:
        item = read_page(PAGE.format(head="").encode(), "2019/03/lamp/index.html")
        self.assertEqual(
            (item.title, item.published, item.tags), ("A lamp", "2019-03-01T12:00:00", ("flex",))
        )
        self.assertIn("Cut it back", item.text)
        for word in ("Home", "Foot", "alert", "<h1"):
            self.assertNotIn(word, item.text)
        self.assertEqual(item.addresses, ("/2019/03/lamp/", "/2019/03/lamp/index.html"))

    def test_what_a_page_says_of_itself_is_read_in_each_way(self) -> None:
        linked = {
            "@graph": [
                {"@type": "WebSite", "name": "Old"},
                {
                    "@type": "BlogPosting",
                    "headline": "A lamp",
                    "datePublished": "2019-03-04",
                    "author": {"name": "Ines"},
                    "articleSection": "Lamps",
                },
            ]
        }
        for head in (
            f'<script type="application/ld+json">{json.dumps(linked)}</script>',
            '<meta property="article:published_time" content="2019-03-04"><meta name="author" content="Ines"><meta property="article:section" content="Lamps">',
        ):
            with self.subTest(head[:20]):
                item = read_page(PAGE.format(head=head).encode(), "lamp.html")
                self.assertEqual(
                    (item.published[:10], item.author, item.categories), ("2019-03-04", "Ines", ("Lamps",))
                )
        entry = '<div class="h-entry"><h2 class="p-name">Flex</h2><time class="dt-published" datetime="2019-03-04T10:00:00Z"></time><a class="p-author">Ines</a><div class="e-content"><p>One two three four five.</p></div></div>'
        item = read_page(entry.encode(), "flex.html")
        self.assertEqual(
            (item.title, item.published, item.author), ("Flex", "2019-03-04T10:00:00+00:00", "Ines")
        )

    def test_a_page_without_elements_that_say_so_gives_its_densest_part(self) -> None:
        words = "Many words about lamps and flex and fuses in a row. " * 3
        page = f'<body><div id="m"><ul><li><a href="/">Home</a></li></ul></div><div><div class="t"><p>{words}</p><p>{words}</p></div></div></body>'
        item = read_page(page.encode(), "a.html")
        self.assertIn("Many words", item.text)
        self.assertNotIn("Home", item.text)
        self.assertTrue(item.is_draft)

    def test_lists_and_empty_pages_are_no_posts(self) -> None:
        several = "".join(
            f"<article><h2>{n}</h2><p>Some words of a teaser here.</p></article>" for n in range(4)
        )
        self.assertEqual(read_page(several.encode(), "index.html").reason, "it is a list of posts")
        for page in (b"", b"<body></body>", b"\x00\x01", b"<div>" * 3000):
            self.assertIsInstance(read_page(page, "x.html"), NotRead)


class WordTests(unittest.TestCase):
    def test_dates_are_read_in_any_spelling(self) -> None:
        for text, date in (
            ("2019-03-04", "2019-03-04T12:00:00"), ("2019-03-04 10:00", "2019-03-04T10:00:00"), ("2019-03-04T10:00:00Z", "2019-03-04T10:00:00+00:00"),
            ("Mon, 04 Mar 2019 10:00:00 +0100", "2019-03-04T10:00:00+01:00"), ("4 March 2019", "2019-03-04T00:00:00"),
            ("", ""), (None, ""), ("soon", ""), ("1 Jan 0900", ""), ("9" * 200, ""), (True, ""),
        ):  # fmt: skip
            with self.subTest(text):
                self.assertEqual(read_date(text), date)

    def test_addresses_become_paths(self) -> None:
        found = addresses(
            [
                "https://old.example/a/?p=1#x",
                "/b/",
                "c.html",
                "",
                None,
                "/",
                "javascript:1",
                "a b",
                "//h/y",
                "/" + "x" * 600,
            ]
        )
        self.assertEqual(found, ("/a/?p=1", "/b/", "/c.html", "/y"))

    def test_links_to_the_old_site_begin_at_the_top(self) -> None:
        html = '<a href="../b.html#c">1</a><a href="https://old.example/d?e">2</a><a href="https://else.example/f">3</a><a href="#g">4</a><a href="mailto:a@b.example">5</a>'
        read = with_whole_links(html, "https://old.example/2019/a/")
        for href in (
            '"/2019/b.html#c"',
            '"/d?e"',
            '"https://else.example/f"',
            '"#g"',
            '"mailto:a@b.example"',
        ):
            self.assertIn(href, read)
        self.assertIn('"/2019/b.html#c"', with_whole_links(html, "2019/a/index.html"))


if __name__ == "__main__":
    unittest.main()
