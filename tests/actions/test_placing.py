"""Going out: the queue, updates for later, what an address does after coming down, and editions put back."""

from __future__ import annotations

from mobbet.actions import (
    addresses,
    docket_lines,
    editions,
    footprints,
    library,
    placing,
    post_states,
    posts,
    preview_readers,
    readers,
    slots,
    whereabouts,
)
from mobbet.core.errors import BadInput, NotFound, Refused
from mobbet.core.timing import wall
from mobbet.store import editions as store
from mobbet.store import placements
from mobbet.store import posts as post_store
from mobbet.store.holds import Hold
from mobbet.store.posts import Post
from tests.shops import DAY, NOW, ShopCase, picture


class QueueTests(ShopCase):
    """The clock stands on Wednesday, 18 November; slots are on Tuesdays at nine."""

    def setUp(self) -> None:
        super().setUp()
        slots.add_slot(self.shop, self.me, self.blog, "FREQ=WEEKLY;BYDAY=TU")

    def queued(self, *titles: str) -> list[Post]:
        made = [self.write(title) for title in titles]
        for post in made:
            slots.put_in_queue(self.shop, self.me, post.id)
        return made

    def turns(self, weeks: int = 5) -> list[tuple[str, str]]:
        return [
            (turn.wall[5:10], turn.title)
            for turn in slots.turns(self.shop, self.blog, NOW, NOW + weeks * 7 * DAY)
        ]

    def test_finished_posts_fill_the_slots_in_order(self) -> None:
        self.queued("One", "Two")
        self.assertEqual(self.turns(3), [("11-24", "One"), ("12-01", "Two"), ("12-08", "")])

    def test_a_post_waits_for_its_turn_on_its_docket_until_it_is_placed(self) -> None:
        post = self.write("Later")
        slots.wait_for_turn(self.shop, self.me, post.id)
        self.assertEqual(self.turns(1), [("11-24", "")])
        self.queued("One")
        placing.place(self.shop, self.me, post.id)
        self.assertEqual(self.turns(2), [("11-24", "One"), ("12-01", "Later")])
        self.assertEqual(self.again(post).waits_turn, 0)

    def test_a_time_of_its_own_ends_the_waiting_for_a_turn(self) -> None:
        post = self.write("Later")
        slots.wait_for_turn(self.shop, self.me, post.id)
        docket_lines.set_time(self.shop, self.me, post.id, "goes_out_wall", "2026-11-30 10:00")
        self.assertEqual(self.again(post).waits_turn, 0)

    def test_moving_one_up_moves_the_rest(self) -> None:
        _, _, three = self.queued("One", "Two", "Three")
        slots.move_in_queue(self.shop, self.me, self.blog, three.id, -1000)
        self.assertEqual(self.turns(3), [("11-24", "Three"), ("12-01", "One"), ("12-08", "Two")])

    def test_a_post_with_a_time_of_its_own_keeps_it(self) -> None:
        self.queued("One", "Two")
        self.write("Fixed", date="2026-11-24 09:00")
        self.assertEqual(self.turns(3), [("11-24", "Fixed"), ("12-01", "One"), ("12-08", "Two")])
        placing.withdraw(self.shop, self.me, post_store.titled(self.shop.db, self.blog.id, "Fixed"))
        self.assertEqual(self.turns(2), [("11-24", "One"), ("12-01", "Two")])

    def test_days_left_out_and_slots_removed_move_the_queue_on(self) -> None:
        self.queued("One", "Two")
        first = slots.add_slot(self.shop, self.me, self.blog, "FREQ=WEEKLY;BYDAY=FR", "10:00")
        self.assertEqual(self.turns(2), [("11-20", "One"), ("11-24", "Two"), ("11-27", ""), ("12-01", "")])
        slots.leave_out(self.shop, self.me, self.blog, first.id, "2026-11-20")
        self.assertEqual(self.turns(2), [("11-24", "One"), ("11-27", "Two"), ("12-01", "")])
        slots.remove_slot(self.shop, self.me, self.blog, first.id)
        self.assertEqual(self.turns(2), [("11-24", "One"), ("12-01", "Two")])

    def test_what_went_out_leaves_the_queue_and_the_others_keep_their_turn(self) -> None:
        _, two = self.queued("One", "Two")
        self.clock.forward(7 * DAY)
        slots.fill_ahead(self.shop, self.blog)
        self.assertEqual(placements.of_post(self.shop.db, two.id)[-1].goes_out_wall, "2026-12-01T09:00")

    def test_the_text_that_was_placed_goes_out_although_the_sheet_went_on(self) -> None:
        one, two = self.queued("One", "Two")
        posts.save_text(
            self.shop,
            self.me,
            two.id,
            base=two.revision,
            title="Two, unfinished",
            subtitle="",
            body={"type": "doc", "content": [{"type": "paragraph"}]},
        )
        slots.move_in_queue(self.shop, self.me, self.blog, two.id, -1)
        self.assertEqual(self.turns(2), [("11-24", "Two"), ("12-01", "One")])

    def test_the_next_free_slot_is_the_first_that_nobody_has(self) -> None:
        self.queued("One")
        post = self.write("Mine")
        slots.take_next_free(self.shop, self.me, post.id)
        self.assertEqual(self.again(post).goes_out_wall, "2026-12-01T09:00")

    def test_leaving_the_queue_keeps_the_time(self) -> None:
        one, _ = self.queued("One", "Two")
        slots.take_from_queue(self.shop, self.me, one.id)
        self.assertEqual(self.turns(2), [("11-24", "One"), ("12-01", "Two")])

    def test_without_slots_it_says_so(self) -> None:
        slots.remove_slot(self.shop, self.me, self.blog, 1)
        with self.assertRaisesRegex(Refused, "no free slot"):
            slots.put_in_queue(self.shop, self.me, self.write("One").id)


