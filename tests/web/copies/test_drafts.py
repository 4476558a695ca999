from mobbet.actions import notes
from tests.actions.teams import TeamCase
from tests.web.test_web import WebCase


class ColleaguesDraftTests(WebCase, TeamCase):
    def setUp(self) -> None:
        super().setUp()
        self.draft_of_mine = self.draft(self.me, "Lamps", "Pull the plug **out** of the wall.\n\nThen wait.")
        self.room = f"/posts/{self.draft_of_mine.id}"
        self.as_(self.writer)

    def test_whoever_may_not_change_a_post_is_led_to_its_page(self) -> None:
        answer = self.get(self.room)
        self.assertEqual(answer.headers["location"], f"{self.room}/read")
        page = self.get(self.get(f"{self.room}/read").headers["location"])
        self.assertIn("Pull the plug <strong>out</strong>", page.text)
        self.assertIn("By Ines", page.text)
        self.assertIn("no-store", page.headers["cache-control"])

    def test_notes_and_proposals_are_left_there_and_colleagues_notes_are_answered(self) -> None:
        theirs = notes.leave(
            self.shop, self.me, self.draft_of_mine.id, self.draft_of_mine.revision, 0, 0, "What do you say?"
        )
        self.post(f"{self.room}/read/note", said="Which wall?", quote="the wall", proposal="its socket")
        self.post(f"{self.room}/read/note/{theirs.id}", said="It is good.")
        whole, on_words = notes.threads(self.shop, self.me, self.draft_of_mine.id)
        self.assertEqual([one.said for one in whole.answers], ["It is good."])
        self.assertEqual(
            (on_words.note.who, on_words.note.quote, on_words.note.proposal),
            ("Writer", "the wall", "its socket"),
        )

    def test_what_is_refused_keeps_what_was_typed(self) -> None:
        answer = self.post(f"{self.room}/read/note", said="Words & <more>", quote="not there")
        self.assertEqual(answer.status_code, 422)
        self.assertIn("Words &amp; &lt;more&gt;", answer.text)
        self.assertIn("is not to be found by itself", answer.text)

    def test_a_contributor_sees_no_draft_of_others(self) -> None:
        self.as_(self.contributor)
        for address in (self.room, f"{self.room}/read", f"{self.room}/read/site/lamps/"):
            with self.subTest(address):
                self.assertIn(self.get(address).status_code, (403, 404))
        self.assertIn(self.post(f"{self.room}/read/note", said="x").status_code, (403, 404))

    def test_a_post_for_its_author_alone_is_read_by_nobody_else(self) -> None:
        private = self.draft(self.me, "Diary", visibility="only-me")
        self.assertIn(self.get(f"/posts/{private.id}/read").status_code, (403, 404))
