"""The desk by keyboard: find or go to, from anywhere; the search with its filters."""

from __future__ import annotations

from datetime import date, timedelta

from playwright.sync_api import expect

from tests.browser.browsing import BrowserCase


class GoToTests(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in()

    def test_a_post_is_gone_to_by_a_few_letters_from_any_screen(self) -> None:
        self.open("/desk/mending-bench/library")
        self.page.keyboard.press("Alt+j")
        self.page.keyboard.type("five fus")
        expect(self.page.locator("#goto-list [aria-selected=true]")).to_contain_text("Five fuses")
        self.assert_accessible(name="go to")
        self.page.keyboard.press("Enter")
        expect(self.page.locator("#title")).to_have_value("Five fuses, and the one you need")

    def test_screens_actions_and_people_are_gone_to(self) -> None:
        for typed, words in (("ti", "Timetable"), ("where it", "Where it goes"), ("petra", "Petra Quill"), ("new p", "New post")):
            self.open("/desk/mending-bench")
            self.page.keyboard.press("Alt+j")
            self.page.keyboard.type(typed)
            expect(self.page.locator("#goto-list [aria-selected=true]")).to_contain_text(words)
        self.page.keyboard.press("Enter")
        self.page.wait_for_selector(".ProseMirror")
        self.page.keyboard.press("Alt+j")
        self.page.keyboard.type("zzqq")
        expect(self.page.locator("#goto-list")).to_contain_text("Nothing is named so")
        self.page.keyboard.press("Escape")
        expect(self.page.locator("#goto-list")).to_be_hidden()

    def test_a_search_shows_the_place_and_forgives_a_slip(self) -> None:
        self.open("/desk/mending-bench")
        self.page.fill("#find", "condctor")
        expect(self.page.locator("#rows")).to_contain_text("none has “condctor”")
        expect(self.page.locator("#rows mark").first).to_be_visible()
        self.page.fill("#find", "is:lost lamp")
        expect(self.page.locator("#rows .problem")).to_contain_text("“is:lost” is no state")
        self.page.fill("#find", "is:draft in:Lamps")
        expect(self.page.locator("#rows")).to_contain_text("Rewiring a desk lamp")
        self.assert_accessible(name="search")


class SentenceTests(BrowserCase):
    def test_the_list_is_what_the_sentence_says_and_is_kept_under_a_name(self) -> None:
        self.sign_in()
        self.page.select_option("#filter [name=state]", "draft")
        self.page.wait_for_url("**?state=draft")
        expect(self.page.locator("#rows")).to_contain_text("Rewiring a desk lamp")
        expect(self.page.locator("#rows")).not_to_contain_text("Cleaning a stuck clock")
        self.page.select_option("#filter [name=order]", "untouched")
        self.page.wait_for_url("**order=untouched")
        self.assert_accessible(name="sentence")
        self.page.fill(".kept-views [name=name]", "Old drafts")
        self.page.click(".kept-views .button")
        expect(self.page.locator(".kept-views .on a")).to_have_text("Old drafts")
        self.page.click("text=Everything")
        self.page.click(".kept-views >> text=Old drafts")
        self.page.wait_for_url("**state=draft&order=untouched")
        self.page.click("[aria-label='Forget the list Old drafts']")
        expect(self.page.locator(".kept-views")).to_have_count(0)


class WeeksTests(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in()
        self.open("/desk/mending-bench/timetable")

    def test_a_slip_is_moved_by_the_arrows_and_put_back(self) -> None:
        slip = self.page.locator(".slip-of[data-moves]").first
        day = slip.get_attribute("data-day")
        title = slip.get_attribute("data-title").rstrip("…")
        slip.focus()
        self.page.keyboard.press("ArrowDown")
        expect(self.page.locator("#weeks-told")).to_contain_text("Enter moves it")
        self.page.keyboard.press("Escape")
        self.page.keyboard.press("ArrowRight")
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".said")).to_contain_text("now goes out")
        moved = self.page.locator(f".slip-of[data-moves][data-title^='{title[:12]}']")
        self.assertNotEqual(moved.get_attribute("data-day"), day)
        self.assert_accessible(name="weeks")
        self.page.click(".said >> text=Undo")
        expect(moved).to_have_attribute("data-day", day)

    def test_a_slip_is_dragged_to_another_day(self) -> None:
        slip = self.page.locator(".slip-of[data-moves]").first
        week_later = date.fromisoformat(slip.get_attribute("data-day")) + timedelta(days=7)
        slip.scroll_into_view_if_needed()
        begin, end = slip.bounding_box(), self.page.locator(f".day-cell[data-day='{week_later}']").bounding_box()
        self.page.mouse.move(begin["x"] + 20, begin["y"] + 20)
        self.page.mouse.down()
        self.page.mouse.move(end["x"] + 30, end["y"] + 40, steps=6)
        self.page.mouse.up()
        expect(self.page.locator(".said")).to_contain_text("now goes out")


class PeekTests(BrowserCase):
    def test_space_shows_a_post_as_readers_see_it_and_follows_the_arrows(self) -> None:
        self.sign_in()
        self.page.focus(".posts a[data-peek]")
        self.page.keyboard.press(" ")
        expect(self.page.locator("#peek .peek-title")).to_have_text("What to do with one earring, and other orphans")
        self.assert_accessible(name="peek")
        self.page.keyboard.press("ArrowDown")
        expect(self.page.locator("#peek .peek-title")).to_have_text("Rewiring a desk lamp without losing the switch")
        expect(self.page.locator("#peek")).to_contain_text("to settle")
        self.page.keyboard.press("Escape")
        expect(self.page.locator("#peek")).to_be_hidden()
