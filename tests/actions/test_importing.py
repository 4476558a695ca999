"""Posts of an older site are imported once each, and taken away again."""

from __future__ import annotations

import io
import json
from contextlib import redirect_stderr, redirect_stdout
from pathlib import Path
from unittest import mock

from mobbet.actions import addresses, consistency, importing, posts
from mobbet.actions.import_sources import open_source
from mobbet.actions.importing import NEW, REFUSED, THERE, Outcome
from mobbet.cli.__main__ import main
from mobbet.core.errors import BadInput, Broken, NotAllowed, NotFound
from mobbet.services.contracts import Fetched
from mobbet.store import filing, imports, media, placements
from mobbet.store import posts as post_store
from tests.actions.teams import TeamCase
from tests.shops import picture
from tests.sounds import tone

FEED = """<rss version="2.0"><channel>%s</channel></rss>"""
ENTRY = """<item><title>Post %d</title><link>https://old.example/2019/post-%d/</link><guid>g%d</guid><pubDate>Mon, 0%d Mar 2019 10:00:00 GMT</pubDate>
<category>Lamps</category><description>&lt;p&gt;Words %d, see &lt;a href="/2019/post-1/"&gt;one&lt;/a&gt;.&lt;/p&gt;&lt;img src="/x%d.png" alt="x"&gt;</description></item>"""


def feed(*numbers: int) -> str:
    return FEED % "".join(ENTRY % ((number,) * 6) for number in numbers)


class ImportCase(TeamCase):
    def setUp(self) -> None:
        super().setUp()
        self.there = self.folder / "old"
        self.there.mkdir()
        self.fetched: list[str] = []
        self.shop.services.fetch = self.fetch

    def fetch(self, address: str, most: int) -> Fetched:
        self.fetched.append(address)
        if address.endswith(".png"):
            return Fetched(address, "x.png", picture())
        return Fetched(address, "feed", feed(*(range(1, 4) if "page=2" not in address else (5,))).encode())

    def run_import(self, kind: str, name: str | Path, **more: object) -> list[Outcome]:
        source = open_source(self.shop, kind, str(name))
        return list(importing.run(self.shop, self.me, self.blog, source, str(name), **more))


