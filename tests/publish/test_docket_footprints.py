"""The footprint on the docket names what publishing then writes: by chance, for every line of the docket, page for page."""

import io
import random
from collections.abc import Callable

from mobbet.actions import (
    appearance,
    comments,
    docket_lines,
    footprints,
    kept_blocks,
    library,
    placing,
    posts,
    tags,
)
from mobbet.core.document import schema
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.document.write import to_markdown
from mobbet.publish.page_count import PageCount
from mobbet.publish.pages.kinds import count_of
from mobbet.store import editions, filing
from mobbet.store import posts as post_store
from tests.shops import ShopCase, picture

STEPS = 60
TAGS = ("flex", "fuse", "oil")
CATEGORIES = ("Lamps", "Wiring", "Clocks", "Hands")
Rows = dict[str, editions.PageRow]


class DocketFootprintTests(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.chance = random.Random(self._testMethodName)
        with self.shop.db.transaction():
            self.shop.db.run("UPDATE blog SET posts_on_page = 3, comments = 'everyone'")
        self.pictures = [
            library.add_stream(
                self.shop, self.me, self.blog, f"lamp {color}.png", io.BytesIO(picture(color=color))
            ).id
            for color in ("#b3461e", "#1e46b3")
        ]
        self.numbers = [self.post(number) for number in range(24)]
        self.publish()

    def post(self, number: int) -> int:
        chance = self.chance
        return self.write(
            f"Post {number}", self.words(number),
            date=f"2026-{chance.randint(1, 10):02d}-{chance.randint(1, 27):02d}", categories=chance.choice(("Lamps > Wiring", "Clocks > Hands", "Lamps")),
            tags=", ".join(chance.sample(TAGS, chance.randint(0, 2))),
        ).id  # fmt: skip

    def words(self, number: int) -> str:
        chance = self.chance
        link = (
            f" [See it](post:{chance.choice(self.numbers)})."
            if number and chance.random() < 0.3 and getattr(self, "numbers", None)
            else ""
        )
        shown = f"![A lamp](media:{chance.choice(self.pictures)})\n\n" if chance.random() < 0.3 else ""
        return f"First {number}.{link}\n\n{shown}Then more.\n\nLast {chance.randint(1, 9)}."

    def rows(self) -> Rows:
        return {row.key: row._replace(fingerprint="") for row in editions.pages(self.shop.db, self.blog.id)}

    def changes(self, post_id: int) -> dict[str, Callable[[], object]]:
        """What a writer may do to a post."""
        shop, me, chance = self.shop, self.me, self.chance
        row = post_store.by_id(shop.db, post_id)
        return {
            "last words": lambda: self.save(post_id, row.title, self.text(post_id).replace("Last", "Last of all,")),
            "first words": lambda: self.save(post_id, row.title, self.text(post_id).replace("First", "At first")),
            "another text": lambda: self.save(post_id, row.title, self.words(post_id)),
            "same text": lambda: self.save(post_id, row.title, self.text(post_id)),
            "title": lambda: self.save(post_id, row.title + "!", self.text(post_id)),
            "front": lambda: appearance.set_front(shop, me, post_id, chance.choice(("", "top", "off"))),
            "heading": lambda: appearance.set_heading(shop, me, post_id, chance.choice(("", "none", "standard")), ["title", "date"]),
            "search": lambda: appearance.set_search(shop, me, post_id, chance.choice(("", "Another title")), chance.choice(("", "A description."))),
            "place": lambda: appearance.set_place(shop, me, post_id, chance.choice(("", "The mill")), "", False),
            "comments": lambda: comments.close(shop, me, post_id, chance.random() < 0.5),
            "language": lambda: docket_lines.set_language(shop, me, post_id, chance.choice(("", "de"))),
            "visibility": lambda: docket_lines.set_visibility(shop, me, post_id, chance.choice(("everyone", "only-me", "signed-in"))),
            "password": lambda: docket_lines.set_post_password(shop, me, post_id, "open sesame", chance.choice(("", "title", "teaser"))),
            "listed": lambda: row.password_key and docket_lines.set_post_password(shop, me, post_id, "", chance.choice(("", "title", "teaser"))),
            "excerpt": lambda: docket_lines.set_line(shop, me, post_id, "excerpt", chance.choice(("", "In short."))),
            "slug": lambda: docket_lines.set_slug(shop, me, post_id, f"place-{post_id}-{chance.randint(1, 3)}"),
            "categories": lambda: docket_lines.set_categories(shop, me, post_id, *self.filing()),
            "time": lambda: docket_lines.set_time(shop, me, post_id, "goes_out_wall", f"2026-{chance.randint(1, 10):02d}-{chance.randint(1, 27):02d}T09:00"),
            "picture": lambda: docket_lines.set_lead_picture(shop, me, post_id, chance.choice((None, *self.pictures))),
            "series": lambda: kept_blocks.set_series(shop, me, post_id, chance.choice(("", "Taken apart", "Put together"))),
            "tags": lambda: tags.set_tags(shop, me, post_id, ", ".join(chance.sample(TAGS, chance.randint(0, 3)))),
        }  # fmt: skip

    def filing(self) -> tuple[str, list[str]]:
        numbers = [str(number) for number in filing.subjects(self.shop.db, self.blog.id)]
        main, *others = self.chance.sample(numbers, self.chance.randint(1, 3))
        return main, others

    def text(self, post_id: int) -> str:
        return to_markdown(schema.load(post_store.working(self.shop.db, post_id).body))

    def save(self, post_id: int, title: str, text: str) -> None:
        working = post_store.working(self.shop.db, post_id)
        body = from_markdown(text)
        posts.save_text(self.shop, self.me, post_id, base=working.number, title=title, subtitle="", body=body)

    def test_it_names_what_publishing_writes(self) -> None:
        for step in range(STEPS):
            post_id = self.chance.choice(self.numbers)
            did = []
            for _ in range(self.chance.choice((1, 1, 2))):
                name, change = self.chance.choice(list(self.changes(post_id).items()))
                did.append(name)
                change()
            effect = footprints.effect_of_placing(self.shop, self.me, self.blog, post_id)
            short = footprints.effect_of_placing(self.shop, self.me, self.blog, post_id, in_short=True)
            named = {(page.key, page.path, page.what) for page in effect.pages}
            before = self.rows()
            placing.place(self.shop, self.me, post_id)
            now = self.rows()
            done = {(key, before[key].path, "removed") for key in before.keys() - now.keys()}
            done |= {(key, now[key].path, "added") for key in now.keys() - before.keys()}
            done |= {
                (key, now[key].path, "altered")
                for key in before.keys() & now.keys()
                if before[key] != now[key]
            }
            self.assertEqual(named, done, f"step {step}, post {post_id}: {did}")
            count = count_of(key for key, _, _ in done)
            self.assertEqual(count_of((page.key for page in short.pages), short.every), count)
            last = editions.current(self.shop.db, self.blog.id)
            if done:
                self.assertEqual(
                    PageCount(
                        last.written + last.removed - last.files - last.addresses, last.files, last.addresses
                    ),
                    count,
                )
            self.clock.forward(3600)
