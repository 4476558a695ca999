"""Going out through the real interface: a group's post for Thursday looked at on a phone, the queue by keys, readers by letter."""

from __future__ import annotations

import re
import urllib.error
import urllib.request

from playwright.sync_api import expect

from mobbet.core import sealing
from mobbet.store import blogs, posts
from tests.browser.browsing import BrowserCase

BENCH = "/desk/mending-bench"


class ScreenTests(BrowserCase):
    def test_each_screen_of_going_out_passes_axe_also_on_a_phone(self) -> None:
        self.sign_in()
        paths = (
            f"{BENCH}/timetable",
            f"{BENCH}/readers",
            f"{BENCH}/readers?group=1",
            f"{BENCH}/site/editions",
            f"{BENCH}/site/editions?number=2",
            f"{BENCH}/site/targets",
            f"{BENCH}/site/backups",
            f"{BENCH}/site/in-and-out",
            "/account/programs",
            "/allow?response_type=code&client_id=https%3A%2F%2Fpencil.example%2F&redirect_uri=https%3A%2F%2Fpencil.example%2Fback&code_challenge=E9Melhoa2OwvFrEMTJguCHaoeK1t8URWbuGJSstw-cM&code_challenge_method=S256&scope=create+media",
            f"{BENCH}/moment",
            "/posts/33/footprint",
        )
        kinds = ("list", "search", "card", "feed", "mail", "print")
        for path in (*paths, *(f"/posts/33/preview?kind={kind}" for kind in kinds)):
            self.page.set_viewport_size({"width": 1280, "height": 800})
            self.open(path)
            for width in (1280, 390):
                self.page.set_viewport_size({"width": width, "height": 800})
                with self.subTest(f"{width} {path}"):
                    self.assertLessEqual(
                        self.page.evaluate("() => document.documentElement.scrollWidth"), width
                    )
                    if width == 1280 or path in paths:
                        self.assert_accessible(name=f"{width} {path}")

    def test_the_sheets_of_going_out_pass_axe(self) -> None:
        self.sign_in()
        self.page.click("#rows >> text=Cleaning a stuck clock")
        self.page.wait_for_selector(".ProseMirror img")
        for sheet in ("visibility", "update", "where", "comes-down"):
            self.page.click(f"#set-{sheet}")
            self.page.wait_for_timeout(300)
            self.assert_accessible(name=sheet)
            self.page.keyboard.press("Escape")

    def test_tables_keep_their_margin_on_a_phone(self) -> None:
        self.sign_in()
        self.page.set_viewport_size({"width": 390, "height": 800})
        for path in ("readers", "site/editions", "filing/addresses"):
            self.open(f"{BENCH}/{path}")
            table, cell = (
                self.page.locator(f"table.addresses{part}").first.bounding_box() for part in ("", " tbody th")
            )
            self.assertGreaterEqual(cell["x"] - table["x"], 8, path)

    def test_what_a_site_asks_of_a_reader_passes_axe_in_light_and_dark(self) -> None:
        for scheme in ("light", "dark"):
            self.page.emulate_media(color_scheme=scheme)
            self.open("/b/mending-bench/~/in")
            self.assert_accessible(name=scheme)


