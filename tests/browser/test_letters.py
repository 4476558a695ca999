"""Letters and questions through the real interface: a reader subscribes, confirms, changes and ends; a reader votes; the owner sees both."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from tests.browser.browsing import BrowserCase

GLUE = "/b/mending-bench/glue/which-glue-honestly/"
LETTERS = "/desk/mending-bench/letters"
PUBLIC = (
    "/b/mending-bench/~/letters",
    "/b/mending-bench/~/comment/6",
    "/b/mending-bench/~/send/1",
    "/b/mending-bench/~/ask/43/stools1",
)


class LetterTests(BrowserCase):
    def test_forms_of_readers_pass_axe_also_on_a_phone_without_a_script(self) -> None:
        for width in (1280, 320):
            context = self.new_context(width, 700, java_script_enabled=True)
            page = self.new_page(context)
            for path in PUBLIC:
                self.open(path, page)
                self.assertLessEqual(page.evaluate("() => document.documentElement.scrollWidth"), width, path)
                self.assert_accessible(page, name=f"{width} {path}")
            context.close()

    def test_a_reader_subscribes_confirms_changes_and_ends_by_keys(self) -> None:
        reader = self.new_page(self.new_context(390, 800))
        self.open(GLUE, reader)
        reader.focus(".subscribe input[type=email]")
        reader.keyboard.type("nora@quay.example")
        reader.keyboard.press("Enter")
        expect(reader.locator("h1")).to_have_text("Look into your mail")
        self.sign_in()
        self.open("/desk/mending-bench/readers")
        letter = self.page.locator("details", has_text="nora@quay.example").first
        letter.locator("summary").first.click()
        [link] = re.findall(r"https?://\S+/~/letters/\S+", letter.locator("pre").inner_text())[:1]
        self.open(link.partition("/b/")[1] + link.partition("/b/")[2], reader)
        reader.click("text=Yes, send them")
        expect(reader.locator("h1")).to_have_text("Your letters")
        self.assert_accessible(reader, name="your letters")
        reader.locator("select").first.select_option("week")
        reader.click("text=Keep it so")
        self.open(LETTERS)
        expect(self.page.locator("main")).to_contain_text("nora@quay.example")
        reader.click("text=End all letters")
        expect(reader.locator("h1")).to_have_text("No more letters")
        reader.context.close()

    def test_a_reader_votes_once_and_the_owner_sees_it_counted(self) -> None:
        reader = self.new_page(self.new_context(390, 800))
        self.open("/b/mending-bench/~/ask/43/stools1", reader)
        reader.locator("input[type=radio]").first.check()
        reader.click("form.ask button")
        expect(reader.locator("main")).to_contain_text("Your vote is counted")
        self.assert_accessible(reader, name="voted")
        self.open("/b/mending-bench/~/ask/43/stools1", reader)
        expect(reader.locator("form.ask button")).to_have_count(0)
        self.sign_in()
        self.open("/desk/mending-bench/answers")
        self.page.click("main a >> text=/stool/i >> nth=0")
        self.assert_accessible(name="answers")
        reader.context.close()
