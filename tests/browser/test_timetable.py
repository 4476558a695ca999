"""The timetable by mouse and by keyboard: slips moved, swapped and pushed; an afternoon's posts over weeks."""

from __future__ import annotations

from datetime import date, timedelta

from playwright.sync_api import Page, expect

from tests.browser.browsing import BrowserCase


class WeeksTests(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in()
        self.open("/desk/mending-bench/timetable")
        self.slip = self.page.locator(".slip-of[data-moves][data-title^='Five fuses']")

    def test_a_slip_is_moved_by_the_arrows_and_put_back(self) -> None:
        slip = self.slip
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
        slip = self.slip
        week_later = date.fromisoformat(slip.get_attribute("data-day")) + timedelta(days=7)
        slip.scroll_into_view_if_needed()
        begin, end = (
            slip.bounding_box(),
            self.page.locator(f".day-cell[data-day='{week_later}']").bounding_box(),
        )
        self.page.mouse.move(begin["x"] + 20, begin["y"] + 20)
        self.page.mouse.down()
        self.page.mouse.move(end["x"] + 30, end["y"] + 40, steps=6)
        self.page.mouse.up()
        expect(self.page.locator(".said")).to_contain_text("now goes out")

    def test_a_slip_that_is_chosen_takes_a_time_and_changes_places(self) -> None:
        slip = self.slip
        slip.click()
        bar = self.page.locator("#slip-bar")
        expect(bar).to_contain_text(slip.get_attribute("data-words"))
        self.assert_accessible(name="slip bar")
        slip.focus()
        self.page.keyboard.press("t")
        self.page.keyboard.type("someday")
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".said.problem")).to_contain_text("“someday” is no time")
        self.expected = ("422",)
        self.slip.click()
        other = bar.locator("select[name=other] option", has_text="toaster")
        bar.locator("select[name=other]").select_option(value=other.get_attribute("value"))
        bar.locator("text=Swap").last.click()
        expect(self.page.locator(".said")).to_contain_text("now goes out")
        self.slip.click()
        bar.locator("text=Push it").click()
        expect(self.page.locator(".said")).to_contain_text("moved on by 7 days")
        self.page.click(".said >> text=Undo")
        expect(self.page.locator(".said")).to_contain_text("Undone")

    def test_it_is_drawn_as_a_month_a_week_and_a_list_and_leads_to_the_site_of_a_day(self) -> None:
        for words in ("a month", "one week", "a list alone"):
            self.page.click("[aria-label^='How it is drawn']")
            self.page.click(f".choices >> text={words}")
            self.page.wait_for_url("**view=**")
            self.assert_accessible(name=words)
        expect(self.page.locator("#weeks")).to_have_count(0)
        self.open("/desk/mending-bench/timetable?whose=all&view=month")
        expect(self.page.locator(".slip-of[class*=pattern-]").first).to_be_visible()
        self.page.click("text=Later")
        self.page.wait_for_url("**start=**")
        self.page.locator(".day-number").first.click()
        expect(self.page.locator("iframe")).to_be_visible()

    def test_on_a_phone_the_list_moves_and_places(self) -> None:
        self.page.set_viewport_size({"width": 390, "height": 800})
        self.page.locator(".agenda summary[aria-label^='Move: Five fuses']").click()
        box = self.page.locator(".agenda details[open] .choices").bounding_box()
        self.assertTrue(0 <= box["x"] and box["x"] + box["width"] <= 390, box)
        self.page.locator(".agenda details[open] input[name=day]").fill("in 3 weeks")
        self.assert_accessible(name="timetable on a phone")
        self.page.click(".agenda details[open] >> text=Move it")
        expect(self.page.locator(".said")).to_contain_text("now goes out")


