"""A class: a pupil writes, the teacher sends it back and then says yes, families alone read it. And how a colleague joins."""

from typing import Any

from playwright.sync_api import Page, expect

from mobbet.core.values import existing
from mobbet.store import invitations, people, readers
from tests.browser.browsing import BrowserCase

PUPIL, TEACHER = "wren@mending-bench.example", "tomas@mending-bench.example"
PEOPLE = "/desk/mending-bench/site/people"


class InvitingTests(BrowserCase):
    def test_somebody_is_invited_and_joins_by_the_link(self) -> None:
        self.sign_in()
        self.open(PEOPLE)
        self.assert_accessible(name="people")
        self.expected = ("422",)
        self.page.fill("#email", "no address")
        self.page.evaluate("() => document.querySelector('#email').form.noValidate = true")
        self.page.click("text=Write the invitation")
        expect(self.page.locator("#email-problem")).to_contain_text("is no e-mail address")
        expect(self.page.locator("#email")).to_have_value("no address")
        self.page.fill("#email", "nell@away.example")
        self.page.select_option("#role", "contributor")
        self.page.click("text=Write the invitation")
        expect(self.page.locator(".said")).to_have_text("The invitation is written.")
        link = self.page.locator("input[readonly]").first.input_value()
        page = self.new_page(self.new_context())
        page.goto(link)
        expect(page.locator("h1")).to_have_text("Ines Farrow invites you")
        self.assert_accessible(page, "join")
        page.fill("#name", "Nell Garrow")
        page.fill("#password", "three brass kettles")
        page.click("text=Take the invitation")
        page.wait_for_url("**/desk/mending-bench")
        expect(page.locator("nav[aria-label='Screens']").first).not_to_contain_text("Site")
        self.page.reload()
        expect(self.page.locator(".member > .sentence", has_text="Nell Garrow")).to_contain_text(
            "contributor"
        )

    def test_by_keyboard_a_role_is_changed_and_a_right_tightened(self) -> None:
        self.sign_in()
        self.open(PEOPLE)
        self.page.locator("summary[aria-label*='the role of Petra Quill']").focus()
        self.page.keyboard.press("Enter")
        self.page.locator("details[open] button[value=editor]").focus()
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".member > .sentence", has_text="Petra Quill")).to_contain_text("editor")
        self.page.locator("summary[aria-label*='writers see']").focus()
        self.page.keyboard.press("Enter")
        self.page.locator("details[open] button[value=yes]").focus()
        self.page.keyboard.press("Enter")
        expect(self.page.locator("mark").first).to_have_text("own")
        self.open("/desk/mending-bench/site/record")
        expect(self.page.locator("table")).to_contain_text("made Petra Quill editor")
        self.assert_accessible(name="record")


