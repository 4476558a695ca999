"""Blocks below posts, through the real screens: by keyboard, with nonsense, and as readers find them."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.browser.browsing import BrowserCase

PROMOS = "/desk/mending-bench/site/promos"


class PromoTests(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in()
        self.open(PROMOS)

    def change(self, words: str, field: str, typed: str) -> None:
        """Opens a word of the last rule by its key and types another value."""
        rule = self.page.locator(".rules .slip").last
        rule.locator("summary", has_text=words).press("Enter")
        rule.locator(f"input[id$=':{field}']").fill(typed)
        self.page.keyboard.press("Enter")

    def test_by_keyboard_a_rule_is_added_bounded_tried_on_a_post_and_given(self) -> None:
        self.assert_accessible(name="the rules of the demo")
        self.page.locator("#block").select_option(label="Safety notice")
        self.page.get_by_role("button", name="Put it below posts").press("Enter")
        expect(self.page.locator(".said")).to_contain_text("The rule is new")
        self.change("every category", "place", "Lamps")
        expect(self.page.locator(".rules")).to_contain_text("Below posts in")
        self.change("any words", "never", "Rival Tools, microwave*")
        expect(self.page.locator(".rules")).to_contain_text("It is never below a post that names")
        self.assert_accessible(name="a rule")
        self.page.locator("#post").fill("Why your lamp flickers when the tram goes by")
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".verdicts li").last).to_have_text(
            "Safety notice stands below it: it is filed in Lamps."
        )
        self.page.locator("#post").fill("Which glue, honestly")
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".verdicts li").last).to_have_text(
            "Safety notice does not: the post is filed elsewhere."
        )
        expect(self.page.locator("#main-action")).to_contain_text("page")
        self.page.keyboard.press("Control+Enter")
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".said")).to_have_text("Readers have these blocks below posts now.")
        self.open("/b/mending-bench/lamps/why-lamp-flickers-when-tram-goes/")
        expect(self.page.locator("aside.promo")).to_contain_text("Before you begin")
        self.assert_accessible(name="a post with a block below it")

    def test_nonsense_is_told_beside_its_word_and_stays_typed(self) -> None:
        self.expected = ("422",)
        self.page.locator("#block").select_option(label="Safety notice")
        self.page.click("text=Put it below posts")
        expect(self.page.locator(".said")).to_contain_text("The rule is new")
        for words, field, typed, says in (
            ("every category", "place", "Boats", "“Boats” is no category and no tag of this blog"),
            ("for good", "until", "when it rains", "when it rains"),
        ):
            with self.subTest(field):
                self.change(words, field, typed)
                expect(self.page.locator(".setting[open] [role=alert]")).to_contain_text(says)
                expect(self.page.locator(f"input[id$=':{field}']").last).to_have_value(typed)
                self.open(PROMOS)
        self.page.locator("#post").fill("No such post")
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".said[role=alert]")).to_contain_text("is the title of no post of this blog")
        expect(self.page.locator("#post")).to_have_value("No such post")