class FeedTests(ImportCase):
    def test_posts_come_with_date_filing_pictures_and_their_old_addresses(self) -> None:
        found = self.run_import("rss", "https://old.example/feed")
        self.assertEqual([one.what for one in found], [NEW] * 3)
        first = post_store.by_id(self.shop.db, found[0].post)
        self.assertEqual(first.title, "Post 1")
        (placed,) = placements.of_post(self.shop.db, first.id)
        self.assertEqual(placed.shows_from <= self.clock(), True)
        self.assertEqual(placed.goes_out, 1_551_434_400)
        self.assertEqual([one.name for one in filing.categories(self.shop.db, self.blog.id)], ["Lamps"])
        self.assertEqual(len(media.hashes(self.shop.db)) > 0, True)
        answer = addresses.resolve(self.shop, self.blog, "/2019/post-1/")
        self.assertEqual(answer.path, placed.path)
        self.assertIn(
            '"href": "/2019/post-1/"',
            json.dumps(json.loads(post_store.working(self.shop.db, found[1].post).body)),
        )
        self.assertEqual(consistency.problems(self.shop), [])

    def test_nothing_comes_twice_and_a_longer_feed_brings_the_rest(self) -> None:
        (self.there / "a.xml").write_text(feed(1, 2))
        self.run_import("rss", self.there / "a.xml")
        (self.there / "b.xml").write_text(feed(1, 2, 3, 3))
        found = self.run_import("rss", self.there / "b.xml")
        self.assertEqual([one.what for one in found], [THERE, THERE, NEW, THERE])
        self.assertEqual(len(imports.known(self.shop.db, self.blog.id)), 3)

    def test_a_dry_run_tells_and_changes_nothing(self) -> None:
        before = list(self.shop.db.connection.iterdump())
        found = self.run_import("rss", "https://old.example/feed", is_dry=True)
        self.assertEqual(
            [(one.what, one.post, one.addresses) for one in found][0], (NEW, 0, ("/2019/post-1/",))
        )
        self.assertEqual(list(self.shop.db.connection.iterdump()), before)

    def test_subjects_become_tags_where_that_is_wanted(self) -> None:
        found = self.run_import("rss", "https://old.example/feed", subjects="tags")
        self.assertEqual(len(post_store.tags(self.shop.db, found[0].post)), 1)
        self.assertTrue(filing.find_tag(self.shop.db, self.blog.id, "Lamps"))
        self.assertEqual(filing.categories(self.shop.db, self.blog.id), [])
        with self.assertRaisesRegex(BadInput, "choose categories or tags"):
            self.run_import("rss", "https://old.example/feed", subjects="x")

    def test_a_run_that_broke_off_goes_on(self) -> None:
        with mock.patch.object(importing, "BATCH", 1):
            source = open_source(self.shop, "rss", "https://old.example/feed")
            outcomes = importing.run(self.shop, self.me, self.blog, source, "feed")
            next(outcomes)
            outcomes.close()
            found = self.run_import("rss", "https://old.example/feed")
        self.assertEqual([one.what for one in found], [THERE, NEW, NEW])

    def test_undo_takes_all_of_a_run_away_but_what_was_written_on(self) -> None:
        found = self.run_import("rss", "https://old.example/feed")
        post = post_store.by_id(self.shop.db, found[1].post)
        body = {
            "type": "doc",
            "content": [{"type": "paragraph", "content": [{"type": "text", "text": "More."}]}],
        }
        self.clock.forward(600)
        posts.save_text(
            self.shop, self.me, post.id, base=post.revision, title="Post 2", subtitle="", body=body
        )
        gone, stayed = importing.undo(self.shop, self.me, self.blog, found[0].run)
        self.assertEqual((gone, stayed), (2, ["Post 2"]))
        self.assertTrue(post_store.by_id(self.shop.db, found[0].post).aside_at)
        again = self.run_import("rss", "https://old.example/feed")
        self.assertEqual([one.what for one in again], [NEW, THERE, NEW])
        for number in (0, 99):
            with self.assertRaisesRegex(NotFound, "There is no import"):
                importing.undo(self.shop, self.me, self.blog, number)

    def test_only_the_owner_imports(self) -> None:
        source = open_source(self.shop, "rss", "https://old.example/feed")
        for person in (self.editor, self.writer):
            with self.assertRaises(NotAllowed):
                importing.run(self.shop, person, self.blog, source, "feed")

    def test_a_host_whose_pictures_fail_is_left_alone(self) -> None:
        def fail(address: str, most: int) -> Fetched:
            self.fetched.append(address)
            raise BadInput("away", "address")

        self.shop.services.fetch = fail
        (self.there / "a.xml").write_text(feed(*range(1, 8)))
        found = self.run_import("rss", self.there / "a.xml")
        self.assertEqual([one.what for one in found], [NEW] * 7)
        self.assertEqual(len(self.fetched), 3)


