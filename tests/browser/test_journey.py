"""From an empty folder to a public page: once with the mouse, once with the keyboard alone."""

import re

from playwright.sync_api import expect

from tests.browser.browsing import BrowserCase
from tests.shops import picture

LAMP = {"name": "lamp.png", "mimeType": "image/png", "buffer": picture(1000, 600)}


class MouseJourneyTests(BrowserCase):
    def test_sign_in_write_publish_read(self) -> None:
        page = self.page
        self.open("/")
        page.fill("#email", "ines@mending-bench.example")
        page.fill("#password", "port-alder-bench")
        page.click("button:has-text('Sign in')")
        self.new_post()
        page.click("#title")
        page.keyboard.type("A lamp with a loose foot")
        page.click(".ProseMirror")
        page.keyboard.type(
            "The first paragraph of three.\nThe second paragraph.\nThe third one, with a link."
        )
        page.dblclick(".ProseMirror p:nth-child(3) >> text=link")
        page.click(".ProseMirror p:nth-child(3)", position={"x": 5, "y": 5}, click_count=3)
        page.click("#tools button:has-text('Link')")
        page.fill("#link-form [name=address]", "lamps.example/feet")
        page.click("#link-form button[type=submit]")
        expect(page.locator(".ProseMirror a")).to_have_attribute("href", "https://lamps.example/feet")
        page.click(".ProseMirror p:nth-child(2)")
        page.select_option("#tools .kind", "h2")
        expect(page.locator(".ProseMirror h2")).to_have_text("The second paragraph.")
        expect(page.locator("#outline-list")).to_contain_text("The second paragraph.")
        box = page.locator(".ProseMirror h2").bounding_box()
        page.mouse.move(box["x"] + 200, box["y"] + box["height"] + 7)
        page.wait_for_timeout(500)  # a click at once would be meant for the place, not for the kind
        page.click(".seam button:has-text('Picture')")
        with page.expect_file_chooser() as chooser:
            page.click("#choose-files")
        chooser.value.set_files(LAMP)
        expect(page.locator(".ProseMirror figure img")).to_be_visible()
        expect(page.locator("figure .about .input")).to_be_focused()
        page.keyboard.type("A lamp on its side")
        self.wait_saved()
        expect(page.locator("#saved")).to_have_text(re.compile("^Saved"))
        page.click("[data-sheet=categories]")
        page.select_option("#main-category", label="Lamps")
        page.click("#sheet-categories button:has-text('File it')")
        expect(page.locator("#set-categories")).to_have_text("Lamps")
        self.wait_worked()
        page.click("#to-preview")
        frame = page.frame_locator("#frame")
        expect(frame.locator("h1")).to_have_text("A lamp with a loose foot")
        expect(frame.locator("figure img")).to_have_attribute("alt", "A lamp on its side")
        self.back_to_sheet()
        page.click("#main-action:has-text('Publish now')")
        page.click("#public-link")
        page.wait_for_url("**/b/mending-bench/lamps/a-lamp-with-a-loose-foot/")
        expect(page.locator("article h1")).to_have_text("A lamp with a loose foot")
        for place in ("/b/mending-bench/", "/b/mending-bench/lamps/"):
            self.open(place)
            page.click("text=A lamp with a loose foot")
            expect(page.locator("article .text h2")).to_have_text("The second paragraph.")
        feed = page.request.get(self.server.address + "/b/mending-bench/feed.atom").text()
        self.assertIn("A lamp with a loose foot", feed)


