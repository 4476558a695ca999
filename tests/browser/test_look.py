"""Trying a look, and giving it to readers, through the real screen."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.browser.browsing import BrowserCase

LOOK = "/desk/mending-bench/site/look"
SITE = "/b/mending-bench/"


class LookCase(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in()
        self.open(LOOK)

    def paper_of(self, address: str) -> str:
        self.open(address)
        return self.page.evaluate("() => getComputedStyle(document.body).backgroundColor")


class GivingTests(LookCase):
    def test_a_look_is_tried_seen_given_and_undone(self) -> None:
        before = self.paper_of(SITE)
        self.open(LOOK)
        self.page.click(".begun button[value=lamplight]")
        expect(self.page.locator(".saved")).to_contain_text("Tried here only.")
        frame = self.page.frame_locator(".wide-frame iframe")
        expect(frame.locator("body")).to_have_css("background-color", "rgb(21, 23, 31)")
        self.assertEqual(self.paper_of(SITE), before)
        self.open(LOOK)
        expect(self.page.locator("#main-action")).to_contain_text("pages")
        self.page.click("#main-action")
        expect(self.page.locator(".said")).to_have_text("Readers have this look now.")
        self.assertEqual(self.paper_of(SITE), "rgb(21, 23, 31)")
        self.open(LOOK)
        self.page.click("text=Undo the last look given")
        expect(self.page.locator(".said")).to_have_text("Readers have the look before again.")
        self.assertEqual(self.paper_of(SITE), before)

    def test_by_keyboard_a_colour_is_typed_and_the_nearest_that_can_be_read_is_taken(self) -> None:
        self.page.locator("summary[aria-label$='change links and accents']").focus()
        self.page.keyboard.press("Enter")
        expect(self.page.locator("details[open] .input")).to_be_focused()
        self.page.keyboard.type("#e0a080")
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".saved .problem")).to_contain_text("pairs of colours to settle")
        self.assert_accessible(name="failing")
        self.page.locator(".failing button").first.focus()
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".saved .problem")).to_have_count(0)
        self.page.wait_for_load_state()
        self.page.keyboard.press("Control+Enter")
        expect(self.page.locator("#main-action")).to_be_focused()
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".said")).to_have_text("Readers have this look now.")


class ShownTests(LookCase):
    def test_the_screen_is_accessible_and_shows_what_is_asked_for(self) -> None:
        self.assert_accessible(name="look")
        self.page.locator("summary[aria-label^='daylight']").click()
        self.page.click("details[open] button[value=dark]")
        expect(self.page.frame_locator(".wide-frame iframe").locator("body")).to_have_css(
            "background-color", "rgb(26, 24, 21)"
        )
        self.page.locator("summary[aria-label^='most people']").click()
        self.page.click("details[open] button[value=large]")
        self.page.wait_for_function(
            "() => document.querySelector('.wide-frame iframe').contentDocument?.documentElement?.style.fontSize === '200%'"
        )

    def test_on_a_phone_nothing_scrolls_sideways(self) -> None:
        self.page.set_viewport_size({"width": 360, "height": 780})
        self.open(LOOK)
        self.assertLessEqual(self.page.evaluate("() => document.documentElement.scrollWidth"), 360)
        self.assert_accessible(name="phone")


class PublicTests(BrowserCase):
    def test_every_look_shows_every_kind_of_page_without_a_finding(self) -> None:
        self.sign_in()
        for name in ("bench", "ferry", "noticeboard", "harbour", "lamplight", "ledger"):
            self.open(LOOK)
            self.page.click(f".begun button[value={name}]")
            self.page.wait_for_load_state()
            for mode in ("light", "dark"):
                for path in (
                    "/",
                    "/wire-and-flex/wire-stripper/",
                    *(("/archive/",) if mode == "light" else ()),
                ):
                    self.open(f"{LOOK}/as/tried/{mode}/site{path}")
                    self.assert_accessible(name=f"{name} {mode} {path}")
                    self.assertLessEqual(
                        self.page.evaluate("() => document.documentElement.scrollWidth"),
                        1280,
                        f"{name} {path}",
                    )
