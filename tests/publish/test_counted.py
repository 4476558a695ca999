"""What a change of the filing does, told from lists: by chance, the same pages as by looking at each of them."""

import random
from collections.abc import Callable

from mobbet.actions import (
    categories,
    category_tree,
    footprints,
    kept_blocks,
    menus,
    old_addresses,
    patterns,
    placing,
    promos,
    tags,
)
from mobbet.actions.workshop import Workshop
from mobbet.core import front
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.errors import Refused
from mobbet.core.front import Section
from mobbet.core.menu import USUAL, Entry, Menu, Target
from mobbet.core.promos import Promo, Promos
from mobbet.publish.house_parts import AROUND, LISTS, POSTS, SUBJECTS
from mobbet.publish.pages.kinds import KINDS
from mobbet.store import editions, filing, placements, posts
from tests.shops import DAY, NOW, ShopCase

NAMES = (
    "Lamps",
    "Lamps > Wiring",
    "Lamps > Wiring > Flex",
    "Clocks",
    "Clocks > Wiring",
    "Zips",
    "Radios > Valves",
)
TAGS = ("flex", "fuse", "oil", "spring", "rust")
MATTERS = ("", "", "Flex, grommet and fuse.", "Pendulum, escapement and mainspring.")
"""What posts speak of, so that some are on the same matter."""
PATTERNS = ("/{category}/{slug}/", "/{category-path}/{slug}/", "/{year}/{slug}/", "/{slug}/")


