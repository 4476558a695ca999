"""A footprint is what the next publication alters: by chance, page by page."""

import random
from unittest import mock

from mobbet.actions import bulk_actions, categories, footprints, menus, placing
from mobbet.core.menu import MENU, Target
from mobbet.publish.changes import exact
from mobbet.publish.changes.exact import pending_footprint
from mobbet.publish.page_count import PageCount
from mobbet.publish.pages.kinds import count_of
from mobbet.store import editions
from tests.shops import ShopCase


class FootprintTests(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        with self.shop.db.transaction():
            self.shop.db.run("UPDATE blog SET posts_on_page = 3")
        self.numbers = [self.post(number) for number in range(14)]
        self.publish()

    def post(self, number: int) -> int:
        day = f"2026-{number * 7 % 10 + 1:02d}-{number % 27 + 1:02d}"
        return self.write(
            f"Post {number}",
            date=day,
            categories=("Lamps > Wiring", "Clocks")[number % 2],
            tags="flex" if number % 3 else "oil",
        ).id

    def rows(self) -> dict[str, editions.PageRow]:
        return {row.key: row for row in editions.pages(self.shop.db, self.blog.id)}

    def assert_foretold(self, words: str) -> None:
        """That the footprint names what a publication then does."""
        foretold = {
            (page.key, page.path, page.what, page.was)
            for page in pending_footprint(self.shop.db, self.blog.id, self.shop.clock()).pages
        }
        before = self.rows()
        self.publish()
        now = self.rows()
        done = {(key, before[key].path, "removed", "") for key in before.keys() - now.keys()}
        done |= {(key, now[key].path, "added", "") for key in now.keys() - before.keys()}
        bare = lambda row: row._replace(fingerprint="")  # noqa: E731
        moved = {
            key: before[key].path for key in before.keys() & now.keys() if bare(before[key]) != bare(now[key])
        }
        done |= {
            (key, now[key].path, "altered", was if was != now[key].path else "") for key, was in moved.items()
        }
        self.assertEqual(foretold, done, words)

    def test_it_names_what_the_next_publication_does(self) -> None:
        chance = random.Random(7)
        number = categories.find(self.shop, self.blog, "Lamps > Wiring")
        for step in range(40):
            some = chance.sample(self.numbers, 3)
            kind = chance.choice(("withdraw", "several", "new", "rename", "publish", "menu", "title"))
            if kind == "withdraw":
                placing.withdraw(self.shop, self.me, some[0]) if self.is_out(some[0]) else None
            elif kind == "several":
                bulk_actions.handle(
                    self.shop, self.me, "bench", "withdraw", [one for one in some if self.is_out(one)]
                ) if any(map(self.is_out, some)) else None
            elif kind == "new":
                self.numbers.append(self.post(len(self.numbers)))
            elif kind == "rename":
                categories.rename(self.shop, self.me, "bench", number, f"Wiring {step}")
            elif kind == "publish":
                placing.place(self.shop, self.me, some[0])
            elif kind == "menu":
                target = Target.of("category", number)
                change = menus.without(target) if step % 2 else menus.at_address("foot", target, "")
                menus.give_change(self.shop, self.me, "bench", change)
            else:
                with self.shop.db.transaction():
                    self.shop.db.run("UPDATE revision SET title = title || '!' WHERE post_id = ?", some[0])
                    self.shop.db.run(
                        "INSERT INTO stale_post (blog_id, post_id) VALUES (?, ?)", self.blog.id, some[0]
                    )
            with mock.patch.object(exact, "LARGE", chance.choice((2, 1000))):
                self.assert_foretold(f"step {step}: {kind}")

    def is_out(self, post_id: int) -> bool:
        return f"post/{post_id}" in self.rows()

    def test_another_house_alters_every_page_and_is_told_by_their_number(self) -> None:
        target = Target.of("category", categories.find(self.shop, self.blog, "Clocks"))
        given = lambda: menus.give_change(self.shop, self.me, "bench", menus.adding(MENU, target))  # noqa: E731
        named = footprints.effect_of(self.shop, self.blog, given).pages
        count = sum(
            key.kind in ("post", "list", "subjects", "archive", "search", "missing") for key in self.rows()
        )
        self.assertEqual(count_of(page.key for page in named), PageCount(count))
        given()
        self.publish()
        change = lambda shop: categories.rename(shop, self.me, "bench", target.number, "Watches")  # noqa: E731
        named = footprints.effect_of(self.shop, self.blog, lambda: change(self.shop)).pages
        counted = footprints.effect_of_filing(self.shop, self.blog, change)
        self.assertEqual(counted.every + len(counted.pages), len(named))
        for column, value in (("name", "Another bench"), ("posts_on_page", 4)):
            with self.subTest(column), mock.patch.object(exact, "LARGE", 2):
                with self.shop.db.transaction():
                    self.shop.db.run(f"UPDATE blog SET {column} = ? WHERE id = ?", value, self.blog.id)
                self.assert_foretold(column)
