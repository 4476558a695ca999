"""Ways to share a post: those that the browser can do, and those that need no script."""

from playwright.sync_api import expect

from tests.browser.browsing import BrowserCase


class ShareTests(BrowserCase):
    def post(self) -> str:
        self.open("/b/mending-bench/search/?q=flex")
        return self.page.locator(".results a").first.get_attribute("href") or ""

    def test_the_address_is_copied_and_what_the_browser_cannot_do_is_not_shown(self) -> None:
        path = self.post()
        self.context.grant_permissions(["clipboard-read", "clipboard-write"])
        self.open(path)
        self.page.click("text=Copy the address")
        expect(self.page.locator(".share [data-copy]")).to_have_text("Copied")
        self.assertTrue(self.page.evaluate("() => navigator.clipboard.readText()").endswith(path))
        expect(self.page.get_by_role("link", name="Mail it")).to_be_visible()
        self.assert_accessible(name="post with ways to share it")

    def test_without_a_script_what_needs_none_is_there(self) -> None:
        path = self.post()
        page = self.new_page(self.new_context(390, 844, java_script_enabled=False))
        page.goto(self.server.address + path)
        expect(page.get_by_role("link", name="Mail it")).to_be_visible()
        expect(page.locator(".share [data-copy]")).to_be_hidden()
