"""Filing many posts at once, for good and on trial."""

from dataclasses import replace

from mobbet.actions import categories, patterns, tags
from mobbet.actions.filing_writer import FilingDryRun
from mobbet.store import filed, filing, placements
from tests.shops import NOW, ShopCase


class CabinetCase(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.out = self.write("A lamp", date="2026-11-10", categories="Lamps", tags="flex, oil")
        self.draft = self.write("A clock", categories="Clocks")
        self.lamps, self.clocks = (
            categories.find(self.shop, self.blog, name) for name in ("Lamps", "Clocks")
        )


class CabinetTests(CabinetCase):
    def test_dockets_of_many_posts_are_read_at_once_with_the_main_category_first(self) -> None:
        categories.refile_posts(self.shop, self.me, "bench", [self.out.id], main=self.clocks)
        flex, oil = (filing.find_tag(self.shop.db, self.blog.id, name).id for name in ("flex", "oil"))
        found = self.shop.filing_writer.dockets([self.out.id, self.draft.id])
        self.assertEqual(
            found,
            {self.out.id: ((self.clocks, self.lamps), (flex, oil)), self.draft.id: ((self.clocks,), ())},
        )

    def test_only_what_differs_is_written(self) -> None:
        row = self.shop.filing_writer.rows([self.out.id])[0]
        before = self.shop.db.connection.total_changes
        with self.shop.db.transaction():
            filed.refile(self.shop.db, [(row, row)])
            filed.set_listings(self.shop.db, [row.id], filed.listing_rows(row, ("category:1",)), NOW)
        self.assertEqual(self.shop.db.connection.total_changes, before)

    def test_of_a_post_that_has_ended_nothing_is_for_readers(self) -> None:
        row = self.shop.filing_writer.rows([self.out.id])[0]
        self.assertTrue(row.is_for_readers(NOW))
        self.assertFalse(row._replace(shows_until=NOW).is_for_readers(NOW))
        self.assertFalse(row._replace(shows_from=row.shows_until).is_for_readers(NOW))


class TrialTests(CabinetCase):
    def setUp(self) -> None:
        super().setUp()
        self.trial = FilingDryRun(self.shop.db)
        self.trying = replace(self.shop, trial=self.trial)

    def test_what_is_tried_is_read_again_and_not_written(self) -> None:
        categories.refile_posts(
            self.trying, self.me, "bench", [self.out.id], main=self.clocks, take=[self.lamps]
        )
        self.assertEqual(self.trial.dockets([self.out.id])[self.out.id][0], (self.clocks,))
        self.assertEqual([row.path for row in self.trial.rows([self.out.id])], ["/clocks/a-lamp/"])
        self.assertEqual(
            [row.path for row in placements.of_post(self.shop.db, self.out.id)], ["/lamps/a-lamp/"]
        )

    def test_it_tells_how_posts_stood_before(self) -> None:
        tag = filing.find_tag(self.shop.db, self.blog.id, "flex").id
        categories.refile_posts(self.trying, self.me, "bench", [self.out.id], main=self.clocks)
        tags.rename(self.trying, self.me, "bench", tag, "cable")
        before, after = self.trial.shown(NOW)
        self.assertEqual(
            (before[self.out.id].path, after[self.out.id].path), ("/lamps/a-lamp/", "/clocks/a-lamp/")
        )

    def test_addresses_that_are_tried_are_taken_for_what_is_tried_after_them(self) -> None:
        other = self.write("A lamp", date="2026-11-11", categories="Clocks")
        categories.refile_posts(
            self.trying, self.me, "bench", [self.out.id], main=self.clocks, take=[self.lamps]
        )
        self.assertEqual([row.path for row in self.trial.rows([self.out.id])], ["/clocks/a-lamp-2/"])
        self.assertEqual(
            self.trial.owners(self.blog.id, ["/clocks/a-lamp-2/", "/clocks/a-lamp/"]),
            {"/clocks/a-lamp-2/": ("post", self.out.id), "/clocks/a-lamp/": ("post", other.id)},
        )

    def test_another_pattern_is_tried_for_every_post(self) -> None:
        self.assertEqual(patterns.set_pattern(self.trying, self.me, "bench", "/{year}/{slug}/"), 1)
        self.assertEqual([row.path for row in self.trial.rows([self.out.id])], ["/2026/a-lamp/"])
