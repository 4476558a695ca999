"""Writing with every kind of block: by mouse, by keyboard alone, and at the width of a phone."""

import re

from playwright.sync_api import expect

from mobbet.actions import files
from mobbet.store import people as people_store
from tests.browser.browsing import ACCOUNT, BrowserCase
from tests.shops import picture

WORD = "<p class=MsoListParagraph style='mso-list:l0 level1 lfo1'><span style='mso-list:Ignore'>·<span>&nbsp; </span></span>flex</p>"
PASTED = f"<p style='font-size:18pt'><b>Head</b></p><p style='font-size:11pt'><span style='font-family:X'>Some words of the usual size.</span></p>{WORD}"


class WritingCase(BrowserCase):
    width = 1280

    def setUp(self) -> None:
        super().setUp()
        self.sign_in()
        self.new_post()
        self.keys = self.page.keyboard
        self.sheet = self.page.locator(".ProseMirror")

    def write(self, *lines: str) -> None:
        self.sheet.click()
        self.keys.press("Control+End")
        for at, line in enumerate(lines):
            if at:
                self.keys.press("Enter")
            self.keys.type(line)

    def put(self, words: str) -> None:
        """A kind of block through the seam, by keyboard."""
        self.keys.press("Alt+Enter")
        expect(self.page.locator(".seam input")).to_be_focused()
        self.keys.type(words)
        self.keys.press("Enter")

    def document(self) -> list[dict]:
        return self.page.evaluate("() => document.querySelector('.ProseMirror').editor.getJSON().content")

    def kinds(self) -> list[str]:
        return [block["type"] for block in self.document()]

    def paste(self, html: str, plain: str = "") -> None:
        self.page.evaluate(
            """([html, plain]) => {
                const data = new DataTransfer();
                if (html) data.setData("text/html", html);
                data.setData("text/plain", plain);
                document.querySelector(".ProseMirror").dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }));
            }""",
            [html, plain],
        )

    def settle(self, name: str, value: str) -> None:
        """A changeable word of the block line."""
        control = self.page.locator(f"#block-line [aria-label='{name}']")
        if control.evaluate("one => one.tagName") == "SELECT":
            control.select_option(label=value)
        else:
            control.fill(value)
            control.press("Enter")


