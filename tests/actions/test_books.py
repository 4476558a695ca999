"""Posts as documents and books."""

from __future__ import annotations

import io
import zipfile
from unittest import mock
from xml.etree import ElementTree as tree

from mobbet.actions import books, files, imports, library, media_jobs
from mobbet.core.errors import BadInput, NotFound, Refused
from mobbet.services import printing
from tests.actions.teams import TeamCase
from tests.shops import picture

TEXT = """## Part one

A **bold** and *soft* [link](https://a.example/?x=1&y=2) & `code` < 3.

- a
- b
  1. c

> quoted

![A red lamp](media:1 "The lamp")

| a | b |
|---|---|
| 1 | 2 |

```
let x = 1 < 2
```

~~~ mobbet:callout title="Mind"
Pull the plug.
~~~

<span data-fill-in="author"></span> wrote it.
"""


class BookCase(TeamCase):
    def prepare(self) -> None:
        super().prepare()
        library.add_stream(self.shop, self.me, self.blog, "lamp.png", io.BytesIO(picture()))
        media_jobs.work_all(self.shop)
        self.write("A lamp & more", TEXT, date="2026-11-01", categories="[Lamps]")
        self.write("Clocks", "Words of clocks.", date="2026-11-02", categories="[Clocks]")
        self.write("A draft", "Not yet.")
        self.write(
            "For signed in", "Secret words.", date="2026-11-03", visibility="signed-in", categories="[Lamps]"
        )

    def one(self, format: str) -> bytes:
        return books.of_post(self.shop, self.me, 1, format).data


class FormatTests(BookCase):
    def test_word_processors_get_the_structure_back(self) -> None:
        for format in ("docx", "odt"):
            with self.subTest(format=format):
                read = imports.read_file(self.shop, self.me, "bench", f"x.{format}", self.one(format))
                kinds = [node["type"] for node in read.document["content"]]
                for kind in ("heading", "bulletList", "picture", "table"):
                    self.assertIn(kind, kinds)
                text = str(read.document)
                for words in (
                    "Part one",
                    "https://a.example/?x=1&y=2",
                    "quoted",
                    "let x = 1 < 2",
                    "Pull the plug.",
                    "Ines Farrow wrote it.",
                    "'type': 'strong'",
                ):
                    self.assertIn(words, text)

    def test_a_book_for_readers_is_well_formed_and_names_all_its_files(self) -> None:
        data = books.of_blog(self.shop, self.me, "bench", "all", "epub").data
        self.assertEqual(data, books.of_blog(self.shop, self.me, "bench", "all", "epub").data)
        with zipfile.ZipFile(io.BytesIO(data)) as file:
            names = file.namelist()
            self.assertEqual((names[0], file.read("mimetype")), ("mimetype", b"application/epub+zip"))
            for name in names:
                if name.endswith((".xhtml", ".opf", ".xml")):
                    tree.fromstring(file.read(name))
            package = tree.fromstring(file.read("book/package.opf"))
            listed = {f"book/{one.get('href')}" for one in package.iter("{http://www.idpf.org/2007/opf}item")}
            self.assertEqual(
                listed, {name for name in names if name.startswith("book/")} - {"book/package.opf"}
            )
            self.assertIn("A lamp &amp; more", file.read("book/contents.xhtml").decode())

    def test_a_web_page_is_whole_by_itself(self) -> None:
        page = self.one("html").decode()
        self.assertIn('src="data:image/', page)
        self.assertNotIn("<script", page)
        self.assertIn("default-src 'none'", page)
        self.assertIn('alt="A red lamp"', page)

    def test_markdown_is_the_text_or_a_zip_of_texts(self) -> None:
        self.assertTrue(self.one("md").startswith(b"# A lamp & more\n\n## Part one"))
        with zipfile.ZipFile(
            io.BytesIO(books.of_blog(self.shop, self.me, "bench", "all", "md").data)
        ) as file:
            self.assertEqual(sorted(file.namelist()), ["a-lamp-more-1.md", "clocks-2.md"])

    def test_a_feed_has_everything_that_is_out(self) -> None:
        feed = tree.fromstring(books.of_blog(self.shop, self.me, "bench", "all", "atom").data)
        atom = "{http://www.w3.org/2005/Atom}"
        self.assertEqual(
            [one.findtext(f"{atom}title") for one in feed.iter(f"{atom}entry")], ["A lamp & more", "Clocks"]
        )
        self.assertIsNotNone(feed.find("{http://purl.org/syndication/history/1.0}complete"))
        self.assertIn(
            'src="https://bench.example/media/',
            tree.tostring(feed, encoding="unicode").replace("&quot;", '"').replace("&lt;", "<"),
        )

    def test_a_long_blog_becomes_archived_feeds_that_lead_to_each_other(self) -> None:
        with mock.patch.object(books, "IN_ARCHIVE", 1):
            file = books.of_blog(self.shop, self.me, "bench", "all", "atom")
        atom, seen, titles = "{http://www.w3.org/2005/Atom}", "feed.atom", []
        self.assertEqual(file.name, "the-bench.zip")
        with zipfile.ZipFile(io.BytesIO(file.data)) as packed:
            while seen:
                feed = tree.fromstring(packed.read(seen))
                titles += [one.findtext(f"{atom}title") for one in feed.iter(f"{atom}entry")]
                is_archive = feed.find("{http://purl.org/syndication/history/1.0}archive") is not None
                self.assertEqual(is_archive, seen != "feed.atom")
                seen = next(
                    (one.get("href") for one in feed.iter(f"{atom}link") if one.get("rel") == "prev-archive"),
                    "",
                )
        self.assertEqual(titles, ["Clocks", "A lamp & more"])

    def test_a_pdf_is_printed_where_the_program_is_there(self) -> None:
        if not printing.can_print():
            self.skipTest("Chromium is not installed")
        self.assertTrue(self.one("pdf").startswith(b"%PDF-"))

    def test_without_the_program_there_is_no_pdf_to_choose(self) -> None:
        with mock.patch.object(printing, "_program", return_value=None):
            self.assertNotIn("pdf", books.formats())
            with self.assertRaisesRegex(BadInput, "no format here"):
                self.one("pdf")
            with self.assertRaisesRegex(Refused, "needs Chromium"):
                printing.print_pdf(b"")