class UpdateForLaterTests(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.post_ = self.write("A lamp", "Old words.", date="2026-11-10", slug="lamp")
        self.publish()

    def change(self, words: str, at: str = "") -> placing.Placed:
        post = self.again(self.post_)
        body = {
            "type": "doc",
            "content": [{"type": "paragraph", "content": [{"type": "text", "text": words}]}],
        }
        posts.save_text(
            self.shop, self.me, post.id, base=post.revision, title="A lamp", subtitle="", body=body
        )
        docket_lines.set_update_time(self.shop, self.me, post.id, at)
        placed = placing.place(self.shop, self.me, post.id)
        self.publish()
        return placed

    def page(self, instant: int) -> str:
        return self.site(instant)["/posts/lamp/"].decode()

    def test_the_old_text_stays_out_until_then(self) -> None:
        placed = self.change("New words.", wall(NOW + DAY, "Europe/Lisbon"))
        self.assertEqual((placed.state, placed.waits_until), ("out", NOW // 60 * 60 + DAY + NOW % 60))
        self.assertIn("Old words.", self.page(NOW + DAY - 1))
        self.assertIn("New words.", self.page(NOW + DAY))

    def test_it_can_be_taken_back_or_replaced(self) -> None:
        self.change("New words.", "2026-11-20 09:00")
        placing.take_update_back(self.shop, self.me, self.post_.id)
        self.assertIn("Old words.", self.page(NOW + 30 * DAY))
        self.change("Newer words.", "2026-11-21 09:00")
        self.change("Newest words.", "2026-11-22 09:00")
        self.assertIn("Old words.", self.page(NOW + 3 * DAY))
        self.assertIn("Newest words.", self.page(NOW + 5 * DAY))
        self.change("At once.")
        self.assertIn("At once.", self.page(NOW))
        self.assertIn("At once.", self.page(NOW + 30 * DAY))

    def test_withdrawing_takes_the_update_along(self) -> None:
        self.change("New words.", "2026-11-20 09:00")
        placing.withdraw(self.shop, self.me, self.post_.id)
        self.assertNotIn("/posts/lamp/", self.site(NOW + 30 * DAY))

    def test_a_time_that_has_passed_is_refused(self) -> None:
        with self.assertRaisesRegex(BadInput, "That time has passed"):
            docket_lines.set_update_time(self.shop, self.me, self.post_.id, "2026-11-01 09:00")

    def test_an_update_is_undone_with_the_facts(self) -> None:
        self.change("New words.")
        placing.undo_update(self.shop, self.me, self.post_.id)
        self.publish()
        self.assertIn("Old words.", self.page(NOW))
        with self.assertRaisesRegex(Refused, "was not updated"):
            placing.undo_update(self.shop, self.me, self.write("Another", date="2026-11-11").id)


class CameDownTests(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.heir = self.write("The next night", date="2026-11-10", slug="next-night")
        self.evening = self.write("An evening", date="2026-11-10", slug="evening", expires="2026-11-19 21:00")

    def answer(self) -> tuple[str, str]:
        self.publish()
        found = addresses.resolve(self.shop, self.blog, "/posts/evening/")
        return found.kind, found.path

    def test_it_is_gone_or_leads_to_another_post_by_choice(self) -> None:
        docket_lines.set_leads_to(self.shop, self.me, self.evening.id, "the next night")
        placing.place(self.shop, self.me, self.evening.id)
        self.assertEqual(self.answer()[0], "page")
        self.clock.forward(2 * DAY)
        self.assertEqual(self.answer(), ("leads-on", "/posts/next-night/"))
        self.assertIn(
            b"/posts/next-night/",
            self.site()["/posts/evening/"].replace(b"../next-night/", b"/posts/next-night/"),
        )
        placing.withdraw(self.shop, self.me, self.heir.id)
        self.assertEqual(self.answer()[0], "gone")

    def test_it_leads_by_way_of_others_that_came_down_in_one_step(self) -> None:
        last = self.write("The last night", date="2026-11-10", slug="last-night")
        between = self.write("Between", date="2026-11-10", expires="2026-11-19 22:00")
        for one, other in ((self.evening, "Between"), (between, "/posts/last-night/")):
            docket_lines.set_leads_to(self.shop, self.me, one.id, other)
            placing.place(self.shop, self.me, one.id)
        self.clock.forward(2 * DAY)
        self.assertEqual(self.answer(), ("leads-on", "/posts/last-night/"))
        self.assertEqual(last.title, "The last night")

    def test_small_editions_equal_the_whole_site(self) -> None:
        docket_lines.set_leads_to(self.shop, self.me, self.evening.id, "The next night")
        placing.place(self.shop, self.me, self.evening.id)
        self.publish()
        self.clock.forward(2 * DAY)
        self.publish()
        docket_lines.set_slug(self.shop, self.me, self.heir.id, "coming-night")
        placing.place(self.shop, self.me, self.heir.id)
        self.publish()
        kept = {
            row.path: self.without_server(row)
            for row in store.pages(self.shop.db, self.blog.id)
            if row.shelf == "pages" and not row.key.startswith("card/")
        }
        self.assertEqual({path: body for path, body in self.site().items() if path in kept}, kept)

    def test_a_post_that_is_not_there_is_refused(self) -> None:
        for typed in ("No such title", "/no/such/", "An evening"):
            with (
                self.subTest(typed),
                self.assertRaisesRegex(BadInput, "No other post has the address or title"),
            ):
                docket_lines.set_leads_to(self.shop, self.me, self.evening.id, typed)


ZULKOVA = "zulkova"


class EditionTests(ShopCase):
    publishes = False

    def test_an_edition_is_put_back_and_the_next_publication_shows_the_facts_again(self) -> None:
        self.write("One", date="2026-11-10")
        self.publish()
        before = self.rows()
        self.write("Two", date="2026-11-11")
        self.publish()
        after = self.rows()
        put_back = editions.put_back(self.shop, self.me, self.blog, 1)
        self.assertEqual((put_back.edition, self.rows()), (3, before))
        self.assertEqual(
            editions.held(self.shop, self.me, self.blog), editions.Held(Hold(1, "asks", self.clock()), [])
        )
        self.publish()
        self.assertEqual(self.rows(), before)
        editions.go_on(self.shop, self.me, self.blog)
        self.assertEqual(self.publish().edition, 4)
        self.assertEqual((self.rows(), editions.held(self.shop, self.me, self.blog)), (after, None))
        with self.assertRaisesRegex(Refused, "goes on already"):
            editions.go_on(self.shop, self.me, self.blog)
        with self.assertRaisesRegex(NotFound, "There is no edition 9; there are 1 to 4"):
            editions.put_back(self.shop, self.me, self.blog, 9)
        with self.assertRaisesRegex(BadInput, "“soon” is no choice"):
            editions.put_back(self.shop, self.me, self.blog, 1, "soon")

    def rows(self) -> dict[str, str]:
        return {row.path: row.hash for row in store.pages(self.shop.db, self.blog.id)}

    def test_what_was_restricted_since_does_not_come_back_with_an_edition(self) -> None:
        group, mine, behind, aside, hidden = self.zulkovas()
        self.write("Between", date="2026-11-07")
        plain = self.write("Plain", date="2026-11-09")
        self.publish()
        readers.make_group(self.shop, self.me, self.blog, "Friends")
        docket_lines.set_visibility(self.shop, self.me, group.id, "group:Friends")
        docket_lines.set_visibility(self.shop, self.me, mine.id, "only-me")
        docket_lines.set_post_password(self.shop, self.me, behind.id, "a long word", "")
        for post in (group, mine, behind):
            placing.place(self.shop, self.me, post.id)
        for post in (aside, hidden, plain):
            placing.withdraw(self.shop, self.me, post.id)
        placing.set_aside(self.shop, self.me, aside.id)
        docket_lines.set_visibility(self.shop, self.me, hidden.id, "only-me")
        self.publish()
        coming = editions.coming_back(self.shop, self.me, self.blog, 1)
        editions.put_back(self.shop, self.me, self.blog, 1)
        readable = self.read_by_strangers()
        self.assertEqual([path for path, body in readable.items() if ZULKOVA in (path + body).casefold()], [])
        self.assertIn("/posts/plain/", readable)
        self.assertEqual(len(coming.titles), 5)

    def test_a_post_behind_a_password_that_nobody_changed_keeps_no_list_back(self) -> None:
        behind = self.write("Behind", date="2026-11-09")
        docket_lines.set_post_password(self.shop, self.me, behind.id, "a long word", "title")
        placing.place(self.shop, self.me, behind.id)
        self.publish()
        before = self.rows()
        self.write("Two", date="2026-11-10")
        self.publish()
        editions.put_back(self.shop, self.me, self.blog, 1)
        self.assertEqual(self.rows(), before)

    def test_a_picture_comes_back_for_those_who_may_see_the_post_now(self) -> None:
        media = library.add_picture(self.shop, self.me, self.blog, "lamp.png", picture())
        post = self.write("Lamp", f"![A lamp](media:{media.id})", date="2026-11-10")
        self.publish()
        docket_lines.set_visibility(self.shop, self.me, post.id, "only-me")
        placing.place(self.shop, self.me, post.id)
        self.publish()
        editions.put_back(self.shop, self.me, self.blog, 1)
        self.assertEqual([path for path in self.read_by_strangers() if path.startswith("/media/")], [])

    def zulkovas(self) -> list[Post]:
        """Posts with a word that no other page has, in another script also, which link to one another by their lists."""
        return [
            self.write(
                f"Zulkova čaj {number}", "A zulkova.", date=f"2026-11-{number:02}", tags="t", categories="C"
            )
            for number in range(1, 6)
        ]

    def read_by_strangers(self) -> dict[str, str]:
        """{path: text} of every page and file that the current edition has for everyone."""
        rows = (row for row in store.pages(self.shop.db, self.blog.id) if row.audience == "everyone")
        return {
            row.path: (row.leads_to or "") + (self.body(row) or b"").decode(errors="replace") for row in rows
        }

    def test_two_editions_are_compared(self) -> None:
        self.publish()
        self.write("One", date="2026-11-10")
        self.publish()
        found = {(one.what, one.path) for one in editions.compared(self.shop, self.blog, 1, 2)}
        self.assertTrue({("added", "/posts/one/"), ("altered", "/")} <= found)
        self.assertEqual(
            {(one.what, one.path) for one in editions.compared(self.shop, self.blog, 2, 1)}
            & {("removed", "/posts/one/"), ("altered", "/")},
            {("removed", "/posts/one/"), ("altered", "/")},
        )

    def test_each_edition_says_why_and_by_whom(self) -> None:
        self.publish()
        self.write("Soon", date="2026-11-19 09:00")
        self.clock.forward(2 * DAY)
        from mobbet.web.shell.scheduler import Scheduler

        Scheduler(self.shop, lambda: float(self.clock())).publish_due()
        told = editions.listed(self.shop, self.blog, 1)[0]
        self.assertEqual(
            (told.edition.why, told.by, told.edition.made_at - told.edition.instant > DAY),
            ("“Soon” goes out; Ines Farrow: “Soon” is placed", "", True),
        )


class EffectTests(ShopCase):
    def test_the_footprint_of_a_post_for_later_is_that_of_its_moment(self) -> None:
        for number in range(10):
            self.write(f"Post {number}", date=f"2026-11-{number + 1:02}")
        self.publish()
        self.write("Another that goes out before", date="2026-11-19 09:00", categories="Zips")
        self.publish()
        later = self.write("Later", categories="Lamps")
        docket_lines.set_time(self.shop, self.me, later.id, "goes_out_wall", "2026-11-20 09:00")
        effect = footprints.effect_of_placing(self.shop, self.me, self.blog, later.id)
        paths = {(one.what, one.path) for one in effect.pages}
        self.assertTrue({("added", "/lamps/later/"), ("added", "/lamps/"), ("altered", "/")} <= paths)
        self.assertNotIn("/zips/", {path for _, path in paths})
        self.assertEqual((effect.heads["front"].place, effect.heads["front"].leaves), (1, "Post 1"))
        self.assertEqual(post_states.state_of(self.shop, later), "draft")

    def test_where_a_reader_finds_a_post_at_another_moment(self) -> None:
        post = self.write("Later", date="2026-11-20 09:00", visibility="group:Friends")
        friend = preview_readers.reader_for_operator(self.shop, self.blog, "group:friends")
        self.assertIn("It goes out on", whereabouts.whereabouts(self.shop, post, self.blog)[0].words)
        self.assertTrue(
            whereabouts.whereabouts(self.shop, post, self.blog, friend, NOW + 3 * DAY)[0].is_there
        )
        self.assertIn(
            "a stranger may not read it",
            whereabouts.whereabouts(self.shop, post, self.blog, instant=NOW + 3 * DAY)[0].words,
        )
        with self.assertRaisesRegex(BadInput, "“neighbours” is no reader"):
            preview_readers.reader_for_operator(self.shop, self.blog, "neighbours")
