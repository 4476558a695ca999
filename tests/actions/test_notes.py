from mobbet.actions import notes, posts
from mobbet.actions.note_text import as_text
from mobbet.core.annotation import Passage, linear
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.errors import BadInput, NotAllowed, NotFound, Refused
from mobbet.store.notes import Note
from mobbet.store.people import Person
from mobbet.store.posts import Post
from tests.actions.teams import TeamCase

BODY = "Pull the plug out of the wall.\n\nWrite down where the two wires went."


class NoteCase(TeamCase):
    def setUp(self) -> None:
        super().setUp()
        self.post = self.draft(self.contributor, "Lamps", BODY)

    def text(self, post: Post) -> str:
        return linear(notes.text_of(posts.posts.working(self.shop.db, post.id)))

    def leave(self, person: Person, words: str, said: str = "Why?", proposal: str | None = None) -> Note:
        start = self.text(self.post).index(words)
        return notes.leave(
            self.shop,
            person,
            self.post.id,
            self.again(self.post).revision,
            start,
            start + len(words),
            said,
            proposal,
        )

    def save(self, body: str) -> None:
        posts.save_text(
            self.shop,
            self.contributor,
            self.post.id,
            base=self.again(self.post).revision,
            title="Lamps",
            subtitle="",
            body=from_markdown(body),
        )

    def on(self, note: Note) -> str:
        """The words that a note is on now; '' where they are gone."""
        row = next(
            one.note for one in notes.threads(self.shop, self.editor, self.post.id) if one.note.id == note.id
        )
        return "" if row.is_gone else self.text(self.post)[row.passage_start : row.passage_end]


class NoteTests(NoteCase):
    def test_a_note_follows_its_passage_with_every_save_and_goes_and_comes_back_with_it(self) -> None:
        note = self.leave(self.editor, "two wires")
        self.save(f"First a word.\n\n{BODY}")
        self.assertEqual(self.on(note), "two wires")
        self.save("First a word.")
        self.assertEqual(self.on(note), "")
        self.save(BODY)
        self.assertEqual(self.on(note), "two wires")

    def test_a_text_saved_over_another_keeps_its_notes(self) -> None:
        note = self.leave(self.editor, "two wires")
        posts.save_over(
            self.shop,
            self.contributor,
            self.post.id,
            over=self.again(self.post).revision,
            title="Lamps",
            subtitle="",
            body=from_markdown(f"More.\n\n{BODY}"),
        )
        self.assertEqual(self.on(note), "two wires")

    def test_a_note_on_a_text_that_was_saved_meanwhile_is_refused(self) -> None:
        before = self.again(self.post).revision
        self.save(f"{BODY}\n\nMore.")
        with self.assertRaisesRegex(Refused, "saved meanwhile"):
            notes.leave(self.shop, self.editor, self.post.id, before, 0, 3, "Why?")

    def test_an_empty_note_and_one_that_is_too_long_are_refused(self) -> None:
        for said in (" ", "x" * (notes.LONGEST + 1)):
            with self.assertRaises(BadInput):
                self.leave(self.editor, "wall", said)
        self.leave(self.editor, "wall", "", "wall socket")  # words put forward speak for themselves

    def test_words_are_proposed_for_a_passage_alone(self) -> None:
        with self.assertRaisesRegex(BadInput, "choose one first"):
            notes.leave(
                self.shop, self.editor, self.post.id, self.again(self.post).revision, 0, 0, "Better", "words"
            )

    def test_answers_stand_with_their_note_and_are_no_notes_themselves(self) -> None:
        note = self.leave(self.editor, "wall")
        answer = notes.answer(self.shop, self.contributor, self.post.id, note.id, "Because.")
        [thread] = notes.threads(self.shop, self.contributor, self.post.id)
        self.assertEqual([one.said for one in thread.answers], ["Because."])
        with self.assertRaises(NotFound):
            notes.answer(self.shop, self.editor, self.post.id, answer.id, "And?")

    def test_whoever_may_change_the_post_or_left_the_note_settles_it(self) -> None:
        note = self.leave(self.writer, "wall")
        notes.end(self.shop, self.writer, self.post.id, note.id, "settle")
        notes.end(self.shop, self.contributor, self.post.id, note.id, "reopen")
        other = self.leave(self.editor, "plug")
        with self.assertRaises(NotAllowed):
            notes.end(self.shop, self.writer, self.post.id, other.id, "settle")
        with self.assertRaisesRegex(Refused, "proposes no words"):
            notes.end(self.shop, self.contributor, self.post.id, other.id, "take")
        with self.assertRaisesRegex(BadInput, "nothing that is done"):
            notes.end(self.shop, self.editor, self.post.id, other.id, "burn")

    def test_one_removes_ones_own_note_and_no_other(self) -> None:
        note = self.leave(self.editor, "wall")
        with self.assertRaisesRegex(NotAllowed, "Somebody else"):
            notes.remove(self.shop, self.contributor, self.post.id, note.id)
        notes.remove(self.shop, self.editor, self.post.id, note.id)
        self.assertEqual(notes.threads(self.shop, self.editor, self.post.id), [])

    def test_a_note_of_another_post_is_not_reached_through_this_one(self) -> None:
        other = self.draft(self.writer, "Other", BODY)
        note = notes.leave(self.shop, self.writer, other.id, other.revision, 0, 5, "Mine")
        with self.assertRaises(NotFound):
            notes.end(self.shop, self.contributor, self.post.id, note.id, "settle")
        with self.assertRaises(NotAllowed):
            notes.threads(self.shop, self.contributor, other.id)

    def test_notes_are_told_as_text(self) -> None:
        note = self.leave(self.editor, "two wires", "Which?", "live and neutral")
        notes.answer(self.shop, self.contributor, self.post.id, note.id, "Right.")
        words = as_text("Lamps", notes.threads(self.shop, self.editor, self.post.id), lambda _: "today")
        self.assertEqual(
            words,
            "Notes on “Lamps”\n\nEditor, today, on “two wires” (open)\n    Better: live and neutral\n    Which?\n  Contributor, today:\n    Right.\n",
        )


class FoundTests(NoteCase):
    def test_words_that_a_page_shows_are_found_in_whatever_white_space(self) -> None:
        text = self.text(self.post)
        found = notes.found_in(text, Passage(0, 0, "of  the\nwall.\n\n Write down", "", ""))
        self.assertEqual(text[found.start : found.end], "of the wall.\nWrite down")

    def test_words_that_stand_twice_are_told_by_what_is_beside_them_or_refused(self) -> None:
        text = "the switch on the left\nthe switch on the right"
        found = notes.found_in(text, Passage(0, 0, "the switch", "left ", " on the right"))
        self.assertEqual(found.start, text.rindex("the switch"))
        with self.assertRaisesRegex(BadInput, "choose a few more words"):
            notes.found_in(text, Passage(0, 0, "the switch", "", ""))

    def test_letters_outside_of_the_basic_plane_count_as_one(self) -> None:
        text = "🔧🔧 mend it 🔧 well"
        found = notes.found_in(text, Passage(0, 0, "mend it 🔧", "", ""))
        self.assertEqual(text[found.start : found.end], "mend it 🔧")