class KindTests(WritingCase):
    def test_the_seam_puts_every_kind_there_by_keyboard(self) -> None:
        self.write("Start.")
        for words, kind in (
            ("table", "table"), ("callout", "callout"), ("button", "button"), ("beside", "beside"), ("contents", "contents"),
            ("teaser", "teaserLine"), ("review", "review"), ("by hand", "rawHtml"), ("divider", "divider"), ("quote", "quote"), ("code", "codeBlock"),
        ):  # fmt: skip
            with self.subTest(words):
                self.sheet.locator("p").first.click()
                self.put(words)
                self.assertIn(kind, self.kinds())
        self.wait_saved()
        self.page.reload()
        expect(self.sheet.locator(".callout")).to_be_visible()
        self.assert_accessible(name="every kind")

    def test_what_is_put_on_an_empty_line_takes_its_place(self) -> None:
        self.write("Start.", "")
        self.put("divider")
        self.assertEqual(self.kinds(), ["paragraph", "divider", "paragraph"])

    def test_letters_typed_after_a_button_was_put_in_stand_below_it(self) -> None:
        self.write("Start.", "")
        self.put("button")
        expect(
            self.sheet.locator(".put-button, .is-button, [data-kind=button], .ProseMirror-selectednode").first
        ).to_be_visible()
        self.sheet.evaluate("one => one.focus()")
        self.keys.type("Below")
        self.assertEqual(
            [block["type"] for block in self.document()[:3]], ["paragraph", "button", "paragraph"]
        )
        self.assertIn("Below", self.sheet.inner_text())

    def test_a_score_is_read_with_a_comma_and_refused_out_of_range(self) -> None:
        self.write("Start.", "")
        self.put("review")
        form = self.sheet.locator(".formed").first
        form.get_by_role("button", name="Score one thing more").click()
        form.get_by_label("Scored").fill("Grip")
        score = form.get_by_label("Score, 0 to 10")
        score.fill("6,5")
        criteria = lambda: next(block for block in self.document() if block["type"] == "review")["attrs"][
            "criteria"
        ]  # noqa: E731
        self.assertEqual(criteria(), [["Grip", 6.5, 1]])
        score.fill("65")
        expect(form.locator(".problem")).to_have_text(
            "“65” is no score; write a number from 0 to 10, such as 6.5."
        )
        self.assertEqual((criteria(), score.input_value()), ([["Grip", 6.5, 1]], "65"))

    def test_enter_that_confirms_a_conversion_acts_on_no_field(self) -> None:
        self.write("x")
        confirm = "one => one.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', code: 'Enter', bubbles: true, cancelable: true, isComposing: true }))"
        title = self.page.locator("#title")
        title.focus()
        title.evaluate(confirm)
        expect(title).to_be_focused()
        title.press("Enter")
        expect(self.page.locator("#subtitle")).to_be_focused()
        self.sheet.locator("p").first.click()
        self.keys.press("Alt+Enter")
        self.keys.type("divider")
        self.page.locator(".seam input").evaluate(confirm)
        self.assertNotIn("divider", self.kinds())
        self.keys.press("Enter")
        self.assertIn("divider", self.kinds())

    def test_the_seam_says_when_no_kind_is_called_so(self) -> None:
        self.write("x")
        self.keys.press("Alt+Enter")
        self.keys.type("nonsense")
        expect(self.page.locator(".seam")).to_contain_text("No kind is called “nonsense”.")
        self.keys.press("Escape")
        expect(self.sheet).to_be_focused()

    def test_the_block_line_settles_a_callout_a_list_and_a_button(self) -> None:
        self.write("- tick me")
        self.settle("Sign of the list", "ticks")
        expect(self.sheet.locator("ul.sign-tick")).to_be_visible()
        self.put("callout")
        self.keys.type("Unplug it.")
        self.settle("Sign of the callout", "take care")
        self.settle("Tint of the callout", "amber")
        self.settle("Title of the callout", "Mind the mains")
        expect(self.sheet.locator(".callout.wash-amber .callout-title")).to_have_text("Mind the mains")
        self.sheet.locator("li p").click()
        self.put("button")
        self.settle("Words of the button", "Book a seat")
        self.settle("Address of the button", "sessions.example")
        button = next(block for block in self.document() if block["type"] == "button")
        self.assertEqual(
            button["attrs"],
            {"words": "Book a seat", "address": "https://sessions.example", "weight": "strong"},
        )

    def test_a_table_is_filled_and_changed_by_keyboard(self) -> None:
        self.write("x")
        self.put("table")
        for words in ("Part", "Price", "From", "Flex", "3"):
            self.keys.type(words)
            self.keys.press("Tab")
        for name, value in (
            ("Rows", "Row below"),
            ("Rows", "Move row up"),
            ("Columns", "Remove column"),
            ("Alignment of the cells", "centred"),
        ):
            self.page.locator(f"#block-line [aria-label='{name}']").select_option(label=value)
        self.settle("Caption of the table", "What it costs")
        table = next(block for block in self.document() if block["type"] == "table")
        self.assertEqual([len(row["content"]) for row in table["content"]], [2, 2, 2, 2])
        self.assertEqual(table["attrs"]["caption"], "What it costs")

    def test_a_review_is_scored_as_it_is_filled_in(self) -> None:
        self.write("x")
        self.put("review")
        self.keys.type("A wire stripper")
        self.page.click("text=Score one thing more")
        self.keys.type("Grip")
        self.page.get_by_label("Score, 0 to 10").fill("7.5")
        expect(self.sheet.locator(".block-form .review-score")).to_contain_text("7.5 of 10")
        self.page.get_by_label("Points for, one a line").fill("light\ncheap")
        review = next(block for block in self.document() if block["type"] == "review")
        self.assertEqual(
            (review["attrs"]["criteria"], review["attrs"]["points_for"]),
            ([["Grip", 7.5, 1]], ["light", "cheap"]),
        )

    def test_html_by_hand_says_what_it_leaves_out(self) -> None:
        self.write("x")
        self.put("by hand")
        self.page.get_by_label("HTML by hand").fill("<b onclick='x()'>a</b><script>1</script>")
        expect(self.sheet.locator(".raw-html [role=status]")).to_have_text(
            "Left out, because it may not stand on a page: <script>, onclick."
        )

    def test_a_fill_in_shows_its_value_and_keeps_its_name(self) -> None:
        self.page.fill("#title", "Lamps")
        self.write("About ")
        self.page.click("text=More")
        self.page.get_by_label("Put a fill-in here").select_option(label="the title")
        expect(self.sheet.locator(".fill-in")).to_have_text("Lamps")
        self.assertEqual(self.document()[0]["content"][1], {"type": "fillIn", "attrs": {"name": "title"}})

    def test_words_are_raised_sized_and_tinted_and_cleared(self) -> None:
        self.write("words")
        self.keys.press("Control+a")
        self.page.click("text=More")
        self.page.click("#tools >> text=Larger")
        self.keys.press("Control+.")
        self.page.get_by_label("Tint of the words").select_option("clay")
        self.page.get_by_label("Marker behind the words").select_option("amber")
        marks = {mark["type"] for mark in self.document()[0]["content"][0]["marks"]}
        self.assertEqual(marks, {"superscript", "size", "tint", "marker"})
        self.page.click("text=Clear formatting")
        self.assertNotIn("marks", self.document()[0]["content"][0])