class ClassCase(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        workshop = self.server.workshop
        with workshop.db.transaction():
            readers.add_group(workshop.db, 1, "Families", "secret-of-families", workshop.clock())
        self.pupil, self.teacher = self.new_page(self.new_context(390, 844)), self.page
        self.sign_in(self.pupil, PUPIL)
        self.sign_in(self.teacher, TEACHER)

    def say(self, page: Page, **values: Any) -> None:
        """Opens the sheet about who decides, by key, and fills it in."""
        word = page.locator("#set-decision")
        word.focus()
        page.keyboard.press("Enter")
        for name, value in values.items():
            page.fill(f"#sheet-decision [name={name}]", value)


class ClassTests(ClassCase):
    def test_nothing_of_a_pupils_goes_past_the_teacher(self) -> None:
        pupil, teacher = self.pupil, self.teacher
        pupil.locator("button", has_text="New post").first.click()
        pupil.wait_for_selector(".ProseMirror")
        pupil.wait_for_load_state()
        pupil.fill("#title", "Our trip to the lighthouse")
        pupil.click(".ProseMirror")
        pupil.keyboard.type("We went on Tuesday and it rained.")
        self.wait_saved(pupil)
        expect(pupil.locator("#main-action")).to_have_text("Ask an editor")
        pupil.click("#main-action")
        expect(pupil.locator("#actions .told")).to_have_text("They are asked.")
        address = pupil.url
        teacher.reload()
        want = teacher.locator(".attention a", has_text="Our trip to the lighthouse")
        expect(want).to_contain_text("Wren Halloran asked")
        want.click()
        teacher.wait_for_selector(".ProseMirror")
        teacher.wait_for_load_state()
        self.say(teacher, remark="Say who went.")
        teacher.click("text=Send it back with this word")
        expect(teacher.locator("#actions .told")).to_contain_text("It is sent back")
        pupil.goto(self.server.address + "/desk/mending-bench")
        expect(pupil.locator(".attention")).to_contain_text(
            "Tomas Wilde sent “Our trip to the lighthouse” back"
        )
        pupil.goto(address)
        pupil.wait_for_selector(".ProseMirror")
        pupil.wait_for_load_state()
        pupil.click(".ProseMirror p")
        pupil.keyboard.press("End")
        pupil.keyboard.type(" All of class four.")
        self.wait_saved(pupil)
        expect(pupil.locator("#main-action")).to_contain_text("again")
        pupil.click("#main-action")
        expect(pupil.locator("#actions .told")).to_have_text("They are asked.")
        teacher.reload()
        teacher.wait_for_selector(".ProseMirror")
        teacher.wait_for_load_state()
        teacher.focus("#set-visibility")
        teacher.keyboard.press("Enter")
        teacher.locator("#sheet-visibility button", has_text="Families").click()
        expect(teacher.locator("#set-visibility")).to_contain_text("Families")
        self.say(teacher)
        expect(teacher.locator("text=What changed since your last word")).to_be_visible()
        teacher.locator("#sheet-decision button[value=yes]").press("Enter")
        expect(teacher.locator("#actions .told")).to_contain_text("may put it out now")
        pupil.reload()
        pupil.wait_for_selector(".ProseMirror")
        pupil.wait_for_load_state()
        expect(pupil.locator("#main-action")).to_have_text("Publish now")
        pupil.click("#main-action")
        expect(pupil.locator("#actions .told")).to_contain_text("Published")
        self.only_families_read_it()

    def only_families_read_it(self) -> None:
        workshop = self.server.workshop
        path = workshop.db.value(
            "SELECT path FROM placement JOIN post ON post.id = post_id WHERE title = 'Our trip to the lighthouse'"
        )
        stranger = self.new_page(self.new_context())
        self.expected = ("404", "401", "403")
        stranger.goto(f"{self.server.address}/b/mending-bench{path}")
        expect(stranger.locator("body")).not_to_contain_text("We went on Tuesday")


class AtOnceTests(ClassCase):
    def test_where_a_colleague_writes_is_shown(self) -> None:
        self.sign_in(self.pupil, "ines@mending-bench.example")
        post = self.server.workshop.db.value(
            "SELECT id FROM post WHERE title = 'Rewiring a desk lamp without losing the switch'"
        )
        for page in (self.pupil, self.teacher):
            page.goto(f"{self.server.address}/posts/{post}")
            page.wait_for_selector(".ProseMirror")
        self.pupil.click(".ProseMirror p")
        self.pupil.keyboard.type("Hm. ")
        self.wait_saved(self.pupil)
        expect(self.teacher.locator(".written-by")).to_have_text("Ines Farrow writes here", timeout=60_000)


class AccountOfAnInvitationTests(BrowserCase):
    def test_a_link_that_is_over_says_so(self) -> None:
        self.expected = ("410",)
        self.open("/join/nothing")
        expect(self.page.locator("main")).to_contain_text("ask whoever invited you for another one")
        self.assertEqual(len(invitations.waiting(self.server.workshop.db, 1)), 1)
        self.assertIsNotNone(existing(people.by_email(self.server.workshop.db, PUPIL)))
