"""Random histories of looks, menus, pages and facts of the house: small editions are the whole site, footprints are what is published."""

from __future__ import annotations

import random
from collections.abc import Callable
from dataclasses import replace

from mobbet.actions import (
    also_in,
    building,
    front_sections,
    house,
    house_facts,
    kept_blocks,
    library,
    looks,
    media_jobs,
    menus,
    most_read,
    new_blog,
    own_look,
    pages,
    placing,
    promos,
)
from mobbet.actions.footprints import effect_of
from mobbet.actions.workshop import Workshop
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.document.from_plain import from_plain
from mobbet.core.errors import Refused
from mobbet.core.front import Section
from mobbet.core.house import FACTS, LOOK, PARTS
from mobbet.core.house import MENU as MENU_PART
from mobbet.core.look.begun import BEGUN
from mobbet.core.menu import FOOT, MENU, Entry, Target, places
from mobbet.core.timing import month_number
from mobbet.store import blogs, editions, posts
from tests.shops import DAY, ShopCase, picture

Step = Callable[[], object]
SECTIONS = (
    ("chosen", "", (1, 3, 7)),
    ("category", "", (1,), 2),
    ("category", "Again", (2,), 3),
    ("tag", "", (1,), 1),
    ("categories", "", (), 4, True),
    ("most_read",),
    ("authors",),
    ("authors", "We", (1,)),
    ("blocks", "", (1,)),
    ("blocks", "An offer", (2,)),
    ("pages",),
    ("pages", "", (8, 2)),
)
"""Sections that may come: the values of `Section`."""


RULES = (
    ("place", "Lamps"),
    ("place", "flex"),
    ("never", "words 4"),
    ("until", "tomorrow"),
    ("from", "in 2 hours"),
    ("weight", "9"),
    ("block", "2"),
)
"""What may be set in a rule for blocks below posts."""


def read(shop: Workshop, number: int) -> None:
    """Has a post read by many."""
    shop.db.run(
        "INSERT INTO reads (post_id, month, count) VALUES (?, ?, ?) ON CONFLICT DO UPDATE SET count = count + 9",
        number,
        month_number(shop.clock()),
        number,
    )


