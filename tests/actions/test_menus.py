"""The menu and the foot: tried, given, put back; entries by what people type; what readers find of them."""

from dataclasses import replace

from mobbet.actions import blogs, categories, house, menus, pages, people, placing
from mobbet.core.errors import BadInput, NotAllowed, Refused
from mobbet.core.house import MENU as PART
from mobbet.core.menu import FOOT, MENU, PLACES, Entry, Target
from mobbet.core.values import existing
from mobbet.store import editions, posts
from mobbet.store.snapshot import SiteSnapshot
from mobbet.web.site.menu_view import MenuView
from tests.shops import ShopCase


class MenuCase(ShopCase):
    def prepare(self) -> None:
        super().prepare()
        out = {"date": "2026-01-01"}
        self.write("About us", kind="about", **out)
        self.write("A lamp", categories="Lamps > Wiring", tags="flex", **out)
        self.write("Who we are", kind="page", below="About us", **out)
        self.write("A plan", kind="page")
        self.publish()

    def html(self, path: str = "/archive/") -> str:
        row = existing(editions.page_at(self.shop.db, self.blog.id, path))
        return existing(self.body(row)).decode()

    def read(self, text: str) -> Target:
        return menus.read_target(self.shop, self.blog, text)

    def give(self, change: menus.Change) -> None:
        menus.give_change(self.shop, self.me, "bench", change)

    def try_(self, change: menus.Change) -> None:
        menus.try_change(self.shop, self.me, "bench", change)


class PlaceTests(MenuCase):
    def test_every_place_of_a_site_can_be_led_to_and_is_drawn(self) -> None:
        snapshot = SiteSnapshot(self.shop.db, self.blog.id, self.clock())
        view = MenuView(self.shop, self.blog, menus.present(self.shop, self.blog), snapshot)
        for name in PLACES:
            with self.subTest(name):
                self.assertEqual(self.read(name), name)
                self.assertTrue(view.leads(Target(name)).title)


class TryingTests(MenuCase):
    def test_what_is_tried_no_reader_gets_until_it_is_given(self) -> None:
        self.try_(menus.adding(MENU, self.read("/about-us/"), "About"))
        self.assertNotIn(">About</a>", self.html())
        told = {page.path for page in house.effect(self.shop, self.me, "bench", PART).pages}
        before = {row.path: row.hash for row in editions.pages(self.shop.db, self.blog.id)}
        house.give(self.shop, self.me, "bench", PART)
        self.assertIn(">About</a>", self.html())
        after = {row.path: row.hash for row in editions.pages(self.shop.db, self.blog.id)}
        self.assertEqual({path for path in after if after[path] != before.get(path)}, told)
        house.undo_given(self.shop, self.me, "bench", PART)
        self.assertEqual({row.path: row.hash for row in editions.pages(self.shop.db, self.blog.id)}, before)
        self.assertEqual(self.publish(full=True).written, 0)

    def test_what_is_given_at_once_leaves_the_trial_with_the_same_change(self) -> None:
        self.try_(menus.adding(MENU, self.read("tag:flex")))
        self.give(menus.adding(FOOT, self.read("About us")))
        self.assertIn(">About us</a>", self.html())
        self.assertNotIn(">flex</a>", self.html())
        tried = menus.present(self.shop, self.blog)
        self.assertEqual([entry.to for entry in (tried.menu[-1], tried.foot[-1])], ["tag:1", "post:1"])

    def test_the_trial_ends_where_it_is_what_readers_have(self) -> None:
        self.try_(menus.adding(MENU, self.read("tag:flex")))
        self.try_(menus.without(self.read("tag:flex")))
        self.assertEqual(house.tried(self.shop, self.blog, PART), "")
        with self.assertRaises(Refused) as caught:
            house.give(self.shop, self.me, "bench", PART)
        self.assertEqual(str(caught.exception), "Nothing else is tried; readers have the menu as it is.")

    def test_only_the_owner_changes_it(self) -> None:
        editor = people.add_person(
            self.shop, name="Ed", email="ed@bench.example", password="a very long password"
        )
        blogs.add_member(self.shop, self.blog, editor, "editor")
        for act in (
            lambda: menus.try_change(self.shop, editor, "bench", menus.open_on_phone(2)),
            lambda: menus.give_change(self.shop, editor, "bench", menus.open_on_phone(2)),
            lambda: house.give(self.shop, editor, "bench", PART),
            lambda: house.undo_given(self.shop, editor, "bench", PART),
            lambda: house.put_back(self.shop, editor, "bench", PART),
        ):
            with self.assertRaises(NotAllowed):
                act()


