from dataclasses import replace

from mobbet.actions import members, notes, placing, reading_copies
from mobbet.core.annotation import Passage
from mobbet.core.errors import BadInput, NotAllowed, NotFound, Refused, TooSoon
from mobbet.store.reading_copies import ReadingCopy
from tests.actions.teams import SERVER, TeamCase

ALL = Passage(0, 0, "", "", "")


class CopyCase(TeamCase):
    def setUp(self) -> None:
        super().setUp()
        self.post = self.draft(self.contributor, "Lamps", "Pull the plug first.")

    def token(self, copy: ReadingCopy) -> str:
        return reading_copies.address_of(self.shop, copy, SERVER).removeprefix(f"{SERVER}/copy/")

    def open(self, copy: ReadingCopy, word: str = "") -> reading_copies.Opened:
        token = self.token(copy)
        return reading_copies.opened(self.shop, token, reading_copies.enter(self.shop, token, word))


class LinkTests(CopyCase):
    def test_the_link_shows_the_draft_as_readers_will_get_it_and_nothing_else(self) -> None:
        found = self.open(reading_copies.make(self.shop, self.contributor, self.post.id))
        path = reading_copies.path_of(self.shop, found)
        page = reading_copies.shown(self.shop, found, path)
        self.assertTrue(page and page.is_page and b"Pull the plug first" in page.body)
        for other in ("/", "/feed.atom", "/media/" + "0" * 24 + "-x.jpg", path + "x"):
            self.assertIsNone(reading_copies.shown(self.shop, found, other))

    def test_it_shows_later_revisions_or_the_one_of_then(self) -> None:
        later = reading_copies.make(self.shop, self.contributor, self.post.id)
        this = reading_copies.make(self.shop, self.contributor, self.post.id, is_this_only=True)
        self.save("Leave the plug in.")
        for copy, words in ((later, b"Leave the plug in"), (this, b"Pull the plug first")):
            found = self.open(copy)
            page = reading_copies.shown(self.shop, found, reading_copies.path_of(self.shop, found))
            self.assertIn(words, page.body if page else b"")

    def save(self, words: str) -> None:
        from mobbet.actions import posts
        from mobbet.core.document.from_markdown import from_markdown

        post = self.again(self.post)
        posts.save_text(
            self.shop,
            self.contributor,
            post.id,
            base=post.revision,
            title="Lamps",
            subtitle="",
            body=from_markdown(words),
        )

    def test_it_is_over_after_its_day_when_closed_and_when_its_maker_may_no_more(self) -> None:
        def over(copy: ReadingCopy) -> None:
            with self.assertRaisesRegex(NotFound, "closed, or its time is over"):
                self.open(copy)

        first, second, third = (
            reading_copies.make(self.shop, self.contributor, self.post.id) for _ in range(3)
        )
        reading_copies.close(self.shop, self.contributor, self.post.id, first.id)
        over(first)
        members.suspend(self.shop, self.me, "bench", self.contributor.id, True)
        over(second)
        members.suspend(self.shop, self.me, "bench", self.contributor.id, False)
        self.open(second)
        placing.set_aside(self.shop, self.contributor, self.post.id)
        over(second)
        placing.restore(self.shop, self.contributor, self.post.id)
        self.clock.forward(reading_copies.USUAL_DAYS * 86400)
        over(third)

    def test_a_day_that_is_over_and_a_right_that_is_none_are_refused(self) -> None:
        for values in ({"until": "2001-01-01"}, {"until": "soon"}, {"lets": "write"}):
            with self.assertRaises(BadInput):
                reading_copies.make(self.shop, self.contributor, self.post.id, **values)
        with self.assertRaises(NotAllowed):
            reading_copies.make(self.shop, self.writer, self.post.id)

    def test_a_word_opens_it_and_wrong_ones_are_slowed_down(self) -> None:
        copy = reading_copies.make(self.shop, self.contributor, self.post.id, word="kettle")
        token = self.token(copy)
        locked = reading_copies.opened(self.shop, token, "")
        with self.assertRaises(NotAllowed):
            reading_copies.shown(self.shop, locked, reading_copies.path_of(self.shop, locked))
        shop = replace(self.shop, origin="10.1.2.3")
        with self.assertRaises(TooSoon):
            for _ in range(20):
                with self.assertRaisesRegex(BadInput, "not the word"):
                    reading_copies.enter(shop, token, "pan")
        self.clock.forward(3600)
        self.assertFalse(self.open(copy, "kettle").is_locked)

    def test_guesses_of_links_are_slowed_down(self) -> None:
        shop = replace(self.shop, origin="10.1.2.3")
        with self.assertRaises(TooSoon):
            for number in range(60):
                with self.assertRaises(NotFound):
                    reading_copies.opened(shop, f"guess{number}", "")

    def test_it_is_sent_to_each_address_once(self) -> None:
        copy = reading_copies.make(self.shop, self.contributor, self.post.id)
        sent = reading_copies.send(
            self.shop,
            self.contributor,
            self.post.id,
            copy.id,
            "a@x.example, B@x.example b@x.example",
            "Be kind.",
            SERVER,
        )
        self.assertEqual(sent, 2)
        self.assertTrue(all("Be kind." in text and self.token(copy) in text for _, text in self.letters()))
        for wrong in (
            "",
            "nobody",
            "a@x.example " * 60
            + " ".join(f"a{number}@x.example" for number in range(reading_copies.MOST_LETTERS + 1)),
        ):
            with self.assertRaises(BadInput):
                reading_copies.send(self.shop, self.contributor, self.post.id, copy.id, wrong, "", SERVER)


