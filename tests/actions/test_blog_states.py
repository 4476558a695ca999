"""Blogs that are closed, opened, set aside, brought back and removed."""

from mobbet.actions import blog_states, blogs, library, people
from mobbet.actions.access import editable_post, readable_item
from mobbet.core.errors import BadInput, NotAllowed, NotFound, Refused
from mobbet.core.values import existing
from mobbet.store import blogs as store
from tests.shops import DAY, ShopCase, picture


class BlogStateCase(ShopCase):
    def prepare(self) -> None:
        super().prepare()
        blogs.make_blog(
            self.shop, self.me, name="Log", address="log", zone="UTC", home="https://log.example/"
        )
        library.add_picture(self.shop, self.me, self.blog, "lamp.png", picture())
        self.write("A lamp", "Words. ![A lamp](media:1)", categories="Lamps", tags="flex", date="2026-01-01")
        self.publish()


class AsideTests(BlogStateCase):
    def test_a_blog_that_is_set_aside_is_nowhere_until_it_is_brought_back(self) -> None:
        blog_states.set_aside(self.shop, self.me, "bench")
        self.assertEqual([blog.slug for blog in store.every(self.shop.db)], ["log"])
        self.assertEqual([blog.slug for blog in store.of_person(self.shop.db, self.me.id)], ["log"])
        with self.assertRaises(NotFound):
            blog_states.close(self.shop, self.me, "bench", "closed")
        with self.assertRaises(NotFound):
            editable_post(self.shop, self.me, 1)
        with self.assertRaises(NotFound):
            readable_item(self.shop, self.me, 1)
        with self.assertRaises(Refused):
            blogs.make_blog(
                self.shop, self.me, name="B", address="bench", zone="UTC", home="https://b.example/"
            )
        blog_states.bring_back(self.shop, self.me, "bench")
        self.assertEqual(len(store.every(self.shop.db)), 2)

    def test_after_thirty_days_nothing_of_it_is_left_but_what_another_blog_has(self) -> None:
        other = existing(store.by_slug(self.shop.db, "log"))
        library.add_picture(self.shop, self.me, other, "lamp.png", picture())
        pages, media = store.files(self.shop.db, self.blog.id)
        _, others = store.files(self.shop.db, other.id)
        blog_states.set_aside(self.shop, self.me, "bench")
        self.clock.forward(30 * DAY - 1)
        self.assertEqual(blog_states.remove_aged(self.shop), 0)
        self.clock.forward(1)
        self.assertEqual(blog_states.remove_aged(self.shop), 1)
        db = self.shop.db
        tables = db.column("SELECT name FROM sqlite_schema WHERE type = 'table' AND sql LIKE '%blog_id%'")
        for table in tables:
            with self.subTest(table):
                self.assertEqual(db.value(f"SELECT COUNT(*) FROM {table} WHERE blog_id = ?", self.blog.id), 0)
        self.assertEqual(db.all("PRAGMA foreign_key_check"), [])
        self.assertEqual(db.value("SELECT COUNT(*) FROM post_text"), 0)
        self.assertEqual(db.value("SELECT COUNT(*) FROM revision"), 0)
        self.assertTrue(pages and media and others)
        left = {one for one in pages if self.shop.pages.has(one)}
        self.assertEqual(left, {one for one in pages if store.is_file_used(db, "pages", one)})
        self.assertEqual({one for one in media if self.shop.media.has(one)}, media & others)

    def test_the_only_blog_stays(self) -> None:
        blog_states.set_aside(self.shop, self.me, "log")
        with self.assertRaises(Refused) as caught:
            blog_states.set_aside(self.shop, self.me, "bench")
        self.assertEqual(
            str(caught.exception),
            "“The Bench” is the only blog here; close it instead, or make another one first.",
        )

    def test_only_its_owner_closes_sets_aside_and_brings_back(self) -> None:
        editor = people.add_person(
            self.shop, name="Ed", email="ed@bench.example", password="a very long password"
        )
        blogs.add_member(self.shop, self.blog, editor, "editor")
        for act in (
            lambda: blog_states.close(self.shop, editor, "bench", "closed"),
            lambda: blog_states.set_aside(self.shop, editor, "bench"),
        ):
            with self.assertRaises(NotAllowed):
                act()
        blog_states.set_aside(self.shop, self.me, "bench")
        with self.assertRaises(NotFound):
            blog_states.bring_back(self.shop, editor, "bench")
        with self.assertRaises(BadInput):
            blog_states.close(self.shop, self.me, "log", "ajar")
