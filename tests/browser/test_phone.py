"""The writing room on a phone: one line on top, one line of kinds, the text, and sheets from below."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.browser.browsing import BrowserCase
from tests.shops import picture
from tools.audit_states import CHECKS, screens

SIZES = ((360, 740), (390, 800), (430, 930), (800, 390))


class PhoneCase(BrowserCase):
    size = (390, 800)

    def setUp(self) -> None:
        super().setUp()
        self.context = self.new_context(*self.size, has_touch=True)
        self.page = self.new_page()
        self.sign_in()

    def open_lamp(self) -> None:
        db = self.server.workshop.db
        with db.transaction():
            db.run("DELETE FROM present")  # of the tests before
        number = db.value("SELECT id FROM post WHERE title LIKE 'Rewiring a desk lamp%'")
        self.open(f"/posts/{number}")
        self.page.wait_for_selector(".ProseMirror")
        self.page.wait_for_function("() => window.mobbetRoom")

    def begin(self) -> None:
        self.new_post()
        self.page.wait_for_function("() => window.mobbetRoom")

    def all(self) -> None:
        self.page.click(".phone-all")

    def height(self, selector: str) -> float:
        box = self.page.locator(selector).bounding_box()
        self.assertIsNotNone(box)
        return box["height"] if box else 0


class ScreenTests(PhoneCase):
    def test_every_screen_fits_and_is_for_a_thumb(self) -> None:
        self.context = self.new_context(360, 740, has_touch=True, is_mobile=True)
        self.page = self.new_page()
        self.sign_in()
        for screen in screens(self.server):
            if screen.endswith("/letter"):  # as mail programs show it
                continue
            self.page.set_viewport_size({"width": 360, "height": 740})
            self.open(screen)
            for width, height in ((360, 740), (800, 390)):
                self.page.set_viewport_size({"width": width, "height": height})
                self.page.wait_for_timeout(150)
                with self.subTest(width=width, screen=screen):
                    self.assertEqual(self.page.evaluate(CHECKS), [])


class LayoutTests(PhoneCase):
    def test_two_lines_stand_around_the_text_at_every_size(self) -> None:
        self.open_lamp()
        for width, height in SIZES:
            self.page.set_viewport_size({"width": width, "height": height})
            with self.subTest(width=width, height=height):
                self.assertLess(self.height(".phone-line") + self.height("#tools"), 104)
                self.assertGreater(self.height("#scroll"), height - 106)
                expect(self.page.locator(".bar")).to_be_hidden()
                expect(self.page.locator("#block-line")).to_be_hidden()
                self.assertLessEqual(self.page.evaluate("() => document.documentElement.scrollWidth"), width)
                self.assert_accessible(name=f"{width}")

    def test_everything_else_stands_in_a_sheet_and_the_text_stays_in_sight(self) -> None:
        self.open_lamp()
        for width, height in SIZES:
            self.page.set_viewport_size({"width": width, "height": height})
            with self.subTest(width=width, height=height):
                self.all()
                for one in (
                    "#main-action",
                    "#next-mark",
                    "#open-notes",
                    "#revision",
                    "#block-line button >> nth=0",
                ):
                    self.page.locator(one).scroll_into_view_if_needed()
                    expect(self.page.locator(one)).to_be_in_viewport()
                self.assertGreater(self.height("#scroll"), 40)
                self.assert_accessible(name=f"{width}")
                self.page.keyboard.press("Escape")
                expect(self.page.locator(".phone-all")).to_be_focused()
                expect(self.page.locator("#main-action")).to_be_hidden()

    def test_the_docket_and_the_outline_are_sheets_of_lines_for_a_thumb(self) -> None:
        self.open_lamp()
        expect(self.page.locator("#docket")).to_be_hidden()
        self.all()
        self.page.click("[data-pull=side]")
        heights = self.page.eval_on_selector_all(
            "#docket > .slip > p",
            "(all) => all.filter((one) => one.offsetHeight).map((one) => one.offsetHeight)",
        )
        self.assertGreaterEqual(min(heights), 44)
        self.page.click("#set-visibility")
        self.page.click("#sheet-visibility >> text=only me")
        expect(self.page.locator("#set-visibility")).to_have_text("only me")
        self.page.click("#side .pull-close button")
        expect(self.page.locator("#docket")).to_be_hidden()
        expect(self.page.locator(".phone-all")).to_be_focused()
        self.all()
        self.page.click("[data-pull=outline]")
        self.page.click("#outline-list >> text=Finding the break")
        expect(self.page.locator("#outline-list")).to_be_hidden()


class WritingTests(PhoneCase):
    in_whole_browser = True

    def test_chosen_words_bring_what_one_does_with_words(self) -> None:
        self.begin()
        self.page.locator(".ProseMirror").focus()
        self.page.keyboard.type("A kettle")
        line = self.page.locator("#tools")
        expect(line.get_by_role("button", name="Camera")).to_be_visible()
        expect(line.get_by_role("button", name="Quote")).to_be_hidden()
        self.page.keyboard.press("Shift+Home")
        expect(line.get_by_role("button", name="Quote")).to_be_visible()
        expect(line.get_by_role("button", name="Camera")).to_be_hidden()
        line.get_by_role("button", name="Bold").click()
        expect(self.page.locator(".ProseMirror strong")).to_have_text("A kettle")

    def test_pictures_of_the_camera_come_several_at_once_and_ask_for_a_description(self) -> None:
        self.begin()
        self.page.locator(".ProseMirror").focus()
        files = [
            {"name": f"{name}.png", "mimeType": "image/png", "buffer": picture(600, 400, color=colour)}
            for name, colour in (("plug", "#884422"), ("fuse", "#224488"))
        ]
        with self.page.expect_file_chooser() as chooser:
            self.page.get_by_role("button", name="Camera").click()
        chooser.value.set_files(files)
        expect(self.page.locator(".ProseMirror .picture")).to_have_count(2)
        expect(self.page.locator(".ProseMirror .about .input").first).to_be_visible()
        self.wait_saved()

    def test_a_large_picture_is_scaled_before_it_is_sent_unless_the_owner_wants_it_as_it_is(self) -> None:
        large = {"name": "bench.jpg", "mimeType": "image/jpeg", "buffer": picture(4000, 1000, "JPEG")}
        for choice, width in (("yes", 2560), ("no", 4000)):
            self.open("/desk/mending-bench/library")
            self.page.select_option("[name=scaled]", value=choice)
            with self.page.expect_response("**/scaled"):
                self.page.click(".scaled button")
            self.open("/desk/mending-bench")
            self.begin()
            self.page.locator(".ProseMirror").focus()
            self.page.set_input_files("#camera", large)
            expect(self.page.locator(".ProseMirror .picture")).to_have_count(1)
            self.wait_saved()  # or the next new post would be this one, as it was begun
            db = self.server.workshop.db
            self.assertEqual(db.value("SELECT width FROM media ORDER BY id DESC LIMIT 1"), width)

    def test_a_sound_is_recorded_in_place(self) -> None:
        self.begin()
        self.page.locator(".ProseMirror").focus()
        self.all()
        record = self.page.locator("#record")
        record.click()
        expect(record).to_contain_text("Stop and keep (0:01)")
        record.click()
        expect(self.page.locator(".ProseMirror figure.sound")).to_contain_text("recording")
        self.wait_saved()

    def test_dictation_leaves_a_document_that_is_one(self) -> None:
        self.begin()
        self.page.locator(".ProseMirror").focus()
        session = self.context.new_cdp_session(self.page)
        for words in ("three", "three plugs", "three plugs in a row"):
            session.send(
                "Input.imeSetComposition",
                {"text": words, "selectionStart": len(words), "selectionEnd": len(words)},
            )
        session.send("Input.insertText", {"text": "Three plugs in a row."})
        self.page.keyboard.press("Enter")
        session.send("Input.insertText", {"text": "And a fuse."})
        self.wait_saved()
        self.assertEqual(
            self.page.locator(".ProseMirror p").all_text_contents()[:2],
            ["Three plugs in a row.", "And a fuse."],
        )

    def test_the_top_line_says_that_the_network_is_away(self) -> None:
        self.begin()
        self.expected = ("ERR_INTERNET_DISCONNECTED", "ERR_FAILED")
        self.context.set_offline(True)
        self.page.fill("#title", "On the bus")
        expect(self.page.locator("#saved-here")).to_have_text("Kept on this phone; no network")
        self.context.set_offline(False)
        expect(self.page.locator("#saved-here")).to_contain_text("Saved")

    def test_a_post_goes_out_from_the_sheet_and_from_the_preview(self) -> None:
        self.begin()
        self.page.fill("#title", "Three plugs in a row")
        self.page.locator(".ProseMirror").focus()
        self.page.keyboard.type("All three had the same plug.")
        self.wait_saved()
        self.all()
        self.page.click("#main-action:has-text('Publish now')")
        expect(self.page.locator("#actions .told")).to_contain_text("Published")
        self.page.locator(".ProseMirror").focus()
        expect(self.page.locator("#actions .told")).to_be_visible()
        expect(self.page.locator("#next-mark")).to_be_hidden()
        self.page.click(".phone-line .button")
        expect(self.page.locator("#main-action")).to_be_visible()
