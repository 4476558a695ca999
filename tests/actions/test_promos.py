"""Blocks below posts: tried, given, by time, by words; what they alter, and what is told of a post."""

from mobbet.actions import blogs, building, category_tree, house, kept_blocks, placing, promos
from mobbet.actions.people import add_person
from mobbet.core.document.from_plain import from_plain
from mobbet.core.errors import BadInput, NotAllowed, NotFound
from mobbet.core.house import PROMOS
from mobbet.core.timing import FOREVER
from mobbet.core.values import existing
from mobbet.store import editions
from mobbet.web.shell.scheduler import Scheduler
from tests.shops import DAY, ShopCase

OFFER = "---\nname: Offer\ncategories: Lamps\nnever: [Rival Tools]\n---\nCome on *Thursday*.\n"


class PromoCase(ShopCase):
    def prepare(self) -> None:
        super().prepare()
        self.write("A lamp", categories="Lamps > Wiring", tags="flex", date="2026-01-01")
        self.write("Of rivals", "We tried Rival Tools once.", categories="Lamps", date="2026-01-02")
        self.write("A clock", categories="Clocks", date="2026-01-03")
        self.write("A plan", categories="Lamps")
        self.publish()

    def paths(self) -> dict[str, str]:
        return {row.path: row.hash for row in editions.pages(self.shop.db, self.blog.id)}

    def html(self, path: str) -> str:
        return existing(self.body(existing(editions.page_at(self.shop.db, self.blog.id, path)))).decode()

    def with_promo(self) -> list[str]:
        return [
            path for path in self.paths() if path.endswith("/") and 'class="promo text"' in self.html(path)
        ]

    def set(self, number: int, field: str, typed: str) -> None:
        promos.give_change(
            self.shop, self.me, "bench", promos.setting(self.shop, self.blog, number, field, typed)
        )


class GivingTests(PromoCase):
    def test_a_file_gives_readers_a_rule_and_its_block(self) -> None:
        before = self.paths()
        added = promos.add_file(self.shop, self.me, "bench", OFFER)
        self.assertEqual(self.with_promo(), ["/wiring/a-lamp/"])
        self.assertIn("Come on <em>Thursday</em>.", self.html("/wiring/a-lamp/"))
        after = self.paths()
        self.assertEqual([path for path in after if after[path] != before.get(path)], ["/wiring/a-lamp/"])
        self.assertEqual((added.rule.id, added.published.written), (1, 1))
        self.assertEqual(self.publish(full=True).written, 0)

    def test_what_is_tried_no_reader_gets_and_its_footprint_is_what_is_published(self) -> None:
        kept_blocks.keep_blocks(self.shop, self.me, "bench", "Notice", from_plain("Unplug it.")["content"])
        promos.try_change(self.shop, self.me, "bench", promos.adding(self.shop, self.blog, "Notice"))
        self.assertEqual(self.with_promo(), [])
        before = self.paths()
        told = {page.path for page in house.effect(self.shop, self.me, "bench", PROMOS).pages}
        house.give(self.shop, self.me, "bench", PROMOS)
        self.assertEqual({path for path, hash in self.paths().items() if before.get(path) != hash}, told)
        self.assertEqual(sorted(told), ["/clocks/a-clock/", "/lamps/of-rivals/", "/wiring/a-lamp/"])
        house.undo_given(self.shop, self.me, "bench", PROMOS)
        self.assertEqual(self.paths(), before)

    def test_other_words_of_the_block_alter_the_posts_that_show_it(self) -> None:
        promos.add_file(self.shop, self.me, "bench", OFFER)
        before = self.paths()
        effect = kept_blocks.footprint_of_change(self.shop, self.me, "bench", 1, from_plain("Come."))
        kept_blocks.change_kept(self.shop, self.me, "bench", 1, "Offer", from_plain("Come."))
        changed = [path for path, hash in self.paths().items() if before.get(path) != hash]
        self.assertEqual(changed, ["/wiring/a-lamp/"])
        self.assertEqual([page.path for page in effect.pages], changed)
        kept_blocks.remove_kept(self.shop, self.me, "bench", 1, True)
        self.assertEqual(self.with_promo(), [])
        self.assertEqual(self.publish(full=True).written, 0)

    def test_a_post_that_comes_to_name_a_rival_loses_the_block_with_that_update(self) -> None:
        promos.add_file(self.shop, self.me, "bench", OFFER)
        self.set(1, "never", "some words")
        self.assertEqual(self.with_promo(), ["/lamps/of-rivals/"])

    def test_a_category_that_is_moved_takes_its_posts_along(self) -> None:
        promos.add_file(self.shop, self.me, "bench", OFFER)
        category_tree.move(self.shop, self.me, "bench", 2, None)
        self.publish()
        self.assertEqual(self.with_promo(), [])
        self.assertEqual(self.publish(full=True).written, 0)

    def test_it_comes_and_goes_by_time(self) -> None:
        promos.add_file(
            self.shop,
            self.me,
            "bench",
            OFFER.replace("---\nCome", "from: tomorrow at nine\nuntil: in 3 days\n---\nCome"),
        )
        self.assertEqual(self.with_promo(), [])
        scheduler = Scheduler(self.shop, self.clock)
        self.assertLess(existing(building.next_change(self.shop)), self.clock() + 2 * DAY)
        self.clock.forward(2 * DAY)
        scheduler.publish_due()
        self.assertEqual(self.with_promo(), ["/wiring/a-lamp/"])
        self.clock.forward(2 * DAY)
        scheduler.publish_due()
        self.assertEqual(self.with_promo(), [])
        self.assertEqual(self.publish(full=True).written, 0)
        self.assertEqual(building.next_change(self.shop), FOREVER)


