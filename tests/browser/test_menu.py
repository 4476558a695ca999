"""Pages and the menu, through the real screens: with the mouse, by keyboard, on a phone, and with nonsense."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.browser.browsing import BrowserCase

MENU = "/desk/mending-bench/site/menu"
SITE = "/b/mending-bench/"


class MenuCase(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in()
        self.open(MENU)

    def words(self) -> list[str]:
        return self.page.locator("[data-list=menu] > .spot > .entry").all_inner_texts()

    def on_the_site(self) -> list[str]:
        self.open(SITE)
        return self.page.locator(".site-head nav > ul > li > a").all_inner_texts()


class MapTests(MenuCase):
    def test_an_entry_is_dragged_tried_given_and_undone(self) -> None:
        before = self.on_the_site()
        self.open(MENU)
        spots = self.page.locator("[data-list=menu] > .spot")
        spots.nth(2).locator("> .entry").drag_to(spots.nth(0), target_position={"x": 4, "y": 10})
        expect(self.page.locator(".said")).to_have_text("“About” stands first now.")
        expect(self.page.locator(".saved")).to_contain_text("Tried here only.")
        self.assertEqual(self.words()[:2], ["About", "Notes"])
        self.assertEqual(self.on_the_site(), before)
        self.open(MENU)
        expect(self.page.locator("#main-action")).to_contain_text("pages")
        self.page.click("#main-action")
        expect(self.page.locator(".said")).to_have_text("Readers have this menu now.")
        self.assertEqual(self.on_the_site()[0], "About")
        self.open(MENU)
        self.page.click("text=Undo the last menu given")
        self.assertEqual(self.on_the_site(), before)

    def test_by_keyboard_an_entry_is_added_moved_below_another_and_taken_out(self) -> None:
        self.assert_accessible(name="menu")
        self.page.locator("#entry-to").focus()
        self.page.keyboard.type("Rules of the house")
        self.page.keyboard.press("Tab")
        self.page.keyboard.type("Rules")
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".said")).to_contain_text("“Rules” is new, and stands seventh now.")
        expect(self.page.locator(".entry[aria-current]")).to_be_focused()
        self.page.keyboard.press("Alt+ArrowLeft")
        expect(self.page.locator(".said")).to_have_text("“Rules” stands sixth now.")
        expect(self.page.locator(".entry[aria-current]")).to_be_focused()
        self.page.keyboard.press("ArrowLeft")
        expect(self.page.locator(".entry", has_text="Subjects")).to_be_focused()
        self.assert_accessible(name="chosen")
        self.page.locator("button", has_text="Below “Subjects”").focus()
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".said")).to_have_text("“Rules” stands first on the second level now.")
        self.page.locator("button", has_text="Take it out").focus()
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".said")).to_have_text("The entry is taken out.")
        expect(self.page.locator(".saved")).to_contain_text("Readers have this menu")

    def test_the_front_page_is_put_together_by_keys_and_given(self) -> None:
        self.page.locator("#section").select_option(label="Chosen posts")
        self.page.get_by_role("button", name="Put it on the front page").press("Enter")
        expect(self.page.locator(".said")).to_have_text(
            "The section is new, and stands fourth on the front page now."
        )
        self.page.locator("summary", has_text="nothing yet; or choose a post by its title").press("Enter")
        self.page.locator("#word-front\\.4\\:of").fill("Which glue, honestly")
        self.page.keyboard.press("Enter")
        expect(self.page.locator("#chosen")).to_contain_text("“Which glue, honestly”")
        self.assert_accessible(name="section")
        self.page.locator(".front .entry", has_text="Chosen posts").focus()
        self.page.keyboard.press("Alt+ArrowUp")
        expect(self.page.locator(".said")).to_have_text("The section stands third on the front page now.")
        expect(self.page.locator("#main-action")).to_contain_text(": 1 page")
        self.page.click("#main-action")
        expect(self.page.locator(".said")).to_have_text("Readers have this menu now.")
        self.open(SITE)
        expect(self.page.locator(".front-part.chosen").last.locator("h3")).to_have_text(
            "Which glue, honestly"
        )
        self.assert_accessible(name="front page")

    def test_nonsense_is_told_in_one_sentence_and_stays_typed(self) -> None:
        self.expected = ("422",)
        self.page.fill("#entry-to", "javascript:alert(1)")
        self.page.fill("#entry-words", "Click here")
        self.page.click("text=Put it in the menu")
        expect(self.page.locator(".problem[role=alert]")).to_contain_text("is nothing a menu can lead to")
        expect(self.page.locator("#entry-to")).to_have_value("javascript:alert(1)")
        expect(self.page.locator("#entry-words")).to_have_value("Click here")

    def test_on_a_phone_the_menu_opens_below_more(self) -> None:
        self.page.set_viewport_size({"width": 390, "height": 800})
        self.open(SITE)
        expect(self.page.locator(".site-head nav > ul > li:visible")).to_have_count(4)
        self.page.click("summary:has-text('More')")
        expect(self.page.locator(".phone-only a", has_text="Find us")).to_be_visible()
        self.assert_accessible(name="phone menu")


class PageTests(MenuCase):
    def test_a_page_is_begun_written_put_in_the_menu_and_published(self) -> None:
        self.page.click("text=New page")
        self.page.wait_for_selector(".ProseMirror")
        expect(self.page.locator("#set-kind")).to_have_text("a page")
        self.page.click("#title")
        self.page.keyboard.type("Our tools")
        self.page.keyboard.press("Enter")
        self.page.keyboard.press("Enter")
        self.page.keyboard.type("Pliers, mostly.")
        self.wait_saved()
        self.page.click("#set-below")
        self.page.select_option("#page-below", label="About the bench")
        self.page.click("#sheet-below button")
        expect(self.page.locator("#docket .path").first).to_have_text("/about/")
        self.page.click("#set-menu")
        self.page.fill("#menu-words", "Tools")
        self.page.click("#sheet-menu button.is-primary")
        expect(self.page.locator("#set-menu")).to_contain_text("called “Tools”")
        self.assertNotIn("Tools", self.on_the_site())
        self.page.go_back()
        self.page.wait_for_selector(".ProseMirror")
        self.page.click("#main-action:has-text('Publish now')")
        expect(self.page.locator(".out-address")).to_contain_text("/about/our-tools/")
        self.assertIn("Tools", self.on_the_site())
        self.open(f"{SITE}about/our-tools/")
        expect(self.page.locator(".kicker a")).to_have_text("About the bench")
        self.assert_accessible(name="page")
        self.open("/desk/mending-bench")
        expect(self.page.locator("tr.group", has_text="Pages")).to_be_visible()