class HandTests(WritingCase):
    def linked(self) -> dict:
        """The attributes of the link in the first block."""
        marks = [
            mark
            for part in self.document()[0]["content"]
            for mark in part.get("marks", ())
            if mark["type"] == "link"
        ]
        return marks[0]["attrs"]

    def test_blocks_are_moved_doubled_selected_and_removed_by_keys(self) -> None:
        self.write("one", "two", "three")
        self.keys.press("Alt+ArrowUp")
        self.assertEqual([block["content"][0]["text"] for block in self.document()], ["one", "three", "two"])
        self.keys.press("Control+d")
        self.assertEqual(len(self.document()), 4)
        self.keys.press("Escape")
        expect(self.sheet.locator(".ProseMirror-selectednode")).to_have_text("three")
        self.keys.press("Control+Shift+Backspace")
        self.keys.press("Control+z")
        self.assertEqual(len(self.document()), 4)

    def test_words_are_found_and_replaced_in_one_step_of_undo(self) -> None:
        self.write("A fuse, a Fuse and refuse.")
        self.keys.press("Control+f")
        self.keys.type("fuse")
        expect(self.page.locator("#finder .count")).to_have_text("1 of 3")
        self.page.check("#finder [name=whole]")
        expect(self.page.locator("#finder .count")).to_have_text("1 of 2")
        self.page.check("#finder [name=case]")
        self.page.fill("#finder [name=instead]", "plug")
        self.page.click("#finder >> text=Replace all")
        expect(self.sheet).to_have_text("A plug, a Fuse and refuse.")
        self.keys.press("Escape")
        self.keys.press("Control+z")
        expect(self.sheet).to_have_text("A fuse, a Fuse and refuse.")

    def test_a_link_leads_to_a_post_found_by_its_words_or_to_a_heading(self) -> None:
        self.write("see this", "## Under here")
        self.sheet.locator("p").first.click()
        self.keys.press("Home")
        self.keys.press("Control+Shift+ArrowRight")
        self.keys.press("Control+k")
        self.keys.type("zip")
        self.page.locator("#link-form .found button", has_text="post, out").first.click()
        self.assertRegex(self.linked()["href"], r"^post:\d+$")
        self.keys.press("Control+k")
        self.page.fill("#link-form [name=address]", "under")
        self.page.locator("#link-form .found button", has_text="heading of this post").click()
        self.page.wait_for_function("() => document.querySelector('.ProseMirror a[href^=\"#\"]')")
        self.assertEqual(self.document()[1]["attrs"]["anchor"], "under-here")

    def test_an_address_pasted_over_words_links_them_and_can_be_paid(self) -> None:
        self.write("flex")
        self.keys.press("Control+a")
        self.paste("", "https://shop.example/flex")
        self.keys.press("Control+k")
        self.page.check("#link-form [name=paid]")
        self.page.select_option("#link-form [name=window]", "new")
        self.page.fill("#link-form [name=title]", "Two metres of it")
        self.page.click("#link-form button[type=submit]")
        attrs = self.linked()
        self.assertEqual(
            (attrs["href"], attrs["paid"], attrs["window"], attrs["title"]),
            ("https://shop.example/flex", True, "new", "Two metres of it"),
        )

    def test_a_link_is_tried_from_the_sheet(self) -> None:
        self.write("see ")
        self.paste("", "https://shop.example/flex")
        self.page.evaluate(
            "() => { window.opened = []; window.open = (address) => window.opened.push(address); }"
        )
        self.sheet.locator("a").click(modifiers=["Control"])
        self.keys.press("ArrowLeft")
        self.page.click("#block-line >> text=Try the link")
        self.assertEqual(self.page.evaluate("() => window.opened"), ["https://shop.example/flex"] * 2)

    def test_something_is_put_above_a_block_or_below_it_by_key(self) -> None:
        self.write("one", "two")
        self.keys.press("Shift+Alt+Enter")
        self.keys.type("rule")
        self.keys.press("Enter")
        self.assertEqual(self.kinds()[:3], ["paragraph", "divider", "paragraph"])
        self.sheet.locator("p").first.click()
        self.keys.press("Alt+Enter")
        expect(self.page.locator(".seam .purpose small")).to_have_text(
            ["To see and hear", "To read", "To point on", "To put together", "What was kept"]
        )
        self.keys.type("note box")
        self.keys.press("Enter")
        self.assertEqual(self.kinds()[:3], ["paragraph", "callout", "divider"])

    def test_a_click_in_the_gap_between_blocks_puts_the_cursor_there(self) -> None:
        self.write("one", "two")
        box = self.sheet.locator("p").first.bounding_box()
        self.page.mouse.click(box["x"] + 150, box["y"] + box["height"] + 5)
        self.assertEqual(self.page.locator("#picker:visible, .seam.whole").count(), 0)
        self.keys.type("x")
        self.assertEqual("".join(sorted("".join(self.sheet.locator("p").all_inner_texts()))), "enootwx")

    def test_an_address_pasted_alone_becomes_a_link(self) -> None:
        self.write("see ")
        self.paste("", "https://shop.example/flex")
        self.assertEqual(self.linked()["href"], "https://shop.example/flex")
        self.keys.type(" now")
        self.assertEqual(self.document()[0]["content"][-1], {"type": "text", "text": " now"})

    def test_pasted_as_plain_text_blank_lines_make_paragraphs(self) -> None:
        self.context.grant_permissions(["clipboard-read", "clipboard-write"])
        self.page.evaluate(
            """() => navigator.clipboard.write([new ClipboardItem({
                "text/html": new Blob(["<b>one</b>"], { type: "text/html" }),
                "text/plain": new Blob(["one" + String.fromCharCode(10, 10) + "two"], { type: "text/plain" }),
            })])"""
        )
        self.sheet.click()
        self.keys.press("Control+Shift+v")
        expect(self.sheet.locator("p")).to_have_text(["one", "two"])
        self.assertNotIn("marks", str(self.document()))

    def test_plain_text_keeps_its_lists_lines_and_addresses_and_each_paste_is_told(self) -> None:
        self.sheet.click()
        self.paste("", "To buy:\n- milk\n- eggs\n\nInes Farrow\n12 Quay Lane\n\nSee https://a.example/x.")
        expect(self.page.locator("#actions .told")).to_contain_text("Kept 2 list items, 1 link.")
        self.assertEqual(self.kinds()[:4], ["paragraph", "bulletList", "paragraph", "paragraph"])
        self.assertEqual(self.sheet.locator("p br:not(.ProseMirror-trailingBreak)").count(), 1)
        self.paste("", "One.\n\nTwo.")
        expect(self.page.locator("#actions .told")).to_contain_text("Kept the words, 2 paragraphs.")
        self.paste("", "word")
        expect(self.page.locator("#actions .told")).not_to_contain_text("Kept")

    def test_the_heading_that_a_paste_begins_with_can_be_the_title(self) -> None:
        self.page.fill("#title", "")
        self.sheet.click()
        self.paste("<h1>A stuck clock</h1><p>It ticks no more.</p>", "plain")
        self.page.click("#actions >> text=Make it the title")
        expect(self.page.locator("#title")).to_have_value("A stuck clock")
        expect(self.sheet).to_have_text("It ticks no more.")

    def test_tab_nests_the_items_of_a_list(self) -> None:
        self.write("- one", "two")
        self.keys.press("Tab")
        self.assertEqual(self.sheet.locator("ul ul li").count(), 1)
        self.keys.press("Shift+Tab")
        self.assertEqual(self.sheet.locator("ul ul li").count(), 0)

    def test_a_paste_says_what_it_kept_and_can_be_undone(self) -> None:
        self.write("x")
        self.keys.press("Enter")
        self.paste(PASTED, "plain")
        expect(self.page.locator("#actions .told")).to_contain_text(
            "Kept 1 heading, 1 list item. Dropped fonts, colours and sizes."
        )
        self.assertEqual(self.kinds()[1:4], ["heading", "paragraph", "bulletList"])
        self.page.click("text=Undo the paste")
        self.assertNotIn("heading", self.kinds())

    def test_a_reading_of_the_docket_that_fails_takes_no_offer_away(self) -> None:
        self.write("x")
        self.keys.press("Enter")
        self.paste(PASTED, "plain")
        expect(self.page.locator("text=Undo the paste")).to_be_visible()
        self.wait_saved()
        self.expected = ("ERR_FAILED", "htmx:")
        self.page.route("**/docket", lambda route: route.abort())
        with self.page.expect_event("requestfailed"):
            self.page.evaluate("() => mobbetRoom.docket().reread()")
        expect(self.page.locator("text=Undo the paste")).to_be_visible()

    def test_a_part_of_the_room_that_nobody_asked_for_fails_in_silence(self) -> None:
        self.expected = ("ERR_FAILED",)
        self.page.route("**/editor-part-*", lambda route: route.abort())
        with self.page.expect_event("requestfailed"):
            self.write("x")  # the proof comes with the first words
        self.wait_saved()
        expect(self.page.locator("#actions .told")).to_have_text("")
        self.page.unroute("**/editor-part-*")
        self.write(" and and more")
        expect(self.page.locator("#notes .note").first).to_be_visible()

    def test_the_main_action_without_a_network_says_so_and_can_be_pressed_again(self) -> None:
        self.write("x")
        self.wait_saved()
        self.expected = ("ERR_INTERNET_DISCONNECTED", "htmx:")
        self.context.set_offline(True)
        self.page.click("#main-action")
        expect(self.page.locator("#actions .told")).to_contain_text("The network is away")
        expect(self.page.locator("#main-action")).to_be_enabled()

    def test_with_the_network_away_a_paste_comes_in_plain_and_is_offered_later(self) -> None:
        self.write("x")
        self.keys.press("Enter")
        self.wait_saved()
        self.expected = ("ERR_INTERNET_DISCONNECTED", "ERR_FAILED", "htmx:")
        self.context.set_offline(True)
        self.paste(PASTED, "Head\n\nSome words")
        expect(self.page.locator("#actions .told")).to_contain_text("came in plain")
        self.context.set_offline(False)
        self.page.click("text=Put its formatting in")
        expect(self.sheet.locator("h2")).to_have_text("Head")

    def source(self, format: str) -> None:
        """Opens the text as Markdown or HTML, from what stands behind “More”."""
        more = self.page.get_by_role("button", name="More formatting")
        if more.get_attribute("aria-expanded") == "false":
            more.click()
        self.page.click(f"#tools >> text={format}")

    def test_the_sheet_can_be_written_as_markdown_and_html(self) -> None:
        self.write("Some *thin* words.")
        self.source("Markdown")
        area = self.page.locator("#source textarea")
        expect(area).to_have_value("Some *thin* words.\n")
        area.fill("## Made here\n\n- one\n- two\n")
        expect(self.sheet.locator("h2")).to_have_text("Made here")
        area.fill("~~~ mobbet:bubble\n~~~")
        expect(self.page.locator("#source .told")).to_contain_text(
            "line 1: There is no kind of block named “bubble”"
        )
        expect(area).to_have_value("~~~ mobbet:bubble\n~~~")
        self.expected = ("422", "400")
        self.page.click("#source header button")
        self.source("Markdown")
        expect(area).to_have_value("~~~ mobbet:bubble\n~~~")
        self.expected = ("422",)
        area.fill("Mended.")
        expect(self.sheet).to_have_text("Mended.")
        self.source("HTML")
        expect(area).to_have_value("<p>Mended.</p>\n")
        self.expected = ("422",)
        self.assert_accessible(name="source")

    def test_a_block_is_dragged_by_its_grip(self) -> None:
        self.write("one", "two", "three")
        first = self.sheet.locator("p").first
        first.hover()
        third = self.sheet.locator("p").nth(2).bounding_box()
        self.page.locator(".grip").drag_to(
            self.sheet.locator("p").nth(2), target_position={"x": 20, "y": third["height"] - 2}
        )
        self.assertEqual(
            [block["content"][0]["text"] for block in self.document() if "content" in block],
            ["two", "one", "three"],
        )

    def test_a_link_is_typed_as_markdown_has_it(self) -> None:
        self.write("see [the shop](https://shop.example/a) now [bad](javascript:x)")
        self.assertEqual(self.linked()["href"], "https://shop.example/a")
        expect(self.sheet).to_have_text("see the shop now [bad](javascript:x)")

    def test_a_text_file_dropped_on_the_sheet_comes_into_it(self) -> None:
        self.write("Before.")
        self.page.evaluate(
            """() => {
                const data = new DataTransfer();
                data.items.add(new File(["## Dropped" + String.fromCharCode(10, 10) + "- one"], "notes.md", { type: "text/markdown" }));
                const sheet = document.querySelector(".ProseMirror");
                const { left, bottom } = sheet.lastElementChild.getBoundingClientRect();
                sheet.dispatchEvent(new DragEvent("drop", { dataTransfer: data, clientX: left + 5, clientY: bottom - 2, bubbles: true, cancelable: true }));
            }"""
        )
        expect(self.sheet.locator("h2")).to_have_text("Dropped")
        expect(self.page.locator("#actions .told")).to_contain_text("notes.md: Kept 1 heading, 1 list item.")

    def test_hostile_clipboards_run_and_load_nothing(self) -> None:
        self.write("x")
        self.page.evaluate("() => { window.ran = 0; }")
        asked: list[str] = []
        self.page.on("request", lambda request: asked.append(request.url))
        for html in (
            "<img src='https://evil.example/x.png' onerror='ran=1'>", "<svg onload='ran=1'></svg>", "<a href='javascript:ran=1'>x</a>",
            "<div data-pm-slice='0 0 []'><p><a href='javascript:ran=1'>x</a><img src=x onerror='ran=1'></p></div>",
            "<div data-pm-slice='0 0 []' data-kind='button' data-address='\"javascript:ran=1\"'></div>",
            "<iframe srcdoc='<script>parent.ran=1</script>'></iframe>", "<style>@import 'https://evil.example/x.css'</style>",
            "<div data-source='&lt;img src=https://evil.example/y.png onerror=ran=1&gt;'></div>",
        ):  # fmt: skip
            with self.subTest(html):
                self.paste(html, "plain")
                self.page.wait_for_timeout(250)
        self.assertEqual(self.page.evaluate("() => window.ran"), 0)
        self.assertEqual([url for url in asked if "evil" in url], [])
        self.assertNotIn("javascript", str(self.document()))
        self.wait_saved()
        self.expected = ("Content Security Policy", "Content-Security-Policy")

    def test_every_shortcut_is_on_one_page(self) -> None:
        self.sheet.click()
        self.keys.press("Control+/")
        expect(self.page.locator("#keys")).to_contain_text("Alt+Up, Alt+Down")
        self.assert_accessible(name="keys")
        self.keys.press("Escape")
        expect(self.page.locator("#keys")).to_be_hidden()

    def test_a_section_is_moved_in_the_outline(self) -> None:
        self.write("## One", "first", "## Two", "second")
        self.page.locator("#outline-list button", has_text="Two").focus()
        self.keys.press("Alt+ArrowUp")
        self.assertEqual(
            [block["content"][0]["text"] for block in self.document()], ["Two", "second", "One", "first"]
        )

    def test_the_outline_follows_what_is_written_above_a_heading(self) -> None:
        self.write("first", "## Two", "second")
        self.keys.press("Control+Home")
        self.keys.type("Much more stands before it now. ")
        self.page.wait_for_timeout(200)
        self.page.locator("#outline-list button", has_text="Two").click()
        self.keys.type("Part ")
        self.assertEqual(self.document()[1]["content"][0]["text"], "Part Two")

    def test_a_long_paragraph_offers_to_break_at_its_sentences(self) -> None:
        self.paste("", "The clock ran. " * 50)
        self.write(" End.")
        self.page.locator("#block-line [aria-label='Break it']").select_option(index=3)
        self.assertEqual(len(self.document()), 2)