class FolderTests(ImportCase):
    def test_a_folder_of_markdown_comes_with_its_pictures(self) -> None:
        (self.there / "posts").mkdir()
        (self.there / "x.png").write_bytes(picture())
        (self.there / "posts" / "a.md").write_text(
            "---\ntitle: A\nslug: an-own-slug\ndate: 2019-03-04\n---\n![x](../x.png)\n\nWords.\n"
        )
        (self.there / "posts" / "b.md").write_text(
            "+++\ntitle = 'B'\ndraft = true\ndate = 2019-03-04\n+++\nWords.\n"
        )
        (self.there / "posts" / ".hidden.md").write_text("no")
        first, second = self.run_import("markdown", self.there)
        self.assertEqual(post_store.by_id(self.shop.db, first.post).slug, "an-own-slug")
        self.assertIn('"type":"picture"', post_store.working(self.shop.db, first.post).body.replace(" ", ""))
        self.assertNotIn("../x.png", post_store.working(self.shop.db, first.post).body)
        self.assertEqual(placements.of_post(self.shop.db, second.post), [])
        self.assertIn("comes as a draft", " ".join(second.notes))

    def test_nothing_outside_the_folder_is_read(self) -> None:
        (self.folder / "secret.md").write_text("secret")
        (self.folder / "secret.png").write_bytes(picture())
        (self.there / "link.md").symlink_to(self.folder / "secret.md")
        (self.there / "a.md").write_text(
            "---\ntitle: A\n---\n![x](../secret.png) ![y](/../secret.png) ![z](%2e%2e/secret.png)\n\nWords.\n"
        )
        found = {one.key: one for one in self.run_import("markdown", self.there)}
        self.assertEqual(found["link.md"].notes, ("it leads out of the folder",))
        self.assertEqual(media.hashes(self.shop.db), [])
        self.assertIn("was not found", " ".join(found["a.md"].notes))

    def test_a_folder_of_pages_comes_and_what_does_not_says_why(self) -> None:
        page = '<title>{0}</title><article><h1>{0}</h1><time datetime="2019-03-0{1}">x</time><p>Some words about {0} and more.</p><script>alert(1)</script></article>'
        for number in range(1, 6):
            (self.there / f"p{number}.html").write_text(page.format(f"Page {number}", number))
        (self.there / "empty.html").write_text("<p></p>")
        (self.there / "bomb.html").write_text("<div>" * 2000)
        (self.there / "large.html").write_text("x" * 5_000_001)
        found = {one.key: one for one in self.run_import("html", self.there)}
        self.assertEqual([found[f"p{number}.html"].what for number in range(1, 6)], [NEW] * 5)
        for name in ("empty.html", "bomb.html", "large.html"):
            self.assertEqual(found[name].what, REFUSED)
        self.assertNotIn("alert", post_store.working(self.shop.db, found["p1.html"].post).body)
        self.assertEqual(consistency.problems(self.shop), [])

    def test_a_table_comes(self) -> None:
        (self.there / "posts.csv").write_text(
            'title,content,date\nA,"<p>One <b>two</b></p>",2019-03-04\nB,Some *words*,\n'
        )
        first, second = self.run_import("csv", self.there / "posts.csv")
        self.assertIn("strong", post_store.working(self.shop.db, first.post).body)
        self.assertIn("emphasis", post_store.working(self.shop.db, second.post).body)

    def test_what_cannot_be_read_at_all_is_refused(self) -> None:
        for kind, name, message in (
            ("x", "y", "no kind of source"), ("markdown", self.there / "none", "is no folder"), ("csv", self.there / "none", "cannot be read"),
            ("markdown", "https://old.example/", "is an address"), ("rss", self.there / "none", "cannot be read"),
        ):  # fmt: skip
            with self.subTest(kind), self.assertRaisesRegex((BadInput, Broken), message):
                self.run_import(kind, name)


class CommandTests(ImportCase):
    def mobbet(self, *words: object) -> tuple[int, str]:
        said = io.StringIO()
        with redirect_stdout(said), redirect_stderr(said):
            status = main(["import", "--data", str(self.shop.settings.data), *map(str, words)])
        return status, said.getvalue()

    def test_the_command_looks_imports_lists_and_undoes(self) -> None:
        (self.there / "a.md").write_text("---\ntitle: A\ndate: 2019-03-04\n---\nWords.\n")
        status, said = self.mobbet("--from", "markdown", self.there, "--dry-run", "--json")
        self.assertEqual((status, json.loads(said)["new"]), (0, 1))
        status, said = self.mobbet("--from", "markdown", self.there)
        self.assertIn("1 came, 0 were there already, 0 did not come.", said)
        self.assertIn("1 posts of", self.mobbet("--list")[1])
        self.assertEqual(self.mobbet("--undo", 1), (0, "1 posts were set aside.\n"))
        self.assertEqual(self.mobbet("--from", "markdown")[0], 1)
        self.assertEqual(self.mobbet("--undo", 7)[0], 1)


COMMENTS = """<feed xmlns="http://www.w3.org/2005/Atom" xmlns:thr="http://purl.org/syndication/thread/1.0">
<entry><id>c1</id><title>Re</title><author><name>Mira &amp; co</name></author><published>2019-03-02T10:00:00Z</published><thr:in-reply-to ref="p1"/><content type="html">&lt;p&gt;It &lt;b&gt;held&lt;/b&gt;.&lt;/p&gt;&lt;script&gt;x&lt;/script&gt;</content></entry>
<entry><id>c2</id><title>Re</title><author><name>Otto</name></author><published>2019-03-03T10:00:00Z</published><thr:in-reply-to ref="c1"/><content>Mine too.</content></entry>
<entry><id>c3</id><title>Re</title><author><name>Lost</name></author><thr:in-reply-to ref="gone"/><content>To nobody.</content></entry>
<entry><id>p1</id><title>The post</title><published>2019-03-01T10:00:00Z</published><content type="html">&lt;p&gt;Words.&lt;/p&gt;</content></entry></feed>"""


