"""The proof as a writer meets it: notes in the margin, F8, mends that can be undone, reasons, learned words, and what holds a post back."""

from __future__ import annotations

from playwright.sync_api import expect

from mobbet.actions import posts, proofing
from mobbet.core.document import schema
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.proofing.marks import Mark, Mend
from mobbet.core.proofing.mending import mended
from mobbet.store import blogs as blog_store
from mobbet.store import people as people_store
from mobbet.store import posts as post_store
from tests.browser.browsing import ACCOUNT, BrowserCase

READY = 15_000


class ProofCase(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in()

    def begin(self, title: str, *lines: str) -> None:
        self.new_post()
        self.page.fill("#title", title)
        self.page.click(".ProseMirror")
        for number, line in enumerate(lines):
            if number:
                self.page.keyboard.press("Enter")
            self.page.keyboard.type(line)
        self.wait_saved()

    def text(self) -> str:
        return self.page.locator(".ProseMirror").inner_text()

    def note(self, words: str):  # noqa: ANN201
        return self.page.locator(".note", has_text=words)


class MarginTests(ProofCase):
    def test_marks_stand_level_with_their_passages_and_are_gone_through_by_f8(self) -> None:
        self.begin("A kettle", "We recieve many kettles.", "The the base is the fault.")
        expect(self.page.locator(".note")).to_have_count(2, timeout=READY)
        note = self.note("recieve").bounding_box()
        passage = self.page.locator(".proof-mark").first.bounding_box()
        self.assertLess(abs(note["y"] - passage["y"]), 60)
        self.page.keyboard.press("Control+Home")
        self.page.keyboard.press("F8")
        expect(self.page.locator(".note .mend:focus")).to_have_text("receive")
        self.page.keyboard.press("Enter")
        self.assertIn("We receive many", self.text())
        self.page.keyboard.press("F8")
        expect(self.page.locator(".note .mend:focus")).to_have_text("The")
        self.page.keyboard.press("Escape")
        self.page.keyboard.press("Control+z")
        self.assertIn("We recieve many", self.text())
        self.page.keyboard.press("Shift+F8")
        self.assert_accessible(name="margin")

    def test_after_a_mend_from_the_docket_f8_goes_to_the_next_mark_in_the_text(self) -> None:
        self.begin("A kettle", "We recieve many.", "The the base.", "It’s lid is lost.")
        expect(self.page.locator(".note")).to_have_count(3, timeout=READY)
        self.page.keyboard.press("Control+End")
        self.page.locator("#proof .marks li", has_text="recieve").get_by_role(
            "button", name="receive"
        ).first.click()
        self.assertIn("We receive many", self.text())
        for words in ("The", "Its"):
            self.page.keyboard.press("F8")
            expect(self.page.locator(".note .mend:focus")).to_have_text(words)

    def test_the_focus_stays_on_a_mend_when_the_notes_are_drawn_anew(self) -> None:
        self.begin("A kettle", "We recieve many.")
        expect(self.page.locator(".note")).to_have_count(1, timeout=READY)
        self.page.keyboard.press("F8")
        self.page.evaluate(
            """() => {
                const { proof } = mobbetRoom;
                proof.marks = proof.marks.map((mark) => ({ ...mark, message: `${mark.message} Really.` }));
                proof.draw();
            }"""
        )
        expect(self.page.locator(".note .mend:focus")).to_have_text("receive")

    def test_notes_stand_below_what_can_be_pressed(self) -> None:
        self.begin("A kettle", "We recieve many.")
        expect(self.page.locator(".note")).to_have_count(1, timeout=READY)
        button, note = self.page.evaluate(
            """async () => {
                const split = document.getElementById("split");
                split.hidden = false;
                window.dispatchEvent(new Event("resize"));
                await new Promise((done) => setTimeout(done, 400));
                return [split.getBoundingClientRect().bottom, document.querySelector(".note").getBoundingClientRect().top];
            }"""
        )
        self.assertGreaterEqual(note, button)

    def test_each_mend_is_one_step_back(self) -> None:
        self.begin("A kettle", "It’s lid is lost.")
        self.note("It’s").locator(".mend").first.click()
        self.assertIn("Its lid", self.text())
        expect(self.page.locator(".note")).to_have_count(0, timeout=READY)
        self.page.click(".ProseMirror")
        self.page.keyboard.press("Control+z")
        self.assertIn("It’s lid", self.text())
        expect(self.page.locator(".note")).to_have_count(1, timeout=READY)

    def test_a_word_is_learned_and_a_mark_let_stand_with_a_reason(self) -> None:
        self.begin("A pump", "The dashpots hold. We recieve oil.")
        self.note("dashpots").locator(".words").click()
        self.note("dashpots").locator("text=Learn it for the blog").click()
        expect(self.note("dashpots")).to_have_count(0, timeout=READY)
        self.note("recieve").locator(".words").click()
        self.note("recieve").locator("summary >> text=Why?").click()
        expect(self.note("recieve")).to_contain_text("Names and words of a trade can be learned")
        self.note("recieve").locator("summary >> text=Let it stand").click()
        self.page.locator(".note.on [name=reason]").fill("Quoted from a letter")
        self.page.keyboard.press("Enter")
        expect(self.note("recieve")).to_have_count(0, timeout=READY)
        self.page.click("#proof summary >> text=1 let stand")
        expect(self.page.locator("#proof .stand")).to_contain_text("Quoted from a letter")
        self.assert_accessible(name="list of marks")
        self.page.click(".ProseMirror")
        self.page.keyboard.press("Control+End")
        self.page.keyboard.type(" The the end.")
        expect(self.page.locator("#proof .marks >> text=stands here twice")).to_be_visible(timeout=READY)
        self.page.click("#proof >> text=Show it again")
        expect(self.note("recieve")).to_have_count(1, timeout=READY)

    def test_what_is_sent_is_not_broken_off_by_its_being_asked_again(self) -> None:
        self.begin("A pump", "The trunnels hold.")
        expect(self.note("trunnels")).to_have_count(1, timeout=READY)
        is_broken_off = self.page.evaluate(
            "async () => { const { proof } = mobbetRoom; const going = proof.ask({ address: proof.room.to.learn, values: { word: 'trunnels', whose: 'blog' } });"
            " const held = proof.stop.signal; proof.ask(); await going; return held.aborted; }"
        )
        self.assertFalse(is_broken_off)
        expect(self.note("trunnels")).to_have_count(0, timeout=READY)

    def test_writing_on_moves_the_marks_along(self) -> None:
        self.begin("A kettle", "We recieve many kettles.")
        expect(self.page.locator(".note")).to_have_count(1, timeout=READY)
        self.page.keyboard.press("Control+Home")
        self.page.keyboard.type("Each spring, ")
        expect(self.page.locator(".proof-mark")).to_have_text("recieve")


class HoldTests(ProofCase):
    def test_what_must_be_settled_holds_the_post_back_until_somebody_says_why_not(self) -> None:
        self.begin("A shape", "Words about it.", "![](https://a.example/x.jpg)")
        expect(self.note("no alternative text")).to_have_count(1, timeout=READY)
        expect(self.page.locator("#main-action")).to_have_text("Check 1 mark first", timeout=READY)
        self.page.click("#main-action")
        expect(self.page.locator("#actions .told")).to_contain_text("The picture has no alternative text")
        expect(self.page.locator(".note.on")).to_contain_text("no alternative text")
        self.page.fill("#despite-reason", "It is only a shape")
        self.page.click("#despite button")
        expect(self.page.locator("#public-link")).to_be_visible(timeout=READY)


class NarrowTests(ProofCase):
    def test_on_a_phone_a_mark_comes_up_as_a_sheet(self) -> None:
        self.begin("A kettle", "We recieve many kettles.")
        expect(self.page.locator(".proof-mark")).to_have_count(1, timeout=READY)
        self.page.set_viewport_size({"width": 390, "height": 800})
        self.page.click(".phone-all")
        self.page.click("#next-mark")
        expect(self.page.locator(".note.on .mend").first).to_be_in_viewport()
        self.assert_accessible(name="phone")
        self.page.click(".note.on .mend >> nth=0")
        self.assertIn("We receive many", self.text())


class BlogTests(ProofCase):
    def test_many_posts_are_mended_from_the_proof_of_the_whole_blog(self) -> None:
        self.begin("Two words", "The the lamp is on.")
        expect(self.page.locator(".note")).to_have_count(1, timeout=READY)
        self.open("/desk/mending-bench")
        expect(self.page.locator("tr", has_text="Two words")).to_contain_text("to settle")
        self.page.click("text=Proof of every post")
        expect(self.page.locator("h1")).to_contain_text("to settle")
        self.page.click(".check-rows >> text=Doubled words")
        self.assert_accessible(name="proof of the blog")
        self.page.click("text=Mend those chosen")
        expect(self.page.locator(".told")).to_contain_text("Mended 1 mark in 1 post.")

    def test_the_house_style_is_set_in_a_sentence(self) -> None:
        self.open("/desk/mending-bench/site")
        self.page.click(".tabs >> text=Words and proof")
        expect(self.page.locator("h2 >> text=How grave each mark is")).to_be_visible()
        self.assert_accessible(name="house words")
        self.expected = ("422",)
        avoided = self.page.locator("#word-avoided")
        self.page.click("summary[aria-label*='the house avoids']")
        avoided.fill("email e-mail: x: y\n: nothing")
        self.page.click("text=Keep this >> visible=true")
        expect(self.page.locator(".problem")).to_contain_text("“: nothing” names no word")
        expect(avoided).to_have_value("email e-mail: x: y\n: nothing")
        avoided.fill("email: e-mail")
        self.page.click("text=Keep this >> visible=true")
        expect(self.page.locator(".said")).to_contain_text("Kept.")
        expect(self.page.locator(".sentences").first).to_contain_text("it writes “e-mail” for “email”")
        self.page.focus("summary[aria-label*='“Spelling” is']")
        self.page.keyboard.press("Enter")
        self.page.locator("#check-spelling .choice", has_text="must be settled").press("Enter")
        expect(self.page.locator("#check-spelling .set")).to_have_text("must be settled")
        self.open("/desk/mending-bench")
        self.begin("A letter", "Send an email now.")
        expect(self.note("e-mail")).to_have_count(1, timeout=READY)


FAULTY = """We *recieve* **the the** lamps. Its a good [old **lamp**](http://a.example/).

#### Too deep

**Before you begin**

<p></p>

A [partner](https://harbour-shop.example/x), and 電気 😀 a very unique one, seperate... Then  two , three.

<table><tr><td>A</td><td>B</td></tr><tr><td>1</td><td>2</td></tr></table>

- We recieve
- it's lid is lost
"""


def mended_everywhere(document: dict, mark: Mark, mend: Mend) -> dict:
    """The document after a mend, a word at each of its places."""
    for path, start, end in reversed(mark.others):
        document = mended(document, {**mend.operation, "path": list(path), "start": start, "end": end})
    return mended(document, mend.operation)


class SameTests(ProofCase):
    def test_each_mend_does_on_the_sheet_what_it_does_on_the_server(self) -> None:
        self.post_text(FAULTY)
        self.page.wait_for_function("() => mobbetRoom.proof?.marks.length > 8")
        self.wait_saved()
        # nothing is saved or read from here on: a text between a mend and its undo has other marks
        self.page.evaluate(
            "() => { window.marksOfTheText = mobbetRoom.proof.marks; mobbetRoom.saving.plan = mobbetRoom.proof.askLater = () => {}; }"
        )
        post_id = int(self.page.url.rsplit("/", 1)[1])
        shop = self.server.workshop
        blog = blog_store.by_slug(shop.db, "mending-bench")
        reading = proofing.read(shop, post_store.by_id(shop.db, post_id), blog)
        kinds = set()
        for number, mark in enumerate(reading.marks):
            for at, mend in enumerate(mark.mends):
                if mend.operation["do"] == "docket":
                    continue
                with self.subTest(f"{mark.check} {mend.words}"):
                    self.page.evaluate(
                        "([number, at]) => { const { proof } = mobbetRoom; proof.marks = marksOfTheText; proof.underline(); proof.mend(number, at); }",
                        [number, at],
                    )
                    found = self.document()
                    self.page.keyboard.press("Control+z")
                    self.assertEqual(schema.check(found), mended_everywhere(reading.document, mark, mend))
                    kinds.add(mend.operation["do"])
                    self.assertEqual(schema.check(self.document()), reading.document)
        self.assertGreaterEqual(
            kinds, {"replace", "replace-each", "link", "paid", "heading", "set", "remove", "top-row"}
        )

    def document(self) -> dict:
        return self.page.evaluate("() => document.querySelector('.ProseMirror').editor.getJSON()")

    def post_text(self, markdown: str) -> None:
        shop = self.server.workshop
        blog = blog_store.by_slug(shop.db, "mending-bench")
        me = people_store.by_email(shop.db, ACCOUNT[0])
        post = posts.begin_post(shop, me, blog.slug)
        posts.save_text(
            shop, me, post.id, base=post.revision, title="Faulty", subtitle="", body=from_markdown(markdown)
        )
        self.open(f"/posts/{post.id}")
        self.page.wait_for_selector(".ProseMirror")