class JourneyTests(BrowserCase):
    def test_from_i_wrote_this_to_it_goes_out_on_thursday_only_my_group_sees_it_and_i_saw_it_on_a_phone(
        self,
    ) -> None:
        self.sign_in()
        page = self.page
        self.new_post()
        page.fill("#title", "Who brings the kettle")
        page.click(".ProseMirror")
        page.keyboard.type("Wren does, and the long spoon.")
        self.wait_saved()
        page.click("#set-visibility")
        page.click("#sheet-visibility >> text=Volunteers")
        expect(page.locator("#set-visibility")).to_have_text(re.compile(r"Volunteers \(\d people\)"))
        page.click("#set-goes-out")
        page.fill("#goes-out-said", "thu 9")
        expect(page.locator("#check-when")).to_contain_text("Thu")
        page.keyboard.press("Enter")
        expect(page.locator("#set-goes-out")).to_contain_text("Thu")
        page.click("#to-preview")
        for index, words in enumerate(("the page", "a reader of Volunteers", "Thu")):
            expect(page.locator(".lead summary.set").nth(index)).to_contain_text(words)
        expect(page.frame_locator("#frame").locator("h1")).to_have_text("Who brings the kettle")
        page.focus("#diamond")
        page.keyboard.press("PageDown")
        page.keyboard.press("PageDown")
        expect(page.locator("#reading")).to_contain_text("390 px wide")
        page.click("#main-action:has-text('Put in the timetable')")
        expect(page.locator("#told")).to_contain_text("It is in the timetable and goes out")
        self.back_to_sheet()
        page.click("#set-where")
        expect(page.locator("#where")).to_contain_text("It goes out on Thu")

    def test_five_posts_go_out_one_after_the_other_by_keyboard_alone(self) -> None:
        self.sign_in()
        page, keys = self.page, self.page.keyboard
        for title in ("First of two", "Second of two"):
            page.goto(self.server.address + BENCH)
            page.wait_for_load_state()
            keys.press("Alt+n")
            page.wait_for_selector(".ProseMirror")
            page.wait_for_function("() => window.mobbetRoom")
            page.focus("#title")
            keys.type(title)
            self.wait_saved()
            page.focus("#set-goes-out")
            keys.press("Enter")
            expect(page.locator("#goes-out-said")).to_be_focused()
            for _ in range(16):
                if page.evaluate("() => document.activeElement.value") == "queue":
                    break
                keys.press("Tab")
            keys.press("Enter")
            expect(page.locator("#set-goes-out")).to_contain_text("when its turn comes, about")
            page.focus("#main-action:has-text('Put it in the queue')")
            keys.press("Enter")
            expect(page.locator("#actions .told")).to_contain_text("It is in the queue and goes out")
        page.goto(f"{self.server.address}{BENCH}/timetable")
        page.focus("[aria-label='To the front: Second of two']")
        keys.press("Enter")
        expect(page.locator(".queue li").first).to_contain_text("Second of two")
        expect(page.locator(".said")).to_contain_text("It is moved, and the rest with it.")

    def test_the_next_free_slot_is_one_key(self) -> None:
        self.sign_in()
        self.new_post()
        self.page.wait_for_function("() => window.mobbetRoom")
        self.page.keyboard.press("Alt+s")
        expect(self.page.locator("#set-goes-out")).to_have_text(re.compile(r"(Tue|Thu) .* at"))

    def test_after_publishing_the_address_the_code_and_the_undo_are_there(self) -> None:
        self.sign_in()
        self.new_post()
        self.page.fill("#title", "A short notice")
        self.wait_saved()
        self.page.click("#main-action:has-text('Publish now')")
        slip = self.page.locator(".out-slip")
        expect(slip).to_contain_text("Published.")
        expect(slip.locator("svg.qr")).to_be_visible()
        expect(slip).to_contain_text("Changed on the site: this post’s page")
        self.assert_accessible(name="published")
        slip.locator("text=Undo: withdraw it").click()
        expect(self.page.locator("#set-state")).to_have_text("Withdrawn")

    def test_publishing_while_the_docket_is_read_again_publishes(self) -> None:
        self.sign_in()
        self.new_post()
        self.page.fill("#title", "A notice in a hurry")
        self.wait_saved()
        self.page.evaluate(
            """() => { mobbetRoom.saving.flush = async () => {
                mobbetRoom.docket().reread();
                await new Promise((done) => setTimeout(done, 1500));
                return true;
            }; }"""
        )
        self.page.click("#main-action:has-text('Publish now')")
        expect(self.page.locator(".out-slip")).to_contain_text("Published.")

    def test_what_a_sheet_loads_comes_also_while_others_ask(self) -> None:
        self.sign_in()
        self.new_post()
        self.page.hover("#set-where")  # what sends comes when it is near to be needed
        self.page.wait_for_function("() => window.htmx")
        self.page.evaluate(
            """() => {
                const ask = () => htmx.ajax("GET", `/posts/${document.getElementById("docket").dataset.post}/docket`, { target: "#docket", swap: "none" });
                ask();
                document.getElementById("set-where").click();
                ask();
            }"""
        )
        expect(self.page.locator("#where")).to_contain_text("draft")

    def test_a_button_stays_while_it_is_pressed(self) -> None:
        self.sign_in()
        self.new_post()
        self.page.fill("#title", "A slow hand")
        self.wait_saved()
        self.page.hover("#main-action:has-text('Publish now')")
        self.page.mouse.down()
        with self.page.expect_response(lambda answer: answer.url.endswith("/docket")):
            self.page.evaluate("() => { mobbetRoom.docket().reread(); }")
        self.page.wait_for_timeout(200)
        self.page.mouse.up()
        expect(self.page.locator(".out-slip")).to_contain_text("Published.")

    def post(self, number: int) -> posts.Post:
        return posts.by_id(self.server.workshop.db, number)

    def test_enter_takes_the_password_that_was_typed_and_a_press_the_one_made_up(self) -> None:
        self.sign_in()
        self.new_post()
        self.page.fill("#title", "Behind a word")
        self.wait_saved()
        number = int(self.page.evaluate("() => document.getElementById('docket').dataset.post"))
        self.page.click("#set-visibility")
        self.page.fill("#post-password", "abalone shell")
        self.page.keyboard.press("Enter")
        expect(self.page.locator("#set-visibility")).to_have_text("anyone with the password")
        typed = self.post(number).password_key
        self.assertEqual(
            typed,
            sealing.key_of("abalone shell", blogs.by_slug(self.server.workshop.db, "mending-bench").salt),
        )
        self.page.click("#set-visibility")
        with self.page.expect_response(
            lambda answer: answer.request.method == "POST" and "/docket/" in answer.url
        ):
            self.page.click("button[name=made]")
        self.assertNotIn(self.post(number).password_key, ("", typed))

    def test_the_preview_follows_the_writing_in_another_tab(self) -> None:
        self.sign_in()
        self.page.click("#rows >> text=Cleaning a stuck clock")
        self.page.wait_for_function("() => window.mobbetRoom")
        other = self.new_page()
        other.goto(self.page.url + "/preview?compare=over")
        other.frame_locator("#frame").locator("h1").wait_for()
        other.wait_for_timeout(400)
        self.page.fill("#title", "Cleaning a stuck clock in a hurry")
        expect(other.frame_locator("#frame").locator("h1")).to_contain_text("in a hurry", timeout=3000)
        expect(other.frame_locator("#out").locator("h1")).not_to_contain_text("in a hurry")
        self.wait_saved()

    def test_a_reader_comes_in_by_a_letter_and_a_password_opens_its_post(self) -> None:
        self.sign_in()
        self.open(f"{BENCH}/readers?group=1")
        self.page.click("text=Invite readers to Volunteers")
        self.page.fill("#invited", "Nora Fell <nora@port-alder.example>")
        self.page.click("text=Invite them")
        expect(self.page.locator(".said")).to_contain_text("1 person new, 1 letter written.")
        self.page.click(".letter summary >> nth=0")
        link = re.search(r"/~/in/\S+", self.page.inner_text(".letter pre >> nth=0"))[0]
        reader = self.new_page(self.new_context())
        reader.goto(f"{self.server.address}/b/mending-bench{link}")
        reader.click("text=Sign in and read")
        expect(reader.locator("main")).to_contain_text("Who has the key in December")
        reader.click("text=Who has the key in December")
        expect(reader.locator("h1")).to_have_text("Who has the key in December")
        with self.assertRaises(urllib.error.HTTPError):
            urllib.request.urlopen(reader.url)
        complaints = len(self.complaints)
        reader.goto(f"{self.server.address}/b/mending-bench/textiles/the-button-box/")
        reader.fill("#password", "abalone-shell")
        reader.keyboard.press("Enter")
        expect(reader.locator("h1")).to_have_text("The button box")
        self.complaints = self.complaints[
            :complaints
        ]  # a page that asks for a password answers 401, which the browser notes

    def test_a_sealed_page_opens_in_the_readers_browser(self) -> None:
        self.sign_in()
        out = self.folder / "sealed"
        self.open(f"{BENCH}/site/targets")
        self.page.click("summary:has-text('not at all')")
        self.page.click("button[name=seals][value=yes]")
        self.page.fill("#address", f"folder:{out}")
        self.page.click("text=Send it there")
        self.page.locator("#places li").wait_for()
        self.page.fill("#address", "folder:/another/place")
        expect(self.page.locator("#places")).to_contain_text("has the newest edition", timeout=20_000)
        expect(self.page.locator("#address")).to_have_value("folder:/another/place")
        page = out / "textiles" / "the-button-box" / "index.html"
        self.assertNotIn(
            "button", page.read_text().split("data-body")[0].split("<main")[1].replace("<button", "")
        )
        visitor = self.new_page()
        visitor.route(
            "**/sealed-site/**",
            lambda route: route.fulfill(
                path=str(out / route.request.url.partition("/sealed-site/")[2].partition("?")[0])
            ),
        )
        visitor.goto(f"{self.server.address}/sealed-site/textiles/the-button-box/index.html")
        visitor.fill("#password", "a guess")
        visitor.keyboard.press("Enter")
        expect(visitor.locator("#refused")).to_contain_text(
            "This is not the password of this post", timeout=10_000
        )
        visitor.fill("#password", "\uff41balone-shell")  # a keyboard for Japanese writes wide letters
        visitor.keyboard.press("Enter")
        expect(visitor.locator("h1")).to_have_text("The button box", timeout=10_000)