class SafetyTests(WritingCase):
    in_whole_browser = True

    def test_the_room_opens_again_while_the_network_is_away(self) -> None:
        self.write("Before.")
        self.wait_saved()
        self.page.evaluate("() => navigator.serviceWorker.ready.then(() => true)")
        self.page.reload()
        self.write(" Between.")
        self.wait_saved()
        self.context.set_offline(True)
        self.write(" Away.")
        self.page.wait_for_timeout(600)
        self.page.reload()
        expect(self.sheet).to_have_text("Before. Between. Away.")
        self.write(" Still away.")
        self.page.wait_for_timeout(600)
        self.context.set_offline(False)
        expect(self.page.locator("#saved")).to_have_text(re.compile("^Saved"), timeout=15_000)
        self.complaints = []
        self.page.reload()
        expect(self.sheet).to_have_text("Before. Between. Away. Still away.")

    def test_a_text_is_saved_where_the_worker_does_not_start(self) -> None:
        self.expected = ("saver.js", "ERR_FAILED")
        self.context.route("**/saver.js", lambda route: route.abort())
        self.page.reload()
        self.write("Kept all the same.")
        self.wait_saved()
        self.page.reload()
        expect(self.sheet).to_have_text("Kept all the same.")

    def test_a_text_is_saved_where_the_worker_never_answers(self) -> None:
        self.context.route(
            "**/saver.js", lambda route: route.fulfill(content_type="text/javascript", body="")
        )
        self.page.reload()
        self.write("Kept here then.")
        expect(self.page.locator("#saved")).to_have_text(re.compile("^Saved"), timeout=40_000)
        self.page.reload()
        expect(self.sheet).to_have_text("Kept here then.")

    def test_a_save_that_the_server_refuses_for_a_while_is_tried_again(self) -> None:
        self.expected = ("500",)
        self.context.route(
            "**/posts/*/text", lambda route: route.fulfill(status=500, json={"message": "Out of order."})
        )
        self.write("Patience.")
        expect(self.page.locator("#saved")).to_have_text("Out of order.")
        self.context.unroute("**/posts/*/text")
        self.wait_saved()

    def test_two_texts_are_settled_passage_by_passage(self) -> None:
        self.write("Ground.", "Second.")
        self.wait_saved()
        other = self.new_page()
        other.goto(self.page.url)
        self.write(" First tab.")
        self.wait_saved()
        other.locator(".ProseMirror p").first.click()
        other.keyboard.press("End")
        other.keyboard.type(" Other tab.")
        expect(other.locator(".passage")).to_have_count(2)
        self.expected = ("409",)
        other.locator(".passage").nth(1).get_by_label("theirs").check()
        other.click("text=Go on with the passages chosen")
        expect(other.locator("#conflict")).to_be_hidden()
        expect(other.locator(".ProseMirror p").nth(0)).to_have_text("Ground. Other tab.")
        expect(other.locator(".ProseMirror p").nth(1)).to_have_text("Second. First tab.")

    def test_revisions_are_compared_and_put_back(self) -> None:
        self.page.fill("#title", "Looked back at")
        self.write("The first words.")
        self.wait_saved()
        address = self.page.url
        post = address.rsplit("/", 1)[1]
        self.page.click("text=Publish now")
        expect(self.page.locator("#actions .told")).to_contain_text("Published")
        self.write(" And more words.")
        self.wait_saved()
        self.page.click("#revision")
        expect(self.page.locator(".sentence")).to_contain_text("3 words added, 0 removed")
        expect(self.page.locator(".compared ins")).to_have_text(re.compile("And more words"))
        self.assert_accessible(name="revisions")
        self.page.click("text=Put revision")
        expect(self.page.locator(".told")).to_contain_text("is put back")
        self.open(f"/posts/{post}")
        expect(self.sheet).to_have_text("The first words.")

    def test_a_post_is_split_and_the_split_undone(self) -> None:
        shop = self.server.workshop
        me = people_store.by_email(shop.db, ACCOUNT[0])
        post = files.new_post(
            shop, me, "mending-bench", "---\ntitle: Long\n---\nStart.\n\n## Flex\n\nOne.\n\n## Plug\n\nTwo.\n"
        ).post
        self.open(f"/posts/{post.id}")
        expect(self.sheet.locator("h2")).to_have_count(2)
        self.page.click("#split")
        self.page.check("#splitting label:has-text('Plug') input")
        self.page.click("#splitting >> text=Split")
        expect(self.page.locator("#actions .told")).to_contain_text("Split into 2 parts of one series.")
        expect(self.sheet).not_to_contain_text("Two.")
        expect(self.page.locator("#docket")).to_contain_text("“Long”, as part 1 of 2")
        self.page.click("text=Undo the split")
        expect(self.sheet).to_contain_text("Two.")


