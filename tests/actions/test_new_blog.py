"""Another blog, begun from one of one's own."""

from __future__ import annotations

from mobbet.actions import blogs as blog_actions
from mobbet.actions import house_words, kept_blocks, library, looks, menus, new_blog, people
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.errors import BadInput, NotAllowed, NotFound, Refused
from mobbet.core.house import LOOK
from mobbet.store import blogs, desk, editions, filing, kept
from mobbet.store import house as house_store
from mobbet.store import pages as page_store
from tests.shops import ShopCase, picture


class BeginningTests(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.write("A lamp", date="2026-01-01", categories="Lamps > Wiring")
        looks.try_begun(self.shop, self.me, "bench", "ledger")
        looks.give(self.shop, self.me, "bench")
        house_words.set_house_words(
            self.shop, self.me, "bench", quotes="", dashes="", ellipses="", avoided="utilise: use"
        )
        kept_blocks.keep_blocks(
            self.shop, self.me, "bench", "Safety", from_markdown("Pull the plug.")["content"]
        )
        media = library.add_picture(self.shop, self.me, self.blog, "p.png", picture())
        kept_blocks.keep_blocks(
            self.shop, self.me, "bench", "Map", from_markdown(f"![Map](media:{media.id})")["content"]
        )
        template = self.write("Session", "Bring it on Thursday.")
        kept_blocks.set_template(self.shop, self.me, template.id, True)

    def begin(self, **more: object) -> new_blog.Begun:
        facts = {
            "name": "The Log",
            "address": "log",
            "zone": "Atlantic/Azores",
            "home": "https://log.example/",
        }
        return new_blog.begin(self.shop, self.me, **{**facts, **more})

    def test_it_takes_over_what_is_chosen(self) -> None:
        begun = self.begin(source="bench", parts=list(new_blog.PARTS))
        blog = begun.blog
        self.assertEqual(looks.given(self.shop, blog).name, "Ledger")
        self.assertEqual(
            [one.name for one in filing.subjects(self.shop.db, blog.id).values()], ["Lamps", "Wiring"]
        )
        self.assertIn("utilise", blog.avoided)
        self.assertEqual([one.name for one in kept.every(self.shop.db, blog.id)], ["Safety"])
        self.assertEqual([title for _, title in desk.templates(self.shop.db, blog.id)], ["Session"])
        self.assertEqual(
            begun.notes, ("1 saved block needs files, blocks or posts of the other blog and stayed there.",)
        )
        self.assertIsNotNone(editions.page_at(self.shop.db, blog.id, "/look.css"))

    def test_pages_come_as_drafts_and_the_menu_leads_to_them(self) -> None:
        self.write("About", kind="about", date="2026-01-01", menu="Who we are")
        self.write("Who", kind="page", below="About", date="2026-01-01")
        for text in ("/lamps/", "https://x.example/", "/wiring/a-lamp/"):
            menus.give_change(
                self.shop,
                self.me,
                "bench",
                menus.adding("menu", menus.read_target(self.shop, self.blog, text)),
            )
        begun = self.begin(source="bench", parts=["categories", "pages", "menu"])
        about, who = page_store.every(self.shop.db, begun.blog.id)
        self.assertEqual((about.kind, who.below, about.placed_for), ("about", about.id, None))
        found = [(entry.to, entry.words) for entry in menus.given(self.shop, begun.blog).menu[4:]]
        lamps = next(iter(filing.subjects(self.shop.db, begun.blog.id)))
        self.assertEqual(
            found,
            [
                (f"post:{about.id}", "Who we are"),
                (f"category:{lamps}", ""),
                ("address:https://x.example/", ""),
            ],
        )
        self.assertIn("1 menu entry needs", begun.notes[0])

    def test_nothing_comes_along_that_was_not_chosen(self) -> None:
        blog = self.begin(source="bench", parts=["look"]).blog
        self.assertEqual(filing.subjects(self.shop.db, blog.id), {})
        self.assertEqual(kept.every(self.shop.db, blog.id), [])
        self.assertIsNone(
            house_store.given_at(self.shop.db, self.begin(address="other").blog.id, LOOK, self.clock())
        )

    def test_the_tree_keeps_its_shape(self) -> None:
        blog = self.begin(source="bench", parts=["categories"]).blog
        lamps, wiring = filing.subjects(self.shop.db, blog.id).values()
        self.assertEqual((lamps.parent_id, wiring.parent_id), (None, lamps.id))

    def test_what_cannot_be_made_leaves_nothing(self) -> None:
        for more, error in (
            ({"address": "bench"}, Refused), ({"zone": "Mars/Base"}, BadInput), ({"name": ""}, BadInput), ({"source": "nobodys"}, NotFound),
            ({"source": "bench", "parts": ["secrets"]}, BadInput),
        ):  # fmt: skip
            with self.subTest(more), self.assertRaises(error):
                self.begin(**more)
        self.assertEqual([blog.slug for blog in blogs.every(self.shop.db)], ["bench"])

    def test_only_owners_make_another(self) -> None:
        writer = people.add_person(self.shop, name="Laran", email="laran@bench.example", password=None)
        blog_actions.add_member(self.shop, self.blog, writer, "writer")
        with self.assertRaises(NotAllowed):
            new_blog.begin(self.shop, writer, name="X", address="x", zone="UTC", home="https://x.example/")

    def test_a_model_must_be_ones_own(self) -> None:
        other = people.add_person(self.shop, name="Wren", email="wren@bench.example", password=None)
        blog_actions.make_blog(
            self.shop, other, name="Wren", address="wren", zone="UTC", home="https://wren.example/"
        )
        with self.assertRaises(NotFound):
            self.begin(source="wren", parts=["look"])
