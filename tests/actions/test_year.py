"""A year of chance facts and instants: however often one publishes, and in whatever order, readers get what the facts say."""

from __future__ import annotations

import hashlib
import random

from mobbet.actions import consistency, docket_lines, editions, placing, posts, readers, slots
from mobbet.core.canonical import digest
from mobbet.core.errors import MobbetError
from mobbet.core.timing import wall
from mobbet.publish.pages.kinds import all_keys, page_at, render
from mobbet.publish.plan import Plan
from mobbet.publish.renderer import HTML, Renderer
from mobbet.store import editions as store
from mobbet.store import posts as post_store
from mobbet.store import readers as reader_store
from mobbet.store.snapshot import SiteSnapshot
from mobbet.web.shell.scheduler import Scheduler
from tests.shops import DAY, NOW, ShopCase

VISIBILITIES = ("everyone", "everyone", "everyone", "signed-in", "group:Friends", "password", "only-me")
POSTS = 10
STEPS = 30


class Year:
    """The same chance events for every shop that is given the same seed."""

    def __init__(self, case: ShopCase, seed: int) -> None:
        self.case, self.shop, self.me, self.blog = case, case.shop, case.me, case.blog
        self.chance = random.Random(seed)
        readers.make_group(self.shop, self.me, self.blog, "Friends")
        slots.add_slot(self.shop, self.me, self.blog, "FREQ=WEEKLY;BYDAY=TU,FR", "10:00")

    def when(self, most: int) -> str:
        return wall(self.case.clock() + self.chance.randrange(-20 * DAY, most * DAY), self.blog.zone)

    def step(self) -> None:
        """One event; what is refused is none."""
        try:
            getattr(
                self,
                self.chance.choice(
                    (
                        "write",
                        "write",
                        "change",
                        "change",
                        "later",
                        "withdraw",
                        "queue",
                        "reorder",
                        "expire",
                        "lock",
                        "rename",
                        "wait",
                        "wait",
                    )
                ),
            )()
        except MobbetError:
            pass
        self.case.clock.forward(self.chance.choice((1, 60, 3600)))

    def one(self) -> int:
        return self.chance.randrange(1, POSTS + 1)

    def write(self) -> None:
        settings = {
            "visibility": self.chance.choice(VISIBILITIES),
            "password": "a rusty spring",
            "categories": f"Shelf {self.chance.randrange(3)}",
            "tags": f"t{self.chance.randrange(3)}",
        }
        if settings["visibility"] != "password":
            del settings["password"]
        if self.chance.random() < 0.7:
            settings["date"] = f"'{self.when(20)}'"
        self.case.write(
            f"Post {self.chance.randrange(10**6)}",
            f"Words {self.chance.random()}. [other](post:{self.one()})",
            **settings,
        )

    def change(self) -> None:
        number = self.one()
        post = post_store.by_id(self.shop.db, number)
        if post is None:
            return
        body = {
            "type": "doc",
            "content": [
                {
                    "type": "paragraph",
                    "content": [{"type": "text", "text": f"Changed {self.chance.random()}."}],
                }
            ],
        }
        posts.save_text(
            self.shop,
            self.me,
            number,
            base=post.revision,
            title=f"{post.title} again"[:60],
            subtitle="",
            body=body,
        )
        if self.chance.random() < 0.3:
            docket_lines.set_visibility(
                self.shop, self.me, number, self.chance.choice(("everyone", "signed-in", "group:Friends"))
            )
        placing.place(self.shop, self.me, number)

    def later(self) -> None:
        number = self.one()
        docket_lines.set_update_time(self.shop, self.me, number, self.when(15))
        self.change()
        if self.chance.random() < 0.3:
            placing.take_update_back(self.shop, self.me, number)

    def withdraw(self) -> None:
        placing.withdraw(self.shop, self.me, self.one())

    def queue(self) -> None:
        slots.put_in_queue(self.shop, self.me, self.one())

    def reorder(self) -> None:
        slots.move_in_queue(self.shop, self.me, self.blog, self.one(), self.chance.choice((-1, 1, -9)))

    def expire(self) -> None:
        number = self.one()
        docket_lines.set_time(self.shop, self.me, number, "comes_down_wall", self.when(30))
        other = post_store.by_id(self.shop.db, self.one())
        if other is not None and other.id != number and other.title:
            docket_lines.set_leads_to(self.shop, self.me, number, other.title)
        placing.place(self.shop, self.me, number)

    def lock(self) -> None:
        number = self.one()
        docket_lines.set_post_password(
            self.shop, self.me, number, "another spring", self.chance.choice(("", "title", "teaser"))
        )
        placing.place(self.shop, self.me, number)

    def rename(self) -> None:
        group = reader_store.groups(self.shop.db, self.blog.id)[0]
        readers.rename_group(self.shop, self.me, self.blog, group.id, "Friends")

    def wait(self) -> None:
        self.case.clock.forward(self.chance.randrange(1, 25 * DAY))


class YearTests(ShopCase):
    def rows(self) -> dict[str, tuple]:
        return {
            row.path: (row.key, row.type, row.hash, row.audience, row.leads_to)
            for row in store.pages(self.shop.db, self.blog.id)
            if not row.key.startswith("card/")
        }

    def whole(self) -> dict[str, tuple]:
        """Every page of the plan at this instant, rendered anew, whoever may read it."""
        snapshot = SiteSnapshot(self.shop.db, self.blog.id, self.clock())
        plan, renderer = Plan(snapshot), Renderer(snapshot.house, snapshot.item)
        found = {}
        for page in filter(None, (page_at(plan, key) for key in dict.fromkeys(all_keys(plan)))):
            if page.recipe == "card":
                continue
            if page.leads_to:
                found[page.path] = (page.key, HTML, digest(page.reads), page.audience, page.leads_to)
                continue
            rendered = render(renderer, page)
            found[page.path] = (
                page.key,
                rendered.type,
                rendered.media_hash or hashlib.sha256(rendered.body).hexdigest(),
                page.audience,
                page.leads_to,
            )
        return found

    def walk(self, seed: int, is_often: bool) -> dict[str, tuple]:
        year = Year(self, seed)
        scheduler = Scheduler(self.shop, lambda: float(self.clock()))
        for step in range(STEPS):
            year.step()
            if is_often:
                (scheduler.publish_due if step % 2 else lambda: self.publish())()
                if step % 11 == 10 and store.current_number(self.shop.db, self.blog.id) > 3:
                    editions.put_back(self.shop, self.me, self.blog, 1 + step % 3)
        self.publish()
        self.assertEqual(consistency.problems(self.shop), [])
        return self.rows()

    def test_small_editions_equal_the_whole_site_in_whatever_order(self) -> None:
        for seed in range(3):
            with self.subTest(seed):
                self.doCleanups()
                self.setUp()
                often = self.walk(seed, True)
                self.assertEqual(often, self.whole())
                self.doCleanups()
                self.setUp()
                self.assertEqual(self.clock(), NOW)
                self.assertEqual(self.walk(seed, False), often)
