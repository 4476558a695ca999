"""What a friend says of a draft, from the link to words that are taken."""

from playwright.sync_api import Page, expect

from mobbet.actions import reading_copies
from mobbet.core.values import existing
from mobbet.store import people, posts
from tests.browser.browsing import BrowserCase

TITLE = "Rewiring a desk lamp without losing the switch"
WORDS = "the same fault"


class NoteCase(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        workshop = self.server.workshop
        self.me = existing(people.by_email(workshop.db, "ines@mending-bench.example"))
        self.post = existing(posts.titled(workshop.db, 1, TITLE))
        with workshop.db.transaction():
            workshop.db.run("DELETE FROM note")

    def link(self, lets: str = "propose") -> str:
        copy = reading_copies.make(self.server.workshop, self.me, self.post, lets=lets)
        return reading_copies.address_of(self.server.workshop, copy, self.server.address)

    def choose(self, page: Page, words: str) -> None:
        """Chooses words on a page as somebody does with the mouse or a finger."""
        page.evaluate(
            """(words) => {
                const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
                while (walker.nextNode()) {
                    const node = walker.currentNode, at = node.data.indexOf(words);
                    if (at < 0 || !node.parentElement.closest("article, main, .ProseMirror")) continue;
                    getSelection().setBaseAndExtent(node, at, node, at + words.length);
                    return;
                }
            }""",
            words,
        )

    def friend(self, width: int = 390) -> Page:
        return self.new_page(self.new_context(width, 844))

    def room(self) -> None:
        self.sign_in()
        self.open(f"/posts/{self.post}")
        self.page.wait_for_selector(".ProseMirror")
        self.page.wait_for_load_state()


class FriendTests(NoteCase):
    def test_a_friend_proposes_words_on_a_phone_and_the_author_takes_them_with_one_undo(self) -> None:
        page = self.friend()
        page.goto(self.link())
        expect(page.locator("#copy-notes")).to_contain_text("shown to you by Ines Farrow")
        self.assert_accessible(page, "copy")
        self.assertEqual(page.evaluate("() => document.documentElement.scrollWidth"), 390)
        self.choose(page, WORDS)
        page.click("text=Leave a note on these words")
        page.click("text=Propose other words")
        page.fill("#copy-proposal", "one and the same fault")
        page.fill("#copy-said", "Shorter is stronger, but")
        page.fill("#copy-name", "Hanne Orvik")
        page.click("text=Leave the note")
        expect(page.locator(".copy-told")).to_have_text("Thank you; the note is left.")
        self.room()
        expect(self.page.locator("#open-notes")).to_have_text("1 open note")
        expect(self.page.locator(".blue-mark")).to_have_text(WORDS)
        self.page.keyboard.press("F9")
        note = self.page.locator(".note.blue")
        expect(note).to_contain_text("Hanne Orvik")
        self.assert_accessible(name="notes")
        note.get_by_role("button", name="Take it").click()
        expect(self.page.locator(".ProseMirror")).to_contain_text("one and the same fault")
        expect(note).to_contain_text("words taken")
        self.page.keyboard.press("Control+z")
        expect(self.page.locator(".ProseMirror")).not_to_contain_text("one and the same fault")
        page.reload()
        expect(page.locator("#copy-notes li")).to_contain_text("the words were taken")

    def test_by_keyboard_alone_a_note_is_left_on_a_block(self) -> None:
        page = self.friend(1280)
        page.goto(self.link("note"))
        page.focus("#copy-line")
        page.keyboard.type("Before you open")
        page.keyboard.press("Tab")
        page.keyboard.type("Say who holds the lamp.")
        page.keyboard.press("Tab")
        page.keyboard.type("Mo Calder")
        page.keyboard.press("Tab")
        page.keyboard.press("Enter")
        expect(page.locator("#copy-notes li q")).to_have_text("Before you open it")


class RoomTests(NoteCase):
    def test_a_colleague_leaves_a_note_by_key_it_is_answered_and_settled(self) -> None:
        self.room()
        self.page.click(".ProseMirror p")
        self.choose(self.page, "ten thousand times")
        self.page.keyboard.press("Alt+m")
        expect(self.page.locator(".new-note q")).to_have_text("ten thousand times")
        self.page.keyboard.type("Say where that comes from.")
        self.page.keyboard.press("Tab")
        self.page.keyboard.press("Tab")
        self.page.keyboard.press("Enter")
        note = self.page.locator(".note.blue", has_text="Say where")
        expect(note).to_be_visible()
        expect(self.page.locator(".blue-mark")).to_have_text("ten thousand times")
        note.get_by_role("button", name="Answer").click()
        self.page.keyboard.type("From the bench book.")
        note.locator("form button").click()
        expect(note).to_contain_text("From the bench book.")
        note.get_by_role("button", name="Settled").click()
        expect(self.page.locator(".blue-mark")).to_have_count(0)
        note.get_by_role("button", name="Open again").click()
        expect(self.page.locator(".blue-mark")).to_have_count(1)
        self.page.locator(".ProseMirror p").first.click()
        self.page.keyboard.press("Home")
        self.page.keyboard.type("Well: ")
        self.wait_saved()
        expect(self.page.locator(".blue-mark")).to_have_text("ten thousand times")

    def test_words_that_no_longer_fit_are_told_of(self) -> None:
        page = self.friend()
        page.goto(self.link())
        self.choose(page, "Bend the flex slowly")
        page.click("text=Leave a note on these words")
        page.click("text=Propose other words")
        page.fill("#copy-proposal", "Bend it slowly")
        page.fill("#copy-name", "Hanne Orvik")
        page.click("text=Leave the note")
        self.room()
        mark = self.page.locator(".blue-mark", has_text="Bend the flex slowly")
        expect(mark).to_be_visible()
        mark.dblclick()
        self.page.keyboard.type("bending")
        self.wait_saved()
        self.page.locator(".note.blue", has_text="Hanne").get_by_role("button", name="Take it").click()
        expect(self.page.locator("#actions .told")).to_contain_text("It no longer fits")
