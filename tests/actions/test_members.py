import sqlite3

from mobbet.actions import docket_lines, members, placing, record
from mobbet.actions.access import editable_post, readable_post, role_of, title_for
from mobbet.core.errors import BadInput, NotAllowed, NotFound, Refused
from mobbet.core.rights import ALWAYS, Role, house_rights
from mobbet.store import blogs, people, posts
from mobbet.store import desk as desk_store
from tests.actions.teams import TeamCase


class RoleTests(TeamCase):
    def test_only_the_owner_changes_roles(self) -> None:
        members.set_role(self.shop, self.me, "bench", self.writer.id, "editor")
        self.assertEqual(role_of(self.shop, self.writer, self.blog), Role.EDITOR)
        for person in (self.editor, self.contributor):
            with self.assertRaisesRegex(NotAllowed, "Only the owner"):
                members.set_role(self.shop, person, "bench", person.id, "owner")
        with self.assertRaisesRegex(BadInput, "“reader” is no role"):
            members.set_role(self.shop, self.me, "bench", self.writer.id, "reader")

    def test_the_last_owner_stays_whatever_is_tried(self) -> None:
        for change in (
            lambda: members.set_role(self.shop, self.me, "bench", self.me.id, "writer"),
            lambda: members.suspend(self.shop, self.me, "bench", self.me.id, True),
            lambda: members.take_out(self.shop, self.me, "bench", self.me.id),
            lambda: members.leave(self.shop, self.me, "bench"),
        ):
            with self.assertRaisesRegex(Refused, "the only owner"):
                change()
        members.set_role(self.shop, self.me, "bench", self.editor.id, "owner")
        members.suspend(
            self.shop, self.me, "bench", self.editor.id, True
        )  # one who is suspended keeps no blog
        with self.assertRaisesRegex(Refused, "the only owner"):
            members.leave(self.shop, self.me, "bench")

    def test_the_blog_is_handed_over_in_one_step(self) -> None:
        members.hand_over(self.shop, self.me, "bench", self.writer.id)
        self.assertEqual(role_of(self.shop, self.writer, self.blog), Role.OWNER)
        self.assertEqual(role_of(self.shop, self.me, self.blog), Role.EDITOR)
        with self.assertRaises(NotAllowed):
            members.hand_over(self.shop, self.me, "bench", self.me.id)

    def test_another_role_keeps_the_picture_of_a_person(self) -> None:
        with self.shop.db.transaction():
            self.shop.db.run("UPDATE membership SET joined_at = 7 WHERE person_id = ?", self.writer.id)
        members.set_role(self.shop, self.me, "bench", self.writer.id, "editor")
        self.assertEqual(
            self.shop.db.value("SELECT joined_at FROM membership WHERE person_id = ?", self.writer.id), 7
        )


class LeavingTests(TeamCase):
    def test_whoever_is_suspended_sees_nothing_until_they_are_let_in_again(self) -> None:
        post = self.draft(self.writer)
        members.suspend(self.shop, self.me, "bench", self.writer.id, True)
        with self.assertRaises(NotFound):
            editable_post(self.shop, self.writer, post.id)
        self.assertEqual(blogs.of_person(self.shop.db, self.writer.id), [])
        members.suspend(self.shop, self.me, "bench", self.writer.id, False)
        editable_post(self.shop, self.writer, post.id)

    def test_posts_go_to_a_colleague_but_not_what_is_for_the_author_alone(self) -> None:
        post, secret = self.draft(self.writer), self.draft(self.writer, "Mine", visibility="only-me")
        self.assertEqual(members.hand_posts(self.shop, self.me, "bench", self.writer.id, self.editor.id), 1)
        self.assertEqual(self.again(post).author_id, self.editor.id)
        self.assertEqual(self.again(secret).author_id, self.writer.id)
        with self.assertRaisesRegex(BadInput, "Nobody is chosen"):
            members.hand_posts(self.shop, self.me, "bench", self.writer.id, 0)

    def test_whoever_is_taken_out_leaves_their_posts_under_their_name(self) -> None:
        post = self.draft(self.writer)
        placing.place(self.shop, self.writer, post.id)
        members.take_out(self.shop, self.me, "bench", self.writer.id)
        self.assertIsNone(role_of(self.shop, self.writer, self.blog))
        self.assertEqual(self.again(post).author_id, self.writer.id)
        placing.place(self.shop, self.editor, post.id)  # an editor goes on with it

    def test_a_colleague_leaves_by_themself(self) -> None:
        members.leave(self.shop, self.contributor, "bench")
        self.assertIsNone(role_of(self.shop, self.contributor, self.blog))
        self.assertIn(("left", ""), self.recorded())


