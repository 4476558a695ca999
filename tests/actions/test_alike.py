import json
import random
from html import unescape

from mobbet.actions import alike, docket_lines, footprints, kept_blocks, looks, patterns, placing
from mobbet.core.errors import BadInput
from mobbet.core.letters import TEASER
from mobbet.core.values import existing
from mobbet.publish.letter_pages import LetterMaker
from mobbet.publish.plan import Plan
from mobbet.store import alike as store
from mobbet.store import editions
from mobbet.store.posts import Post
from mobbet.store.snapshot import SiteSnapshot
from tests.shops import ShopCase

LAMP = "The flex of a lamp breaks at the grommet, and then the fuse goes."


class AlikeCase(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        look = looks.given(self.shop, self.blog)
        self.assertIn("alike", look.post.below)
        self.fillers = [
            self.out(f"Filler {number}", f"Something of word{number} and other{number}.")
            for number in range(8)
        ]
        self.lamp = self.out("A lamp flickers", LAMP, categories="Lamps", tags="flex")
        self.publish()

    def out(self, title: str, body: str, day: int = 10, **settings: str) -> Post:
        return self.write(title, body, date=f"2026-11-{day:02d}", **settings)

    def below(self, post: Post) -> list[str]:
        """The titles below a post, as readers get them."""
        page = next(
            body for path, body in self.site().items() if path.endswith(f"/{self.again(post).slug}/")
        ).decode()
        nav = page.partition('<nav class="alike"')[2].partition("</nav>")[0]
        return [part.partition("</a>")[0].rpartition(">")[2] for part in nav.split("<li>")[1:]]

    def path_of(self, post: Post) -> str:
        slug = self.again(post).slug
        return next(path for path in self.site() if path.endswith(f"/{slug}/"))

    def rows(self) -> dict[str, str]:
        return {row.key: row.hash for row in editions.pages(self.shop.db, self.blog.id)}


class AlikeTests(AlikeCase):
    def test_a_post_on_the_same_matter_stands_below_both(self) -> None:
        other = self.out("Rewiring", "A new flex, a grommet and the right fuse.", tags="flex")
        self.publish()
        self.assertEqual(self.below(other), ["A lamp flickers"])
        self.assertEqual(self.below(self.lamp), ["Rewiring"])
        self.assertEqual(self.below(self.fillers[0]), [])
        [row] = store.of_post(self.shop.db, other.id)
        self.assertIn("both speak of", row.reason)

    def test_a_new_post_alters_at_most_four_others_and_the_footprint_says_which(self) -> None:
        for number in range(9):
            self.out(f"Lamp {number}", f"{LAMP} number{number}")
        self.publish()
        before = self.rows()
        draft = self.write("One more", LAMP)
        told = {
            page.key for page in footprints.effect_of_placing(self.shop, self.me, self.blog, draft.id).pages
        }
        placing.place(self.shop, self.me, draft.id)
        after = self.rows()
        altered = {key for key in after if before.get(key) != after[key] and key.startswith("post/")}
        beside = {f"post/{draft.id}"}
        self.assertLessEqual(len(altered - beside), 4 + 2)  # with the posts before and after
        self.assertEqual(altered - told, set())

    def test_restricted_posts_never_stand_there(self) -> None:
        self.out("Secret lamp", LAMP, visibility="signed-in")
        other = self.out("Known lamp", LAMP)
        self.publish()
        for post in (other, self.lamp):
            self.assertNotIn("Secret lamp", self.below(post))
        docket_lines.set_visibility(self.shop, self.me, other.id, "signed-in")
        placing.place(self.shop, self.me, other.id)
        self.publish()
        self.assertEqual(self.below(self.lamp), [])

    def test_what_is_withdrawn_leaves_the_pages_of_others(self) -> None:
        other = self.out("Rewiring", LAMP)
        self.publish()
        self.assertEqual(self.below(self.lamp), ["Rewiring"])
        placing.withdraw(self.shop, self.me, other.id)
        self.publish()
        self.assertEqual(self.below(self.lamp), [])
        self.assertEqual(self.publish(full=True).written, 0)

    def test_parts_of_one_series_are_left_to_the_series(self) -> None:
        one, two = (self.out(f"Part {number}", LAMP) for number in (1, 2))
        for post in (one, two):
            kept_blocks.set_series(self.shop, self.me, post.id, "Lamps in parts")
            placing.place(self.shop, self.me, post.id)
        self.publish()
        self.assertEqual((self.below(one), self.below(two)), (["A lamp flickers"], ["A lamp flickers"]))


class FeedTests(AlikeCase):
    def setUp(self) -> None:
        super().setUp()
        self.newer = self.out("Rewiring", LAMP, day=15, categories="Lamps")
        self.publish()

    def entries(self, format: str = "json") -> dict[str, str]:
        """{title: the text of its entry} of the blog's feed in JSON; of other formats the whole feed as ''."""
        feed = self.site()[f"/feed.{format}"].decode()
        if format != "json":
            return {"": unescape(feed)}
        return {item["title"]: item["content_html"] for item in json.loads(feed)["items"]}

    def test_an_entry_leads_to_older_posts_on_the_same_matter_in_each_format(self) -> None:
        link = f'<h2>Older posts on this</h2>\n<ul><li><a href="https://bench.example{self.path_of(self.lamp)}">A lamp flickers</a></li></ul>'
        self.assertIn(link, self.entries()["Rewiring"])
        self.assertNotIn("Older posts", self.entries()["A lamp flickers"])
        for format in ("atom", "rss"):
            self.assertEqual(self.entries(format)[""].count(link), 1)

    def test_a_letter_leads_to_older_ones_as_well_and_never_to_newer(self) -> None:
        plan = Plan(SiteSnapshot(self.shop.db, self.blog.id, self.clock()))
        letters = [
            LetterMaker(plan).of_post(existing(plan.snapshot.post(post.id)), TEASER, "m1").text
            for post in (self.newer, self.lamp)
        ]
        self.assertIn("Older posts on this:\n- A lamp flickers", letters[0])
        self.assertNotIn("Older posts", letters[1])

    def test_a_locked_entry_has_none_and_a_restricted_post_is_in_none(self) -> None:
        docket_lines.set_post_password(self.shop, self.me, self.newer.id, "open sesame now")
        placing.place(self.shop, self.me, self.newer.id)
        self.publish()
        self.assertNotIn("Older posts", str(self.entries()))
        docket_lines.set_visibility(self.shop, self.me, self.newer.id, "everyone")
        placing.place(self.shop, self.me, self.newer.id)
        self.publish()
        self.assertIn("Older posts", str(self.entries()))
        docket_lines.set_visibility(self.shop, self.me, self.lamp.id, "signed-in")
        placing.place(self.shop, self.me, self.lamp.id)
        self.publish()
        self.assertNotIn("Older posts", str(self.entries()))

    def test_another_address_alters_the_feeds_that_lead_to_it_and_the_footprint_says_so(self) -> None:
        change = lambda shop: patterns.set_pattern(shop, self.me, "bench", "/{year}/{slug}/")  # noqa: E731
        told = {page.key for page in footprints.effect_of_filing(self.shop, self.blog, change).pages}
        before = self.rows()
        change(self.shop)
        self.publish()
        after = self.rows()
        feeds = {key for key in after if key.startswith("feed/") and before.get(key) != after[key]}
        self.assertIn("feed/all/json", feeds)
        self.assertEqual({key for key in told if key.startswith("feed/")}, feeds)
        self.assertEqual(self.publish(full=True).written, 0)


class ChoiceTests(AlikeCase):
    def setUp(self) -> None:
        super().setUp()
        self.other = self.out("Rewiring", LAMP)
        self.publish()

    def choose(self, act: str, which: str = "") -> list[str]:
        alike.choose(self.shop, self.me, self.lamp.id, act, which)
        placing.place(self.shop, self.me, self.lamp.id)
        self.publish()
        return self.below(self.lamp)

    def test_one_is_struck_out_and_brought_back_one_is_put_first_or_none_stand_there(self) -> None:
        self.assertEqual(self.choose("strike", str(self.other.id)), [])
        self.assertEqual(self.choose("back", str(self.other.id)), ["Rewiring"])
        self.assertEqual(self.choose("pin", "Filler 3"), ["Filler 3", "Rewiring"])
        self.assertEqual(self.choose("none"), [])
        self.assertEqual(self.choose("usual"), ["Filler 3", "Rewiring"])
        self.assertEqual(self.choose("unpin", str(self.fillers[3].id)), ["Rewiring"])

    def test_nonsense_is_refused(self) -> None:
        for act, which in (("pin", "no such post"), ("pin", "A lamp flickers"), ("explode", "")):
            with self.subTest(act, which=which), self.assertRaises(BadInput):
                alike.choose(self.shop, self.me, self.lamp.id, act, which)

    def test_a_post_that_was_put_first_follows_its_title(self) -> None:
        self.choose("pin", "Filler 3")
        with self.shop.db.transaction():
            self.shop.db.run("UPDATE revision SET title = 'Renamed' WHERE post_id = ?", self.fillers[3].id)
            self.shop.db.run(
                "INSERT INTO stale_post (blog_id, post_id) VALUES (?, ?)", self.blog.id, self.fillers[3].id
            )
        self.publish()
        self.assertIn("Renamed", self.below(self.lamp)[0])


class HistoryTests(AlikeCase):
    def test_small_editions_equal_the_full_build(self) -> None:
        chance = random.Random(11)
        made = [self.lamp, *self.fillers]
        for step in range(25):
            kind = chance.choice(["write", "withdraw", "restrict", "pin", "update"])
            post = chance.choice(made)
            if kind == "write":
                made.append(
                    self.out(
                        f"Post {step}",
                        f"{LAMP} {chance.choice(['zip', 'clock', 'belt'])}",
                        chance.randint(1, 18),
                        tags=chance.choice(["flex", "fuse"]),
                    )
                )
            elif kind == "withdraw":
                made.remove(post)
                placing.withdraw(self.shop, self.me, post.id)
            else:
                if kind == "restrict":
                    docket_lines.set_visibility(
                        self.shop, self.me, post.id, chance.choice(["signed-in", "everyone"])
                    )
                elif kind == "pin":
                    alike.choose(
                        self.shop,
                        self.me,
                        post.id,
                        chance.choice(["strike", "back", "none", "usual"]),
                        str(chance.choice(made).id),
                    )
                placing.place(self.shop, self.me, post.id)
            self.publish()
            with self.subTest(step=step, kind=kind):
                self.assertEqual(self.publish(full=True).written, 0)

    def test_what_was_left_for_later_is_caught_up_with(self) -> None:
        with self.shop.db.transaction():
            self.shop.db.run("DELETE FROM alike")
        other = self.out("Rewiring", LAMP)
        self.publish()
        with self.shop.db.transaction():
            self.shop.db.run("DELETE FROM alike")
            store.set_due(self.shop.db, other.id, True)
        self.assertEqual(alike.catch_up(self.shop), 1)
        self.assertEqual(self.below(self.lamp), ["Rewiring"])
        self.assertEqual(alike.catch_up(self.shop), 0)
