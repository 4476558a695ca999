from unittest import mock

from mobbet.actions import (
    blogs,
    desk,
    docket_lines,
    files,
    people,
    placing,
    post_search,
    post_states,
    posts,
    presence,
    tags,
)
from mobbet.actions.access import blog_for, editable_post
from mobbet.core.document import schema
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.document.mentions import walk
from mobbet.core.errors import BadDocument, BadInput, Conflict, NotAllowed, NotFound, Refused
from mobbet.store import filing
from mobbet.store import posts as store
from tests.shops import DAY, NOW, ShopCase, picture


class SavingTests(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.post = posts.begin_post(self.shop, self.me, "bench")

    def save(self, words: str, base: int, key: str = "") -> posts.Saved:
        return posts.save_text(
            self.shop,
            self.me,
            self.post.id,
            base=base,
            title="T",
            subtitle="",
            body=from_markdown(words),
            save_key=key,
        )

    def test_each_save_is_a_new_revision(self) -> None:
        first = self.save("one", 1)
        second = self.save("one two", first.revision)
        self.assertEqual((first.revision, second.revision, second.words), (2, 3, 2))
        self.assertIn("one two", store.body(self.shop.db, self.post.id, 3))

    def test_saves_of_one_stretch_replace_each_other(self) -> None:
        self.save("one", 1)
        self.save("two", 2)
        self.assertIsNone(store.revision(self.shop.db, self.post.id, 2))
        self.clock.forward(posts.STRETCH)
        self.save("three", 3)
        self.assertIsNotNone(store.revision(self.shop.db, self.post.id, 3))

    def test_a_second_tab_never_overwrites(self) -> None:
        self.save("mine", 1)
        with self.assertRaisesRegex(
            Conflict, "You, in another tab or on another device, saved another text"
        ) as caught:
            self.save("theirs", 1)
        self.assertEqual(caught.exception.current, 2)
        self.assertIn("mine", store.body(self.shop.db, self.post.id, 2))

    def test_the_same_save_sent_twice_is_kept_once(self) -> None:
        self.assertEqual(self.save("one", 1, "key-1").revision, 2)
        self.assertEqual(self.save("one", 1, "key-1").revision, 2)
        self.assertEqual(self.save("one", 2, "key-2").revision, 2)

    def test_a_new_post_that_was_left_untouched_is_taken_up_again_and_stands_on_no_list(self) -> None:
        first = posts.new_post(self.shop, self.me, "bench")
        self.assertEqual(posts.new_post(self.shop, self.me, "bench").id, first.id)
        self.assertNotIn(first.id, [row.id for row in desk.group(self.shop, self.blog, "in-hand").rows])
        self.assertNotIn(
            first.id, [one.id for one in post_search.find(self.shop, self.blog, "is:draft").posts]
        )
        self.clock.forward(60)
        docket_lines.set_line(self.shop, self.me, first.id, "excerpt", "Of fuses.")
        self.assertNotEqual(posts.new_post(self.shop, self.me, "bench").id, first.id)
        self.assertIn(first.id, [row.id for row in desk.group(self.shop, self.blog, "in-hand").rows])

    def test_a_new_post_that_is_open_in_another_tab_is_left_to_it(self) -> None:
        first = posts.new_post(self.shop, self.me, "bench")
        presence.note(self.shop, self.me, first.id)
        self.assertNotEqual(posts.new_post(self.shop, self.me, "bench").id, first.id)

    def test_going_on_with_mine_keeps_theirs_as_a_revision(self) -> None:
        self.save("theirs", 1)
        saved = posts.save_over(
            self.shop, self.me, self.post.id, over=2, title="T", subtitle="", body=from_markdown("mine")
        )
        self.assertEqual(saved.revision, 3)
        self.assertIn("theirs", store.body(self.shop.db, self.post.id, 2))
        with self.assertRaises(Conflict):
            posts.save_over(
                self.shop, self.me, self.post.id, over=2, title="T", subtitle="", body=from_markdown("late")
            )

    def test_going_on_with_mine_keeps_the_anchors_that_readers_link_to(self) -> None:
        post = self.write("Out", "## The fuse\n\nWords.\n\n## The switch\n\nWords.", date="2026-11-01")
        body = from_markdown("## The fuse\n\nWords.\n\n## The switch\n\nMine.")
        over = posts.save_text(
            self.shop,
            self.me,
            post.id,
            base=post.revision,
            title="Out",
            subtitle="",
            body=from_markdown("Theirs, without headings."),
            is_apart=True,
        ).revision
        saved = posts.save_over(self.shop, self.me, post.id, over=over, title="Out", subtitle="", body=body)
        self.assertEqual(
            [
                node["attrs"]["anchor"]
                for node in walk(schema.load(store.body(self.shop.db, post.id, saved.revision)))
                if node["type"] == "heading"
            ],
            ["the-fuse", "the-switch"],
        )

    def test_going_on_with_theirs_keeps_mine_as_a_draft(self) -> None:
        copy = posts.keep_as_draft(
            self.shop, self.me, self.post.id, title="Mine", subtitle="", body=from_markdown("mine")
        )
        self.assertIn("mine", store.body(self.shop.db, copy.id, copy.revision))
        self.assertEqual(copy.title, "Mine")

    def test_unprintable_characters_leave_the_title(self) -> None:
        posts.save_text(
            self.shop,
            self.me,
            self.post.id,
            base=1,
            title="A\x00 la\x0bmp\ud800",
            subtitle="",
            body={"type": "doc"},
        )
        self.assertEqual(self.again(self.post).title, "A la mp")

    def test_a_text_that_cannot_be_kept_changes_nothing(self) -> None:
        for values, error in (
            ({"title": "x" * 301}, BadInput),
            ({"body": {"type": "doc", "content": [{"type": "gif"}]}}, BadDocument),
        ):
            with self.assertRaises(error):
                posts.save_text(
                    self.shop,
                    self.me,
                    self.post.id,
                    **{"base": 1, "title": "", "subtitle": "", "body": {"type": "doc"}, **values},
                )
        self.assertEqual(self.again(self.post).revision, 1)


class DocketTests(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.post = self.write("A lamp")

    def test_categories_are_made_on_the_way_and_the_first_is_the_main_one(self) -> None:
        docket_lines.set_categories(self.shop, self.me, self.post.id, "", [], "Lamps > Wiring")
        lamps = filing.find_category(self.shop.db, self.blog.id, None, "lamps")
        docket_lines.set_categories(
            self.shop, self.me, self.post.id, str(lamps.id), [str(lamps.id), "999", "x"], "Tag"
        )
        chosen = store.categories(self.shop.db, self.post.id)
        self.assertEqual((chosen[0], len(chosen)), (lamps.id, 2))
        slugs = {category.slug for category in filing.categories(self.shop.db, self.blog.id)}
        self.assertEqual(slugs, {"lamps", "wiring", "tag-2"})  # "tag" belongs to the site

    def test_tags_are_found_in_any_case(self) -> None:
        tags.set_tags(self.shop, self.me, self.post.id, "Flex, fuse")
        tags.set_tags(self.shop, self.me, self.post.id, "flex, FUSE, flex")
        self.assertEqual(
            [tag.name for tag in filing.tags(self.shop.db, store.tags(self.shop.db, self.post.id))],
            ["Flex", "fuse"],
        )

    def test_wrong_settings_are_refused_and_keep_what_was(self) -> None:
        other = self.write("Other")
        docket_lines.set_slug(self.shop, self.me, other.id, "taken")
        for change, message in (
            (
                lambda: docket_lines.set_slug(self.shop, self.me, self.post.id, "taken"),
                "Another post has the address",
            ),
            (
                lambda: docket_lines.set_author(self.shop, self.me, self.post.id, "77"),
                "does not work on this blog",
            ),
            (
                lambda: docket_lines.set_time(self.shop, self.me, self.post.id, "goes_out_wall", "soon"),
                "no date and time",
            ),
            (
                lambda: docket_lines.set_line(self.shop, self.me, self.post.id, "description", "x" * 321),
                "320 is the most",
            ),
            (lambda: docket_lines.set_visibility(self.shop, self.me, self.post.id, "cats"), "no visibility"),
        ):
            with self.subTest(message), self.assertRaisesRegex(BadInput, message):
                change()
        self.assertEqual(self.again(self.post).changed_at, self.post.changed_at)

    def test_a_writer_changes_only_their_own(self) -> None:
        writer = people.add_person(self.shop, name="Petra", email="p@bench.example", password=None)
        stranger = people.add_person(self.shop, name="Nobody", email="n@bench.example", password=None)
        blogs.add_member(self.shop, self.blog, writer, "writer")
        with self.assertRaisesRegex(NotAllowed, "by somebody else"):
            editable_post(self.shop, writer, self.post.id)
        docket_lines.set_author(self.shop, self.me, self.post.id, str(writer.id))
        self.assertEqual(editable_post(self.shop, writer, self.post.id)[0].id, self.post.id)
        for ask in (
            lambda: editable_post(self.shop, stranger, self.post.id),
            lambda: editable_post(self.shop, self.me, 999),
            lambda: blog_for(self.shop, stranger, "bench"),
        ):
            with self.assertRaises(NotFound):
                ask()


class PlacingTests(ShopCase):
    def state(self, post: object) -> str:
        return post_states.state_of(self.shop, self.again(post))

    def test_a_post_goes_through_its_states(self) -> None:
        post = self.write("A lamp", date="2026-11-20 09:00", expires="2026-11-22 09:00")
        self.assertEqual(self.state(post), "in-timetable")
        self.clock.forward(2 * DAY)
        self.assertEqual(self.state(post), "out")
        self.clock.forward(2 * DAY)
        self.assertEqual(self.state(post), "came-down")
        placing.set_aside(self.shop, self.me, post.id)
        self.assertEqual(self.state(post), "set-aside")
        placing.restore(self.shop, self.me, post.id)
        docket_lines.set_time(self.shop, self.me, post.id, "comes_down_wall", "")
        placing.place(self.shop, self.me, post.id)
        self.assertEqual(self.state(post), "out")
        self.clock.forward(60)
        placing.withdraw(self.shop, self.me, post.id)
        self.assertEqual(self.state(post), "withdrawn")

    def test_editing_changes_nothing_for_readers_until_the_update(self) -> None:
        post = self.write("A lamp", "First words.", date="2026-01-01")
        self.publish()
        posts.save_text(
            self.shop,
            self.me,
            post.id,
            base=self.again(post).revision,
            title="A lamp",
            subtitle="",
            body=from_markdown("New words."),
        )
        tags.set_tags(self.shop, self.me, post.id, "fresh")
        self.assertEqual(self.publish().written, 0)
        placing.place(self.shop, self.me, post.id)
        self.publish()
        page = self.site()["/posts/lamp/"] if "/posts/lamp/" in self.site() else self.site()["/posts/a-lamp/"]
        self.assertIn(b"New words.", page)
        self.assertIn(b"1 January 2026", page)
        self.assertIn(b"updated", page)

    def test_what_is_in_the_timetable_goes_out_as_it_was_placed(self) -> None:
        post = self.write("A lamp", "First words.", date="2026-11-19 09:00")
        posts.save_text(
            self.shop,
            self.me,
            post.id,
            base=self.again(post).revision,
            title="A lamp",
            subtitle="",
            body=from_markdown("Half a sen"),
        )
        self.clock.forward(DAY)
        self.assertIn(b"First words.", self.site()["/posts/a-lamp/"])

    def test_what_cannot_be_placed_is_refused_with_the_reason(self) -> None:
        empty = posts.begin_post(self.shop, self.me, "bench")
        out = self.write("Out", date="2026-01-01")
        docket_lines.set_time(self.shop, self.me, out.id, "goes_out_wall", "2027-01-01 09:00")
        short = self.write("Short")
        docket_lines.set_time(self.shop, self.me, short.id, "comes_down_wall", "2026-01-01 09:00")
        aside = self.write("Aside")
        placing.set_aside(self.shop, self.me, aside.id)
        for post, message in (
            (empty, "no title yet"),
            (out, "is out already"),
            (short, "come down before it goes out"),
            (aside, "is set aside; restore it first"),
        ):
            with self.subTest(message), self.assertRaisesRegex(Refused, message):
                placing.place(self.shop, self.me, post.id)
        with self.assertRaisesRegex(Refused, "nothing to withdraw"):
            placing.withdraw(self.shop, self.me, short.id)
        with self.assertRaisesRegex(Refused, "withdraw it first"):
            placing.set_aside(self.shop, self.me, out.id)

    def test_a_placement_keeps_the_wall_time_of_its_zone(self) -> None:
        placed = placing.place(self.shop, self.me, self.write("Summer", date="2026-07-01 09:00").id)
        self.assertEqual(placed.goes_out % DAY, 8 * 3600)  # Lisbon is an hour ahead in summer

    def test_taking_a_post_out_of_the_timetable_makes_it_a_draft(self) -> None:
        post = self.write("A lamp", date="2026-12-01")
        placing.withdraw(self.shop, self.me, post.id)
        self.assertEqual((self.state(post), self.again(post).goes_out_wall), ("draft", None))
        self.clock.forward(60 * DAY)
        self.assertNotIn("/posts/a-lamp/", self.site())


class FileTests(ShopCase):
    def test_a_file_whose_times_are_both_past_becomes_a_post_that_came_down(self) -> None:
        source = "---\ntitle: A fair\ndate: 2026-01-01\nexpires: 2026-02-01\n---\nIt was fine.\n"
        brought = files.new_post(self.shop, self.me, "bench", source)
        self.assertEqual(brought.state, "came-down")
        self.assertIn("It went out and came down before now", brought.notes[0])
        self.assertNotIn("A fair", str(self.site()))
        with self.assertRaisesRegex(BadInput, "would come down before it goes out"):
            files.new_post(self.shop, self.me, "bench", source.replace("2026-02-01", "2025-02-01"))

    def test_a_file_without_a_title_takes_it_from_its_text(self) -> None:
        for source, title in (
            ("## The lamp\n\nText", "The lamp"),
            ("Just a line of text.", "Just a line of text."),
        ):
            self.assertEqual(files.new_post(self.shop, self.me, "bench", source).post.title, title)
        with self.assertRaisesRegex(Refused, "neither a title nor any text"):
            files.new_post(self.shop, self.me, "bench", "")

    def test_a_refused_file_leaves_nothing_behind(self) -> None:
        before = len(desk.group(self.shop, self.blog, "in-hand").rows)
        for head in ("author: Nobody Here", "slug: no good!", "expires: 1999-01-01\ndate: 2026-01-01"):
            with self.subTest(head), self.assertRaises(BadInput):
                files.new_post(self.shop, self.me, "bench", f"---\ntitle: X\n{head}\n---\nText")
        self.assertEqual(len(desk.group(self.shop, self.blog, "in-hand").rows), before)

    def test_pictures_beside_the_file_come_along_and_others_do_not(self) -> None:
        folder = self.folder / "texts"
        folder.mkdir()
        (folder / "lamp.png").write_bytes(picture())
        (self.folder / "secret.png").write_bytes(picture())
        brought = files.new_post(
            self.shop,
            self.me,
            "bench",
            "---\ntitle: X\n---\n![a](lamp.png)\n\n![b](../secret.png)\n\n![c](gone.png)",
            folder,
        )
        body = store.body(self.shop.db, brought.post.id, brought.post.revision)
        self.assertIn("media:1", body)
        self.assertEqual(len(brought.notes), 2)
        self.assertIn("“../secret.png” was not found", brought.notes[0])

    def test_an_update_changes_only_what_the_file_names(self) -> None:
        post = self.write("A lamp", "Old.", date="2026-01-01", tags="flex", subtitle="Under it")
        files.update_post(self.shop, self.me, post.id, "---\ntitle: A better lamp\n---\nNew.")
        page = self.site()["/posts/a-lamp/"]
        for words in (b"A better lamp", b"Under it", b"New.", b"/tag/flex/"):
            self.assertIn(words, page)


class DeskTests(ShopCase):
    def test_the_four_groups_hold_what_belongs_there(self) -> None:
        draft, later, out = (
            self.write("Draft"),
            self.write("Later", date="2026-12-01"),
            self.write("Out", date="2026-01-01"),
        )
        page = self.write("About", kind="about", date="2026-01-01")
        aside = self.write("Aside")
        placing.set_aside(self.shop, self.me, aside.id)
        groups = [desk.group(self.shop, self.blog, name) for name in desk.GROUPS]
        self.assertEqual(
            [[row.id for row in group.rows] for group in groups],
            [[draft.id], [later.id], [page.id], [out.id]],
        )
        self.assertEqual([group.more for group in groups], [None, None, None, None])

    def test_what_came_down_or_was_withdrawn_is_in_hand_once_it_is_written_on(self) -> None:
        came_down, withdrawn = (
            self.write("Over", date="2026-11-01", expires="2026-11-20"),
            self.write("Taken off", date="2026-11-01"),
        )
        self.clock.forward(3 * DAY)
        placing.withdraw(self.shop, self.me, withdrawn.id)
        in_hand = lambda: [row.id for row in desk.group(self.shop, self.blog, "in-hand").rows]  # noqa: E731
        self.assertEqual(in_hand(), [])
        for post in (came_down, withdrawn):
            posts.save_text(
                self.shop, self.me, post.id, base=post.revision, title="Again", subtitle="", body=schema.EMPTY
            )
        self.assertEqual(in_hand(), [withdrawn.id, came_down.id])

    def test_every_group_comes_page_by_page(self) -> None:
        for name, settings in (
            ("in-hand", {}),
            ("timetable", {"date": "2026-12-24 20:00"}),
            ("published", {"date": "2026-01-01 09:00"}),
        ):
            with self.subTest(name), mock.patch.object(desk, "PAGE", 3):
                written = [self.write(f"{name} {number}", **settings).id for number in range(5)]
                first = desk.group(self.shop, self.blog, name)
                rest = desk.group(self.shop, self.blog, name, first.more)
                self.assertEqual((len(first.rows), len(rest.rows), rest.more), (3, 2, None))
                found = [row.id for row in (*first.rows, *rest.rows)]
                self.assertEqual(found, written if name == "timetable" else written[::-1])

    def test_the_rhythm_is_told_from_the_last_posts(self) -> None:
        self.assertEqual(desk.rhythm(self.shop, self.blog).days_quiet, None)
        for day in ("2026-11-01", "2026-11-05", "2026-11-09", "2026-12-01"):
            self.write(day, date=f"{day} 09:00")
        rhythm = desk.rhythm(self.shop, self.blog)
        self.assertEqual((rhythm.days_quiet, rhythm.usual_gap), (9, 4))
        self.assertGreater(rhythm.next_out, NOW)

    def test_search_finds_titles_and_texts_as_last_saved(self) -> None:
        one = self.write("The brass hinge", "Nothing here.")
        two = self.write("Other", "A brass screw, and don't forget C++.")
        for query, found in (
            ("brass", [one.id, two.id]),
            ("bra", [one.id, two.id]),
            ("brass scr", [two.id]),
            ("don't", [two.id]),
            ('"* (', []),
            ("", []),
            ("zebra", []),
        ):
            with self.subTest(query):
                self.assertEqual(
                    [row.id for row in post_search.find(self.shop, self.blog, query).posts], found
                )
        posts.save_text(
            self.shop,
            self.me,
            one.id,
            base=self.again(one).revision,
            title="The zebra",
            subtitle="",
            body=from_markdown("x"),
        )
        self.assertEqual([row.id for row in post_search.find(self.shop, self.blog, "zebra").posts], [one.id])