class ChoosingTests(BookCase):
    def test_a_category_has_what_is_out_for_everyone(self) -> None:
        which = next(value for value, words in books.choices(self.shop, self.me, "bench") if "Lamps" in words)
        page = books.of_blog(self.shop, self.me, "bench", which, "html").data.decode()
        self.assertIn("A lamp &amp; more", page)
        self.assertNotIn("Secret words", page)
        self.assertNotIn("Clocks", page)

    def test_drafts_and_posts_of_others_ask_for_the_right(self) -> None:
        draft = self.draft(self.writer, "Mine", visibility="only-me")
        self.assertIn(b"Some words", books.of_post(self.shop, self.writer, draft.id, "html").data)
        with self.assertRaises(NotFound):
            books.of_post(self.shop, self.editor, draft.id, "html")

    def test_what_cannot_be_chosen_is_refused(self) -> None:
        for which, format in (
            ("soup", "html"),
            ("category:99", "html"),
            ("series:1", "html"),
            ("all", "exe"),
            ("category:" + "9" * 30, "html"),
        ):
            with self.subTest(which=which), self.assertRaises(BadInput):
                books.of_blog(self.shop, self.me, "bench", which, format)
        self.shop.db.run("DELETE FROM listing")
        self.shop.db.run("UPDATE placement SET shows_until = shows_from")
        with self.assertRaisesRegex(BadInput, "nothing to take"):
            books.of_blog(self.shop, self.me, "bench", "all", "html")

    def test_every_kind_of_block_becomes_something_or_nothing(self) -> None:
        from mobbet.core.document.write import to_markdown
        from tests.core.document.generating import Maker

        for seed in range(12):
            document = Maker(seed, size=6).document()
            post = files.new_post(
                self.shop, self.me, "bench", f"---\ntitle: T{seed}\n---\n{to_markdown(document)}"
            ).post
            for format in ("docx", "odt", "epub", "html"):
                with self.subTest(seed=seed, format=format):
                    data = books.of_post(self.shop, self.me, post.id, format).data
                    if format == "epub":
                        with zipfile.ZipFile(io.BytesIO(data)) as file:
                            tree.fromstring(file.read(f"book/chapter-{post.id}.xhtml"))
