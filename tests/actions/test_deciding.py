from mobbet.actions import (
    approvals,
    assigning,
    attention,
    deciding,
    docket_lines,
    kept_blocks,
    members,
    placing,
    posts,
    undoing,
)
from mobbet.actions.categories import make_category
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.errors import BadInput, NotAllowed, Refused
from mobbet.core.rights import ALWAYS
from mobbet.store import filing
from mobbet.store.people import Person
from mobbet.store.posts import Post
from tests.actions.teams import SERVER, TeamCase


class DecisionCase(TeamCase):
    def edit(self, person: Person, post: Post, body: str, title: str = "A draft") -> None:
        posts.save_text(
            self.shop,
            person,
            post.id,
            base=self.again(post).revision,
            title=title,
            subtitle="",
            body=from_markdown(body),
        )

    def yes(self, post: Post, outlasts: str = "", person: Person | None = None) -> None:
        deciding.say_yes(self.shop, person or self.editor, post.id, self.again(post).revision, outlasts)

    def refused(self, person: Person, post: Post, words: str) -> None:
        with self.assertRaisesRegex(NotAllowed, words):
            placing.place(self.shop, person, post.id)


class WordTests(DecisionCase):
    def test_a_contributor_puts_a_post_out_after_a_yes_and_not_before(self) -> None:
        post = self.draft(self.contributor)
        self.refused(self.contributor, post, "an editor says when it goes out")
        deciding.ask(self.shop, self.contributor, post.id, self.editor.id, "Is it all right?", SERVER)
        self.refused(self.contributor, post, "Editor has not said yet")
        self.assertEqual([to for to, _ in self.letters()], ["editor@bench.example"])
        self.assertIn(f"{SERVER}/posts/{post.id}", self.letters()[0][1])
        self.yes(post)
        placing.place(self.shop, self.contributor, post.id)
        self.assertEqual([kind for kind, _ in self.recorded()], ["asked", "yes", "placed"])

    def test_a_change_after_the_yes_asks_again_as_far_as_the_editor_chose(self) -> None:
        for outlasts, small, large in (("", False, False), ("small", True, False), ("anything", True, True)):
            with self.subTest(outlasts):
                post = self.draft(self.contributor, body="Some words that stay.")
                self.yes(post, outlasts)
                self.edit(self.contributor, post, "Some words that go.")
                self.assertEqual(approvals.standing(self.shop, self.blog, self.again(post)).holds, small)
                self.edit(self.contributor, post, "All else.\n\nAnd more.")
                self.assertEqual(approvals.standing(self.shop, self.blog, self.again(post)).holds, large)
                if not large:
                    self.refused(self.contributor, post, "It changed since")

    def test_other_readers_and_another_category_ask_again_whatever_the_yes_outlasts(self) -> None:
        post = self.draft(self.contributor, visibility="signed-in")
        self.yes(post, "anything")
        docket_lines.set_visibility(self.shop, self.contributor, post.id, "everyone")
        self.refused(self.contributor, post, "It changed since")
        docket_lines.set_visibility(self.shop, self.contributor, post.id, "signed-in")
        number = make_category(self.shop, self.blog, "Safety")
        docket_lines.set_categories(self.shop, self.contributor, post.id, str(number), [])
        self.refused(self.contributor, post, "It changed since")

    def test_the_yes_is_for_the_text_that_was_looked_at(self) -> None:
        post = self.draft(self.contributor)
        seen = self.again(post).revision
        self.edit(self.contributor, post, "Something else.")
        with self.assertRaisesRegex(Refused, "changed while you looked"):
            deciding.say_yes(self.shop, self.editor, post.id, seen)

    def test_the_revision_that_was_decided_about_stays(self) -> None:
        post = self.draft(self.contributor)
        self.yes(post, "small")
        for number in range(5):
            self.edit(self.contributor, post, f"Some words, {number}.")
        self.assertTrue(approvals.standing(self.shop, self.blog, self.again(post)).holds)

    def test_nobody_says_yes_to_their_own_and_no_writer_to_anything(self) -> None:
        mine, theirs = self.draft(self.editor), self.draft(self.contributor)
        with self.assertRaisesRegex(NotAllowed, "nobody says it of their own"):
            self.yes(mine)
        for person in (self.writer, self.contributor):
            with self.assertRaises(NotAllowed):
                deciding.say_yes(self.shop, person, theirs.id, theirs.revision)
            with self.assertRaises(NotAllowed):
                deciding.send_back(self.shop, person, theirs.id, "No.")

    def test_it_is_sent_back_with_a_word_and_never_without(self) -> None:
        post = self.draft(self.contributor)
        with self.assertRaisesRegex(BadInput, "No word goes with it"):
            deciding.send_back(self.shop, self.editor, post.id, "  ")
        deciding.send_back(self.shop, self.editor, post.id, "Say where the tap is.", SERVER)
        self.refused(self.contributor, post, "It was sent back")
        self.assertIn("Say where the tap is.", self.letters()[-1][1])
        self.assertEqual(attention.wants(self.shop, self.contributor, self.blog)[0].what, "back")

    def test_an_editor_who_publishes_it_needs_no_word(self) -> None:
        placing.place(self.shop, self.editor, self.draft(self.contributor).id)

    def test_a_post_for_its_author_alone_needs_no_word(self) -> None:
        placing.place(self.shop, self.contributor, self.draft(self.contributor, visibility="only-me").id)


