from mobbet.actions import blogs, bulk_actions, library, placing, post_states, slots, undoing
from mobbet.actions import people as people_actions
from mobbet.actions.footprints import effect_of
from mobbet.core.document import outline, schema
from mobbet.core.errors import BadInput, NotAllowed, Refused
from mobbet.store import filing, media, people, placements, posts
from tests.shops import DAY, ShopCase, picture


class HandlingTests(ShopCase):
    def handle(self, name: str, *numbers: int, said: str = "") -> bulk_actions.Handled:
        done = bulk_actions.handle(self.shop, self.me, "bench", name, list(numbers), said)
        self.publish()
        return done

    def undo(self, done: bulk_actions.Handled) -> None:
        undoing.undo(self.shop, self.me, "bench", done.number)
        self.publish()

    def state(self, number: int) -> str:
        return post_states.state_of(self.shop, posts.by_id(self.shop.db, number))

    def test_what_is_out_is_withdrawn_and_comes_back_with_its_time(self) -> None:
        numbers = [self.write(title, date="2026-11-01").id for title in ("A lamp", "A fuse")]
        self.publish()
        before = self.site()
        effect = effect_of(
            self.shop,
            self.blog,
            lambda: bulk_actions.handle(self.shop, self.me, "bench", "withdraw", numbers),
        )
        self.assertIn("/posts/a-lamp/", [page.path for page in effect.pages if page.what == "removed"])
        self.assertEqual([self.state(number) for number in numbers], ["out", "out"])
        done = self.handle("withdraw", *numbers)
        self.assertEqual(
            (done.words, done.rows),
            ("2 posts are withdrawn", [("A lamp", "withdrawn"), ("A fuse", "withdrawn")]),
        )
        self.undo(done)
        self.assertEqual(self.site().keys(), before.keys())
        with self.assertRaisesRegex(Refused, "undone already"):
            self.undo(done)

    def test_all_are_changed_or_none(self) -> None:
        out, draft = self.write("A lamp", date="2026-11-01").id, self.write("A draft").id
        with self.assertRaisesRegex(
            BadInput, "“A draft”: This post is neither out nor in the timetable.*Nothing is changed"
        ):
            self.handle("withdraw", out, draft)
        self.assertEqual(self.state(out), "out")
        with self.assertRaisesRegex(BadInput, "0 posts are chosen"):
            self.handle("withdraw")

    def test_drafts_go_in_the_queue_in_the_order_given(self) -> None:
        slots.add_slot(self.shop, self.me, self.blog, "FREQ=WEEKLY;BYDAY=TU,TH")
        radio, lamp = self.write("A radio").id, self.write("A lamp").id
        done = self.handle("place", lamp, radio, said="queue")
        self.assertEqual(
            done.rows,
            [("A lamp", "goes out Thu 19 Nov at 09:00"), ("A radio", "goes out Tue 24 Nov at 09:00")],
        )
        self.undo(done)
        self.assertEqual([self.state(lamp), self.state(radio)], ["draft", "draft"])
        self.assertEqual(
            [
                turn.post_id
                for turn in slots.turns(self.shop, self.blog, self.clock(), self.clock() + 7 * DAY)
            ],
            [None, None],
        )

    def test_a_time_is_typed_for_all_and_a_wrong_one_is_told(self) -> None:
        lamp = self.write("A lamp").id
        with self.assertRaisesRegex(BadInput, "“someday” is no time"):
            self.handle("place", lamp, said="someday")
        self.assertEqual(
            self.handle("place", lamp, said="fri 18:30").rows, [("A lamp", "goes out Fri 20 Nov at 18:30")]
        )
        other = self.write("Another").id
        self.assertEqual(self.handle("place", other, said="now").rows, [("Another", "published")])

    def test_copies_are_drafts_and_undoing_sets_them_aside(self) -> None:
        lamp = self.write("A lamp", tags="flex", date="2026-11-01").id
        done = self.handle("copy", lamp)
        made = lamp + 1
        self.assertEqual((posts.by_id(self.shop.db, made).title, self.state(made)), ("A lamp", "draft"))
        self.undo(done)
        self.assertEqual((self.state(made), self.state(lamp)), ("set-aside", "out"))

    def test_another_author_gets_a_post_from_a_keeper_only(self) -> None:
        laran = people_actions.add_person(
            self.shop, name="Laran", email="laran@bench.example", password="a long password"
        )
        blogs.add_member(self.shop, self.blog, laran, "writer")
        lamp = self.write("A lamp").id
        done = self.handle("give", lamp, said=str(laran.id))
        self.assertEqual(posts.by_id(self.shop.db, lamp).author_id, laran.id)
        with self.assertRaises(NotAllowed):
            bulk_actions.handle(self.shop, laran, "bench", "give", [lamp], str(self.me.id))
        self.undo(done)
        self.assertEqual(posts.by_id(self.shop.db, lamp).author_id, self.me.id)
        with self.assertRaisesRegex(BadInput, "No author is chosen"):
            self.handle("give", lamp, said="99")

    def test_what_is_out_is_set_aside_and_restored(self) -> None:
        lamp = self.write("A lamp", date="2026-11-01").id
        done = self.handle("aside", lamp)
        self.assertEqual(self.state(lamp), "set-aside")
        self.undo(done)
        self.assertEqual(self.state(lamp), "out")
        with self.assertRaisesRegex(Refused, "“A lamp”: It is not set aside. Nothing is changed."):
            self.handle("restore", lamp)
        self.handle("aside", lamp)
        self.assertEqual(self.handle("restore", lamp).rows, [("A lamp", "withdrawn")])

    def test_a_post_that_was_changed_since_is_not_put_back(self) -> None:
        lamp = self.write("A lamp", date="2026-11-01").id
        done = self.handle("withdraw", lamp)
        placing.place(self.shop, self.me, lamp)
        with self.assertRaisesRegex(Refused, "“A lamp” was placed, moved or withdrawn again since"):
            self.undo(done)


