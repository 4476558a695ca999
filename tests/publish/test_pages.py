"""What the pages of a site hold, and that every link on them leads somewhere."""

import io
import json
import posixpath
import re
from unittest import mock
from urllib.parse import urlsplit

from selectolax.lexbor import LexborHTMLParser

from mobbet.actions import appearance, docket_lines, library, placing, profiles
from mobbet.publish.design import assets, path_of
from mobbet.publish.renderer import house_digest, version
from mobbet.store import editions
from mobbet.store.snapshot import SiteSnapshot
from tests.shops import NOW, ShopCase, picture


class SiteTests(ShopCase):
    def prepare(self) -> None:
        media = library.add_picture(self.shop, self.me, self.blog, "p.png", picture(1700, 900))
        for number in range(24):
            body = (
                f"![A lamp](media:{media.id})\n\nText {number}.",
                f"> Said {number}.\n\nText.",
                f"## Head\n\nText {number}.",
            )[number % 3]
            self.write(
                f"Post {number} & more",
                body,
                date=f"2026-0{number % 9 + 1}-{number % 27 + 1:02d}",
                categories=("Lamps > Wiring", "Clocks")[number % 2],
                tags="flex, oil",
            )
        type(self).pages = self.site()

    def tree(self, path: str) -> LexborHTMLParser:
        return LexborHTMLParser(self.pages[path].decode())

    def test_every_link_and_file_of_the_site_is_there(self) -> None:
        count = 0
        for path, body in self.pages.items():
            if not path.endswith("/"):
                continue
            tree = LexborHTMLParser(body.decode())
            links = [node.attributes[name] for name in ("href", "src") for node in tree.css(f"[{name}]")]
            links += [
                part.split()[0]
                for node in tree.css("[srcset]")
                for part in node.attributes["srcset"].split(",")
            ]
            for link in links:
                parts = urlsplit(link)
                if parts.scheme or not parts.path or "~/" in parts.path:  # a server answers for that
                    continue
                target = posixpath.normpath(posixpath.join(path, parts.path)) + (
                    "/"
                    if parts.path.endswith("/")
                    and posixpath.normpath(posixpath.join(path, parts.path)) != "/"
                    else ""
                )
                self.assertIn(target, self.pages, f"{link} on {path}")
                if parts.fragment.startswith("post-"):
                    self.assertIn(f'id="{parts.fragment}"', self.pages[target].decode())
                count += 1
        self.assertGreater(count, 500)

    def test_paging_from_the_front_page_meets_every_post(self) -> None:
        met, path = set(), "/"
        for _ in range(10):
            tree = self.tree(path)
            met |= {node.attributes["id"] for node in tree.css("article")}
            older = tree.css_first("a[rel=next]")
            if older is None:
                break
            path = posixpath.normpath(posixpath.join(path, urlsplit(older.attributes["href"]).path)) + "/"
        self.assertEqual(len(met), 24)

    def test_a_post_tells_search_engines_and_share_cards_what_it_is(self) -> None:
        tree = self.tree("/wiring/post-0-more/")
        facts = json.loads(tree.css_first("script[type='application/ld+json']").text())
        self.assertEqual(
            (facts["@type"], facts["headline"], facts["author"]["name"]),
            ("BlogPosting", "Post 0 & more", "Ines Farrow"),
        )
        self.assertEqual(
            tree.css_first("link[rel=canonical]").attributes["href"],
            "https://bench.example/wiring/post-0-more/",
        )
        shared = tree.css_first("meta[property='og:image']").attributes["content"]
        self.assertTrue(shared.endswith("-1200.jpg"))
        self.assertIn(shared.removeprefix("https://bench.example"), self.pages)
        self.assertEqual(tree.css_first("meta[name=description]").attributes["content"], "Text 0.")

    def test_a_post_in_another_language_says_so_once(self) -> None:
        self.write("Eine Lampe", language="de", date="2026-11-01")
        page = self.site()["/posts/eine-lampe/"].decode()
        self.assertEqual(re.findall(r'"inLanguage":\s*"([^"]*)"', page), ["de"])

    def test_pictures_come_in_four_widths_with_their_size(self) -> None:
        image = self.tree("/wiring/post-0-more/").css_first(".text img").attributes
        self.assertEqual(re.findall(r"(\d+)w", image["srcset"]), ["480", "800", "1200", "1600"])
        self.assertEqual((image["width"], image["height"], image["alt"]), ("1600", "847", "A lamp"))

    def test_each_lead_has_its_form_in_lists(self) -> None:
        tree = self.tree("/")
        self.assertTrue(tree.css("article.with-picture img"))
        self.assertTrue(tree.css_first("article.quotation .said").text().startswith("“Said"))
        self.assertEqual(len(tree.css("article.first")), 1)
        self.assertEqual(len(tree.css("h1")), 1)

    def test_a_post_has_its_trail_its_tags_and_its_neighbours(self) -> None:
        tree = self.tree("/wiring/post-0-more/")
        self.assertEqual([node.text() for node in tree.css(".kicker a")], ["Posts", "Lamps", "Wiring"])
        self.assertEqual([node.text() for node in tree.css(".filed a")], ["flex", "oil"])
        self.assertIsNotNone(tree.css_first(".neighbours a[rel=next]"))

    def test_subjects_are_families_with_counts(self) -> None:
        tree = self.tree("/subjects/")
        self.assertEqual(
            [" ".join(node.text().split()) for node in tree.css(".families section")],
            ["Lamps 12 posts Wiring 12 posts", "Clocks 12 posts"],
        )
        self.assertEqual(
            [" ".join(node.text().split()) for node in tree.css(".subjects li")],
            ["flex 24 posts", "oil 24 posts"],
        )

    def test_the_archive_counts_each_month_and_names_its_posts(self) -> None:
        newest = self.tree("/archive/").css_first(".months section")
        self.assertEqual(newest.css_first("h2").text(), "September 2026 2 posts")
        self.assertEqual([node.text() for node in newest.css("li")], ["Post 17 & more", "Post 8 & more"])

    def test_the_archive_of_a_large_blog_names_its_newest_posts_alone(self) -> None:
        with mock.patch("mobbet.publish.pages.archive.MOST_TITLES", 3):
            self.pages = self.site()
        told = [" ".join(node.text().split()) for node in self.tree("/archive/").css(".months section")][:3]
        self.assertEqual(
            told,
            [
                "September 2026 2 posts Post 17 & more Post 8 & more",
                "August 2026 2 posts Post 16 & more 1 post more",
                "July 2026 2 posts",
            ],
        )

    def test_long_lists_are_not_counted_to_their_end(self) -> None:
        with (
            mock.patch("mobbet.publish.pages.subjects.MOST_COUNTED", 5),
            mock.patch("mobbet.core.numbers.MOST_COUNTED", 5),
        ):
            self.pages = self.site()
        self.assertIn("more than 5 posts", self.tree("/subjects/").css_first(".families").text())

    def test_nothing_runs_on_a_page_and_styles_are_files(self) -> None:
        for path, body in self.pages.items():
            if path.endswith("/") and path != "/search/":
                self.assertNotRegex(
                    body.decode(), r"<script(?! type=\"application/ld\+json\")|<style|\sstyle=|\son\w+=", path
                )

    def test_the_files_of_the_design_are_addressed_by_their_content(self) -> None:
        self.assertEqual(
            self.pages[path_of("site.css")],
            next(asset.body for asset in assets() if asset.name == "site.css"),
        )
        for name in re.findall(rb"url\(([^)]+)\)", self.pages[path_of("site.css")]):
            self.assertIn(f"/assets/{name.decode()}", self.pages)

    def test_the_house_digest_follows_the_house(self) -> None:
        house = SiteSnapshot(self.shop.db, self.blog.id, NOW).house
        self.assertEqual(house_digest(house), house_digest(house))
        self.assertEqual(len(version()), 64)
        self.assertNotEqual(
            house_digest(house), house_digest(house.__class__(**{**house.__dict__, "tagline": "new"}))
        )

    def test_an_old_address_is_a_page_that_leads_on_for_static_hosts(self) -> None:
        docket_lines.set_slug(self.shop, self.me, 1, "better")
        placing.place(self.shop, self.me, 1)
        self.pages = self.site()
        self.assertIn('content="0; url=../../wiring/better/"', self.pages["/wiring/post-0-more/"].decode())
        self.assertNotIn(b"post-0-more", self.pages["/"] + self.pages["/sitemap-2026-01-1.xml"])


