"""An older site comes in and the blog goes out on the screen, by a program that works beside the server; a program is allowed to write."""

from __future__ import annotations

import io
import threading
import zipfile
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from typing import ClassVar
from urllib.parse import urlencode

from playwright.sync_api import expect

from tests.browser.browsing import BrowserCase

BENCH = "/desk/mending-bench"


class Program(BaseHTTPRequestHandler):
    """The place of a program to which answers go."""

    asked: ClassVar[list[str]] = []

    def do_GET(self) -> None:
        self.asked.append(self.path)
        self.send_response(200)
        self.send_header("content-type", "text/html")
        self.end_headers()
        self.wfile.write(b"<!doctype html><link rel=icon href=data:,><title>The program</title>")

    def log_message(self, *words: object) -> None:
        pass


class InAndOutTests(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in()

    def packed(self) -> bytes:
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w") as file:
            for number in range(3):
                file.writestr(
                    f"note-{number}.md",
                    f"---\ntitle: Old note {number}\nlaid-down: 2019-03-0{number + 1}\n---\nWords of the old note.\n",
                )
        return out.getvalue()

    def test_an_older_site_is_looked_at_given_its_fields_imported_and_taken_away(self) -> None:
        page = self.page
        self.open(f"{BENCH}/site/in-and-out")
        page.get_by_label("What it is").select_option("markdown")
        page.get_by_label("Or a file").set_input_files(
            {"name": "old.zip", "mimeType": "application/zip", "buffer": self.packed()}
        )
        page.get_by_role("button", name="Look at it first").click()
        field = page.get_by_label("laid_down")
        expect(field).to_be_visible(timeout=60_000)
        expect(page.get_by_text("3 posts would come")).to_be_visible()
        field.select_option("published")
        page.get_by_role("button", name="Import it").click()
        expect(page.get_by_text("It begins in a moment.").or_(page.get_by_text("Looking:"))).to_have_count(
            0, timeout=60_000
        )
        expect(page.get_by_label("laid_down")).to_have_value("published")
        page.get_by_role("button", name="Import it").click()
        taken = page.get_by_role("button", name="Take it away again")
        expect(taken).to_be_visible(timeout=60_000)
        page.get_by_text("Post by post").first.click()
        expect(page.get_by_role("link", name="Old note 1")).to_be_visible()
        taken.click()
        expect(page.get_by_text("taken away again")).to_be_visible()

    def test_the_blog_goes_out_as_a_zip_file_and_posts_as_a_book(self) -> None:
        page = self.page
        self.open(f"{BENCH}/site/in-and-out")
        page.get_by_role("button", name="Make the zip file").click()
        link = page.get_by_role("link", name="Download it")
        expect(link).to_be_visible(timeout=60_000)
        with page.expect_download() as found:
            link.click()
        with zipfile.ZipFile(found.value.path()) as file:
            self.assertIn("blog.json", file.namelist())
        page.get_by_label("As", exact=True).select_option("epub")
        with page.expect_download() as found:
            page.get_by_role("button", name="Take them out").click()
        self.assertTrue(found.value.suggested_filename.endswith(".epub"))

    def test_by_keyboard_alone_a_person_allows_a_program(self) -> None:
        page = self.page
        there = ThreadingHTTPServer(("127.0.0.1", 0), Program)
        self.addCleanup(there.server_close)
        self.addCleanup(there.shutdown)
        threading.Thread(target=there.serve_forever, daemon=True).start()
        client = f"http://127.0.0.1:{there.server_port}/"
        query = {
            "response_type": "code", "client_id": client, "redirect_uri": f"{client}back", "state": "kept", "scope": "create media",
            "code_challenge": "E9Melhoa2OwvFrEMTJguCHaoeK1t8URWbuGJSstw-cM", "code_challenge_method": "S256",
        }  # fmt: skip
        self.open(f"/allow?{urlencode(query)}")
        button = page.get_by_role("button", name="Allow it", exact=True)
        for _ in range(40):
            if button.evaluate("node => node === document.activeElement"):
                break
            page.keyboard.press("Tab")
        page.keyboard.press("Enter")
        page.wait_for_url(f"{client}back**")
        answer = next(path for path in Program.asked if path.startswith("/back"))
        self.assertIn("state=kept", answer)
        self.assertIn("code=", answer)
        self.open("/account/programs")
        expect(page.get_by_role("heading", name="No program yet")).to_be_visible()
