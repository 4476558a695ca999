"""Comments through the real interface: a reader writes one, it is read, shown, answered and taken back, by mouse and by keys."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.browser.browsing import BrowserCase

COMMENTS = "/desk/mending-bench/comments"
GLUE = "/b/mending-bench/glue/which-glue-honestly/"


class CommentTests(BrowserCase):
    def test_every_screen_of_it_passes_axe_also_on_a_phone(self) -> None:
        for width in (1280, 390):
            self.context = self.new_context(width, 800)
            self.page = self.new_page()
            self.open(f"{GLUE}#comments")
            self.assert_accessible(name=f"{width} post")
            self.page.click("text=Write a comment")
            self.assert_accessible(name=f"{width} form")
            self.sign_in()
            for state in ("waits", "shown", "refused"):
                self.open(f"{COMMENTS}?state={state}")
                self.assertLessEqual(self.page.evaluate("() => document.documentElement.scrollWidth"), width)
                self.assert_accessible(name=f"{width} {state}")
            self.context.close()
        self.context = self.new_context()

    def test_a_comment_is_written_read_at_the_desk_shown_and_answered(self) -> None:
        reader = self.new_page(self.new_context(390, 800))
        self.open(GLUE, reader)
        reader.click("text=Write a comment")
        reader.fill("#name", "Nils Aker")
        reader.fill("#text", "The shoe glue held.\n\nSix weeks now.")
        reader.click("text=Send it")
        expect(reader.locator("[role=status]")).to_contain_text("as soon as somebody here has read it")
        self.sign_in()
        self.page.click("text=/comments wait to be read/")
        slip = self.page.locator(".comment", has_text="Nils Aker")
        slip.locator("text=Answer…").click()
        slip.locator("textarea").fill("Good to hear.")
        slip.locator("button:text-is('Answer')").click()
        expect(self.page.locator(".said[role=status]")).to_contain_text(
            "Your answer stands under the comment"
        )
        reader.click("text=Which glue, honestly >> nth=-1")
        expect(reader.locator(".comments li", has_text="Nils Aker").first).to_contain_text("Good to hear.")
        reader.context.close()

    def test_words_are_refused_for_good_by_keys_alone(self) -> None:
        self.sign_in()
        self.open(COMMENTS)
        setting = self.page.locator("summary[aria-label*='refused at once']")
        setting.focus()
        self.page.keyboard.press("Enter")
        self.assert_accessible(name="blocklist")
        self.page.keyboard.type("cheap pills\ncasino.example")
        self.page.keyboard.press("Tab")
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".sentence.rules")).to_contain_text("“cheap pills” and 1 more")
        self.page.locator("summary[aria-label*='refused at once']").click()
        self.page.fill("[name=blocklist]", "")
        self.page.click("text=Save")
        expect(self.page.locator(".sentence.rules")).to_contain_text("none yet")

    def test_by_keys_alone_chosen_comments_are_refused_and_that_is_undone(self) -> None:
        self.sign_in()
        self.open(COMMENTS)
        before = self.page.locator(".comment").count()
        self.page.focus("[aria-label='Choose the comment by Great offers']")
        self.page.keyboard.press("Space")
        for _ in range(30):
            self.page.keyboard.press("Shift+Tab")
            if self.page.evaluate("() => document.activeElement.textContent") == "Refuse them":
                break
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".said[role=status]")).to_contain_text("The comment is refused")
        expect(self.page.locator(".comment")).to_have_count(before - 1)
        self.page.focus("text=Undo")
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".comment")).to_have_count(before)

    def test_comments_are_ticked_all_at_once_and_settled_by_key(self) -> None:
        self.sign_in()
        self.open(COMMENTS)
        ticks = self.page.locator(".comment-list input[type=checkbox][name=comment]")
        count = ticks.count()
        self.page.check("#choose-all")
        expect(self.page.locator(".comment-list input[name=comment]:checked")).to_have_count(count)
        self.page.uncheck("#choose-all")
        ticks.first.click()
        ticks.last.click(modifiers=["Shift"])
        expect(self.page.locator(".comment-list input[name=comment]:checked")).to_have_count(count)
        ticks.first.focus()
        self.page.keyboard.press("j")
        expect(ticks.nth(1)).to_be_focused()
        self.page.keyboard.press("k")
        expect(ticks.first).to_be_focused()
        self.page.keyboard.press("r")
        expect(self.page.locator(".said[role=status]")).to_contain_text("refused")
        expect(self.page.locator(".comment")).to_have_count(count - 1)
