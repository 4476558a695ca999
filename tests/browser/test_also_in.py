"""One post in two blogs, through the real screens."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.browser.browsing import BrowserCase


class TwoBlogsTests(BrowserCase):
    def test_a_post_stands_in_another_blog_is_updated_in_both_and_taken_out_again(self) -> None:
        self.sign_in()
        self.open("/posts/2")
        self.page.locator("#set-also-in").press("Enter")
        self.page.locator("#sheet-also-in .choice", has_text="Alder Ferry Log").press("Enter")
        expect(self.page.locator("#set-also-in")).to_have_text("also in Alder Ferry Log")
        self.page.locator("#set-also-in").press("Enter")
        there = self.page.locator("#sheet-also-in a").get_attribute("href") or ""
        self.assert_accessible(name="also in")
        self.page.keyboard.press("Escape")
        self.page.locator("#surface .text p").first.click()
        self.page.keyboard.press("End")
        self.page.keyboard.type(" One sentence more.")
        self.wait_saved()
        self.page.get_by_role("button", name="Update what is out").click()
        expect(self.page.locator("#actions .told")).to_contain_text("Updated.")
        for path in (there, "/b/mending-bench/lamps/why-lamp-flickers-when-tram-goes/"):
            self.open(path)
            expect(self.page.locator(".article .text")).to_contain_text("One sentence more.")
            canonical = self.page.locator("link[rel=canonical]").get_attribute("href") or ""
            self.assertTrue(canonical.endswith("/lamps/why-lamp-flickers-when-tram-goes/"), canonical)
        self.open("/posts/2")
        self.page.locator("#set-also-in").press("Enter")
        self.page.get_by_role("button", name="Take it out of Alder Ferry Log").press("Enter")
        expect(self.page.locator("#set-also-in")).to_have_text("in no other blog")
