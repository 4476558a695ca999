"""The desk by keyboard: find or go to, from anywhere; the search with its filters."""

from __future__ import annotations

from playwright.sync_api import expect

from mobbet.actions.work import changing
from mobbet.store import blogs, stale
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
        for typed, words in (
            ("ti", "Timetable"),
            ("where it", "Where it goes"),
            ("petra", "Petra Quill"),
            ("new p", "New post"),
        ):
            self.open("/desk/mending-bench")
            self.page.keyboard.press("Alt+j")
            self.page.keyboard.type(typed)
            expect(self.page.locator("#goto-list [aria-selected=true]")).to_contain_text(words)
        self.page.keyboard.press("Enter")
        self.page.wait_for_selector(".ProseMirror")
        self.page.keyboard.press("Alt+j")
        self.page.keyboard.type("zzqq")
        expect(self.page.locator("#goto-list")).to_contain_text("No match. Try fewer letters.")
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

    def test_an_answer_that_comes_late_does_not_take_the_place_of_a_later_letters(self) -> None:
        held = []
        self.open("/desk/mending-bench")
        self.page.route("**/rows?q=l", lambda route: held.append(route))
        self.page.focus("#find")
        self.page.keyboard.type("la")
        expect(self.page.locator("#rows")).to_contain_text("with “la”")
        with self.page.expect_response("**/rows?q=l"):
            held[0].continue_()
        self.page.keyboard.press("ArrowDown")
        expect(self.page.locator("#rows")).to_contain_text("with “la”")
        expect(self.page.locator(".posts td.t a:focus")).to_have_count(1)

    def test_who_was_signed_out_meanwhile_is_asked_to_sign_in_again(self) -> None:
        self.open("/desk/mending-bench")
        self.context.clear_cookies()
        self.page.fill("#find", "lamp")
        expect(self.page.locator("#password")).to_be_visible()
        self.assertIn("401 (Unauthorized)", self.complaints.pop())

    def test_older_posts_are_asked_for_and_can_be_chosen_after_a_search(self) -> None:
        self.open("/desk/mending-bench")
        self.page.fill("#find", "lamp")
        expect(self.page.locator("#rows")).to_contain_text("with “lamp”")
        self.page.locator("#rows input[name=post]").first.check()
        self.page.fill("#find", "")
        self.page.click("text=Show older posts")
        expect(self.page.locator("text=Show older posts")).to_have_count(0)
        expect(self.page.locator("#rows input[name=post]:checked")).to_have_count(1)
        expect(self.page.locator("#choose-posts p")).to_have_text("1 post chosen")


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


class PeekTests(BrowserCase):
    def test_space_shows_a_post_as_readers_see_it_and_follows_the_arrows(self) -> None:
        self.sign_in()
        self.page.focus(".posts a[data-peek]")
        self.page.keyboard.press(" ")
        expect(self.page.locator("#peek .peek-title")).to_have_text("Kettles that click off too soon")
        self.assert_accessible(name="peek")
        self.page.keyboard.press("ArrowDown")
        self.page.keyboard.press("ArrowDown")
        expect(self.page.locator("#peek .peek-title")).to_have_text(
            "Rewiring a desk lamp without losing the switch"
        )
        expect(self.page.locator("#peek")).to_contain_text("to settle")
        self.page.keyboard.press("Escape")
        expect(self.page.locator("#peek")).to_be_hidden()