class CommentTests(ImportCase):
    def test_comments_come_with_their_posts_and_only_once(self) -> None:
        (self.there / "feed.xml").write_text(COMMENTS)
        dry = self.run_import("atom", self.there / "feed.xml", is_dry=True)
        self.assertEqual([one.what for one in dry].count("comment"), 3)
        for _ in range(2):
            self.run_import("atom", self.there / "feed.xml")
        rows = self.shop.db.tuples("SELECT name, text, state, made_at, answers FROM comment ORDER BY id")
        self.assertEqual(
            [row[:3] for row in rows], [("Mira & co", "It held.", "shown"), ("Otto", "Mine too.", "shown")]
        )
        self.assertEqual((rows[0][3], rows[1][4]), (1_551_520_800, 1))


class CrawlTests(ImportCase):
    PAGES = {
        "/blog/": '<a href="one.html">1</a> <a href="/blog/two/#x">2</a> <a href="/shop/">no</a> <a href="https://else.example/blog/">no</a> <a href="/blog/secret">s</a> <a href="/blog/p.png">p</a><p>A list.</p>',
        "/blog/one.html": '<article><h1>One</h1><time datetime="2019-03-01">1 March</time><p>A text of some words that says something.</p><a href="/blog/">back</a></article>',
        "/blog/two/": '<article><h1>Two</h1><time datetime="2019-03-02">2 March</time><p>Another text of some words that says something.</p><img src="/p.png"><a href="/blog/gone">x</a></article>',
        "/robots.txt": "User-agent: *\nDisallow: /blog/secret",
    }  # fmt: skip

    def fetch(self, address: str, most: int) -> Fetched:
        self.fetched.append(address)
        path = address.removeprefix("https://old.example")
        if path == "/p.png":
            return Fetched(address, "p.png", picture())
        if path not in self.PAGES:
            raise Broken(f"“{address}” answered with 404.")
        return Fetched(address, "page", self.PAGES[path].encode())

    def test_pages_that_lead_to_each_other_are_read_once_and_no_others(self) -> None:
        found = {one.key: one for one in self.run_import("html", "https://old.example/blog/")}
        new = [one for one in found.values() if one.what == NEW and one.published]
        self.assertEqual(sorted(one.title for one in new), ["One", "Two"])
        self.assertIn("/blog/two/", str(found["https://old.example/blog/two/"].addresses))
        self.assertIn("asks robots to leave it", found["https://old.example/blog/secret"].notes[0])
        self.assertIn("404", found["https://old.example/blog/gone"].notes[0])
        self.assertFalse(
            [
                one
                for one in self.fetched
                if "else.example" in one or "/shop/" in one or one.endswith("/blog/p.png")
            ]
        )
        self.assertEqual(len(self.fetched), len(set(self.fetched)))

    def test_an_address_inside_the_network_is_refused(self) -> None:
        from mobbet.services.fetching import PublicFetcher

        self.shop.services.fetch = PublicFetcher()
        with self.assertRaises(BadInput):
            self.run_import("html", "http://127.0.0.1:9/")


class FieldTests(ImportCase):
    def test_fields_that_mean_nothing_are_told_and_can_be_given_a_meaning(self) -> None:
        (self.there / "a.md").write_text(
            "---\ntitle: A\nwhen-it-was: 2019-03-01\nlabels-of-mine: [flex]\n---\nWords."
        )
        (one,) = self.run_import("markdown", self.there, is_dry=True)
        self.assertEqual(dict(one.fields), {"when_it_was": "2019-03-01", "labels_of_mine": "flex"})
        source = open_source(
            self.shop, "markdown", str(self.there), {"when_it_was": "published", "labels_of_mine": "tags"}
        )
        (one,) = importing.run(self.shop, self.me, self.blog, source, "x")
        self.assertEqual(one.published[:10], "2019-03-01")
        self.assertEqual(filing.tag_names(self.shop.db, self.blog.id), ["flex"])