class TargetTests(MenuCase):
    def test_what_people_type_is_found(self) -> None:
        typed = {
            "newest": "newest", "/": "newest", "Archive": "archive", "/subjects/": "subjects", "/About-us": "post:1", "About us": "post:1",
            "/lamps/": "category:1", "/wiring/": "category:2", "/tag/flex/": "tag:1", "tag: flex": "tag:1", "/a-plan/": "post:4",
            "https://tools.example/x": "address:https://tools.example/x", "mailto:me@bench.example": "address:mailto:me@bench.example",
        }  # fmt: skip
        for text, target in typed.items():
            with self.subTest(text):
                self.assertEqual(self.read(text), target)

    def test_anything_else_is_told_what_to_write(self) -> None:
        for text in ("", "/nowhere/", "tag:none", "javascript:alert(1)", "lamps", "series:none"):
            with self.subTest(text), self.assertRaises(BadInput) as caught:
                self.read(text)
            self.assertIn(
                "is nothing a menu can lead to; write the address or the title", str(caught.exception)
            )

    def test_a_colleagues_private_page_is_nothing_to_anybody_else(self) -> None:
        posts.settle(self.shop.db, 4, self.clock(), visibility="only-me")
        other = people.add_person(
            self.shop, name="Ed", email="ed@bench.example", password="a very long password"
        )
        seen = replace(self.shop, db=self.shop.db.seen_by(other.id))
        with self.assertRaises(BadInput):
            menus.read_target(seen, self.blog, "A plan")


class ShownTests(MenuCase):
    def test_what_is_not_out_or_not_for_everyone_is_left_out(self) -> None:
        for text in ("/a-plan/", "About us"):
            self.give(menus.adding(MENU, self.read(text)))
        self.assertNotIn("A plan", self.html())
        posts.settle(self.shop.db, 1, self.clock(), visibility="signed-in")
        placing.place(self.shop, self.me, 1)
        self.assertNotIn("About us", self.html())
        placing.place(self.shop, self.me, 4)
        self.assertIn(">A plan</a>", self.html())

    def test_parts_follow_below_a_category_and_below_a_page(self) -> None:
        for text in ("/lamps/", "/about-us/"):
            entry = Entry(self.read(text), parts=True)
            self.give(lambda menu, entry=entry: replace(menu, menu=(*menu.menu, entry)))
        self.assertIn(
            '<summary aria-label="Below Lamps"></summary><ul><li><a href="../wiring/">', self.html()
        )
        self.assertIn('<ul><li><a href="../about-us/who-we-are/">Who we are</a></li></ul>', self.html())
        categories.rename(self.shop, self.me, "bench", 2, "Cables")
        self.assertIn(">Cables</a></li></ul>", self.html())

    def test_the_foot_has_a_line_with_fill_ins_and_a_licence_machines_know(self) -> None:
        self.give(menus.foot_line(self.shop, self.blog, "© {blog}"))
        self.give(menus.licence("cc-by"))
        self.assertIn("<p>© The Bench</p>", self.html())
        self.assertIn(
            '<a rel="license" href="https://creativecommons.org/licenses/by/4.0/">CC BY 4.0</a>', self.html()
        )
        self.assertIn('"license":"https://creativecommons.org', self.html("/wiring/a-lamp/"))
        for act, message in (
            (
                lambda: menus.foot_line(self.shop, self.blog, "{phone}"),
                "“{phone}” stands for nothing; choose from {blog}, {line}, {address}.",
            ),
            (lambda: menus.licence("own"), "“own” is no open licence Mobbet knows; choose one of the list."),
        ):
            with self.assertRaises(BadInput) as caught:
                act()
            self.assertEqual(str(caught.exception), message)

    def test_on_a_phone_the_first_stand_open_and_the_rest_below_more(self) -> None:
        self.give(menus.open_on_phone(2))
        html = self.html("/")
        self.assertIn(
            '<li class="phone-only"><details><summary>More</summary><ul><li><a href="./archive/">', html
        )
        self.assertEqual(html.count('<li class="wide-only">'), 2)


class FrontDoorTests(MenuCase):
    def setUp(self) -> None:
        super().setUp()
        self.give(menus.front_door(self.shop, self.blog, 1))

    def test_a_page_is_the_front_door_and_the_newest_posts_stand_beside_it(self) -> None:
        self.assertIn("<h1>About us</h1>", self.html("/"))
        self.assertIn('rel="canonical" href="https://bench.example/"', self.html("/"))
        self.assertIn("<h1>Posts</h1>", self.html("/posts/"))
        self.assertIn('<a href="../posts/">Posts</a>', self.html())
        self.assertIn("https://bench.example/", self.html("/about-us/"))
        self.assertIn('<a href="../../">About us</a>', self.html("/about-us/who-we-are/"))
        self.assertEqual(self.publish(full=True).written, 0)

    def test_it_stands_aside_while_not_everyone_may_read_it(self) -> None:
        placing.withdraw(self.shop, self.me, 1)
        self.assertIn("A lamp", self.html("/"))
        self.assertIsNone(editions.page_at(self.shop.db, self.blog.id, "/posts/"))
        placing.place(self.shop, self.me, 1)
        self.assertIn("<h1>About us</h1>", self.html("/"))

    def test_a_page_that_becomes_a_post_is_no_front_door(self) -> None:
        pages.set_kind(self.shop, self.me, 1, "post")
        placing.place(self.shop, self.me, 1)
        self.assertIn("About us", self.html("/"))
        self.assertNotIn("<h1>About us</h1>", self.html("/"))
        with self.assertRaises(BadInput):
            menus.front_door(self.shop, self.blog, 1)
