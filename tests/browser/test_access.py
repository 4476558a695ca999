"""What everybody needs: names, headings, sizes, keys, narrow windows, the dark, and quiet for those who listen."""

from pathlib import Path

from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import expect

from tests.browser.browsing import AXE, BrowserCase

DESK = "/desk/mending-bench"
SCREENS = (
    DESK, f"{DESK}/write", f"{DESK}/kept/", f"{DESK}/timetable", f"{DESK}/library", f"{DESK}/filing", f"{DESK}/filing/addresses", f"{DESK}/readers", f"{DESK}/comments", f"{DESK}/letters",
    f"{DESK}/answers", f"{DESK}/read", f"{DESK}/accounts",
    f"{DESK}/site", f"{DESK}/site/look", f"{DESK}/site/editions", f"{DESK}/proof", "/account", "/account/keys", f"{DESK}/profiles", "/blogs/new",
)  # fmt: skip
CHECKS = (Path(__file__).parents[2] / "tools" / "audit_checks.js").read_text()
WHOLE_AXE = {**AXE, "runOnly": {"type": "tag", "values": [*AXE["runOnly"]["values"], "best-practice"]}}


class AccessCase(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in()

    def faults(self) -> list[str]:
        found = Axe().run(self.page, options=WHOLE_AXE).response["violations"]
        return [
            f"{one['id']}: {node['html'][:120]}" for one in found for node in one["nodes"]
        ] + self.page.evaluate(CHECKS)

    def room(self) -> None:
        self.open(DESK)
        self.into_room("text=Rewiring a desk lamp", self.page)


class ScreenTests(AccessCase):
    def test_each_screen_is_whole_for_everybody(self) -> None:
        for path in SCREENS:
            with self.subTest(path):
                self.open(path)
                self.assertEqual(self.faults(), [])

    def test_the_room_is_whole_also_with_a_sheet_open(self) -> None:
        self.room()
        self.page.wait_for_selector(".ProseMirror img")
        self.assertEqual(self.faults(), [])
        for sheet in ("goes-out", "categories0", "slug"):
            with self.subTest(sheet):
                self.page.click(
                    f"#set-{sheet}" if sheet != "categories0" else "[data-sheet=categories] >> nth=0"
                )
                self.assertEqual(self.faults(), [])
                self.page.keyboard.press("Escape")

    def test_nothing_scrolls_sideways_in_the_narrowest_window(self) -> None:
        self.context = self.new_context(320, 640, has_touch=True)
        self.page = self.new_page()
        self.sign_in()
        for path in SCREENS:
            with self.subTest(path):
                self.open(path)
                self.assertLessEqual(
                    self.page.evaluate("() => document.documentElement.scrollWidth - innerWidth"), 0
                )

    def test_screens_can_be_read_in_the_dark(self) -> None:
        self.page.emulate_media(color_scheme="dark")
        for path in (DESK, f"{DESK}/timetable", f"{DESK}/filing", f"{DESK}/library"):
            with self.subTest(path):
                self.open(path)
                self.assertEqual(self.faults(), [])
        self.room()
        self.assertEqual(self.faults(), [])
        self.assertEqual(
            self.page.evaluate("() => getComputedStyle(document.body).backgroundColor"), "rgb(18, 25, 27)"
        )


class KeyTests(AccessCase):
    def test_preview_docket_main_action_and_keys_are_one_key_away(self) -> None:
        self.room()
        keys = self.page.keyboard
        self.page.click(".ProseMirror p >> nth=0")
        keys.press("Control+Enter")
        expect(self.page.locator("#main-action")).to_be_focused()
        keys.press("Alt+k")
        expect(self.page.locator("#set-state")).to_be_focused()
        keys.press("Control+Slash")
        expect(self.page.locator("#keys")).to_contain_text("to the main action")
        keys.press("Escape")
        keys.press("Alt+o")
        self.page.wait_for_selector("#frame")
        self.page.wait_for_load_state()  # its keys come with its script
        keys.press("Control+Enter")
        expect(self.page.locator("#main-action")).to_be_focused()
        keys.press("Alt+o")
        self.page.wait_for_selector(".ProseMirror")

    def test_focus_stays_on_the_screen_after_publishing_by_key(self) -> None:
        self.new_post()
        self.page.fill("#title", "By key")
        self.page.click(".ProseMirror")
        self.page.keyboard.type("A few words that stand here.")
        self.wait_saved()
        self.page.keyboard.press("Control+Enter")
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".out-slip")).to_be_visible()
        self.page.wait_for_function("() => document.activeElement !== document.body")

    def test_what_a_sheet_covers_once_it_has_grown_is_no_target(self) -> None:
        self.open("/posts/33")
        self.page.wait_for_selector("#proof .add-tag")
        self.page.click("#set-alike")
        expect(self.page.locator("#alike")).not_to_be_empty()
        self.assert_accessible(name="posts like it")

    def test_what_a_menu_covers_is_out_of_reach_until_it_closes(self) -> None:
        self.open(DESK)
        self.page.click("summary.who")
        covered = "() => [...document.querySelectorAll('[tabindex=\"-1\"]')].filter((one) => one.matches('a, button, input')).length"
        self.page.wait_for_function(f"() => ({covered})() > 0")
        self.page.keyboard.press("Escape")
        self.page.wait_for_function(f"() => ({covered})() === 0")