class EmptySiteTests(ShopCase):
    def test_a_site_without_posts_says_so_on_each_page(self) -> None:
        pages = self.site()
        self.assertIn(b"Nothing has been published here yet.", pages["/"])
        self.assertIn(b"Nothing has been published here yet.", pages["/archive/"])
        self.assertIn(b"No post has been filed", pages["/subjects/"])
        self.assertNotIn(b"<entry", pages["/feed.atom"])


class LeadingTests(ShopCase):
    def test_the_first_picture_stays_in_the_text_until_the_writer_has_it_lead(self) -> None:
        row = library.add_stream(self.shop, self.me, self.blog, "lamp.png", io.BytesIO(picture()))
        post = self.write("A lamp", f"Words before.\n\n![A lamp](media:{row.id})", date="2026-01-01")
        page = self.site()["/posts/a-lamp/"]
        self.assertLess(page.index(b"<p>Words before."), page.index(b"<figure"))
        appearance.lead_with_block(self.shop, self.me, post.id, 1)
        placing.place(self.shop, self.me, post.id)
        page = self.site()["/posts/a-lamp/"]
        self.assertLess(page.index(b"<figure"), page.index(b"<p>Words before."))


class AuthorTests(ShopCase):
    def test_search_engines_are_told_where_the_author_stands_on_the_web(self) -> None:
        self.write("A lamp", "~~~ mobbet:review name=Stripper\n~~~", date="2026-01-01")
        profiles.set_web_address(self.shop, self.me, "https://ines.example/")
        row = editions.page_at(self.shop.db, self.blog.id, "/posts/a-lamp/")
        page = LexborHTMLParser(self.body(row).decode())
        facts = [json.loads(one.text()) for one in page.css("script[type='application/ld+json']")]
        self.assertEqual(
            {one["@type"]: one["author"]["url"] for one in facts if "author" in one},
            {"BlogPosting": "https://ines.example/", "Review": "https://ines.example/"},
        )
        self.assertEqual(page.css_first("link[rel=author]").attributes["href"], "https://ines.example/")

    def test_a_post_led_by_a_link_that_is_no_address_is_published(self) -> None:
        for number, address in enumerate(("http://[x/", "http://a:b/")):
            self.write(f"A link {number}", f"[Broken](<{address}>)", date="2026-01-01")
        self.assertIn("/posts/a-link-1/", self.site())
