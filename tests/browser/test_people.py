"""A class: a pupil writes, the teacher sends it back and then says yes, families alone read it. And how a colleague joins."""

from collections.abc import Callable
from typing import Any

from playwright.sync_api import Locator, Page, expect

from mobbet.actions import entry
from mobbet.actions import readers as readers_actions
from mobbet.core.values import existing
from mobbet.store import blogs, invitations, people, readers
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
            if readers.group_named(workshop.db, 1, "Families") is None:
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
    """Nothing of a pupil's goes past the teacher, who sends it back with a note; families alone read it then, on a phone."""

    def test_by_mouse(self) -> None:
        self.go_all_the_way("Our trip to the lighthouse", lambda target: target.click())

    def test_by_keyboard_alone(self) -> None:
        self.go_all_the_way("Our walk to the mill", lambda target: (target.focus(), target.press("Enter")))

    def go_all_the_way(self, title: str, use: Callable[[Locator], object]) -> None:
        pupil, teacher = self.pupil, self.teacher
        use(pupil.locator("button", has_text="New post").first)
        self.wait_for_text(pupil)
        pupil.focus("#title")
        pupil.keyboard.type(title)
        pupil.focus(".ProseMirror")
        pupil.keyboard.type("We went on Tuesday and it rained.")
        self.wait_saved(pupil)
        self.ask(use, "Ask an editor")
        address = pupil.url
        teacher.reload()
        want = teacher.locator(".attention a", has_text=title)
        expect(want).to_contain_text("Wren Halloran asked")
        use(want)
        self.wait_for_text(teacher)
        self.leave_a_note()
        self.say(teacher, remark="Say who went.")
        use(teacher.locator("button", has_text="Send it back with this word"))
        expect(teacher.locator("#actions .told")).to_contain_text("It is sent back")
        pupil.goto(self.server.address + "/desk/mending-bench")
        expect(pupil.locator(".attention")).to_contain_text(f"Tomas Wilde sent “{title}” back")
        pupil.goto(address)
        self.wait_for_text(pupil)
        expect(pupil.locator(".note.blue", has_text="Which Tuesday?")).to_have_count(1)
        pupil.focus(".ProseMirror")
        pupil.keyboard.press("Control+End")
        pupil.keyboard.type(" All of class four.")
        self.wait_saved(pupil)
        self.ask(use, "again")
        teacher.reload()
        self.wait_for_text(teacher)
        use(teacher.locator("#set-visibility"))
        use(teacher.locator("#sheet-visibility button", has_text="Families"))
        expect(teacher.locator("#set-visibility")).to_contain_text("Families")
        self.say(teacher)
        expect(teacher.locator("text=What changed since your last word")).to_be_visible()
        use(teacher.locator("#sheet-decision button[value=yes]"))
        expect(teacher.locator("#actions .told")).to_contain_text("may put it out now")
        pupil.reload()
        self.wait_for_text(pupil)
        expect(pupil.locator("#main-action")).to_have_text("Publish now")
        use(pupil.locator(".phone-all"))
        use(pupil.locator("#main-action"))
        expect(pupil.locator("#actions .told")).to_contain_text("Published")
        self.only_families_read_it(title, use)

    def wait_for_text(self, page: Page) -> None:
        page.wait_for_selector(".ProseMirror")
        page.wait_for_load_state()

    def ask(self, use: Callable[[Locator], object], words: str) -> None:
        expect(self.pupil.locator("#main-action")).to_contain_text(words)
        use(self.pupil.locator(".phone-all"))
        use(self.pupil.locator("#main-action"))
        expect(self.pupil.locator("#actions .told")).to_have_text("They are asked.")

    def leave_a_note(self) -> None:
        """The teacher's note on the last word of the text, by keys."""
        self.teacher.focus(".ProseMirror")
        self.teacher.keyboard.press("Control+End")
        self.teacher.keyboard.press("Control+Shift+ArrowLeft")
        self.teacher.keyboard.press("Alt+m")
        expect(self.teacher.locator(".new-note q")).to_be_visible()
        self.teacher.keyboard.type("Which Tuesday?")
        self.teacher.keyboard.press("Tab")
        self.teacher.keyboard.press("Tab")
        self.teacher.keyboard.press("Enter")
        expect(self.teacher.locator(".note.blue", has_text="Which Tuesday?")).to_be_visible()

    def only_families_read_it(self, title: str, use: Callable[[Locator], object]) -> None:
        workshop = self.server.workshop
        path = workshop.db.value(
            "SELECT path FROM placement JOIN post ON post.id = post_id WHERE title = ?", title
        )
        address = f"{self.server.address}/b/mending-bench{path}"
        self.expected = ("404", "401", "403")
        stranger = self.new_page(self.new_context())
        stranger.goto(address)
        expect(stranger.locator("body")).not_to_contain_text("We went on Tuesday")
        blog = existing(blogs.by_slug(workshop.db, "mending-bench"))
        owner = existing(people.by_email(workshop.db, "ines@mending-bench.example"))
        family = readers_actions.group_by_name(workshop, blog, "Families").id
        readers_actions.add_readers(workshop, owner, blog, family, "Mo Calder <mo@port-alder.example>")
        reader = existing(people.by_email(workshop.db, "mo@port-alder.example"))
        link = entry.entry_link(workshop, blog, reader, path, 600)
        phone = self.new_page(self.new_context(390, 844))
        phone.goto(f"{self.server.address}/b/mending-bench/~/in/{link.rpartition('/')[2]}")
        use(phone.locator("main button"))
        expect(phone.locator("article")).to_contain_text("All of class four.")
        self.assertLessEqual(phone.evaluate("() => document.documentElement.scrollWidth"), 390)


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