class RuleTests(DecisionCase):
    def test_writers_ask_in_some_categories_and_what_is_below_them(self) -> None:
        number = make_category(self.shop, self.blog, "Safety")
        below = make_category(self.shop, self.blog, "Safety > Mains")
        members.set_asking(self.shop, self.me, "bench", "writer", "in", [number])
        free, bound = self.draft(self.writer, "Free"), self.draft(self.writer, "Bound")
        placing.place(self.shop, self.writer, free.id)
        docket_lines.set_categories(self.shop, self.writer, bound.id, str(below), [])
        self.refused(self.writer, bound, "an editor says when")
        self.assertIn(below, filing.subjects(self.shop.db, self.blog.id))

    def test_an_editor_asks_another_one_where_the_blog_has_it_so(self) -> None:
        members.set_asking(self.shop, self.me, "bench", "editor", ALWAYS, [])
        post = self.draft(self.editor)
        self.refused(self.editor, post, "an editor says when")
        self.yes(post, person=self.me)
        placing.place(self.shop, self.editor, post.id)
        placing.place(self.shop, self.me, self.draft(self.me).id)  # an owner asks nobody

    def test_nothing_goes_past_the_word_by_way_of_what_a_post_shows(self) -> None:
        kept = kept_blocks.keep_blocks(
            self.shop, self.contributor, "bench", "Notice", from_markdown("Pull the plug.")["content"]
        )
        post = self.draft(self.contributor)
        document = {"type": "doc", "content": [{"type": "standing", "attrs": {"copy": kept.id}}]}
        posts.save_text(
            self.shop,
            self.contributor,
            post.id,
            base=post.revision,
            title="A draft",
            subtitle="",
            body=document,
        )
        kept_blocks.change_kept(
            self.shop, self.contributor, "bench", kept.id, "Notice", from_markdown("Pull it.")
        )
        placing.place(self.shop, self.editor, post.id)
        with self.assertRaisesRegex(NotAllowed, "do not put out yourself"):
            kept_blocks.change_kept(
                self.shop, self.contributor, "bench", kept.id, "Notice", from_markdown("Leave it in.")
            )


class UndoTests(DecisionCase):
    def test_what_an_editor_withdrew_comes_back_by_no_undo_of_the_author(self) -> None:
        post = self.draft(self.contributor)
        placing.place(self.shop, self.editor, post.id)

        def withdraw() -> str:
            placing.withdraw(self.shop, self.editor, post.id)
            return "withdrawn"

        _, number = undoing.record(self.shop, self.editor, self.blog, [post.id], [], withdraw)
        with self.assertRaises(NotAllowed):
            undoing.undo(self.shop, self.contributor, "bench", number)
        undoing.undo(self.shop, self.editor, "bench", number)

    def test_what_an_editor_updated_goes_back_by_the_editor_alone(self) -> None:
        post = self.draft(self.contributor)
        placing.place(self.shop, self.editor, post.id)
        self.clock.forward(60)
        self.edit(self.editor, post, "Other words.")
        placing.place(self.shop, self.editor, post.id)
        with self.assertRaises(NotAllowed):
            placing.undo_update(self.shop, self.contributor, post.id)
        placing.undo_update(self.shop, self.editor, post.id)


class DeskTests(DecisionCase):
    def wants(self, person: Person) -> list[tuple[str, str, str]]:
        seen = self.shop.seen_by(person.id)
        return [(one.what, one.title, one.who) for one in attention.wants(seen, person, self.blog)]

    def test_the_desk_says_whose_word_is_waited_for(self) -> None:
        post = self.draft(self.contributor)
        deciding.ask(self.shop, self.contributor, post.id)
        self.assertEqual(self.wants(self.contributor), [("waiting", "A draft", "")])
        self.assertEqual(self.wants(self.editor), [("word", "A draft", "Contributor")])
        self.assertEqual(self.wants(self.writer), [])
        deciding.take_back(self.shop, self.contributor, post.id)
        self.assertEqual((self.wants(self.contributor), self.wants(self.editor)), ([], []))

    def test_one_who_was_asked_alone_has_it_on_their_desk_alone(self) -> None:
        post = self.draft(self.contributor)
        deciding.ask(self.shop, self.contributor, post.id, self.me.id)
        self.assertEqual([one[0] for one in self.wants(self.me)], ["word"])
        self.assertEqual(self.wants(self.editor), [])
        with self.assertRaisesRegex(BadInput, "choose one of the list"):
            deciding.ask(self.shop, self.contributor, post.id, self.writer.id)

    def test_what_one_was_given_stands_first_with_its_day(self) -> None:
        attention.note_idea(self.shop, self.editor, "bench", "Kettles")
        assigning.give_idea(
            self.shop, self.editor, "bench", 1, str(self.contributor.id), "2026-12-06", SERVER
        )
        [want] = attention.wants(self.shop.seen_by(self.contributor.id), self.contributor, self.blog)
        self.assertEqual(
            (want.what, want.title, want.day, want.who), ("given", "Kettles", "2026-12-06", "Editor")
        )
        self.assertIn("by Sun 6 Dec", self.letters()[-1][1])

    def test_a_day_that_is_none_gives_nothing_away(self) -> None:
        post = self.draft(self.editor)
        with self.assertRaisesRegex(BadInput, "is no day"):
            assigning.give(self.shop, self.editor, post.id, str(self.writer.id), "soon")
        self.assertEqual(self.again(post).author_id, self.editor.id)
        with self.assertRaises(NotAllowed):
            assigning.give(
                self.shop, self.writer, self.draft(self.writer).id, str(self.editor.id), "2026-12-06"
            )