class HistoryTests(ShopCase):
    def prepare(self) -> None:
        super().prepare()
        library.add_picture(self.shop, self.me, self.blog, "sky.png", picture(color="#203040"))
        for number in range(6):
            self.write(
                f"Post {number}",
                categories=("Lamps > Wiring", "Clocks")[number % 2],
                tags="flex",
                date=f"2026-0{number + 1}-01",
            )
        for number in range(4):
            below = {"below": f"Page {number - 1}"} if number % 2 else {}
            self.write(f"Page {number}", kind="page", date="2026-02-01", **below)
        for name in ("Notice", "Offer"):
            kept_blocks.keep_blocks(
                self.shop, self.me, "bench", name, from_plain(f"{name}, as ever.")["content"]
            )
        new_blog.begin(
            self.shop, self.me, name="Second", address="second", zone="Atlantic/Azores", home="https://second.example/", source="", parts=[]
        )  # fmt: skip
        media_jobs.work_all(self.shop)
        self.publish()

    def steps(self, chance: random.Random) -> dict[str, Step]:
        """What may happen next, each once."""
        me, shop, number = self.me, self.shop, chance.randint(1, 10)
        targets = [
            "newest",
            "archive",
            "category:1",
            "category:2",
            "tag:1",
            f"post:{number}",
            "address:https://x.example/",
        ]
        target = Target(chance.choice(targets))
        menu = menus.present(shop, self.blog)
        spots = [place for place, _ in places(menu, MENU)] or [(0,)]
        spot, to = chance.choice(spots), chance.choice([(0,), (1,), (0, 0), (1, 1)])
        entry = Entry(target, chance.choice(("", "Words")), chance.random() < 0.7, chance.random() < 0.5)
        try_menu = lambda change: menus.try_change(shop, me, "bench", change)  # noqa: E731
        facts = [
            ("name", f"Bench {number}"),
            ("label", "Notes"),
            ("fact", f"n: {number}"),
            ("posts_on_page", str(number)),
            ("made_by", "The club"),
            ("full_in_lists", chance.choice(("", "yes"))),
        ]
        return {
            "look": lambda: looks.try_begun(shop, me, "bench", chance.choice(BEGUN)),
            "picture": lambda: looks.try_picture(shop, me, "bench", "top.picture", chance.choice((0, 1))),
            "add": lambda: try_menu(lambda one: replace(one, menu=(*one.menu, entry)[:9])),
            "foot": lambda: try_menu(menus.adding(FOOT, target)),
            "move": lambda: try_menu(menus.moving(MENU, spot, to)),
            "remove": lambda: try_menu(menus.removing(MENU, spot)),
            "line": lambda: try_menu(menus.foot_line(shop, self.blog, chance.choice(("© {blog}", "{line}", "")))),
            "door": lambda: try_menu(menus.front_door(shop, self.blog, chance.choice((0, 7, 8)))),
            "section": lambda: try_menu(front_sections.adding(Section(*chance.choice(SECTIONS)))),
            "other sections": lambda: try_menu(front_sections.moving(0, chance.randint(0, 5))),
            "fewer sections": lambda: try_menu(front_sections.removing(chance.randint(0, 5))),
            "block": lambda: kept_blocks.change_kept(shop, me, "bench", chance.choice((1, 2)), f"Block {number}", from_markdown(f"Words [there](post:{number}).")),
            "rule": lambda: promos.try_change(shop, me, "bench", promos.adding(shop, self.blog, chance.choice("12"))),
            "other rule": lambda: promos.try_change(shop, me, "bench", promos.setting(shop, self.blog, chance.randint(1, 3), *chance.choice(RULES))),
            "categories": lambda: try_menu(front_sections.foot_categories(chance.choice(("", "names", "counts")))),
            "pictures": lambda: try_menu(front_sections.subject_pictures(chance.random() < 0.5)),
            "reads": lambda: (read(shop, number), most_read.count_for(shop, self.blog)),
            "file": lambda: posts.set_categories(shop.db, number, [chance.choice((1, 2, 3))], self.clock()),
            "own look": lambda: own_look.set_own_look(shop, me, number, paper=chance.choice(("", "#102018", "#fdf6e3")), accent="", picture=chance.choice(("", "1"))),
            "also": lambda: also_in.add(shop, me, number, "second"),
            "no more": lambda: also_in.remove(shop, me, number, "second"),
            "fact": lambda: house_facts.try_fact(shop, me, "bench", *chance.choice(facts)),
            "kind": lambda: pages.set_kind(shop, me, number, chance.choice(("post", "page", "about"))),
            "below": lambda: pages.set_below(shop, me, number, str(chance.randint(7, 10))),
            "slug": lambda: posts.settle(shop.db, number, self.clock(), slug=f"word-{chance.randint(1, 5)}-{number}"),
            "readers": lambda: posts.settle(shop.db, number, self.clock(), visibility=chance.choice(("everyone", "signed-in"))),
        }  # fmt: skip

    def bodies(self) -> dict[str, str]:
        return {row.path: row.hash + row.audience for row in editions.pages(self.shop.db, self.blog.id)}

    def publishing(self, chance: random.Random) -> Step:
        part, number = chance.choice(list(PARTS)), chance.randint(1, 10)
        return chance.choice((
            lambda: house.give(self.shop, self.me, "bench", part),
            lambda: house.give(self.shop, self.me, "bench", part),
            lambda: house.undo_given(self.shop, self.me, "bench", part),
            lambda: placing.place(self.shop, self.me, number),
            lambda: placing.place(self.shop, self.me, number),
            lambda: placing.withdraw(self.shop, self.me, number),
        ))  # fmt: skip

    def test_small_editions_are_the_whole_site_and_footprints_are_what_is_published(self) -> None:
        for seed in range(4):
            chance = random.Random(seed)
            for step in range(18):
                self.clock.forward(DAY // 50)
                steps = self.steps(chance)
                for name in chance.sample(list(steps), 2):
                    try:
                        steps[name]()
                    except Refused:
                        continue
                act, before = self.publishing(chance), self.bodies()
                try:
                    told = effect_of(self.shop, self.blog, act).pages
                    act()
                except Refused:
                    continue
                where, now = f"seed {seed}, step {step}", self.bodies()
                changed = {path for path in before.keys() | now.keys() if before.get(path) != now.get(path)}
                named = {page.path for page in told} | {page.was for page in told if page.was}
                self.assertEqual(changed - named, set(), where)
                whole = {page.path for page in told if page.what != "altered" and not page.was}
                self.assertEqual(whole - changed, set(), where)
                for blog in blogs.every(self.shop.db):
                    self.assertEqual(
                        building.publish(self.shop, blog, full=True).written, 0, f"{where}, {blog.slug}"
                    )

    def test_what_is_put_back_gives_the_earlier_bytes(self) -> None:
        for part, tries in (
            (LOOK, lambda: looks.try_begun(self.shop, self.me, "bench", "ledger")),
            (
                MENU_PART,
                lambda: menus.try_change(
                    self.shop, self.me, "bench", menus.front_door(self.shop, self.blog, 7)
                ),
            ),
            (FACTS, lambda: house_facts.try_fact(self.shop, self.me, "bench", "label", "News")),
        ):
            with self.subTest(part):
                before = self.bodies()
                tries()
                house.give(self.shop, self.me, "bench", part)
                self.assertNotEqual(self.bodies(), before)
                house.undo_given(self.shop, self.me, "bench", part)
                self.assertEqual(self.bodies(), before)