class AfternoonCase(BrowserCase):
    """Five posts of one afternoon, out on Tuesdays and Thursdays, the radio first, none in the holiday week."""

    demo = False
    TITLES = ("A lamp", "A zip", "A clock", "A kettle", "A radio")

    def setUp(self) -> None:
        super().setUp()
        self.open("/")
        for field, words in (
            ("#word", self.first_word()),
            ("#name", "Ines Farrow"),
            ("#email", "ines@bench.example"),
            ("#password", "a long password"),
            ("#blog", "My Bench"),
        ):
            self.page.fill(field, words)
        self.page.keyboard.press("Enter")
        self.page.wait_for_selector(".ProseMirror")
        self.desk = "/desk/my-bench"
        self.open(self.desk)
        for title in self.TITLES:
            self.new_post()
            self.page.fill("#title", title)
            self.page.click(".ProseMirror")
            self.page.keyboard.type("A few words about it.")
            self.wait_saved()
            self.open(self.desk)
        monday = date.today() + timedelta(days=7 - date.today().weekday())
        self.holiday = (monday + timedelta(days=7), monday + timedelta(days=13))

    def assert_spread(self) -> None:
        self.open(f"{self.desk}/timetable?view=list&weeks=26")
        told = [
            words.split("\n") for words in self.page.locator(".agenda > li:has(.queued)").all_inner_texts()
        ]
        self.assertEqual(len(told), 5)
        self.assertIn("A radio", "".join(told[0]))
        self.assertEqual({line[0][:3] for line in told}, {"Tue", "Thu"})
        holidays = [
            f"{day.day} {day:%B}" for day in (self.holiday[0] + timedelta(days=number) for number in range(7))
        ]
        self.assertFalse([line[0] for line in told if any(line[0].endswith(f" {day}") for day in holidays)])


class AfternoonByMouseTests(AfternoonCase):
    def test_by_mouse(self) -> None:
        page: Page = self.page
        page.goto(f"{self.server.address}{self.desk}/timetable")
        for day in ("Tue", "Thu"):
            page.check(f".week-days label:has-text('{day}') input")
        page.click("text=Keep it free")
        page.click("text=Mark days…")
        page.fill("[name=first]", self.holiday[0].isoformat())
        page.fill("[name=last]", self.holiday[1].isoformat())
        page.fill("[name=words]", "holiday")
        page.click("text=Mark them")
        expect(page.locator(".said")).to_contain_text("The days are marked")
        self.open(self.desk)
        for title in self.TITLES:
            page.check(f"input[aria-label='Choose {title}']")
        page.click("#choose-posts >> text=Place…")
        page.click("text=Show what changes")
        while page.locator(".handled tr td.t").first.inner_text() != "A radio":
            page.click("[aria-label='Earlier: A radio']")
            page.wait_for_load_state()
        page.click("text=Place them")
        expect(page.locator(".said")).to_contain_text("5 posts are placed")
        self.assert_spread()


class AfternoonByKeyboardTests(AfternoonCase):
    def test_by_keyboard_alone(self) -> None:
        keys = self.page.keyboard
        self.open(f"{self.desk}/timetable")
        self.to("input[name=day][value=TU]")
        keys.press("Space")
        self.to("input[name=day][value=TH]")
        keys.press("Space")
        keys.press("Enter")
        expect(self.page.locator(".said")).to_contain_text("kept free")
        self.to(".new-slot summary:has-text('Mark days')")
        keys.press("Enter")
        self.to("[name=first]")
        for name, day in zip(("first", "last"), self.holiday, strict=True):
            self.to(f"[name={name}]")
            keys.type(f"{day:%m%d%Y}")
        self.to("[name=words]")
        keys.type("holiday")
        keys.press("Enter")
        expect(self.page.locator(".said")).to_contain_text("The days are marked")
        self.open(self.desk)
        self.page.wait_for_load_state()
        self.to(".posts a[data-peek]")
        for _ in range(4):
            keys.press("Shift+ArrowDown")
        keys.press("ArrowLeft")
        keys.press("Enter")  # to what is done with them
        keys.press("Enter")  # place
        self.page.wait_for_url("**/several/place**")
        self.to("button:has-text('Show what changes')")
        keys.press("Enter")
        self.page.wait_for_url("**said=**")
        while self.page.locator(".handled tr td.t").first.inner_text() != "A radio":
            self.to("[aria-label='Earlier: A radio']")
            keys.press("Enter")
            self.page.wait_for_load_state()
        self.to("button:has-text('Place them')")
        keys.press("Enter")
        expect(self.page.locator(".said")).to_contain_text("5 posts are placed")
        self.assert_spread()

    def to(self, selector: str) -> None:
        """Walks with Tab until the focus stands on what is meant."""
        for _ in range(120):
            if self.page.locator(selector).first.evaluate("(element) => element === document.activeElement"):
                return
            self.page.keyboard.press("Tab")
        self.fail(f"the focus never came to {selector}")