class OutlineTests(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.chance = random.Random(11)
        with self.shop.db.transaction():
            self.shop.db.run(
                "UPDATE blog SET posts_on_page = 3, full_in_lists = ?", self.chance.randint(0, 1)
            )
        linking = from_markdown(f"[See it](post:{self.chance.randint(1, 26)})")
        self.block = kept_blocks.keep_blocks(self.shop, self.me, "bench", "Notice", linking["content"]).id
        self.numbers = [self.post(number) for number in range(26)]
        self.clock.forward(2 * DAY)
        self.publish()
        for at, old in enumerate(("/old/1", "/old?p=2", "/old/3", "/old/4")):
            old_addresses.add(
                self.shop,
                self.me,
                "bench",
                old,
                self.chance.choice(
                    [row.path for row in placements.live(self.shop.db, self.blog.id, self.clock())]
                )
                if at % 2
                else "/lamps/",
            )
        self.publish()

    def post(self, number: int) -> int:
        chance = self.chance
        link = f" [See it](post:{chance.randint(1, number)})." if number and chance.random() < 0.4 else ""
        settings = {
            "categories": chance.choice(NAMES), "tags": ", ".join(chance.sample(TAGS, chance.randint(0, 3))),
            "visibility": chance.choice(("everyone",) * 6 + ("signed-in", "password")), "password": "open sesame",
        }  # fmt: skip
        post = self.write(f"Post {number % 20}", f"Words. {chance.choice(MATTERS)}{link}", **settings)
        if chance.random() < 0.2:
            kept_blocks.set_series(self.shop, self.me, post.id, "Taken apart")
        is_down = chance.random() < 0.15
        with self.shop.db.transaction():
            posts.settle(
                self.shop.db, post.id, NOW, goes_out_wall=f"2026-{chance.randint(3, 10):02d}-{chance.randint(1, 27):02d}T09:00", comes_down_wall="2026-11-19T09:00" if is_down else None,
                front=chance.choice(("", "", "", "top", "off")), listed=chance.choice(("", "title")), leads_to=chance.randint(1, number) if is_down and number else None,
            )  # fmt: skip
        placing.place(self.shop, self.me, post.id)
        return post.id

    def change(self) -> Callable[[Workshop], object]:
        """Something that an editor may do to the filing."""
        chance, me, slug = self.chance, self.me, "bench"
        numbers, tag_numbers = (
            list(filing.subjects(self.shop.db, self.blog.id)) or [0],
            [tag.id for tag in filing.tag_counts(self.shop.db, self.blog.id)] or [0],
        )
        one, other, tag, into = (
            chance.choice(numbers),
            chance.choice([*numbers, None]),
            chance.choice(tag_numbers),
            chance.choice(tag_numbers),
        )
        some, name = (
            chance.sample(self.numbers, 5),
            f"{chance.choice(('Lamps', 'Wiring', 'Shelf'))} {chance.randint(1, 9)}",
        )
        return chance.choice((
            lambda shop: categories.rename(shop, me, slug, one, name),
            lambda shop: categories.set_slug(shop, me, slug, one, name.replace(" ", "-").lower()),
            lambda shop: categories.describe(shop, me, slug, one, description=chance.choice(("", name)), picture=None, shows_below=name < "M"),
            lambda shop: category_tree.move(shop, me, slug, one, other),
            lambda shop: category_tree.merge(shop, me, slug, one, other or one),
            lambda shop: category_tree.remove(shop, me, slug, one, other),
            lambda shop: category_tree.order(shop, me, slug, one, 1),
            lambda shop: category_tree.split(shop, me, slug, one, TAGS[tag % 5]),
            lambda shop: categories.refile_posts(shop, me, slug, some, main=one, take=[other] if other else []),
            lambda shop: categories.refile_posts(shop, me, slug, some, add=[categories.make_category(shop, self.blog, name)], tags=[tags.make_tag(shop, self.blog, name)]),
            lambda shop: categories.refile_posts(shop, me, slug, self.numbers, take=[one], tags=[tags.make_tag(shop, self.blog, TAGS[tag % 5])], without_tags=[into]),
            lambda shop: tags.rename(shop, me, slug, tag, name),
            lambda shop: tags.merge(shop, me, slug, tag, into),
            lambda shop: tags.remove(shop, me, slug, tag),
            lambda shop: patterns.set_pattern(shop, me, slug, PATTERNS[one % 4]),
        ))  # fmt: skip

    def footprint(self, tried: Callable[[], footprints.Effect]) -> tuple[object, ...]:
        state = self.chance.getstate()
        try:
            effect = tried()
        except Refused as error:
            return (str(error),)
        finally:
            self.chance.setstate(state)
        pages = {(page.key, page.path, page.what, page.was) for page in effect.pages}
        return effect.answer, pages | self.others(effect)

    def others(self, effect: footprints.Effect) -> set[tuple[str, str, str, str]]:
        """The pages that alter since the menu stands on each, as `every` counts them."""
        if not effect.every:
            return set()
        named = {page.key for page in effect.pages}
        around = {
            name for name, kind in KINDS.items() if kind.shows_of_house in (AROUND, POSTS, LISTS, SUBJECTS)
        }
        rows = editions.pages(self.shop.db, self.blog.id)
        found = {
            (row.key, row.path, "altered", "")
            for row in rows
            if row.key.kind in around and row.key not in named
        }
        self.assertEqual(len(found), effect.every)
        return found

    def give_menu(self) -> None:
        """A menu and a foot of chance categories, tags and posts, some with their parts, and a front page of chance sections."""
        kinds = {
            "category": list(filing.subjects(self.shop.db, self.blog.id)) or [1],
            "tag": [tag.id for tag in filing.tag_counts(self.shop.db, self.blog.id)] or [1],
            "post": self.numbers,
        }
        entry = lambda kind: Entry(  # noqa: E731
            Target.of(kind, self.chance.choice(kinds[kind])),
            parts=kind == "category" and self.chance.random() < 0.5,
        )
        self.give_rules(kinds)
        entries = [entry(self.chance.choice(("category", "category", "tag", "post"))) for _ in range(2)]
        menus.give_change(
            self.shop,
            self.me,
            "bench",
            lambda menu: Menu(
                menu=(*USUAL.menu, entries[0]),
                foot=(entries[1],),
                sections=(*self.sections(kinds), *front.USUAL),
                foot_categories=self.chance.choice(("", "names", "counts")),
                subject_pictures=self.chance.random() < 0.5,
            ),
        )

    def give_rules(self, kinds: dict[str, list[int]]) -> None:
        chance = self.chance
        rule = Promo(
            1,
            self.block,
            categories=(chance.choice(kinds["category"]),),
            tags=(chance.choice(kinds["tag"]),),
            never=chance.choice(((), ("see it",))),
        )
        rules = Promos((rule, Promo(2, self.block, categories=(chance.choice(kinds["category"]),))))
        promos.give_change(self.shop, self.me, "bench", lambda _: rules)

    def sections(self, kinds: dict[str, list[int]]) -> list[Section]:
        chance = self.chance
        one = lambda kind: (chance.choice(kinds[kind]),)  # noqa: E731
        offered = [
            Section(front.CATEGORY, of=one("category"), most=2),
            Section(front.TAG, of=one("tag"), most=1),
            Section(front.CATEGORIES, pictures=chance.random() < 0.5),
            Section(front.CHOSEN, of=tuple(chance.sample(self.numbers, 2))),
            Section(front.AUTHORS),
            Section(front.BLOCKS, of=(self.block,)),
        ]
        return chance.sample(offered, chance.randint(0, 2))

    def test_it_names_the_pages_that_looking_at_each_of_them_finds(self) -> None:
        for step in range(32):
            if step % 5 == 4:
                self.give_menu()
                self.publish()
            change = self.change()
            told = self.footprint(lambda: footprints.effect_of_filing(self.shop, self.blog, change))  # noqa: B023
            looked = self.footprint(
                lambda: footprints.effect_of(self.shop, self.blog, lambda: change(self.shop), in_short=True)  # noqa: B023
            )
            if told != looked:
                self.fail(
                    f"step {step}: {told[:-1]} {looked[:-1]} too many {sorted(told[-1] - looked[-1])[:9]} missing {sorted(looked[-1] - told[-1])[:9]}"
                )
            if len(told) == 2 and self.chance.random() < 0.6:
                change(self.shop)
                self.clock.forward(DAY // 24)
                self.publish()
