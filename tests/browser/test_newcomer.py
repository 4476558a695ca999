"""From an empty folder to a blog with a look of its own, a picture on top, three pages, a menu, a front page and a post: by mouse, by keyboard, on a phone."""

from __future__ import annotations

from playwright.sync_api import Locator, expect

from tests.browser.browsing import BrowserCase
from tests.shops import picture

HARBOUR = {"name": "harbour.png", "mimeType": "image/png", "buffer": picture(1800, 700, color="#27455a")}
PAGES = ("About us", "Find us", "What we mend")


class Newcomer(BrowserCase):
    demo = False
    width = 1280

    def press(self, what: Locator) -> None:
        """Presses a button, a link or a changeable word, with whatever the newcomer has."""
        what.click()

    def fill(self, what: Locator, words: str) -> None:
        what.fill(words)

    def told(self, words: str) -> None:
        expect(self.page.locator(".said")).to_contain_text(words)

    def button(self, name: str) -> Locator:
        return self.page.get_by_role("button", name=name, exact=False).first

    def journey(self) -> None:
        self.page.set_viewport_size({"width": self.width, "height": 800})
        self._begin()
        self._write("The first evening", "Eleven people came, and nine things were mended.")
        for title in PAGES:
            self.open("/desk/my-bench/site/menu")
            self.press(self.button("New page"))
            self._write(title, f"{title}: what there is to say.")
        self._menu()
        self._picture_on_top()
        self._read()

    def _begin(self) -> None:
        self.open("/")
        for field, words in (
            ("#word", self.first_word()),
            ("#name", "Ines Farrow"),
            ("#email", "ines@bench.example"),
            ("#password", "a long password"),
            ("#blog", "My Bench"),
        ):
            self.fill(self.page.locator(field), words)
        expect(self.page.locator("#address")).to_have_value("my-bench")
        self.press(self.page.locator("main form button.is-primary"))

    def _write(self, title: str, text: str) -> None:
        self.page.wait_for_selector(".ProseMirror")
        self.page.wait_for_function("() => window.mobbetRoom")
        self.fill(self.page.locator("#title"), title)
        self.page.locator(".ProseMirror").focus()
        self.page.keyboard.type(text)
        self.wait_saved()
        if self.width < 760:
            self.press(self.page.locator(".phone-all"))
        self.press(self.page.locator("#main-action"))
        expect(self.page.locator("#actions .told")).to_contain_text("Published")

    def _menu(self) -> None:
        self.open("/desk/my-bench/site/menu")
        for title in PAGES:
            self.fill(self.page.locator("#entry-to"), title)
            self.press(self.button("Put it in the menu"))
            self.told(f"“{title}” is new")
        self.page.locator("#section").select_option(label="Pages")
        self.press(self.button("Put it on the front page"))
        self.told("The section is new")
        self.press(self.button("Give it to readers"))
        self.told("Readers have this menu now.")

    def _picture_on_top(self) -> None:
        self.open("/desk/my-bench/library")
        self.page.set_input_files("input[type=file]", HARBOUR)
        expect(self.page.locator("main")).to_contain_text("harbour.png")
        self.wait_worked()
        self.open("/desk/my-bench/site/look")
        self.press(self.page.locator(".begun button", has_text="Harbour"))
        expect(self.page.locator(".saved")).to_contain_text("Tried here only.")
        self.press(self.page.locator('summary[aria-label*="the picture on top"]'))
        self.page.locator("details.setting[open] select").select_option(label="harbour.png")
        self.press(self.page.locator("details.setting[open] .is-primary"))
        expect(self.page.locator(".look-side")).to_contain_text("harbour.png")
        settle = self.page.locator(".failing button").first
        while self.page.locator(".failing button").count():
            self.press(settle)
        self.press(self.page.locator("#main-action"))
        expect(self.page.locator(".saved")).to_contain_text("Readers have this look")

    def _read(self) -> None:
        page = self.new_page(self.new_context(width=self.width))
        self.open("/b/my-bench/", page)
        for title in PAGES:
            expect(page.locator(".front-part.pages h3", has_text=title)).to_be_visible()
        expect(page.locator("main")).to_contain_text("The first evening")
        header = "getComputedStyle(document.querySelector('.site-head')).getPropertyValue('--header')"
        self.assertIn("/media/", page.evaluate(header))
        self.assert_accessible(page, name="front page")


class MouseTests(Newcomer):
    def test_by_mouse(self) -> None:
        self.journey()


class KeyboardTests(Newcomer):
    def press(self, what: Locator) -> None:
        what.focus()
        self.assertGreaterEqual(what.evaluate("one => one.tabIndex"), 0)
        self.page.keyboard.press("Enter")

    def fill(self, what: Locator, words: str) -> None:
        what.focus()
        self.page.keyboard.press("Control+a")
        self.page.keyboard.type(words)

    def test_by_keyboard(self) -> None:
        self.journey()


class PhoneTests(Newcomer):
    width = 390

    def test_on_a_phone(self) -> None:
        self.journey()
