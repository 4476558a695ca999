"""The index by which readers search where the site stands as files."""

from __future__ import annotations

import tempfile
from dataclasses import replace
from pathlib import Path
from unittest import mock

from mobbet.actions import consistency, docket_lines, placing, static_search, targets
from mobbet.core.errors import BadInput, NotAllowed
from mobbet.core.places_outside import Credentials
from mobbet.store import blogs
from mobbet.store import static_search as store
from mobbet.store import targets as target_store
from tests.actions.teams import TeamCase
from tests.shops import DAY


class StaticSearchTests(TeamCase):
    def setUp(self) -> None:
        super().setUp()
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.there = Path(folder.name).resolve() / "site"
        self.shop.settings = replace(self.shop.settings, folders=(self.there.parent,))
        self.lamp = self.write(
            "A lamp", "The grommet broke.", date="2026-11-01", categories="Lamps", tags="flex"
        )
        self.write("Closed", "markersecret", date="2026-11-01", visibility="signed-in")
        targets.add(self.shop, self.me, self.blog, f"folder:{self.there}", Credentials())

    def send(self) -> None:
        blog = blogs.by_slug(self.shop.db, "bench")
        for target in target_store.of_blog(self.shop.db, blog.id):
            targets.send(self.shop, blog, target)

    def index(self) -> set[str]:
        folder = self.there / "search" / "index"
        return {path.relative_to(folder).as_posix() for path in folder.rglob("*") if path.is_file()}

    def test_without_an_index_the_page_leads_to_subjects_and_has_no_form(self) -> None:
        self.send()
        page = (self.there / "search" / "index.html").read_text()
        self.assertNotIn('id="search"', page)
        self.assertIn("Or look by subject", page)
        self.assertEqual(self.index(), set())

    def test_an_index_is_sent_and_the_page_asks_it_under_a_strict_policy(self) -> None:
        static_search.set_rule(self.shop, self.me, "bench", "always")
        self.send()
        page = (self.there / "search" / "index.html").read_text()
        self.assertIn("default-src 'none'; script-src 'self' 'wasm-unsafe-eval'", page)
        self.assertIn('<form class="ask search wide" hidden', page)
        self.assertLessEqual({"pagefind.js", "pagefind-entry.json"}, self.index())
        self.assertFalse([name for name in self.index() if "-ui" in name])
        self.assertEqual(store.made(self.shop.db, self.blog.id).posts, {self.lamp.id})
        self.assertFalse(Path("pagefind").exists())  # nothing is written where the server was started

    def test_it_is_made_as_often_as_the_owner_says_and_at_once_where_a_post_is_restricted(self) -> None:
        static_search.set_rule(self.shop, self.me, "bench", "day")
        self.send()
        first = store.made(self.shop.db, self.blog.id).made_at
        self.write("Another lamp", date="2026-11-02")
        self.clock.forward(60)
        self.send()
        self.assertEqual(store.made(self.shop.db, self.blog.id).made_at, first)
        [target] = target_store.of_blog(self.shop.db, self.blog.id)
        self.assertFalse(targets.is_due(self.shop, target))
        self.clock.forward(DAY)
        self.assertTrue(targets.is_due(self.shop, target))
        self.send()
        self.assertFalse(targets.is_due(self.shop, target_store.by_id(self.shop.db, target.id)))
        self.assertEqual(len(store.made(self.shop.db, self.blog.id).posts), 2)
        docket_lines.set_visibility(self.shop, self.me, self.lamp.id, "signed-in")
        placing.place(self.shop, self.me, self.lamp.id)
        self.clock.forward(60)
        self.send()
        self.assertNotIn(self.lamp.id, store.made(self.shop.db, self.blog.id).posts)

    def test_a_file_of_it_that_is_missing_is_told_of(self) -> None:
        static_search.set_rule(self.shop, self.me, "bench", "always")
        self.send()
        self.assertEqual(consistency.problems(self.shop), [])
        digest = store.files(self.shop.db, self.blog.id)["pagefind.js"]
        with mock.patch.object(self.shop.pages, "read", lambda wanted: None if wanted == digest else b""):
            self.assertTrue(any("is missing" in one for one in consistency.problems(self.shop)))

    def test_a_second_place_gets_the_index_that_was_made_for_the_first(self) -> None:
        targets.add(self.shop, self.me, self.blog, f"folder:{self.there.parent / 'two'}", Credentials())
        static_search.set_rule(self.shop, self.me, "bench", "week")
        self.send()
        self.assertTrue((self.there.parent / "two" / "search" / "index" / "pagefind.js").exists())
        rows = target_store.of_blog(self.shop.db, self.blog.id)
        self.assertEqual([targets.is_due(self.shop, one) for one in rows], [False, False])

    def test_taken_away_it_lies_nowhere_any_more(self) -> None:
        static_search.set_rule(self.shop, self.me, "bench", "always")
        self.send()
        static_search.set_rule(self.shop, self.me, "bench", "")
        self.send()
        self.assertEqual(self.index(), set())
        with self.assertRaisesRegex(BadInput, "“hour” is no choice"):
            static_search.set_rule(self.shop, self.me, "bench", "hour")
        with self.assertRaises(NotAllowed):
            static_search.set_rule(self.shop, self.editor, "bench", "day")
