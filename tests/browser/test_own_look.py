"""A post on a background of its own, through the docket and as readers see it."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.browser.browsing import BrowserCase

POST = "/b/mending-bench/lamps/why-lamp-flickers-when-tram-goes/"


class OwnLookTests(BrowserCase):
    def test_by_keyboard_a_post_gets_a_background_that_can_be_read_and_loses_it_again(self) -> None:
        self.sign_in()
        self.open("/posts/2")
        self.page.locator("#set-own-look").press("Enter")
        self.page.fill("#own-paper", "#fffefa")
        self.page.fill("#own-accent", "#ffe58a")
        self.page.keyboard.press("Enter")
        problem = self.page.locator("#sheet-own-look .problem")
        expect(problem).to_contain_text("cannot be read on that background; the nearest that can is #")
        expect(self.page.locator("#own-accent")).to_have_value("#ffe58a")
        self.page.fill("#own-accent", problem.inner_text().rstrip(".")[-7:])
        self.page.fill("#own-paper", "#10241f")
        self.page.fill("#own-accent", "")
        self.assert_accessible(name="own look")
        self.page.keyboard.press("Enter")
        expect(self.page.locator("#set-own-look")).to_have_text("with a background of its own")
        self.page.get_by_role("button", name="Update what is out").click()
        expect(self.page.locator("#actions .told")).to_contain_text("Updated.")
        for scheme in ("light", "dark"):
            page = self.new_page(self.new_context(color_scheme=scheme))
            self.open(POST, page)
            self.assertEqual(
                page.evaluate("getComputedStyle(document.body).backgroundColor"), "rgb(16, 36, 31)"
            )
            self.assert_accessible(page, name=scheme)
        self.page.locator("#set-own-look").press("Enter")
        self.page.get_by_role("button", name="Like the site").press("Enter")
        expect(self.page.locator("#set-own-look")).to_have_text("like the site")