class MovingOverTests(ShopCase):
    def test_a_post_moves_to_another_blog_with_its_pictures_and_its_filing(self) -> None:
        log = blogs.make_blog(
            self.shop,
            self.me,
            name="The Log",
            address="log",
            zone="Atlantic/Azores",
            home="https://log.example/",
        )
        item = library.add_picture(self.shop, self.me, self.blog, "lamp.png", picture())
        away = self.write("Gone to", date="2026-11-01")
        body = f"![A lamp](media:{item.id})\n\nSee [this](post:{away.id}) and [that](post:99)."
        lamp = self.write("A lamp", body, date="2026-11-02", categories="[Lamps > Wiring]", tags="[flex]")
        self.publish()
        done = bulk_actions.handle(self.shop, self.me, "bench", "move", [lamp.id], "log")
        (moved,) = posts.in_hand(self.shop.db, log.id, self.me.id, 1)
        document = schema.load(posts.working_body(self.shop.db, moved.id))
        (number,) = outline.items(document)
        self.assertEqual(
            (media.by_id(self.shop.db, number).blog_id, media.by_id(self.shop.db, number).hash),
            (log.id, item.hash),
        )
        self.assertIn("https://bench.example/posts/gone-to/", str(document))
        self.assertNotIn("post:", str(document))
        self.assertEqual(
            [
                filing.category(self.shop.db, log.id, one).name
                for one in posts.categories(self.shop.db, moved.id)
            ],
            ["Wiring"],
        )
        self.assertEqual(post_states.state_of(self.shop, self.again(lamp)), "set-aside")
        self.publish()
        undoing.undo(self.shop, self.me, "bench", done.number)
        self.assertEqual(post_states.state_of(self.shop, self.again(lamp)), "out")
        self.assertIsNotNone(posts.by_id(self.shop.db, moved.id).aside_at)
        self.assertEqual(people.by_id(self.shop.db, moved.author_id).name, "Ines Farrow")
        self.assertTrue(placements.of_post(self.shop.db, lamp.id))
