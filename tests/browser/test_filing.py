"""Keeping order through the real interface: by mouse, by keys, with nonsense."""

import re

from playwright.sync_api import expect

from tests.browser.browsing import BrowserCase

FILING = "/desk/mending-bench/filing"


class FilingTests(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in()
        self.open(FILING)

    def row(self, name: str):
        return self.page.locator(f"#tree li:has(.name:text-is('{name}'))")

    def go_on(self) -> None:
        expect(self.page.locator(".tried")).to_contain_text("Footprint ·")
        self.page.click(".tried button")

    def test_a_category_is_renamed_after_its_footprint_was_seen_and_taken_back(self) -> None:
        self.page.click("#tree >> text=Clocks")
        self.page.click("summary[aria-label^='Rename it']")
        self.page.fill(".setting[open] [name=name]", "Clockwork")
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".tried")).to_contain_text("If you go on")
        self.assert_accessible(name="a tried change")
        self.go_on()
        expect(self.page.locator(".said")).to_contain_text("“Clocks” is called “Clockwork” now.")
        self.page.click(".said button")
        expect(self.page.locator(".said")).to_contain_text("Undone")
        expect(self.row("Clocks")).to_be_visible()

    def test_a_category_is_dragged_into_another_and_moved_out_by_keys(self) -> None:
        self.row("Bicycles").drag_to(self.row("Toasters"))
        self.go_on()
        expect(self.row("Bicycles")).to_have_attribute("data-depth", "1")
        self.row("Bicycles").locator("a").focus()
        self.page.keyboard.press("Alt+ArrowLeft")
        self.go_on()
        expect(self.row("Bicycles")).to_have_attribute("data-depth", "0")

    def test_the_order_changes_by_keys_and_arrows_walk_the_tree(self) -> None:
        names = self.page.locator("#tree li[data-depth='0'] .name").all_inner_texts()
        self.page.locator("#tree a").first.focus()
        self.page.keyboard.press("Alt+ArrowDown")
        expect(self.page.locator(".said")).to_be_visible()
        self.assertEqual(
            self.page.locator("#tree li[data-depth='0'] .name").all_inner_texts()[:2], names[:2][::-1]
        )
        self.page.locator("#tree a").first.focus()
        self.page.keyboard.press("ArrowDown")
        self.assertTrue(
            self.page.evaluate("() => document.activeElement === document.querySelectorAll('#tree a')[1]")
        )

    def test_what_a_category_shows_is_chosen_within_its_panel(self) -> None:
        self.page.click("#tree >> text=Clocks")
        self.page.click(".chosen summary[aria-label^='Describe it']")
        edges = self.page.evaluate(
            "() => ['.chosen', '.setting[open] > .choices', '.setting[open] .sights'].map((one) => Math.round(document.querySelector(one).getBoundingClientRect().right))"
        )
        self.assertEqual(edges, sorted(edges, reverse=True))

    def test_the_map_leads_to_a_category_and_its_posts(self) -> None:
        self.page.locator(".map .for-wide a[aria-label^='Radios']").click()
        expect(self.page.locator("#chosen-head")).to_have_text("Radios")
        expect(self.page.locator(".filed-posts")).to_contain_text("The belt in the tape machine")
        self.assert_accessible(name="filing")

    def test_what_cannot_be_is_told_and_kept(self) -> None:
        self.page.fill("#new-path", "Lamps > ")
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".said.problem")).to_contain_text("empty category name")
        expect(self.page.locator("#new-path")).to_have_value("Lamps > ")
        self.expected = ("422",)

    def test_settings_open_one_at_a_time_and_escape_gives_the_word_back(self) -> None:
        word = self.page.locator("summary[aria-label^='Change the catch-all']")
        word.press("Enter")
        expect(self.page.locator(".setting[open] [name=catch_all]")).to_be_focused()
        self.page.keyboard.press("Escape")
        expect(word).to_be_focused()
        expect(self.page.locator(".setting[open]")).to_have_count(0)

    def test_near_doubles_are_merged_in_one_step(self) -> None:
        self.page.click(".tabs >> text=Tags")
        self.page.click("text=Merge into “solder”")
        self.go_on()
        expect(self.page.locator(".said")).to_contain_text("The tag “soldering” is part of “solder” now")
        self.page.click("#main .tree >> text=flex")
        expect(self.page.locator("#chosen-head")).to_have_text("flex")
        self.assert_accessible(name="tags")

    def test_a_worklist_is_filed_by_keyboard(self) -> None:
        self.page.click("a.worklist >> nth=0")
        first = self.page.locator(".sheet-like h2").inner_text()
        self.page.wait_for_load_state()
        self.page.keyboard.press("s")
        expect(self.page.locator(".sheet-like h2")).not_to_have_text(first)
        self.page.keyboard.press("1")
        expect(self.page.locator("#tried")).to_contain_text(re.compile("Footprint|No page"))
        self.assert_accessible(name="worklist")
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".said")).to_contain_text("1 post is filed under")

    def test_posts_chosen_at_the_desk_are_filed_at_once(self) -> None:
        self.open("/desk/mending-bench")
        for title, told in (("Solder is not glue", "1 post chosen"), ("The button box", "2 posts chosen")):
            self.page.fill("#find", title)
            expect(self.page.locator("#rows")).to_contain_text(f"with “{title}”")
            self.page.locator(f"input[aria-label='Choose {title}']").check()
            expect(self.page.locator("#choose-posts")).to_contain_text(told)
        self.page.click("#choose-posts >> text=File and tag")
        self.page.select_option("select[name=add]", label="Safety")
        self.page.click("text=Show what changes")
        expect(self.page.locator("text=Footprint").first).to_be_visible()
        self.assert_accessible(name="several posts")
        self.go_on()
        expect(self.page.locator(".said")).to_contain_text("filed under Safety")

    def test_a_pattern_is_tried_and_what_readers_missed_is_led_on(self) -> None:
        self.page.click(".tabs >> text=Addresses")
        expect(self.page.locator("#missed-head")).to_be_visible()
        self.assert_accessible(name="addresses")
        self.page.click("text=Lead it to /clocks/cleaning-a-stuck-clock/")
        expect(self.page.locator(".said")).to_contain_text("1 old address leads to the new one now.")
        self.page.click("summary[aria-label^='Change the pattern']")
        self.page.fill(".setting[open] [name=pattern]", "/{year}/{slug}/")
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".tried")).to_contain_text("every old address leads to the new one")
        self.page.click("text=Leave it as it is")
        expect(self.page.locator("summary[aria-label^='Change the pattern']")).to_have_text(
            "/{category}/{slug}/"
        )

    def test_nothing_of_the_filing_scrolls_sideways_on_a_phone(self) -> None:
        phone = self.new_page(self.new_context(390, 800))
        self.sign_in(phone)
        for path in ("", "?in=1", "/tags", "/addresses", "/worklist/untagged"):
            self.open(FILING + path, phone)
            wide = phone.evaluate("() => document.documentElement.scrollWidth")
            self.assertLessEqual(wide, 390, path)
            self.assert_accessible(phone, f"phone {path}")