class ExportedTests(ImportCase):
    def test_the_posts_of_an_export_come_into_a_blog_with_posts_of_its_own(self) -> None:
        from mobbet.actions import blogs, exporting, library
        from mobbet.actions.export_sinks import FolderSink
        from mobbet.actions.import_sources import open_export

        library.add_stream(self.shop, self.me, self.blog, "lamp.png", io.BytesIO(picture()))
        self.write(
            "A lamp",
            "![A lamp](media:1)\n\nSee [the other](post:2).",
            date="2019-03-01",
            categories="[Lamps]",
            tags="[flex]",
        )
        self.write("A draft", "Words.")
        exporting.export(self.shop, None, self.blog, FolderSink(self.there / "out"), frozenset())
        other = blogs.make_blog(
            self.shop, self.me, name="Other", address="other", zone="UTC", home="https://other.example/"
        )
        found = list(importing.run(self.shop, self.me, other, open_export(str(self.there / "out")), "out"))
        self.assertEqual(
            [(one.title, one.what, one.published[:10]) for one in found],
            [("A lamp", NEW, "2019-03-01"), ("A draft", NEW, "")],
        )
        body = post_store.working_body(self.shop.db, found[0].post)
        self.assertIn("media:2", body)
        self.assertIn("See the other.", body.replace('"},{"text":"', ""))
        self.assertEqual([one.name for one in filing.categories(self.shop.db, other.id)], ["Lamps"])
        again = list(importing.run(self.shop, self.me, other, open_export(str(self.there / "out")), "out"))
        self.assertEqual([one.what for one in again], [THERE, THERE])


class ListTests(ImportCase):
    OPML = """<opml version="2.0"><head><title>We read</title></head><body><outline text="Repairs"><outline text="Fuse &amp; notes" htmlUrl="https://fuse.example/" xmlUrl="https://fuse.example/feed"/>
    <outline text="bad" htmlUrl="javascript:alert(1)"/></outline><outline text="Only a feed" xmlUrl="https://b.example/feed" description="daily"/></body></opml>"""

    def test_a_list_of_blogs_becomes_a_draft_with_links(self) -> None:
        (self.there / "a.opml").write_text(self.OPML)
        (one,) = self.run_import("opml", self.there / "a.opml")
        body = post_store.working_body(self.shop.db, one.post)
        for words in ("https://fuse.example/", "Fuse & notes", "https://b.example/feed", "Repairs", "daily"):
            self.assertIn(words, body)
        self.assertNotIn("javascript", body)
        self.assertEqual((one.title, one.published), ("We read", ""))

    def test_what_is_no_list_is_refused(self) -> None:
        for text in ("<opml/>", "<rss/>", "x", "<opml><body/></opml>"):
            with self.subTest(text=text), self.assertRaises(BadInput):
                (self.there / "b.opml").write_text(text)
                self.run_import("opml", self.there / "b.opml")


class EnclosureTests(ImportCase):
    FEED = """<rss version="2.0"><channel><item><title>Talk</title><guid>t1</guid><pubDate>Mon, 04 Mar 2019 10:00:00 GMT</pubDate><description>Words.</description>
    <enclosure url="https://old.example/talk.wav" type="audio/wav" length="1"/><enclosure url="https://old.example/lamp.png" type="image/png" length="1"/>
    <enclosure url="https://old.example/gone.mp3" type="audio/mpeg" length="1"/><enclosure url="javascript:alert(1)" type="audio/mpeg" length="1"/></item></channel></rss>"""

    def fetch(self, address: str, most: int) -> Fetched:
        if address.endswith("talk.wav"):
            return Fetched(address, "talk.wav", tone(1))
        if address.endswith("lamp.png"):
            return Fetched(address, "lamp.png", picture())
        raise Broken(f"“{address}” answered with 404.")

    def test_sound_and_pictures_that_come_with_a_post_come_along(self) -> None:
        (self.there / "feed.xml").write_text(self.FEED)
        (one,) = self.run_import("rss", self.there / "feed.xml")
        body = json.loads(post_store.working_body(self.shop.db, one.post))
        self.assertEqual(
            [node["type"] for node in body["content"]], ["paragraph", "sound", "picture", "paragraph"]
        )
        self.assertIn("gone.mp3", json.dumps(body["content"][3]))
        self.assertIn("gone.mp3 stays where it is", " ".join(one.notes))