class TwiceTests(WritingCase):
    def test_a_block_is_kept_shown_as_standing_copy_and_changed_once(self) -> None:
        self.page.fill("#title", "With standing copy")
        self.write("Unplug it first.")
        self.page.click("#block-line >> text=Save for reuse")
        self.page.fill("#keep-form input", "Safety first")
        self.keys.press("Enter")
        expect(self.page.locator("#actions .told")).to_contain_text("Saved as “Safety first”.")
        self.sheet.click()
        self.put("Safety first")
        self.page.click(".seam >> text=the same everywhere")
        expect(self.sheet.locator(".standing")).to_contain_text("Unplug it first.")
        self.wait_saved()
        self.page.click("text=Publish now")
        expect(self.page.locator("#actions .told")).to_contain_text("Published")
        self.open("/desk/mending-bench/kept/")
        self.page.click("text=Safety first")
        expect(self.page.locator("#block-line")).not_to_contain_text("Save for reuse")
        sheet = self.page.get_by_role("textbox", name="Text of the saved block")
        sheet.click()
        self.keys.press("Control+a")
        self.keys.type("Unplug it ")
        self.keys.press("Control+b")
        self.keys.type("twice")
        self.page.click("text=Show its footprint")
        expect(self.page.locator(".footprint")).to_contain_text("1 other post altered")
        expect(sheet.locator("strong")).to_have_text("twice")
        self.assert_accessible(name="kept")
        self.page.click("text=Change it everywhere")
        expect(self.page.locator(".kept-screen > .told").first).to_contain_text("of the site changed")
        self.open("/b/mending-bench/notes/with-standing-copy/")
        expect(self.page.locator(".text strong")).to_have_text("twice")

    def test_several_blocks_are_kept_together_and_put_in_as_a_copy(self) -> None:
        self.write("one", "two", "three")
        self.keys.press("Control+a")
        self.page.click("#block-line >> text=Save for reuse")
        self.page.fill("#keep-form input", "Three lines")
        self.keys.press("Enter")
        expect(self.page.locator("#actions .told")).to_contain_text("Saved as “Three lines”.")
        self.sheet.locator("p").last.click()
        self.put("Three lines")
        self.page.click(".seam >> text=a copy of its own")
        self.assertEqual(
            [block["content"][0]["text"] for block in self.document() if "content" in block],
            ["one", "two", "three"] * 2,
        )

    def test_files_are_brought_in_each_with_its_report(self) -> None:
        self.open("/desk/mending-bench/bring-in")
        self.page.set_input_files("#files", [
            {"name": "lamps.md", "mimeType": "text/markdown", "buffer": b"# Lamps\n\nWords.\n\n![](p.png)"},
            {"name": "p.png", "mimeType": "image/png", "buffer": picture(30, 30)},
            {"name": "bad.docx", "mimeType": "application/zip", "buffer": b"no"},
        ])  # fmt: skip
        results = self.page.locator("#results li")
        expect(results.nth(0)).to_contain_text("Lamps from lamps.md: 1 word, 1 picture.")
        expect(results.nth(1)).to_contain_text("This is not a .docx file")
        self.assert_accessible(name="bring in")
        results.nth(0).locator("a").click()
        expect(self.page.locator("#title")).to_have_value("Lamps")

    def test_a_template_begins_posts(self) -> None:
        self.page.fill("#title", "Session notice")
        self.write("Come along.")
        self.wait_saved()
        self.page.click("#set-state")
        self.page.click("text=Keep it as a template")
        expect(self.page.locator("#set-state")).to_have_text("A template")
        self.open("/desk/mending-bench")
        self.page.click(".begin-from button:has-text('Session notice')")
        expect(self.sheet).to_have_text("Come along.")

    def test_facts_are_tried_or_refused_in_words_and_given(self) -> None:
        self.open("/desk/mending-bench/site")
        self.assert_accessible(name="house")
        self.page.click("summary[aria-label^='one more: change one more, as a name']")
        self.page.fill("[id='word-fact']", "no colon here")
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".choices .problem")).to_contain_text("“no colon here” is no fact")
        expect(self.page.locator("[id='word-fact']")).to_have_value("no colon here")
        self.expected = ("422",)
        self.page.fill("[id='word-fact']", "phone: 21 000")
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".saved")).to_contain_text("Tried here only: the facts for fill-ins.")
        expect(self.page.locator("#main-action")).to_contain_text("page")
        self.page.keyboard.press("Control+Enter")
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".said")).to_have_text("Readers have it so now.")
        self.page.click("summary[aria-label^='phone: 21 000']")
        self.page.click("details[open] button:has-text('Take it out')")
        expect(self.page.locator("summary[aria-label^='phone']")).to_have_count(0)
        self.page.click("text=Put it back")
        expect(self.page.locator("summary[aria-label^='phone: 21 000']")).to_be_visible()


class PhoneTests(BrowserCase):
    def test_blocks_are_put_settled_and_moved_on_a_phone(self) -> None:
        context = self.new_context(390, 844, has_touch=True)
        self.addCleanup(context.close)
        page = self.new_page(context)
        self.sign_in(page)
        self.new_post(page)
        page.click(".ProseMirror")
        page.keyboard.type("One.")
        page.click(".phone-all")
        page.click("#tools >> text=Insert…")
        page.click(".seam >> text=Note box")
        page.keyboard.type("Two.")
        page.click(".phone-all")
        page.locator("#block-line [aria-label='Tint of the callout']").select_option("sea")
        page.locator("#block-line [aria-label='Up: this block']").click()
        self.wait_saved(page)
        kinds = page.evaluate(
            "() => document.querySelector('.ProseMirror').editor.getJSON().content.map(one => one.type)"
        )
        self.assertIn("callout", kinds)
        self.assertLessEqual(page.evaluate("() => document.documentElement.scrollWidth"), 390)
        self.assert_accessible(page, "phone")
