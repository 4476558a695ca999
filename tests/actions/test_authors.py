"""Who writes: the page of an author with their posts and feed, the box below a post, and how people show themselves."""

from mobbet.actions import (
    blogs,
    consistency,
    docket_lines,
    library,
    media_jobs,
    menus,
    people,
    placing,
    profiles,
)
from mobbet.core.errors import BadInput
from mobbet.core.values import existing
from mobbet.store import editions
from mobbet.store import people as store
from mobbet.store.people import Person
from tests.shops import ShopCase, picture


class AuthorTests(ShopCase):
    def prepare(self) -> None:
        super().prepare()
        petra = people.add_person(
            self.shop, name="Petra Quill", email="petra@bench.example", password="a very long password"
        )
        blogs.add_member(self.shop, self.blog, petra, "writer")
        self.write("A lamp", date="2026-01-01")
        self.write("A clock", date="2026-01-02", author="Petra Quill")
        self.publish()

    @property
    def petra(self) -> Person:
        return existing(store.by_email(self.shop.db, "petra@bench.example"))

    def html(self, path: str) -> str:
        row = existing(editions.page_at(self.shop.db, self.blog.id, path))
        return existing(self.body(row)).decode()

    def show(self, **values: object) -> None:
        usual = {"name": "Petra Quill", "line": "", "text": "", "links": "", "pictures": {}}
        profiles.set_profile(self.shop, self.petra, **{**usual, **values})
        self.publish()

    def test_an_author_has_a_page_with_their_posts_and_a_feed(self) -> None:
        page = self.html("/by/petra-quill/")
        self.assertIn("<h1>Petra Quill</h1>", page)
        self.assertIn("A clock", page)
        self.assertNotIn("A lamp", page)
        self.assertIn("<title>A clock</title>", self.html("/by/petra-quill/feed.rss"))
        self.assertIn(
            '<a class="p-author h-card" href="../../by/petra-quill/" rel="author">Petra Quill</a>',
            self.html("/posts/a-clock/"),
        )
        self.assertEqual(consistency.problems(self.shop), [])

    def test_a_profile_stands_on_the_page_and_below_each_post(self) -> None:
        item = library.add_picture(self.shop, self.me, self.blog, "petra.png", picture()).id
        media_jobs.work_all(self.shop)
        self.show(
            line="Clocks, slowly.",
            text="She winds them.",
            links="https://petra.example/",
            pictures={"bench": item},
        )
        page = self.html("/by/petra-quill/")
        for words in (
            "Clocks, slowly.",
            "<p>She winds them.</p>",
            'rel="me">petra.example</a>',
            '"sameAs":["https://petra.example/"]',
            '"@type":"ProfilePage"',
            "<img",
        ):
            self.assertIn(words, page)
        self.assertIn("<span>Clocks, slowly.</span>", self.html("/posts/a-clock/"))
        self.assertNotIn('<aside class="author ', self.html("/posts/a-lamp/"))
        self.assertEqual(self.publish(full=True).written, 0)
        self.show(name="Petra Q.")
        self.assertIn("<h1>Petra Q.</h1>", self.html("/by/petra-quill/"))
        self.assertEqual(self.publish(full=True).written, 0)

    def test_a_page_of_an_author_begins_and_ends_with_their_posts(self) -> None:
        docket_lines.set_author(self.shop, self.me, 2, str(self.me.id))
        placing.place(self.shop, self.me, 2)
        self.assertIsNone(editions.page_at(self.shop.db, self.blog.id, "/by/petra-quill/"))
        self.assertIn("A clock", self.html("/by/ines-farrow/"))
        self.assertEqual(self.publish(full=True).written, 0)

    def test_the_menu_leads_to_an_author(self) -> None:
        target = menus.read_target(self.shop, self.blog, "/by/petra-quill/")
        menus.give_change(self.shop, self.me, "bench", menus.adding("menu", target))
        self.assertIn('<a href="../by/petra-quill/">Petra Quill</a></li>', self.html("/archive/"))

    def test_two_people_of_one_name_have_addresses_of_their_own(self) -> None:
        other = people.add_person(
            self.shop, name="Petra Quill", email="other@bench.example", password="a very long password"
        )
        self.assertEqual((self.petra.author_slug, other.author_slug), ("petra-quill", "petra-quill-2"))

    def test_what_cannot_be_kept_is_told_with_its_field(self) -> None:
        other = blogs.make_blog(
            self.shop, self.me, name="Log", address="log", zone="UTC", home="https://log.example/"
        )
        hidden = library.add_picture(self.shop, self.me, other, "till.png", picture(color="#101010")).id
        for field, values in {
            "name": {"name": ""},
            "line": {"line": "x" * 161},
            "text": {"text": "x" * 2001},
            "links": {"links": "javascript:alert(1)"},
            "picture": {"pictures": {"bench": hidden}},
        }.items():
            with self.subTest(field), self.assertRaises(BadInput) as caught:
                self.show(**values)
            self.assertEqual(caught.exception.field, field)
        self.assertEqual(self.petra.author_line, "")
