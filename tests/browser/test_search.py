"""A reader searches the site: while typing, without a script, on a phone, by keyboard."""

from playwright.sync_api import expect

from tests.browser.browsing import BrowserCase

SITE = "/b/mending-bench"


class SearchTests(BrowserCase):
    def test_results_follow_what_one_types_and_are_narrowed(self) -> None:
        self.open(f"{SITE}/")
        self.page.click("footer a:has-text('Search')")
        expect(self.page.locator("#q")).to_be_focused()
        self.assert_accessible(name="search")
        self.page.keyboard.type("flex")
        expect(self.page.locator(".total")).to_contain_text("pages")
        expect(self.page.locator(".results li").first).to_contain_text("flex")
        expect(self.page.locator("#q")).to_be_focused()
        self.assertIn("q=flex", self.page.url)
        self.assert_accessible(name="search with results")
        self.page.click(".narrow a:has-text('Lamps')")
        expect(self.page.locator(".narrow [aria-current]")).to_contain_text("Lamps")
        expect(self.page.locator(".total")).to_contain_text("3 pages")
        self.page.fill("#q", "flxe")
        expect(self.page.locator(".total")).to_contain_text("“flex” was looked for")
        self.page.fill("#q", "zzyzx <b>")
        expect(self.page.locator(".total")).to_contain_text("Nothing here has “zzyzx <b>”")

    def test_without_a_script_the_form_finds_the_same(self) -> None:
        page = self.new_page(self.new_context(390, 844, java_script_enabled=False))
        page.goto(f"{self.server.address}{SITE}/search/")
        page.fill("#q", '"a flex is not"')
        page.keyboard.press("Enter")
        expect(page.locator(".results li")).to_have_count(1)
        page.click(".results a")
        expect(page.locator("h1")).to_have_text("What is inside a flex")