class OwnKeyTests(AccessCase):
    def test_a_key_of_ones_own_does_what_mobbets_did_and_mobbets_is_let_go_of(self) -> None:
        self.open("/account/keys")
        self.page.focus("#keys-1")
        self.page.keyboard.press("Control+Alt+f")
        self.page.focus("#keys-5")
        self.page.keyboard.press("F4")
        self.page.click("text=Keep these keys")
        expect(self.page.locator("[role=status]")).to_have_text("These are your keys from now on.")
        expect(self.page.get_by_label("Find a post, or go to a place (Ctrl Alt F)")).to_be_visible()
        self.page.keyboard.press("Alt+j")
        expect(self.page.locator("#goto")).not_to_be_focused()
        self.page.keyboard.press("Control+Alt+f")
        expect(self.page.locator("#goto")).to_be_focused()
        self.room()
        self.page.click(".ProseMirror p >> nth=0")
        self.page.keyboard.press("F4")
        expect(self.page.locator("#set-state")).to_be_focused()


class ListeningTests(AccessCase):
    def test_only_another_state_of_the_text_is_spoken(self) -> None:
        self.new_post()
        self.page.evaluate(
            """() => { window.spoken = []; for (const line of document.querySelectorAll('[role=status]'))
            new MutationObserver(() => line.textContent.trim() && spoken.push(line.textContent.trim())).observe(line, {childList: true, characterData: true, subtree: true}); }"""
        )
        self.page.fill("#title", "Quiet")
        self.wait_saved()
        self.page.wait_for_timeout(4500)
        self.page.click(".ProseMirror")
        self.page.keyboard.type("More words.")
        self.wait_saved()
        self.page.wait_for_timeout(2500)
        self.assertEqual([one for one in self.page.evaluate("() => spoken") if "aved" in one], ["Saved"])

    def test_the_text_is_spoken_in_the_language_of_the_post(self) -> None:
        self.new_post()
        expect(self.page.locator("#page")).to_have_attribute("lang", "en")
        self.page.click("#set-language")
        self.page.select_option("#post-language", "de")
        self.page.click("#sheet-language >> text=Use this")
        expect(self.page.locator("#page")).to_have_attribute("lang", "de")

    def test_what_a_refused_sheet_had_typed_in_it_stays(self) -> None:
        self.new_post()
        self.page.fill("#title", "Tags")
        self.wait_saved()
        self.page.click("[data-sheet=tags]")
        typed = "lamp, " + "x" * 90
        self.page.fill("#tag-names", typed)
        self.page.click("text=Tag it")
        expect(self.page.locator("#sheet-tags .problem").first).to_be_visible()
        expect(self.page.locator("#tag-names")).to_have_value(typed)