class ShownTests(BrowserCase):
    """How a post is shown, settled on its docket."""

    def setUp(self) -> None:
        super().setUp()
        self.sign_in()
        self.page.click("text=Rewiring a desk lamp")
        self.page.wait_for_selector(".ProseMirror")
        self.page.wait_for_load_state()
        self.page.wait_for_function("() => window.mobbetRoom")

    def test_a_block_leads_when_the_writer_points_at_it_and_the_rule_takes_over_when_it_is_gone(self) -> None:
        self.page.locator(".ProseMirror > p").nth(1).click()
        self.page.click("#block-line >> text=Lead with this")
        expect(self.page.locator("#set-lead")).to_contain_text("paragraph")
        expect(self.page.locator("#docket")).to_contain_text("as you chose")
        self.page.keyboard.press("Escape")
        self.page.locator(".ProseMirror > p").nth(1).click()
        self.page.click("#block-line >> text=Remove")
        self.wait_saved()
        expect(self.page.locator("#docket")).to_contain_text(
            "because the block you chose is gone", timeout=15000
        )

    def test_the_search_result_is_measured_as_one_types(self) -> None:
        self.page.click("#set-description")
        self.page.fill("#search-title", "word " * 30)
        expect(self.page.locator("#sample")).to_contain_text("The title is cut after “word word")
        self.page.click("#sample .add-tag")
        expect(self.page.locator("#description-words")).not_to_have_value("")
        self.assert_accessible(name="search sheet")
        self.page.click("#search-form >> text=Use this")
        expect(self.page.locator("#set-description")).not_to_have_text("no description yet")

    def test_an_address_is_checked_and_a_shorter_one_taken(self) -> None:
        self.page.click("#set-slug")
        self.page.fill("#slug-word", "a b")
        expect(self.page.locator("#check-slug")).to_contain_text("cannot be part of an address")
        self.page.click("#check-slug .add-tag >> nth=0")
        expect(self.page.locator("#check-slug")).to_contain_text("is free")
        self.page.keyboard.press("Enter")
        expect(self.page.locator("#set-slug")).to_have_text("rewiring-desk-lamp-without")

    def test_tags_are_proposed_and_near_doubles_told(self) -> None:
        self.page.click("#set-tags")
        expect(self.page.locator("#check-tags")).to_contain_text("In the text:")
        self.page.fill("#tag-names", "flex, fuses")
        expect(self.page.locator("#check-tags")).to_contain_text("“fuses” beside “fuse”")
        self.page.click("#check-tags .add-tag[data-instead^='fuses']")
        expect(self.page.locator("#tag-names")).to_have_value("flex, fuse")
        self.page.keyboard.press("Enter")
        expect(self.page.locator("#docket .slip")).to_contain_text("Tagged flex fuse.")

    def test_a_typed_path_says_what_it_makes(self) -> None:
        self.page.click("#set-categories")
        self.page.fill("#new-category", "Lamps > Shades")
        expect(self.page.locator("#check-category")).to_contain_text("“Lamps > Shades” is made")
        self.page.keyboard.press("Enter")
        expect(self.page.locator("#docket .slip")).to_contain_text("Shades")

    def test_a_point_is_chosen_on_the_coast(self) -> None:
        self.page.click("#set-place")
        self.page.fill("#place-name", "Port Alder")
        self.page.locator(".coast-map").click(position={"x": 60, "y": 40})
        self.assertRegex(self.page.input_value("#place-point"), r"^-?\d+\.\d+, -?\d+\.\d+$")
        self.page.click("#sheet-place >> text=Nearer")
        self.page.click("#sheet-place >> text=Take the middle")
        self.page.check("#sheet-place [name=map]")
        self.assert_accessible(name="place sheet")
        self.page.click("#sheet-place >> text=Keep")
        expect(self.page.locator("#set-place")).to_have_text("Port Alder")

    def test_a_time_is_said_or_chosen_on_the_month(self) -> None:
        self.page.click("#set-goes-out")
        self.page.fill("#goes-out-said", "in 2 weeks at 18")
        expect(self.page.locator("#check-when")).to_contain_text("at 18:00, in 14 days")
        self.page.keyboard.press("Enter")
        expect(self.page.locator("#set-goes-out")).to_contain_text("at 18:00")
        self.page.click("#set-goes-out")
        self.page.locator(".month .day:not(.outside)").last.click()
        self.assert_accessible(name="goes-out sheet")
        day = self.page.input_value("#goes-out-day")
        self.page.keyboard.press("ArrowLeft")
        self.page.keyboard.press("Enter")
        self.assertLess(self.page.input_value("#goes-out-day"), day)
        self.page.click("#sheet-goes-out >> text=Set this time")
        expect(self.page.locator("#sheet-goes-out")).to_be_hidden()

    def test_the_docket_says_why_a_post_is_nowhere_and_leads_to_the_mend(self) -> None:
        self.page.click("#set-where")
        expect(self.page.locator("#where")).to_contain_text(
            "It is a draft: nobody finds it until it is published."
        )
        self.page.keyboard.press("Escape")
        expect(self.page.locator("#set-where")).to_be_focused()
        self.open("/desk/mending-bench")
        self.page.click(".posts >> text=Cleaning a stuck clock")
        self.page.wait_for_function("() => window.mobbetRoom")
        self.page.click("#set-where")
        expect(self.page.locator("#where")).to_contain_text("the page of Clocks")
        self.assert_accessible(name="where sheet")
        self.page.click("#where li:has-text('The menu has no link') >> text=Change it")
        expect(self.page.locator("#sheet-menu")).to_be_visible()

    def test_the_footprint_of_the_main_action_stands_below_the_docket(self) -> None:
        self.open("/desk/mending-bench")
        self.page.click(".posts >> text=Cleaning a stuck clock")
        self.page.wait_for_function("() => window.mobbetRoom")
        self.page.click("#set-categories")
        self.page.select_option("#main-category", label="Lamps")
        self.page.click("#sheet-categories >> text=File it")
        expect(self.page.locator("#footprint")).to_contain_text("Lamps", timeout=15000)
        expect(self.page.locator("#docket .changed")).to_contain_text("the categories")
