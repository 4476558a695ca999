import gzip
import random
import threading
from types import SimpleNamespace
from unittest import mock

import brotli

from mobbet.actions import (
    addresses,
    building,
    categories,
    comments,
    consistency,
    docket_lines,
    house_facts,
    people,
    placing,
)
from mobbet.actions.work import changing, unpublished
from mobbet.core.audience import STRANGER
from mobbet.core.errors import Refused
from mobbet.core.permalinks import short_path
from mobbet.core.timing import FOREVER
from mobbet.publish import editions as press
from mobbet.publish import page_rows, parallel
from mobbet.store import blogs as blogs_store
from mobbet.store import comments as comment_store
from mobbet.store import editions, placements, stale
from mobbet.web.public.bodies import packed
from mobbet.web.shell.scheduler import Scheduler
from mobbet.wiring import open_folder
from tests.shops import DAY, NOW, ShopCase


class EditionTests(ShopCase):
    publishes = False

    def rows(self) -> dict[str, editions.PageRow]:
        return {row.path: row for row in editions.pages(self.shop.db, self.blog.id)}

    def drawn_site(self) -> dict[str, bytes]:
        return {path: body for path, body in self.site().items() if not path.startswith("/media/card-")}

    def bodies(self) -> dict[str, bytes]:
        """What everyone gets of the current edition, as a copy without a server; share cards are drawn when they are asked for."""
        return {
            path: self.without_server(row)
            for path, row in self.rows().items()
            if row.audience == "everyone" and not row.key.startswith("card/")
        }

    def remark(self, chance: random.Random, post_id: int) -> None:
        """A reader comments, or all comments of a state become another one."""
        try:
            comments.write(
                self.shop,
                self.blog,
                post_id,
                STRANGER,
                {"name": "Mira", "email": "", "text": f"Remark {chance.random()}"},
                "",
            )
        except Refused:
            pass
        before, after = chance.choice(
            (
                ("waits", "shown"),
                ("waits", "shown"),
                ("waits", "refused"),
                ("refused", "shown"),
                ("shown", "waits"),
            )
        )
        numbers = [one.id for one in comment_store.page(self.shop.db, self.blog.id, before, 0, 0, 1 << 60, 9)]
        if numbers:
            comments.settle(self.shop, self.me, "bench", numbers[: chance.randrange(1, 4)], after)

    def go_through(self, seed: int, steps: int) -> None:
        """A history made by chance, with an edition after each step."""
        chance = random.Random(seed)
        comments.set_rule(self.shop, self.me, "bench", "anyone", "all")
        self.blog = blogs_store.by_slug(self.shop.db, "bench")
        made = []
        for step in range(steps):
            kind = chance.choice(
                ("new", "new", "new", "later", "withdraw", "update", "refile", "wait", "only-me", "remark")
            )
            if kind in ("new", "only-me") or not made:
                day = chance.randrange(1, 28)
                hidden = {"visibility": "only-me"} if kind == "only-me" else {}
                made.append(
                    self.write(
                        f"Post {step}",
                        date=f"2026-0{chance.randrange(1, 9)}-{day:02d}",
                        categories=chance.choice(("Lamps > Wiring", "Clocks", "[]")),
                        tags=chance.choice(("flex", "flex, oil", "")),
                        **hidden,
                    )
                )
            elif kind == "later":
                made.append(
                    self.write(
                        f"Later {step}",
                        date="2026-11-19 09:00",
                        expires=chance.choice(("2026-11-20", "2030-01-01")),
                    )
                )
            elif kind == "remark":
                self.remark(chance, chance.choice(made).id)
            elif kind == "wait":
                self.clock.forward(chance.choice((3600, DAY)))
            else:
                post = self.again(chance.choice(made))
                if kind == "refile":
                    docket_lines.set_categories(
                        self.shop, self.me, post.id, "", [], chance.choice(("Lamps", "Tools"))
                    )
                try:
                    placing.withdraw(self.shop, self.me, post.id) if kind == "withdraw" else placing.place(
                        self.shop, self.me, post.id
                    )
                except placing.Refused:
                    pass
            self.publish()

    def test_the_small_editions_sum_up_to_the_full_build(self) -> None:
        self.go_through(5, 60)
        wanted = self.drawn_site()
        self.assertEqual(self.bodies(), wanted)
        self.assertGreater(len(wanted), 40)
        self.assertTrue(any(b"Remark 0." in body for body in wanted.values()))
        self.assertEqual(consistency.problems(self.shop), [])
        self.assertEqual(self.publish(full=True).written, 0)

    def test_editions_that_look_at_every_page_since_most_posts_changed_come_to_the_same(self) -> None:
        with mock.patch.object(press, "MANY_POSTS", 1):
            self.go_through(6, 24)
        self.assertEqual(self.bodies(), self.drawn_site())
        self.assertEqual(self.publish(full=True).written, 0)

    def test_publishing_twice_without_a_change_writes_nothing(self) -> None:
        self.write("One", date="2026-01-01")
        first, second = self.publish(), self.publish()
        self.assertGreater(first.written, 0)
        self.assertEqual((second.written, second.removed, second.edition), (0, 0, first.edition))

    def test_one_changed_post_writes_only_its_footprint(self) -> None:
        for number in range(30):
            self.write(f"Post {number}", date=f"2026-01-{number + 1:02d}", categories="Lamps")
        self.publish()
        before = self.rows()
        post = self.again(self.write("Late", date="2026-11-01", categories="Clocks"))
        published = self.publish()
        changed = {path for path, row in self.rows().items() if before.get(path) != row}
        self.assertEqual(published.written, len(changed))
        self.assertEqual(changed, {
            "/", "/clocks/", "/clocks/late/", "/2026/11/", "/archive/", "/subjects/", "/search/", "/feed.atom", "/feed.rss", "/feed.json",
            "/sitemap.xml", "/sitemap-2026-11-1.xml", "/clocks/feed.atom", "/clocks/feed.rss", "/clocks/feed.json", short_path(post.id),
            next(path for path in changed if path.startswith("/media/card-")), "/lamps/post-29/",
            "/by/ines-farrow/", *(f"/by/ines-farrow/feed.{kind}" for kind in ("rss", "atom", "json")), *(path for path in changed if path.startswith("/page/from-")),
        } & changed | {"/", "/clocks/late/"})  # fmt: skip
        self.assertLessEqual(sum(path.startswith("/page/from-") for path in changed), 1)
        self.assertEqual(post.title, "Late")

    def test_the_address_of_a_page_whose_first_post_is_gone_leads_to_the_page_in_its_place(self) -> None:
        made = [
            self.write(f"Post {number}", date=f"2026-{number // 27 + 1:02d}-{number % 27 + 1:02d}")
            for number in range(60)
        ]
        self.publish()
        pages = sorted(path for path in self.rows() if path.startswith("/page/from-"))
        for path in pages:
            placing.withdraw(self.shop, self.me, int(path.strip("/").rpartition("-")[2]))
        self.publish()
        for path in pages:
            answer = addresses.resolve(self.shop, self.blog, path)
            self.assertEqual(answer.kind, "leads-on", path)
            self.assertIn("/page/from-", answer.path)
            self.assertIsNotNone(self.rows().get(answer.path))
        self.assertEqual(len(made), 60)

    def test_a_full_build_of_a_copy_without_pages_gives_the_same_bytes(self) -> None:
        for number in range(12):
            self.write(f"Post {number}", date=f"2026-01-{number + 1:02d}", categories="Lamps", tags="flex")
            self.publish()
        before = self.bodies()
        for path in sorted(self.shop.pages.folder.rglob("*"), reverse=True):
            path.unlink() if path.is_file() else path.rmdir()
        self.publish(full=True)
        self.assertEqual(self.bodies(), before)

    def test_a_post_is_out_from_its_second_on_and_comes_down_on_its_second(self) -> None:
        self.write("Session", date="2026-11-18 12:00", expires="2026-11-18 13:00")
        goes_out = NOW - NOW % 3600 + 3600
        for instant, is_out in (
            (goes_out - 1, False),
            (goes_out, True),
            (goes_out + 3599, True),
            (goes_out + 3600, False),
        ):
            self.clock.instant = instant
            self.publish()
            with self.subTest(instant):
                self.assertEqual("/posts/session/" in self.rows(), is_out)
                self.assertEqual("/posts/session/" in self.drawn_site(), is_out)

    def test_the_site_of_another_moment_is_made_without_a_change(self) -> None:
        self.write("Past", date="2026-01-01")
        self.write("Coming", date="2026-12-01")
        self.publish()
        self.assertIn("/posts/coming/", self.site(NOW + 30 * DAY))
        self.assertNotIn("/posts/past/", self.site(NOW - 400 * DAY))
        self.assertEqual(self.publish().written, 0)

    def test_a_clock_that_is_set_back_takes_nothing_off_the_site(self) -> None:
        self.write("Now", date="2026-11-18 11:00")
        edition = self.publish().edition
        self.clock.instant = NOW - DAY
        self.assertEqual((self.publish().written, self.publish().edition), (0, edition))

    def test_an_address_that_changed_leads_on(self) -> None:
        post = self.write("Lamp", date="2026-01-01", categories="Lamps")
        self.publish()
        docket_lines.set_slug(self.shop, self.me, post.id, "better")
        placing.place(self.shop, self.me, post.id)
        self.publish()
        self.assertEqual(self.rows()["/lamps/lamp/"].leads_to, "/lamps/better/")
        other = self.write("Lamp", date="2026-01-02", categories="Lamps")
        self.assertEqual(self.again(other).slug, "lamp-2")

    def test_pictures_are_offered_to_exactly_the_readers_of_their_posts(self) -> None:
        from mobbet.actions import library
        from tests.shops import picture

        media = library.add_picture(self.shop, self.me, self.blog, "p.png", picture())
        body = f"![a](media:{media.id})"
        hidden = self.write("Hidden", body, date="2026-01-01", visibility="only-me")
        self.publish()
        audiences = {row.audience for row in self.rows().values() if row.path.startswith("/media/")}
        self.assertEqual(audiences, {f"person:{self.me.id}"})
        self.write("Open", body, date="2026-01-02")
        self.publish()
        self.assertEqual(
            {row.audience for row in self.rows().values() if row.path.startswith("/media/")}, {"everyone"}
        )
        for post in (hidden.id, hidden.id + 1):
            placing.withdraw(self.shop, self.me, post)
        self.publish()
        self.assertEqual([path for path in self.rows() if path.startswith("/media/")], [])

    def test_two_presses_on_one_folder_never_publish_twice(self) -> None:
        for number in range(8):
            self.write(f"Post {number}", date=f"2026-01-{number + 1:02d}")
        results = []

        def publish() -> None:
            shop = open_folder(self.folder / "data", self.clock)
            results.append(shop.press.publish(self.blog.id, self.clock()))
            shop.db.close()

        threads = [threading.Thread(target=publish) for _ in range(4)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        self.assertEqual({result.edition for result in results}, {1})
        self.assertEqual(consistency.problems(self.shop), [])

    def test_what_the_scheduler_published_first_is_still_told(self) -> None:
        self.publish()
        before = editions.current_number(self.shop.db, self.blog.id)
        self.write("One", date="2026-01-01")
        quick = self.publish()
        told = self.shop.press.publish(self.blog.id, self.shop.clock(), since=before)
        self.assertEqual((told.written, told.edition), (quick.written, quick.edition))

    def test_a_new_name_of_the_blog_alters_every_page(self) -> None:
        self.write("One", date="2026-01-01")
        self.publish()
        house_facts.give_facts(self.shop, self.me, "bench", name="The Other Bench")
        self.publish()
        self.assertIn(b"The Other Bench", self.bodies()["/posts/one/"])
        self.assertEqual(self.bodies(), self.drawn_site())

    def test_a_crash_before_the_commit_leaves_the_old_edition(self) -> None:
        self.write("One", date="2026-01-01")
        self.publish()
        before = self.bodies()
        self.write("Two", date="2026-01-02")
        with (
            mock.patch.object(editions, "add", side_effect=KeyboardInterrupt),
            self.assertRaises(KeyboardInterrupt),
        ):
            self.publish()
        self.assertEqual(self.bodies(), before)
        self.publish()
        self.assertEqual(self.bodies(), self.drawn_site())

    def test_texts_are_packed_and_pictures_are_not(self) -> None:
        forms = packed("text/html", b"words " * 300)
        self.assertEqual(
            (gzip.decompress(forms[b"gzip"]), brotli.decompress(forms[b"br"])), (b"words " * 300,) * 2
        )
        self.assertEqual(packed("image/webp", b"x" * 1000), {})


class NextChangeTests(ShopCase):
    def test_the_next_change_is_known(self) -> None:
        self.assertIsNone(building.next_change(self.shop))
        self.write("Coming", date="2026-11-19 09:00", expires="2026-11-21 09:00")
        self.assertEqual(building.next_change(self.shop), NOW - NOW % 3600 + 22 * 3600)
        self.clock.forward(2 * DAY)
        self.assertLess(building.next_change(self.shop), FOREVER)

    def test_a_post_for_its_author_alone_is_no_change_for_readers(self) -> None:
        self.write("Mine", date="2026-11-19 09:00", expires="2026-11-21 09:00", visibility="only-me")
        self.assertIsNotNone(building.next_change(self.shop))
        self.assertIsNone(placements.next_change(self.shop.db, self.blog.id, NOW, for_readers=True))
        self.clock.forward(9 * DAY)
        self.assertEqual(
            placements.moments_between(
                self.shop.db, self.blog.id, NOW, self.clock.instant, 9, for_readers=True
            ),
            [],
        )


class SharedWorkTests(ShopCase):
    publishes = False

    def rows(self) -> dict[str, tuple[str, str, str | None]]:
        return {
            row.path: (row.hash, row.fingerprint, row.leads_to)
            for row in editions.pages(self.shop.db, self.blog.id)
        }

    def test_several_processes_lay_down_what_one_does(self) -> None:
        for number in range(9):
            self.write(
                f"Post {number}",
                date=f"2026-11-0{number + 1}",
                categories="Lamps",
                visibility="signed-in" if number == 4 else "everyone",
            )
        for threads in (1, 9):  # a command takes a part itself, a server hands out all of them
            with (
                self.subTest(threads),
                mock.patch.object(press, "MANY", 5),
                mock.patch.object(
                    parallel, "threading", SimpleNamespace(active_count=lambda threads=threads: threads)
                ),
            ):
                self.publish(full=True)
            shared = self.rows()
            with mock.patch.object(press, "in_processes", lambda *work: None):
                self.assertEqual(self.publish(full=True).written, 0)
            self.assertEqual(self.rows(), shared)
        self.assertEqual(consistency.problems(self.shop), [])

    def test_a_publication_that_alters_many_pages_is_shared_as_well(self) -> None:
        for number in range(9):
            self.write(
                f"Post {number}",
                f"Words. [Another](post:{max(1, number)})",
                date=f"2026-11-0{number + 1}",
                categories=("Lamps", "Clocks")[number % 2],
                tags="flex",
            )
        self.publish()
        lamps = categories.find(self.shop, self.blog, "Lamps")
        for threads in (1, 9):
            categories.rename(self.shop, self.me, "bench", lamps, f"Lights {threads}")
            with (
                self.subTest(threads),
                mock.patch.object(press, "MANY", 5),
                mock.patch.object(
                    parallel, "threading", SimpleNamespace(active_count=lambda threads=threads: threads)
                ),
            ):
                self.assertGreater(self.publish().written, 9)
            with mock.patch.object(press, "in_processes", lambda *work: None):
                self.assertEqual(self.publish(full=True).written, 0)
        self.assertEqual(consistency.problems(self.shop), [])

    def test_facts_that_change_meanwhile_are_not_mixed(self) -> None:
        self.write("One", date="2026-11-01")

        def disturbed(*work: object) -> list[page_rows.Rows]:
            self.change_meanwhile()
            return [page_rows.Rows()]

        with mock.patch.object(press, "MANY", 1), mock.patch.object(press, "in_processes", disturbed):
            self.publish()
        self.assertIn(
            b"another line", self.shop.pages.read(editions.page_at(self.shop.db, self.blog.id, "/").hash)
        )


class ReasonTests(ShopCase):
    def whys(self) -> list[tuple[str, int | None]]:
        return [(one.why, one.person_id) for one in editions.newest(self.shop.db, self.blog.id, 3)]

    def test_an_edition_says_which_category_changed_and_who_did_it(self) -> None:
        self.write("One", date="2026-01-01", categories="Lamps")
        number = categories.find(self.shop, self.blog, "Lamps")
        categories.rename(self.shop, self.me, "bench", number, "Lights")
        self.assertEqual(self.whys()[0], ("“Lamps” is called “Lights” now", self.me.id))

    def test_what_two_people_did_at_once_is_told_of_each(self) -> None:
        other = people.add_person(self.shop, name="Otto Vance", email="otto@bench.example", password=None)
        with unpublished():
            self.write("One", date="2026-01-01")
            with changing(self.shop, other, "the clocks were set") as unit:
                unit.must_publish(self.blog.id)
        with changing(self.shop, other, "the clocks were set again") as unit:
            unit.must_publish(self.blog.id)
        why, person = self.whys()[0]
        self.assertIn(f"{self.me.name}: “One” is published", why)
        self.assertIn("Otto Vance: the clocks were set; Otto Vance: the clocks were set again", why)
        self.assertIsNone(person)

    def test_what_was_left_to_the_scheduler_keeps_its_reason(self) -> None:
        self.write("One", date="2026-01-01")
        with changing(self.shop, self.me, "“lamp.jpg” was changed", is_left_to_scheduler=True):
            stale.mark_posts(self.shop.db, self.blog.id, 1)
            self.shop.db.run("UPDATE revision SET title = 'Two' WHERE post_id = 1")
        Scheduler(self.shop, lambda: float(self.clock())).publish_due()
        self.assertEqual(self.whys()[0], ("“lamp.jpg” was changed", self.me.id))
        self.assertEqual(stale.reasons(self.shop.db, self.blog.id), [])
