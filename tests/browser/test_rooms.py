"""What each screen must do in a browser: saving, docket, pictures, preview, desk, phone."""

import re

from playwright.sync_api import Route, expect

from mobbet.core.document import nodes
from tests.browser.browsing import BrowserCase
from tests.shops import picture


class WritingRoomTests(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in()

    def write(self, words: str, page=None) -> None:
        page = page or self.page
        page.click(".ProseMirror")
        page.keyboard.press("Control+End")
        page.keyboard.type(words)

    def test_the_surface_mirrors_the_node_table(self) -> None:
        self.new_post()
        self.assertEqual(self.page.evaluate("() => mobbetRoom.schema()"), nodes.description())

    def test_what_is_typed_is_saved_within_two_seconds_and_comes_back(self) -> None:
        self.new_post()
        self.page.fill("#title", "Kept")
        self.write("Every word of it.")
        expect(self.page.locator("#saved")).to_have_text("Not saved yet")
        expect(self.page.locator("#saved")).to_have_text(re.compile("^Saved"), timeout=8000)
        expect(self.page.locator("#counts")).to_have_text("4 words · a minute’s reading")
        self.page.reload()
        expect(self.page.locator(".ProseMirror")).to_have_text("Every word of it.")
        expect(self.page.locator("#title")).to_have_value("Kept")

    def test_leaving_at_once_loses_nothing(self) -> None:
        self.new_post()
        address = self.page.url
        self.write("Typed and gone.")
        self.page.click(".bar > nav >> text=Desk")
        self.page.wait_for_url("**/desk/**")
        self.page.goto(address)
        expect(self.page.locator(".ProseMirror")).to_have_text("Typed and gone.")

    def test_with_the_network_away_the_text_is_kept_and_sent_later(self) -> None:
        self.new_post()
        self.wait_saved()
        self.context.set_offline(True)
        self.write("Written on the ferry.")
        expect(self.page.locator("#saved")).to_contain_text(
            "The network is away. Your text is kept in this browser"
        )
        self.context.set_offline(False)
        expect(self.page.locator("#saved")).to_have_text(re.compile("^Saved"), timeout=8000)
        self.expected = (
            "ERR_INTERNET_DISCONNECTED",
            "ERR_FAILED",
            "htmx:",
        )  # the second is a request that was under way as the network went
        self.page.reload()
        expect(self.page.locator(".ProseMirror")).to_have_text("Written on the ferry.")

    def test_text_that_never_reached_the_server_is_brought_back(self) -> None:
        self.new_post()
        self.write("Saved.")
        self.wait_saved()
        address = self.page.url
        self.context.set_offline(True)
        self.write(" Not saved.")
        expect(self.page.locator("#saved")).to_contain_text("network is away")
        self.page.close()
        self.context.set_offline(False)
        self.complaints = []
        self.page = self.new_page()
        self.page.goto(address)
        expect(self.page.locator(".ProseMirror")).to_have_text("Saved. Not saved.")
        self.wait_saved()

    def test_a_second_tab_chooses_and_nothing_is_lost(self) -> None:
        self.new_post()
        self.write("Ground.")
        self.wait_saved()
        other = self.new_page()
        other.goto(self.page.url)
        self.write(" First tab.")
        self.wait_saved()
        self.write(" Second tab.", other)
        expect(other.locator("#conflict")).to_contain_text("Nothing is lost either way")
        self.expected = ("409",)
        other.click("text=Go on with mine")
        expect(other.locator("#conflict")).to_be_hidden()
        self.write(" Third.", self.page)
        expect(self.page.locator("#conflict")).to_be_visible()
        self.expected = ("409",)
        self.page.click("text=Go on with theirs")
        expect(self.page.locator(".ProseMirror")).to_have_text("Ground. Second tab.")
        self.open("/desk/mending-bench")
        self.page.click(".posts td.t a >> nth=0")
        expect(self.page.locator(".ProseMirror")).to_have_text("Ground. First tab. Third.")

    def test_the_toolbar_is_true_and_undo_covers_it(self) -> None:
        self.new_post()
        self.write("Some words.")
        self.page.keyboard.press("Control+a")
        bold = self.page.locator("#tools button[aria-label=Bold]")
        self.page.keyboard.press("Control+b")
        expect(bold).to_have_attribute("aria-pressed", "true")
        self.page.click("#tools button:has-text('Quote')")
        expect(self.page.locator(".ProseMirror blockquote strong")).to_be_visible()
        self.page.click("#tools button:has-text('Undo')")
        self.page.click("#tools button:has-text('Undo')")
        expect(self.page.locator(".ProseMirror strong")).to_have_count(0)
        expect(bold).to_have_attribute("aria-pressed", "false")

    def test_a_link_that_would_run_is_refused_in_words(self) -> None:
        self.new_post()
        self.write("x")
        self.page.keyboard.press("Control+k")
        for words in ("javascript:alert(1)", "nonsense"):
            self.page.fill("#link-form [name=address]", words)
            self.page.keyboard.press("Enter")
            expect(self.page.locator("#link-form .problem")).to_contain_text(
                f"“{words}” is no address of a page"
            )
        expect(self.page.locator(".ProseMirror a")).to_have_count(0)

    def test_a_picture_is_pasted_and_one_that_is_none_is_told(self) -> None:
        self.new_post()
        self.write("Above.")
        data = list(picture(300, 200))
        script = """([bytes, type, name]) => {
            const transfer = new DataTransfer();
            transfer.items.add(new File([new Uint8Array(bytes)], name, {type}));
            document.querySelector('.ProseMirror').dispatchEvent(new ClipboardEvent('paste', {clipboardData: transfer, bubbles: true, cancelable: true}));
        }"""
        self.page.evaluate(script, [data, "image/png", "shot.png"])
        expect(self.page.locator(".ProseMirror figure img")).to_be_visible()
        self.page.evaluate(script, [[1, 2, 3], "image/png", "broken.png"])
        expect(self.page.locator(".arriving")).to_contain_text("“broken.png” is nothing the library keeps")
        self.page.click(".arriving button:has-text('Leave it')")
        expect(self.page.locator(".arriving")).to_have_count(0)
        self.expected = ("422",)
        expect(self.page.locator(".ProseMirror figure img")).to_have_count(1)

    def test_a_picture_is_dropped_on_the_sheet(self) -> None:
        self.new_post()
        self.write("Above.")
        file = self.folder / "dropped.png"
        file.write_bytes(picture(300, 200))
        session = self.context.new_cdp_session(self.page)
        box = self.page.locator(".ProseMirror p").bounding_box()
        data = {"items": [], "files": [str(file)], "dragOperationsMask": 1}
        for kind in ("dragEnter", "dragOver", "drop"):
            session.send(
                "Input.dispatchDragEvent", {"type": kind, "x": box["x"] + 30, "y": box["y"] + 8, "data": data}
            )
        expect(self.page.locator(".ProseMirror figure img")).to_be_visible()

    def test_a_pasted_page_keeps_structure_and_nothing_that_runs(self) -> None:
        self.new_post()
        self.page.click(".ProseMirror")
        html = "<h2>Head</h2><p onclick='x()'>One <b>two</b> <a href='javascript:alert(1)'>bad</a></p><ul><li>item</li></ul><img src='https://x.example/a.png'><script>alert(1)</script>"
        self.page.evaluate(
            """html => {
            const transfer = new DataTransfer();
            transfer.setData('text/html', html);
            document.querySelector('.ProseMirror').dispatchEvent(new ClipboardEvent('paste', {clipboardData: transfer, bubbles: true, cancelable: true}));
        }""",
            html,
        )
        expect(self.page.locator(".ProseMirror h2")).to_have_text("Head")
        expect(self.page.locator(".ProseMirror strong")).to_have_text("two")
        expect(self.page.locator(".ProseMirror a, .ProseMirror img")).to_have_count(0)
        self.wait_saved()
        self.page.keyboard.press("Control+z")
        expect(self.page.locator(".ProseMirror")).to_have_text("")

    def test_a_sheet_that_comes_late_takes_no_letters_from_the_text(self) -> None:
        self.new_post()
        self.wait_saved()
        waiting: list[Route] = []
        self.page.route("**/docket", lambda route: waiting.append(route))
        with self.page.expect_request("**/docket"):
            self.page.click("#set-categories")
        self.page.locator(".ProseMirror").click()
        with self.page.expect_response("**/docket"):
            for route in waiting:
                route.continue_()
        self.page.unroute("**/docket")
        self.page.keyboard.type("Words for the text")
        expect(self.page.locator(".ProseMirror")).to_have_text("Words for the text")
        expect(self.page.locator("#set-categories")).to_have_attribute("aria-expanded", "false")
        self.page.click("#set-categories")
        expect(self.page.locator("#sheet-categories")).to_be_visible()

    def test_a_docket_that_is_opened_after_the_session_ended_says_so(self) -> None:
        self.expected = ("401",)
        self.new_post()
        self.wait_saved()
        self.context.clear_cookies()
        self.page.click("#set-categories")
        expect(self.page.locator("#actions .told")).to_contain_text("You are signed out")

    def test_a_docket_that_is_read_anew_after_the_session_ended_leads_nobody_away(self) -> None:
        self.expected = ("401",)
        self.new_post()
        self.wait_saved()
        room = self.page.url
        self.context.clear_cookies()
        self.page.evaluate("() => mobbetRoom.docket().reread()")
        expect(self.page.locator("#actions .told")).to_contain_text("You are signed out")
        self.assertEqual(self.page.url, room)

    def test_a_paste_without_the_network_brings_the_plain_text(self) -> None:
        self.new_post()
        self.wait_saved()
        self.context.set_offline(True)
        self.page.click(".ProseMirror")
        self.page.evaluate("""() => {
            const transfer = new DataTransfer();
            transfer.setData('text/html', '<p>One <b>two</b></p>');
            transfer.setData('text/plain', 'One two');
            document.querySelector('.ProseMirror').dispatchEvent(new ClipboardEvent('paste', {clipboardData: transfer, bubbles: true, cancelable: true}));
        }""")
        expect(self.page.locator(".ProseMirror p")).to_have_text("One two")
        self.context.set_offline(False)
        self.wait_saved()
        self.complaints = []

    def test_the_docket_places_for_later_and_tells_a_problem_in_its_sheet(self) -> None:
        self.new_post()
        self.page.fill("#title", "For later")
        self.wait_saved()
        self.page.click("#set-slug")
        self.page.fill("#slug-word", "no good!")
        self.page.click("#sheet-slug .button")
        expect(self.page.locator("#sheet-slug .problem")).to_contain_text("how about “no-good”?")
        expect(self.page.locator("#slug-word")).to_be_focused()
        self.page.keyboard.press("Escape")
        expect(self.page.locator("#sheet-slug")).to_be_hidden()
        self.page.click("#set-goes-out")
        self.page.fill("#goes-out-day", "2031-05-06")
        self.page.fill("#goes-out-time", "07:30")
        self.page.click("#sheet-goes-out >> text=Set this time")
        expect(self.page.locator("#set-goes-out")).to_have_text("Tue 6 May 2031 at 07:30")
        self.page.click("#main-action:has-text('Put in the timetable')")
        expect(self.page.locator("#actions .told")).to_contain_text("It is in the timetable and goes out")
        self.page.click("#set-state")
        self.page.click("text=Take it out of the timetable")
        expect(self.page.locator("#set-state")).to_have_text("A draft")

    def test_a_check_that_answers_while_a_button_is_pressed_does_not_take_the_press_away(self) -> None:
        self.new_post()
        self.wait_saved()
        self.page.click("#set-slug")
        self.page.fill("#slug-word", "no good!")
        box = self.page.locator("#sheet-slug .button").bounding_box()
        assert box is not None
        self.page.mouse.move(box["x"] + 10, box["y"] + box["height"] - 3)
        self.page.mouse.down()
        with self.page.expect_response("**/check/slug**"):
            pass
        self.page.wait_for_timeout(300)
        with self.page.expect_response(
            "**/check/slug**"
        ):  # the sheet that comes back with the refusal checks what is typed once more
            self.page.mouse.up()
        self.page.wait_for_timeout(300)
        expect(self.page.locator("#sheet-slug .problem[role=alert]")).to_contain_text("how about “no-good”?")
        expect(self.page.locator("#slug-word")).to_be_focused()

    def test_posts_like_it_are_told_with_the_reason_and_struck_out_by_key(self) -> None:
        self.open("/desk/mending-bench")
        self.into_room("text=Rewiring a desk lamp", self.page)
        self.page.focus("#set-alike")
        self.page.keyboard.press("Enter")
        expect(self.page.locator("#alike")).to_contain_text("Why your lamp flickers")
        expect(self.page.locator("#alike")).to_contain_text("both speak of")
        expect(self.page.locator("#sheet-alike :focus")).to_have_count(1)
        self.page.locator("#alike button").first.focus()
        self.page.keyboard.press("Enter")
        expect(self.page.locator("#set-alike")).to_have_text("posts like it, one struck out")
        self.page.click("#set-alike")
        self.page.fill("#alike-post", "No such title")
        self.page.click("text=Put it first")
        expect(self.page.locator("#sheet-alike .problem")).to_contain_text(
            "No other post has the address or title"
        )

    def test_a_published_post_waits_for_its_update(self) -> None:
        self.page.fill("#find", "which glue")
        self.page.click("text=Which glue, honestly")
        expect(self.page.locator("#main-action")).to_be_disabled()
        self.write(" One more word.")
        expect(self.page.locator("#docket .changed")).to_contain_text("Not out yet: the text")
        self.page.click("#main-action:has-text('Update what is out')")
        expect(self.page.locator("#actions .told")).to_contain_text("Updated.")
        self.page.click("#public-link")
        expect(self.page.locator(".article > .text").last).to_contain_text("One more word.")

    def test_the_outline_leads_to_its_headings(self) -> None:
        self.page.click("text=Rewiring a desk lamp")
        self.page.wait_for_selector(".ProseMirror")
        self.page.wait_for_load_state()
        self.page.click("#outline-list >> text=Testing, twice")
        expect(self.page.locator(".ProseMirror h2:has-text('Testing, twice')")).to_be_in_viewport()
        expect(self.page.locator("#outline-list li.on")).to_have_text("Testing, twice")


class ScreenTests(BrowserCase):
    def test_each_screen_passes_axe(self) -> None:
        self.open("/sign-in")
        self.assert_accessible(name="sign-in")
        self.sign_in()
        for path in (
            "/desk/mending-bench",
            "/desk/mending-bench?q=zip",
            "/desk/mending-bench?q=zzzz",
            "/account",
            "/desk/mending-bench/site",
        ):
            self.open(path)
            self.assert_accessible(name=path)
        self.open("/desk/mending-bench")
        self.page.click("text=Rewiring a desk lamp")
        self.page.wait_for_selector(".ProseMirror")
        self.page.wait_for_load_state()
        self.page.wait_for_selector(".ProseMirror img")
        self.assert_accessible(name="write")
        for sheet in ("goes-out", "categories", "copy"):
            self.page.click(f"#set-{sheet}")
            self.assert_accessible(name=sheet)
            self.page.keyboard.press("Escape")
        self.page.click("#to-preview")
        self.page.wait_for_selector("#frame")
        self.assert_accessible(name="preview")

    def test_each_public_page_passes_axe_in_light_and_dark(self) -> None:
        for scheme in ("light", "dark"):
            self.page.emulate_media(color_scheme=scheme)
            self.open("/b/mending-bench/")
            older = self.page.get_attribute("a[rel=next]", "href").partition("#")[0]
            paths = (
                "",
                "clocks/cleaning-a-stuck-clock/",
                "clocks/",
                older,
                "subjects/",
                "archive/",
                "tag/flex/",
            )
            for path in paths if scheme == "light" else paths[:3]:
                self.open(f"/b/mending-bench/{path}")
                self.assert_accessible(name=f"{scheme} {path}")
            self.open("/b/ferry-log/")
            self.assert_accessible(name=f"{scheme} ferry")

    def test_nothing_scrolls_sideways_on_a_phone(self) -> None:
        self.context = self.new_context(390, 800, has_touch=True)
        self.page = self.new_page()
        self.sign_in()
        self.page.click("text=Rewiring a desk lamp")
        self.page.wait_for_selector(".ProseMirror")
        self.page.wait_for_load_state()
        room = self.page.url.removeprefix(self.server.address)
        for path in (
            "/desk/mending-bench",
            room,
            f"{room}/preview",
            "/account",
            "/desk/mending-bench/site",
            "/b/mending-bench/",
            "/b/mending-bench/clocks/cleaning-a-stuck-clock/",
        ):
            self.open(path)
            with self.subTest(path):
                self.assertLessEqual(self.page.evaluate("() => document.documentElement.scrollWidth"), 390)
                self.assert_accessible(name=f"phone {path}")

    def test_the_ruler_is_dragged_and_tells_pixels_and_characters(self) -> None:
        self.sign_in()
        self.page.click("text=Rewiring a desk lamp")
        self.page.wait_for_selector(".ProseMirror")
        self.page.wait_for_load_state()
        self.page.click("#to-preview")
        self.page.frame_locator("#frame").locator("h1").wait_for()
        self.page.locator("#diamond").press("Home")
        expect(self.page.locator("#reading")).to_contain_text("320 px wide")
        box = self.page.locator("#diamond").bounding_box()
        self.page.mouse.move(box["x"] + 13, box["y"] + 13)
        self.page.mouse.down()
        self.page.mouse.move(box["x"] + 383, box["y"] + 13, steps=4)
        self.page.mouse.up()
        expect(self.page.locator("#reading")).to_have_text(
            re.compile(r"^690 px wide · \d\d characters a line$")
        )
        self.assertEqual(self.page.locator("#frame").bounding_box()["width"], 690)
        with self.context.expect_page() as opened:
            self.page.click("text=Open in its own tab")
        expect(opened.value.locator("h1")).to_contain_text("Rewiring")

    def test_the_desk_is_walked_with_the_keys_and_searched_as_one_types(self) -> None:
        self.sign_in()
        self.page.focus(".posts td.t a >> nth=0")
        self.page.keyboard.press("/")
        self.page.keyboard.type("toaster")
        expect(self.page.locator(".posts .group").first).to_contain_text("with “toaster”")
        self.page.keyboard.press("ArrowDown")
        expect(self.page.locator(".posts td.t a >> nth=0")).to_be_focused()
        self.page.keyboard.press("Enter")
        expect(self.page.locator("#title")).to_have_value(re.compile("toaster"))

    def test_the_menu_leads_to_the_other_blog_and_out(self) -> None:
        self.sign_in()
        self.page.click("summary.blog")
        self.page.click("text=Alder Ferry Log")
        expect(self.page.locator("summary.blog")).to_contain_text("Alder Ferry Log")
        self.page.click("summary.who")
        self.page.keyboard.press("Escape")
        expect(self.page.locator("text=Sign out")).to_be_hidden()
        self.page.click("summary.who")
        self.page.click("text=Sign out")
        expect(self.page.locator("h1")).to_have_text("Sign in to Mobbet")