class FriendTests(CopyCase):
    def test_a_friend_gives_a_name_once_and_sees_their_own_notes_with_answers(self) -> None:
        found = self.open(reading_copies.make(self.shop, self.contributor, self.post.id, lets="propose"))
        with self.assertRaisesRegex(BadInput, "Your name is missing"):
            reading_copies.leave(self.shop, found, ALL, "Fine.", None)
        about = Passage(0, 0, "the plug", "Pull ", " first")
        note = reading_copies.leave(self.shop, found, about, "", "the plug of the lamp", "Hanne")
        notes.leave(
            self.shop, self.editor, self.post.id, self.again(self.post).revision, 0, 0, "Among ourselves."
        )
        notes.answer(self.shop, self.contributor, self.post.id, note.id, "Thank you.")
        found = self.again_opened(found)
        [thread] = reading_copies.threads(self.shop, found)
        self.assertEqual(
            (thread.note.who, thread.note.quote, thread.answers[0].said), ("Hanne", "the plug", "Thank you.")
        )
        reading_copies.answer(self.shop, found, note.id, "Not at all.")

    def again_opened(self, found: reading_copies.Opened) -> reading_copies.Opened:
        assert found.reader is not None
        reader = reading_copies.reading_copies.reader(self.shop.db, found.copy.id, found.reader.key_hash)
        return replace(found, reader=reader)

    def test_a_link_for_reading_takes_no_notes_and_one_for_notes_no_words(self) -> None:
        read, note = (
            self.open(reading_copies.make(self.shop, self.contributor, self.post.id, lets=lets))
            for lets in ("read", "note")
        )
        with self.assertRaisesRegex(NotAllowed, "for reading only"):
            reading_copies.leave(self.shop, read, ALL, "Fine.", None, "Hanne")
        with self.assertRaisesRegex(NotAllowed, "cannot be proposed"):
            reading_copies.leave(self.shop, note, Passage(0, 0, "plug", "", ""), "", "socket", "Hanne")

    def test_one_friend_does_not_answer_for_another(self) -> None:
        copy = reading_copies.make(self.shop, self.contributor, self.post.id)
        one, other = self.open(copy), self.open(copy)
        note = reading_copies.leave(self.shop, one, ALL, "Fine.", None, "Hanne")
        reading_copies.leave(self.shop, other, ALL, "Not so.", None, "Mo")
        with self.assertRaises(NotFound):
            reading_copies.answer(self.shop, self.again_opened(other), note.id, "Me too.")

    def test_how_far_somebody_read_never_goes_back(self) -> None:
        found = self.open(reading_copies.make(self.shop, self.contributor, self.post.id))
        for heading, share in (("Before", 40), ("After", 90), ("Before", 10)):
            reading_copies.note_progress(self.shop, found, heading, share)
        [(_, [reader])] = reading_copies.of_post(self.shop, self.contributor, self.post.id)
        self.assertEqual((reader.came_to, reader.share), ("After", 90))

    def test_notes_have_an_end(self) -> None:
        found = self.open(reading_copies.make(self.shop, self.contributor, self.post.id))
        reading_copies.leave(self.shop, found, ALL, "Fine.", None, "Hanne")
        found = self.again_opened(found)
        with self.assertRaisesRegex(Refused, "which is the most"):
            for _ in range(notes.MOST_OF_READER + 1):
                reading_copies.leave(self.shop, found, ALL, "Again.", None)