class SeveralTests(BrowserCase):
    def test_rows_are_chosen_by_keyboard_and_what_is_done_with_them_is_undone(self) -> None:
        self.sign_in()
        self.page.wait_for_load_state()
        self.page.focus(".posts a[data-peek]")
        self.page.keyboard.press("Shift+ArrowDown")
        expect(self.page.locator("#choose-posts")).to_contain_text("2 posts chosen")
        self.assert_accessible(name="chosen")
        self.page.keyboard.press("ArrowLeft")
        self.page.keyboard.press("Enter")
        expect(self.page.locator("#choose-posts button").first).to_be_focused()
        self.page.locator("#choose-posts >> text=Set aside").press("Enter")
        expect(self.page.locator(".tried")).to_contain_text("2 posts are set aside")
        self.assert_accessible(name="handling")
        self.page.click("text=Set them aside")
        expect(self.page.locator(".said")).to_contain_text("2 posts are set aside.")
        self.page.click(".said >> text=Undo")
        expect(self.page.locator(".said")).to_contain_text("Undone: 2 posts are set aside.")

    def test_letters_search_and_a_choice_outlives_the_search(self) -> None:
        self.sign_in()
        self.page.wait_for_load_state()
        self.page.locator("input[form=choose-posts]").first.check()
        self.page.focus(".posts a[data-peek]")
        self.page.keyboard.type("zips")
        expect(self.page.locator("#rows")).to_contain_text("with “zips”")
        self.page.locator("input[aria-label^='Choose Zips']").check()
        expect(self.page.locator("#choose-posts")).to_contain_text("2 posts chosen")

    def test_what_is_set_aside_is_kept_by_the_rule(self) -> None:
        self.sign_in()
        self.open("/desk/mending-bench?state=set-aside")
        expect(self.page.locator("#rows")).to_contain_text("kept until")
        self.page.fill(".kept-views [name=days]", "90")
        self.page.click(".kept-views >> text=Keep to that")
        expect(self.page.locator(".kept-views [name=days]")).to_have_value("90")
        self.assert_accessible(name="set aside")


class StripTests(BrowserCase):
    def test_the_strip_is_scrolled_and_zoomed_by_keys_wheel_and_drag(self) -> None:
        self.sign_in()
        self.page.wait_for_load_state()
        strip = self.page.locator("#strip")
        first = strip.get_attribute("data-first")
        strip.focus()
        self.page.keyboard.press("-")
        expect(strip).to_have_attribute("data-weeks", "26")
        self.page.keyboard.press("+")
        expect(strip).to_have_attribute("data-weeks", "12")
        self.page.keyboard.press("ArrowLeft")
        expect(strip).not_to_have_attribute("data-first", first)
        self.page.keyboard.press("Home")
        expect(strip).to_have_attribute("data-first", first)
        box = strip.bounding_box()
        self.page.mouse.move(box["x"] + 300, box["y"] + 95)
        self.page.mouse.wheel(0, 100)
        expect(strip).to_have_attribute("data-weeks", "26")
        drawn = strip.get_attribute("data-first")
        self.page.mouse.down()
        self.page.mouse.move(box["x"] + 700, box["y"] + 95, steps=4)
        self.page.mouse.up()
        expect(strip).not_to_have_attribute("data-first", drawn)
        self.assertLess(strip.get_attribute("data-first"), drawn)
        self.assert_accessible(name="strip")
        self.page.locator("#strip a[data-peek]").first.hover()
        expect(self.page.locator("#peek .peek-title")).to_be_visible()

    def test_a_year_by_weeks_leads_to_its_posts(self) -> None:
        self.sign_in()
        self.page.click("text=A year by weeks")
        expect(self.page.locator("h1")).to_have_text("A year by weeks")
        self.assert_accessible(name="rhythm")
        self.page.locator(".rhythm a").first.focus()
        self.page.keyboard.press("Enter")
        expect(self.page.locator("#rows")).to_contain_text("found")


class OpenWindowTests(BrowserCase):
    def test_a_window_that_comes_back_says_that_its_blog_changed_since(self) -> None:
        self.sign_in()
        self.open("/desk/mending-bench")
        come_back = "document.dispatchEvent(new Event('visibilitychange'))"
        with self.page.expect_response("**/changes/mending-bench"):
            self.page.evaluate(come_back)
        expect(self.page.locator("#changed-since")).to_be_hidden()
        shop = self.server.workshop
        blog = blogs.by_slug(shop.db, "mending-bench")
        with changing(shop):
            stale.mark_fact(shop.db, blog.id, "away", "/nowhere/")
        self.page.evaluate(come_back)
        expect(self.page.locator("#changed-since")).to_be_visible()
        self.assert_accessible(name="changed since")
        self.page.click("#changed-since button")
        expect(self.page.locator("#changed-since")).to_be_hidden()