class KeyboardJourneyTests(BrowserCase):
    demo = False

    def tab_to(self, selector: str, most: int = 120) -> None:
        """Presses Tab until that element has the focus."""
        for _ in range(most):
            if self.page.evaluate("s => document.activeElement.matches(s)", selector):
                return
            self.page.keyboard.press("Tab")
        self.fail(f"Tab does not reach {selector}")

    def test_first_run_write_publish_read(self) -> None:
        page, keys = self.page, self.page.keyboard
        self.open("/")
        self.assert_accessible(name="first run")
        for field, words in (
            ("#word", self.first_word()),
            ("#name", "Ines Farrow"),
            ("#email", "ines@bench.example"),
            ("#password", "a long password"),
            ("#blog", "My Bench"),
        ):
            self.tab_to(field)
            keys.type(words)
        expect(page.locator("#address")).to_have_value("my-bench")
        expect(page.locator("#zone")).to_have_value("Europe/Lisbon")
        expect(page.locator("#proposed")).to_have_text("English, /b/my-bench, Europe/Lisbon")
        keys.press("Enter")
        page.wait_for_selector(".ProseMirror")
        expect(page.locator("#actions .told")).to_contain_text("Type a title, then your text.")
        expect(page.locator("#docket .unset")).to_have_count(
            0
        )  # nothing is asked for before something is written
        expect(page.locator("#title")).to_be_focused()
        keys.type("Keys alone")
        keys.press("Enter")
        keys.press("Enter")
        keys.type("One **two** three.\n## A heading\n- first\nsecond\n\n> quoted\n\n1. numbered\n\n")
        for wanted in ("strong", "h2", "ul li:nth-child(2)", "blockquote", "ol"):
            expect(page.locator(f".ProseMirror {wanted}")).to_be_visible()
        keys.type("A word")
        keys.press("Control+Shift+ArrowLeft")
        keys.press("Control+k")
        keys.type("https://words.example")
        keys.press("Enter")
        expect(page.locator(".ProseMirror a")).to_have_text("word")
        keys.press("End")
        keys.press("Alt+Enter")
        expect(page.locator(".seam input")).to_be_focused()
        keys.press("Enter")
        expect(page.locator("#choose-files")).to_be_focused()
        with page.expect_file_chooser() as chooser:
            keys.press("Enter")
        chooser.value.set_files(LAMP)
        expect(page.locator("figure .about .input")).to_be_focused()
        keys.type("A lamp")
        keys.press("Enter")
        keys.type("Its caption")
        keys.press("Enter")
        keys.type("After the picture.")
        keys.press("Control+s")
        self.wait_saved()
        expect(page.locator(".ProseMirror figcaption")).to_have_text("Its caption")
        self.tab_to("#set-categories")
        keys.press("Enter")
        self.tab_to("#new-category")
        keys.type("Lamps > Wiring")
        keys.press("Enter")
        expect(page.locator("#set-categories")).to_have_text("Wiring")
        expect(page.locator("#set-categories")).to_be_focused()
        self.wait_saved()
        self.tab_to("#set-visibility")
        keys.press("Enter")
        keys.press("ArrowDown")
        keys.press("ArrowDown")
        keys.press("Enter")
        expect(page.locator("#set-visibility")).to_have_text("only me")
        expect(page.locator("#set-visibility")).to_be_focused()
        keys.press("Enter")
        keys.press("ArrowUp")
        keys.press("ArrowUp")
        keys.press("Enter")
        expect(page.locator("#set-visibility")).to_have_text("everyone")
        expect(page.locator("#set-visibility")).to_be_focused()
        self.tab_to("#to-preview")
        keys.press("Enter")
        expect(page.frame_locator("#frame").locator("h1")).to_have_text("Keys alone")
        self.tab_to("#diamond")
        before = page.locator("#reading").inner_text()
        keys.press("PageDown")
        expect(page.locator("#reading")).to_contain_text("768 px wide")
        self.assertNotEqual(page.locator("#reading").inner_text(), before)
        self.tab_to("#main-action")
        keys.press("Enter")
        expect(page.locator("#told")).to_contain_text("Published.")
        self.tab_to("#told a")
        keys.press("Enter")
        page.wait_for_url("**/b/my-bench/wiring/keys-alone/")
        expect(page.locator("article .text strong")).to_have_text("two")
        self.tab_to("nav a")
        keys.press("Enter")
        expect(page.locator("article h2")).to_have_text("Keys alone")
        self.tab_to(".kicker a")
        keys.press("Enter")
        expect(page.locator("main h1")).to_have_text("Wiring")