class SeeingTests(TeamCase):
    def test_a_contributor_sees_their_own_posts_alone(self) -> None:
        theirs, mine = self.draft(self.writer, "Zanzibar"), self.draft(self.contributor, "Own")
        with self.assertRaisesRegex(NotAllowed, "you see your own alone"):
            readable_post(self.shop, self.contributor, theirs.id)
        seen = self.shop.seen_by(self.contributor.id)
        self.assertEqual(
            [row.title for row in desk_store.in_hand(seen.db, self.blog.id, self.clock(), 50)], ["Own"]
        )
        self.assertEqual(title_for(seen, self.contributor, theirs.id), "A colleague’s post")
        placing.place(self.shop, self.writer, theirs.id)
        self.assertEqual(desk_store.published(seen.db, self.blog.id, self.clock(), 50), [])
        self.assertIsNone(posts.titled(seen.db, self.blog.id, "Zanzibar"))
        readable_post(self.shop, self.contributor, mine.id)

    def test_an_owner_lets_contributors_see_everything_and_writers_their_own(self) -> None:
        theirs = self.draft(self.editor, "Zanzibar")
        members.adjust(self.shop, self.me, "bench", "contributors-see", True)
        members.adjust(self.shop, self.me, "bench", "writers-see", True)
        readable_post(self.shop, self.contributor, theirs.id)
        with self.assertRaises(NotAllowed):
            readable_post(self.shop, self.writer, theirs.id)
        self.assertEqual(self.shop.seen_by(self.contributor.id).db.limited, frozenset())
        self.assertEqual(self.shop.seen_by(self.writer.id).db.limited, {self.blog.id})
        members.adjust(self.shop, self.me, "bench", "writers-see", False)
        readable_post(self.shop, self.writer, theirs.id)

    def test_a_writer_makes_nobody_else_the_author_of_a_post(self) -> None:
        post = self.draft(self.writer)
        with self.assertRaisesRegex(NotAllowed, "whose a post is"):
            docket_lines.set_author(self.shop, self.writer, post.id, str(self.me.id))
        docket_lines.set_author(self.shop, self.editor, post.id, str(self.me.id))
        self.assertEqual(self.again(post).author_id, self.me.id)


class RightsTests(TeamCase):
    def test_what_is_no_right_or_no_category_is_refused(self) -> None:
        with self.assertRaisesRegex(BadInput, "no right that can be changed"):
            members.adjust(self.shop, self.me, "bench", "writers-rule", True)
        for role in ("contributor", "owner", "nobody"):
            with self.assertRaisesRegex(BadInput, "not for this page to say"):
                members.set_asking(self.shop, self.me, "bench", role, ALWAYS, [])
        with self.assertRaisesRegex(BadInput, "No category is chosen"):
            members.set_asking(self.shop, self.me, "bench", "writer", "in", [99])

    def test_rights_are_kept_the_same_for_the_same_choices(self) -> None:
        for name in ("writers-file", "writers-see"):
            members.adjust(self.shop, self.me, "bench", name, True)
        members.set_asking(self.shop, self.me, "bench", "writer", ALWAYS, [])
        kept = blogs.by_slug(self.shop.db, "bench").rights
        self.assertEqual(house_rights(kept).written(), kept)
        self.assertTrue(house_rights(kept).asks_first("writer", ()))


class RecordTests(TeamCase):
    def test_the_record_is_never_changed_and_goes_only_when_it_is_old(self) -> None:
        members.set_role(self.shop, self.me, "bench", self.writer.id, "editor")
        for sql in ("UPDATE record SET actor = 'x'", "DELETE FROM record"):
            with self.assertRaises(sqlite3.IntegrityError), self.shop.db.transaction():
                self.shop.db.run(sql)
        self.assertEqual(record.forget_old(self.shop), 0)
        record.set_days(self.shop, self.me, "bench", "30")
        self.clock.forward(31 * 86400)
        members.set_role(self.shop, self.me, "bench", self.writer.id, "writer")
        self.assertGreater(record.forget_old(self.shop), 0)
        self.assertEqual([kind for kind, _ in self.recorded()], ["role"])

    def test_what_is_refused_leaves_no_row(self) -> None:
        before = self.recorded()
        with self.assertRaises(Refused):
            members.leave(self.shop, self.me, "bench")
        self.assertEqual(self.recorded(), before)

    def test_owners_read_it_by_part_and_by_person(self) -> None:
        members.set_role(self.shop, self.me, "bench", self.writer.id, "editor")
        placing.place(self.shop, self.editor, self.draft(self.editor).id)
        self.assertEqual(
            [row.kind for row in record.of_blog(self.shop, self.me, "bench", "people")[1]], ["role"]
        )
        found = record.of_blog(self.shop, self.me, "bench", actor=self.editor.id)[1]
        self.assertEqual([(row.kind, row.detail) for row in found], [("placed", "it is out")])
        with self.assertRaisesRegex(NotAllowed, "reads its record"):
            record.of_blog(self.shop, self.editor, "bench")

    def test_what_somebody_has_in_hand_is_counted(self) -> None:
        self.draft(self.writer)
        self.draft(self.writer, "Mine", visibility="only-me")
        placing.place(self.shop, self.writer, self.draft(self.writer, "Out").id)
        one = next(
            row for row in people.members(self.shop.db, self.blog.id, self.clock()) if row.role == "writer"
        )
        self.assertEqual((one.drafts, one.coming, one.out), (1, 0, 1))
