from __future__ import annotations

import io
import zipfile

from mobbet.actions import transfer_running
from tests.actions.test_transfers import FEED
from tests.web.test_web import WebCase

SCREEN = "/desk/bench/site/in-and-out"


class InAndOutTests(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in()

    def test_the_blog_is_taken_out_as_a_zip_file(self) -> None:
        self.write("A lamp", date="2026-11-01")
        self.assertEqual(self.post(f"{SCREEN}/export", what="revisions").status_code, 303)
        self.assertIn("It begins in a moment", self.get(SCREEN).text)
        transfer_running.run_due(self.shop)
        self.assertIn("Download it", self.get(SCREEN).text)
        answer = self.get(f"{SCREEN}/1/blog.zip")
        self.assertEqual(
            (answer.headers["content-type"], answer.headers["cache-control"]),
            ("application/zip", "private, no-store"),
        )
        with zipfile.ZipFile(io.BytesIO(answer.content)) as file:
            self.assertIn("posts/0001-a-lamp.md", file.namelist())

    def test_it_is_asked_for_anew_who_somebody_is(self) -> None:
        self.clock.forward(3600)
        answer = self.post(f"{SCREEN}/export")
        self.assertNotEqual(answer.headers.get("location"), SCREEN)
        self.assertEqual(self.shop.db.value("SELECT COUNT(*) FROM transfer"), 0)

    def test_an_older_site_is_looked_at_and_imported(self) -> None:
        answer = self.ask(
            "POST",
            f"{SCREEN}/import",
            data={"kind": "rss", "subjects": "tags"},
            files={"file": ("old.xml", FEED, "text/xml")},
        )
        self.assertEqual(answer.status_code, 303, answer.text)
        transfer_running.run_due(self.shop)
        screen = self.get(SCREEN).text
        for words in ("Looked at; nothing is imported yet.", "1 post would come", "Import it", "Old"):
            self.assertIn(words, screen)
        self.assertEqual(self.post(f"{SCREEN}/1/go-on").status_code, 303)
        transfer_running.run_due(self.shop)
        self.assertIn("Take it away again", self.get(SCREEN).text)
        self.assertEqual(self.post(f"{SCREEN}/1/undo").status_code, 303)
        self.assertIn("taken away again", self.get(SCREEN).text)

    def test_what_was_typed_stays_when_it_is_refused(self) -> None:
        answer = self.post(f"{SCREEN}/import", kind="html", address="old.example")
        self.assertEqual(answer.status_code, 422)
        self.assertIn('value="old.example"', answer.text)
        self.assertIn("is no address of a site", answer.text)
        self.assertEqual(self.post(f"{SCREEN}/9/go-on").status_code, 404)
        self.assertEqual(self.post(f"{SCREEN}/9/dance").status_code, 404)

    def test_another_program_is_told_of_what_happens(self) -> None:
        shown = self.post(f"{SCREEN}/hooks", address="https://tools.example/hook", told_of=["post.out"]).text
        self.assertIn("whsec_", shown)
        self.assertNotIn("whsec_", self.get(SCREEN).text)
        self.assertIn("https://tools.example/hook", self.get(SCREEN).text)
        refused = self.post(f"{SCREEN}/hooks", address="tools")
        self.assertEqual(refused.status_code, 422)
        self.assertIn('value="tools"', refused.text)
        self.assertEqual(self.post(f"{SCREEN}/hooks/1/remove").status_code, 303)
        self.assertEqual(self.post(f"{SCREEN}/hooks/1/remove").status_code, 404)

    def test_posts_are_taken_out_as_a_book(self) -> None:
        self.write("A lamp", date="2026-11-01")
        answer = self.get("/desk/bench/out?which=all&format=epub")
        self.assertEqual(
            (answer.headers["content-type"], answer.headers["content-disposition"][:31]),
            ("application/epub+zip", 'attachment; filename="the-bench'),
        )
        self.assertEqual(self.get("/posts/1/out/docx").status_code, 200)
        self.assertEqual(self.get("/posts/1/out/exe").status_code, 422)