class TellingTests(PromoCase):
    def test_a_post_is_told_what_stands_below_it_and_why(self) -> None:
        promos.add_file(self.shop, self.me, "bench", OFFER)
        for post, why in (
            (1, "stands below it: it is filed in Lamps"),
            (2, "the post names “Rival Tools”"),
            (3, "the post is filed elsewhere"),
            (4, "stands below it: it is filed in Lamps"),
        ):
            with self.subTest(post):
                self.assertEqual(
                    [one.why for _, one in promos.below(self.shop, self.me, post).verdicts], [why]
                )
        placing.withdraw(self.shop, self.me, 1)
        self.assertTrue(promos.below(self.shop, self.me, 1).verdicts[0][1].stands)

    def test_nothing_stands_below_pages(self) -> None:
        page = self.write("About", kind="about", date="2026-01-01")
        promos.add_file(self.shop, self.me, "bench", "---\nname: All\n---\nHello.\n")
        self.assertEqual(
            promos.below(self.shop, self.me, page.id).verdicts[0][1].why, "nothing stands below pages"
        )
        self.assertNotIn("promo", self.html("/about/"))

    def test_only_the_owner_sets_rules(self) -> None:
        other = add_person(self.shop, name="Tomas", email="t@bench.example", password="a long password too")
        blogs.add_member(self.shop, self.blog, other, "editor")
        with self.assertRaises(NotAllowed):
            promos.add_file(self.shop, other, "bench", OFFER)
        with self.assertRaises(NotFound):
            promos.below(self.shop, self.me, 99)


class RefusingTests(PromoCase):
    def test_a_file_that_cannot_be_is_refused_and_nothing_of_it_stays(self) -> None:
        for text, says in (
            ("no front matter", "The name has 0 letters"),
            (OFFER.replace("Lamps", "Boats"), "no category and no tag"),
            (OFFER.replace("never", "nevr"), "is nothing of a rule; the fields are"),
            (OFFER.replace("---\nCome", "weight: heavy\n---\nCome"), "is no weight"),
            (OFFER.replace("---\nCome", "until: yesterday-ish\n---\nCome"), "yesterday-ish"),
            ("---\nname: Offer\n---\n", "no saved block"),
            ("---\nname: [\n---\nx", "not valid YAML"),
        ):
            with self.subTest(says), self.assertRaisesRegex(BadInput, says):
                promos.add_file(self.shop, self.me, "bench", text)
        self.assertEqual(promos.given(self.shop, self.blog).rules, ())
        self.assertEqual(kept_blocks.kept.every(self.shop.db, self.blog.id), [])

    def test_nonsense_for_a_word_is_refused_in_a_sentence(self) -> None:
        promos.add_file(self.shop, self.me, "bench", OFFER)
        for field, typed, says in (
            ("place", "", "no category and no tag"),
            ("weight", "²", "no weight"),
            ("weight", "0", "1 to 9; 0"),
            ("block", "99", "no saved block"),
            ("nonsense", "x", "nothing of a rule"),
        ):
            with self.subTest(field), self.assertRaisesRegex(BadInput, says):
                self.set(1, field, typed)
