"""An older site comes in and the blog goes out on the screen, by a program that works beside the server; a program is allowed to write."""

from __future__ import annotations

import io
import zipfile

from playwright.sync_api import expect

from tests.browser.browsing import BrowserCase

BENCH = "/desk/mending-bench"
ALLOW = (
    "/allow?response_type=code&client_id=http%3A%2F%2F127.0.0.1%3A8099%2F&redirect_uri=http%3A%2F%2F127.0.0.1%3A8099%2Fback&state=kept&scope=create+media"
    "&code_challenge=E9Melhoa2OwvFrEMTJguCHaoeK1t8URWbuGJSstw-cM&code_challenge_method=S256"
)


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
        answered: list[str] = []
        page.route(
            "http://127.0.0.1:8099/**",
            lambda route: (answered.append(route.request.url), route.fulfill(body="back")),
        )
        self.open(ALLOW)
        button = page.get_by_role("button", name="Allow it", exact=True)
        for _ in range(40):
            if button.evaluate("node => node === document.activeElement"):
                break
            page.keyboard.press("Tab")
        page.keyboard.press("Enter")
        page.wait_for_url("http://127.0.0.1:8099/**")
        self.assertIn("state=kept", answered[0])
        self.assertIn("code=", answered[0])
        self.open("/account/programs")
        expect(page.get_by_role("heading", name="No program yet")).to_be_visible()
