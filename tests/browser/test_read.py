"""What is read: the screen by mouse and by key, at every width."""

from playwright.sync_api import expect

from tests.browser.browsing import BrowserCase

READ = "/desk/mending-bench/read"


class ReadTests(BrowserCase):
    def test_drawings_and_words_lead_deeper_and_back(self) -> None:
        self.sign_in()
        self.open("/desk/mending-bench/comments")
        self.open("/desk/mending-bench/readers")
        self.page.click("text=What is read")
        expect(self.page.locator(".sentence").first).to_contain_text("readers opened")
        self.assert_accessible(name="what is read")
        self.page.click(".read-columns table a >> nth=0")
        expect(self.page.locator(".sentence").first).to_contain_text("times")
        expect(self.page.locator("tr.on a")).to_be_visible()
        self.page.click("text=The whole blog")
        self.page.focus("summary[aria-label*='stretch of time']")
        self.page.keyboard.press("Enter")
        self.page.click("a.choice:has-text('the last week')")
        expect(self.page.locator("summary.set").first).to_have_text("the last week")
        self.page.locator(".days a").nth(2).focus()
        self.page.keyboard.press("Enter")
        expect(self.page.locator("summary.set").first).to_contain_text("20")
        self.page.click("text=As a table >> nth=0")
        expect(self.page.locator(".as-table[open] tbody tr")).to_have_count(1)

    def test_on_a_phone_words_searched_in_vain_become_ideas(self) -> None:
        page = self.new_page(self.new_context(390, 844))
        self.sign_in(page)
        page.goto(self.server.address + READ)
        self.assert_accessible(page, "what is read on a phone")
        self.assertLessEqual(page.evaluate("() => document.documentElement.scrollWidth"), 390)
        page.click("button[aria-label='Keep as an idea: kettle element']")
        expect(page.locator(".said")).to_contain_text("Kept as an idea")
        page.goto(self.server.address + "/desk/mending-bench")
        expect(page.locator("#ideas")).to_contain_text("kettle element")
