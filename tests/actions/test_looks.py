"""Trying a look, giving it to readers, and putting it back."""

from __future__ import annotations

import re

from mobbet.actions import blogs as blog_actions
from mobbet.actions import house_facts, library, looks, media_jobs, people, profiles
from mobbet.actions.footprints import effect_of
from mobbet.core.errors import BadInput, NotAllowed, Refused
from mobbet.core.look.begun import begun_look
from mobbet.core.look.look import read_look_file
from mobbet.publish.look_style import STYLE_PATH
from mobbet.store import blogs, editions
from mobbet.store.blogs import Blog
from tests.shops import ShopCase, picture


class LookCase(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.write("A lamp", date="2026-01-01")

    def blog_now(self) -> Blog:
        return blogs.by_id(self.shop.db, self.blog.id)

    def style(self, number: int | None = None) -> bytes:
        """The style sheet that readers get, or got in an edition."""
        db = self.shop.db
        row = (
            editions.page_at_edition(db, self.blog.id, STYLE_PATH, number)
            if number
            else editions.page_at(db, self.blog.id, STYLE_PATH)
        )
        return self.body(row)

    def try_accent(self, colour: str) -> None:
        looks.try_change(self.shop, self.me, "bench", "light.accent", colour)


class TryingTests(LookCase):
    def test_what_is_tried_reaches_no_reader(self) -> None:
        before = editions.current_number(self.shop.db, self.blog.id)
        self.try_accent("#5b2a5e")
        self.assertEqual(looks.tried(self.shop, self.blog_now()).light.accent, "#5b2a5e")
        self.assertEqual(looks.given(self.shop, self.blog_now()).light.accent, "#8a3b12")
        self.assertEqual(editions.current_number(self.shop.db, self.blog.id), before)
        self.assertNotIn(b"#5b2a5e", self.style())

    def test_trying_what_readers_have_ends_the_trial(self) -> None:
        self.try_accent("#5b2a5e")
        self.try_accent("#8a3b12")
        self.assertIsNone(looks.tried(self.shop, self.blog_now()))

    def test_several_changes_are_tried_together_and_put_back_together(self) -> None:
        self.try_accent("#5b2a5e")
        looks.try_change(self.shop, self.me, "bench", "letters.size", 19)
        self.assertEqual(looks.tried(self.shop, self.blog_now()).light.accent, "#5b2a5e")
        looks.put_back(self.shop, self.me, "bench")
        self.assertIsNone(looks.tried(self.shop, self.blog_now()))

    def test_only_the_owner_tries_and_gives(self) -> None:
        editor = people.add_person(self.shop, name="Tomas", email="tomas@bench.example", password=None)
        blog_actions.add_member(self.shop, self.blog, editor, "editor")
        for act in (
            lambda: looks.try_begun(self.shop, editor, "bench", "ferry"),
            lambda: looks.give(self.shop, editor, "bench"),
            lambda: looks.put_back(self.shop, editor, "bench"),
            lambda: looks.undo_given(self.shop, editor, "bench"),
            lambda: looks.effect(self.shop, editor, "bench"),
        ):
            with self.assertRaises(NotAllowed):
                act()


class GivingTests(LookCase):
    def test_readers_get_it_as_an_edition_which_says_why(self) -> None:
        self.try_accent("#5b2a5e")
        told = {page.path for page in looks.effect(self.shop, self.me, "bench").pages}
        looks.give(self.shop, self.me, "bench")
        self.assertEqual(told, {STYLE_PATH})
        self.assertIn(b"#5b2a5e", self.style())
        self.assertIsNone(looks.tried(self.shop, self.blog_now()))
        self.assertEqual(editions.current(self.shop.db, self.blog.id).why, "the look changed")

    def test_nothing_is_given_where_nothing_is_tried(self) -> None:
        with self.assertRaisesRegex(Refused, "No other look is tried"):
            looks.give(self.shop, self.me, "bench")

    def test_colours_that_cannot_be_read_need_a_reason(self) -> None:
        self.try_accent("#e0a080")
        with self.assertRaisesRegex(BadInput, "cannot be read by everyone; take the nearest colour"):
            looks.give(self.shop, self.me, "bench")
        looks.give(self.shop, self.me, "bench", "It is a poster")
        self.assertIn("It is a poster", editions.current(self.shop.db, self.blog.id).why)

    def test_an_earlier_edition_looks_as_it_did(self) -> None:
        before = editions.current_number(self.shop.db, self.blog.id)
        old = self.style()
        self.try_accent("#5b2a5e")
        looks.give(self.shop, self.me, "bench")
        self.assertEqual(self.style(before), old)

    def test_the_last_one_given_is_undone_with_the_same_bytes(self) -> None:
        old = {row.path: row.hash for row in editions.pages(self.shop.db, self.blog.id)}
        self.clock.forward(60)
        looks.try_begun(self.shop, self.me, "bench", "harbour")
        looks.give(self.shop, self.me, "bench")
        self.clock.forward(60)
        looks.undo_given(self.shop, self.me, "bench")
        self.assertEqual({row.path: row.hash for row in editions.pages(self.shop.db, self.blog.id)}, old)

    def test_small_editions_come_to_what_a_full_build_gives(self) -> None:
        for name in ("ferry", "ledger", "noticeboard"):
            self.clock.forward(60)
            looks.try_begun(self.shop, self.me, "bench", name)
            looks.give(self.shop, self.me, "bench")
            self.assertEqual(self.publish(full=True).written, 0)

    def test_a_blog_begins_with_the_look_it_was_made_with(self) -> None:
        other = blog_actions.make_blog(
            self.shop,
            self.me,
            name="Log",
            address="log",
            zone="UTC",
            home="https://log.example/",
            look="ledger",
        )
        self.assertEqual(looks.given(self.shop, other), read_look_file(begun_look("ledger")))


class PictureTests(LookCase):
    def setUp(self) -> None:
        super().setUp()
        self.item = library.add_picture(self.shop, self.me, self.blog, "sky.png", picture(color="#c8d8e8")).id
        media_jobs.work_all(self.shop)

    def give(self, veil: int = 80) -> None:
        looks.try_picture(self.shop, self.me, "bench", "top.picture", self.item)
        looks.try_change(self.shop, self.me, "bench", "top.veil", veil)
        looks.give(self.shop, self.me, "bench")

    def test_a_picture_on_top_is_published_with_the_style_sheet_alone(self) -> None:
        self.give()
        path = re.search(r"--header: url\(\.(/media/[^)]+)\)", self.style().decode())[1]
        self.assertEqual(editions.page_at(self.shop.db, self.blog.id, path).audience, "everyone")
        self.assertEqual(self.publish(full=True).written, 0)
        looks.undo_given(self.shop, self.me, "bench")
        self.assertIsNone(editions.page_at(self.shop.db, self.blog.id, path))
        self.assertNotIn(b"--header", self.style())

    def test_words_over_it_must_be_readable_on_its_pixels(self) -> None:
        with self.assertRaises(BadInput) as caught:
            self.give(veil=10)
        self.assertIn("“name and menu over the picture on top” cannot be read", str(caught.exception))
        over = looks.over_picture(self.shop, self.blog, looks.present(self.shop, self.blog))
        looks.try_change(self.shop, self.me, "bench", "top.veil", over.least_veil)
        looks.give(self.shop, self.me, "bench")

    def test_a_change_of_the_item_alters_the_style_sheet_that_shows_it(self) -> None:
        self.give()
        told = {
            page.path
            for page in effect_of(self.shop, self.blog, lambda: library.unsettle(self.shop, self.item)).pages
        }
        self.assertEqual(told, {STYLE_PATH})
        library.unsettle(self.shop, self.item)
        self.publish()
        self.assertEqual(self.publish(full=True).written, 0)

    def test_a_picture_of_another_library_is_left_out(self) -> None:
        other = blog_actions.make_blog(
            self.shop, self.me, name="Log", address="log", zone="UTC", home="https://log.example/"
        )
        hidden = library.add_picture(self.shop, self.me, other, "till.png", picture(color="#101010")).id
        look = looks.given(self.shop, self.blog).with_value("top.picture", {"item": hidden, "x": 0, "y": 0})
        self.assertFalse(looks.try_look(self.shop, self.me, "bench", look))
        with self.assertRaises(BadInput):
            looks.try_picture(self.shop, self.me, "bench", "top.picture", hidden)

    def test_what_the_look_shows_cannot_be_set_aside(self) -> None:
        self.give()
        with self.assertRaises(Refused) as caught:
            library.set_aside(self.shop, self.me, self.item)
        self.assertEqual(
            str(caught.exception), "The look of the site shows “sky.png”; choose another picture there first."
        )


class IconTests(LookCase):
    def test_a_picture_of_the_library_is_the_icon_on_every_page(self) -> None:
        item = library.add_picture(self.shop, self.me, self.blog, "mark.png", picture()).id
        media_jobs.work_all(self.shop)
        house_facts.give_facts(self.shop, self.me, "bench", icon=str(item))
        row = editions.page_at(self.shop.db, self.blog.id, "/archive/")
        path = re.search(r'rel="icon" href="\.\.(/media/[^"]+)"', (self.body(row) or b"").decode())[1]
        self.assertEqual(editions.page_at(self.shop.db, self.blog.id, path).audience, "everyone")
        self.assertEqual(self.publish(full=True).written, 0)
        with self.assertRaises(BadInput):
            house_facts.try_fact(self.shop, self.me, "bench", "icon", "999")


class BelowTests(LookCase):
    def test_what_comes_below_a_post_follows_the_look_and_rewrites_posts_alone(self) -> None:
        self.write("A clock", date="2026-01-02")
        profiles.set_profile(
            self.shop, self.me, name="Ines Farrow", line="Electrics.", text="", links="", pictures={}
        )
        self.publish()
        page = lambda: (
            self.body(editions.page_at(self.shop.db, self.blog.id, "/posts/a-lamp/")) or b""
        ).decode()  # noqa: E731
        self.assertLess(page().index('<aside class="author '), page().index('class="neighbours"'))
        looks.try_change(self.shop, self.me, "bench", "post.below", "neighbours")
        told = {one.path for one in looks.effect(self.shop, self.me, "bench").pages}
        self.assertEqual(
            {one for one in told if one.startswith("/posts/")}, {"/posts/a-lamp/", "/posts/a-clock/"}
        )
        self.assertNotIn("/archive/", told)
        looks.give(self.shop, self.me, "bench")
        self.assertNotIn('<aside class="author ', page())
        self.assertEqual(self.publish(full=True).written, 0)
