"""The site as a function of facts and instant, held against a naive second computation in memory."""

from __future__ import annotations

import random
import unittest
from dataclasses import replace
from typing import Any

from mobbet.core.audience import EVERYONE, STRANGER, list_audience, list_audiences
from mobbet.core.division import Place
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.facts import (
    AddressOwner,
    Author,
    CategoryPage,
    Comment,
    House,
    Item,
    OutPost,
    PictureFile,
    Subject,
    Titled,
    list_keys,
)
from mobbet.core.filing import category_lists
from mobbet.core.keys import FRONT, ListName
from mobbet.core.look.begun import begun_look
from mobbet.core.promo_places import Reach
from mobbet.core.timing import month_of
from mobbet.publish.pages.kinds import all_keys, certain, fingerprint, key_at, page_at, render, touched
from mobbet.publish.plan import Plan
from mobbet.publish.renderer import Renderer, house_digest

CATEGORIES = {
    1: Subject(1, "Lamps", "lamps"),
    2: Subject(2, "Wiring", "wiring", 1),
    3: Subject(3, "Clocks", "clocks", shows_below=False),
    4: Subject(4, "Hands", "hands", 3),
}
TAGS = {number: Subject(number, f"tag {number}", f"tag-{number}") for number in (1, 2, 3)}
FILE = PictureFile(1, 800, 500, "image/webp", "a" * 64)
DAY = 86400
NUMBERED: dict[tuple[str, int], Place] = {
    ("front", 1): (1_790_000_000 + 4 * DAY, 4),
    ("front", 2): (1_790_000_000 + 20 * DAY, 20),
    ("front", 7): (1_790_000_000 + 60 * DAY, 17),
    ("category:1", 1): (1_790_000_000 + 30 * DAY, 30),
    ("category:2", 2): (1_790_000_000 + 10 * DAY, 2),
    ("tag:2", 1): (1_790_000_000, 1),
}
"""{(list, number of a page that it had): where its oldest post stood}."""


class MemorySnapshot:
    """Answers the plan's questions by looking through all posts."""

    def __init__(self, posts: list[OutPost], size: int = 3, former: dict[str, int] | None = None) -> None:
        self.instant = 0
        self.house = House(
            "The Bench", "a line", "UTC", "en", "https://bench.example/", begun_look("bench"), size
        )
        self.categories = CATEGORIES
        self.reader = STRANGER
        self._posts = sorted(posts, key=lambda post: (post.goes_out, post.id))
        self._former = former or {}
        self._by_id = {post.id: post for post in self._posts}
        self._on: dict[str, list[OutPost]] = {}
        for post in self._posts:
            if not post.kind and list_audience(post.audience, post.listed) in list_audiences(STRANGER):
                for key in self.keys(post):
                    self._on.setdefault(key, []).append(post)

    def post(self, post_id: int) -> OutPost | None:
        return self._by_id.get(post_id)

    def body(self, post: OutPost) -> dict[str, Any]:
        return from_markdown(
            f"Words of revision {post.revision}." + ("\n\n![a](media:1)" if post.media else "")
        )

    def post_ids(self) -> list[int]:
        return [post.id for post in self._posts]

    def on(self, key: str) -> list[OutPost]:
        return self._on.get(key, [])

    def keys(self, post: OutPost) -> tuple[str, ...]:
        return list_keys(
            category_lists(self.categories, post.categories),
            post.tags,
            month_of(post.goes_out, post.zone),
            post.front,
            post.author_id,
        )

    def author(self, number: int) -> Author:
        return Author(number, f"Author {number}", f"author-{number}")

    def author_at(self, slug: str) -> int:
        return int(slug.rpartition("-")[2])

    def author_pictures(self) -> list[int]:
        return []

    def home_address(self, post: OutPost) -> str:
        return ""

    def saved_block(self, number: int) -> None:
        return None

    def most_read(self, most: int) -> list[OutPost]:
        return []

    def authors_by_newest(self, most: int) -> list[int]:
        return []

    def posts_with_own_look(self) -> list[int]:
        return []

    def posts_in_reach(self, reach: Reach) -> list[int]:
        return self.post_ids()

    def count(self, key: str) -> int:
        return len(self.on(key))

    def counts(self, start: str, most: int) -> dict[ListName, int]:
        return {ListName(key): min(most, len(self._on[key])) for key in self.lists(start)}

    def newest_titles(self, key: str, most: int) -> list[Titled]:
        return [Titled(post.title, post.path, post.goes_out, post.zone) for post in self.newest(key, most)]

    def has_any(self, key: str) -> bool:
        return bool(self.on(key))

    def rank(self, key: str, goes_out: int, post_id: int) -> int:
        return sum((post.goes_out, post.id) < (goes_out, post_id) for post in self.on(key))

    def window(self, key: str, start: int, most: int) -> list[OutPost]:
        return self.on(key)[start : start + most]

    def places(self, key: str, start: int, most: int) -> list[tuple[int, int]]:
        return [(post.goes_out, post.id) for post in self.window(key, start, most)]

    def former_page(self, key: str, number: int) -> tuple[int, int] | None:
        return NUMBERED.get((key, number))

    def former_pages(self, key: str, first: Place | None = None, last: Place | None = None) -> list[int]:
        within = (first or (-1, 0), last or (1 << 62, 0))
        return [
            number
            for (name, number), place in NUMBERED.items()
            if name == key and within[0] <= place <= within[1]
        ]

    def newest(self, key: str, most: int) -> list[OutPost]:
        return self.on(key)[::-1][:most]

    def older(self, goes_out: int, post_id: int) -> OutPost | None:
        return next(
            (post for post in reversed(self.on("all")) if (post.goes_out, post.id) < (goes_out, post_id)),
            None,
        )

    def newer(self, goes_out: int, post_id: int) -> OutPost | None:
        return next((post for post in self.on("all") if (post.goes_out, post.id) > (goes_out, post_id)), None)

    def lists(self, start: str = "") -> list[str]:
        return sorted(key for key in self._on if key.startswith(start))

    def tags(self, numbers: tuple[int, ...]) -> list[Subject]:
        return [TAGS[number] for number in numbers if number in TAGS]

    def item(self, media_id: int) -> Item:
        return Item(media_id, "picture", "x.jpg", "image/jpeg", 900, 600, 9, 0, "", (), "", 1, (FILE,))

    def media_audiences(self, media_id: int) -> list[str]:
        return sorted({post.audience for post in self._posts if media_id in post.media})

    def addresses_of(self, kind: str, number: int) -> list[str]:
        return sorted(path for path, owner in self._former.items() if owner == number and kind == "post")

    def subject_at(self, path: str) -> AddressOwner | None:
        return None

    def media_shown(self) -> set[int]:
        return {number for post in self._posts for number in post.media}

    def addresses_away(self) -> list[str]:
        return []

    def tag_numbers(self) -> list[int]:
        return list(TAGS)

    def category_page(self, number: int) -> CategoryPage:
        return CategoryPage()

    def redirect_target(self, post_id: int) -> int | None:
        return None

    def redirected_posts(self) -> list[int]:
        return []

    def redirecting_to(self, post_id: int) -> list[int]:
        return []

    def alike(self, post: OutPost) -> list[OutPost]:
        return []

    def showing_alike(self, post_id: int) -> list[int]:
        return []

    def linking_to(self, post_id: int) -> list[int]:
        return [post.id for post in self._posts if post_id in post.links]

    def comments(self, post_id: int) -> list[Comment]:
        return []

    def series_name(self, series_id: int) -> str:
        return f"Series {series_id}"

    def series_parts(self, series_id: int) -> list[OutPost]:
        parts = [post for post in self._posts if post.series_id == series_id and post.audience == EVERYONE]
        return sorted(parts, key=lambda post: (post.series_position, post.goes_out, post.id))

    def pages(self) -> list[OutPost]:
        return [post for post in self._posts if post.kind and post.audience == EVERYONE]

    def pages_below(self, post_id: int) -> list[OutPost]:
        return [page for page in self.pages() if page.below == post_id]

    def numbers_below(self, post_id: int) -> list[int]:
        return [post.id for post in self._posts if post.kind and post.below == post_id]

    def address_owner(self, path: str) -> AddressOwner | None:
        return AddressOwner("post", self._former[path]) if path in self._former else None


def a_post(number: int, chance: random.Random) -> OutPost:
    categories = tuple(chance.sample((1, 2, 3, 4), chance.choice((0, 1, 2))))
    slug = CATEGORIES[categories[0]].slug if categories else "posts"
    goes_out = 1_790_000_000 + chance.randrange(0, 90) * DAY
    kind = chance.choice(("", "", "", "page", "about"))
    below = chance.choice((None, number - 1, number - 10)) if kind else None
    return OutPost(
        id=number, revision=1, path=f"/{slug}/post-{number}/", audience=chance.choice((EVERYONE, EVERYONE, EVERYONE, EVERYONE, "person:7", "signed-in", "group:1", f"password:{number}")),
        title=f"Post {number}", subtitle="", author="Ines", zone="UTC", goes_out=goes_out, updated=goes_out, excerpt="", description="",
        categories=categories, tags=tuple(chance.sample((1, 2, 3), chance.choice((0, 1, 2)))), media=chance.choice(((), (), (1,))),
        links=tuple(chance.sample(range(1, 40), chance.choice((0, 0, 2)))), series_id=chance.choice((None, None, 1, 2)), series_position=chance.randrange(3),
        front=chance.choice(("", "", "", "top", "off")), listed=chance.choice(("", "title", "teaser")), kind=kind, below=below, author_id=chance.choice((1, 1, 2)),
    )  # fmt: skip


def whole(snapshot: MemorySnapshot) -> dict[str, str]:
    """{key: fingerprint} of every page there is."""
    plan = Plan(snapshot)
    pages = (page_at(plan, key) for key in all_keys(plan))
    house = house_digest(snapshot.house)
    return {page.key: fingerprint(page, house) for page in pages if page}


def change(posts: list[OutPost], chance: random.Random, step: int) -> list[OutPost]:
    """The posts after one to three chance events."""
    posts = list(posts)
    for event in range(chance.choice((1, 1, 1, 3))):
        kind = chance.choice(("add", "add", "remove", "edit", "refile", "move"))
        if kind == "add" or not posts:
            posts.append(a_post(step * 10 + event + 1, chance))
            continue
        index = chance.randrange(len(posts))
        post = posts[index]
        if kind == "remove":
            posts.pop(index)
        elif kind == "edit":
            posts[index] = replace(
                post, revision=post.revision + 1, title=post.title + "!", updated=post.updated + 60
            )
        elif kind == "refile":
            fresh = a_post(post.id, chance)
            posts[index] = replace(post, categories=fresh.categories, tags=fresh.tags, path=fresh.path, audience=fresh.audience, media=fresh.media,
                                   links=fresh.links, front=fresh.front, series_id=fresh.series_id, series_position=fresh.series_position, kind=fresh.kind, below=fresh.below)  # fmt: skip
        else:
            posts[index] = replace(post, goes_out=post.goes_out + chance.randrange(-60, 60) * DAY)
    return posts


class PlanTests(unittest.TestCase):
    def test_what_was_not_touched_has_not_changed(self) -> None:
        for seed in range(16):
            chance = random.Random(seed)
            posts: list[OutPost] = []
            former: dict[str, int] = {}
            for step in range(24):
                after = change(posts, chance, step)
                former.update({post.path: post.id for post in (*posts, *after)})
                old, new = MemorySnapshot(posts, 3, former), MemorySnapshot(after, 3, former)
                before_states, plan = Plan(old), Plan(new)
                numbers = {post.id for post in (*posts, *after)}
                states = {number: (before_states.state(number), plan.state(number)) for number in numbers}
                before, now = whole(old), whole(new)
                differs = {key for key in before.keys() | now.keys() if before.get(key) != now.get(key)}
                self.assertEqual(differs - touched(plan, states), set(), f"seed {seed}, step {step}")
                sure = {key: path for key, path in certain(plan, states).items() if key in before}
                self.assertEqual(
                    {key: page_at(plan, key).path for key in sure.keys() & differs},
                    sure,
                    f"seed {seed}, step {step}",
                )
                posts = after

    def test_no_two_pages_have_one_path(self) -> None:
        for seed in range(10):
            chance = random.Random(seed)
            plan = Plan(MemorySnapshot([a_post(number, chance) for number in range(1, 30)]))
            paths = [page.path for page in (page_at(plan, key) for key in all_keys(plan)) if page]
            self.assertEqual(len(paths), len(set(paths)))

    def posts(self, count: int) -> list[OutPost]:
        chance = random.Random(1)
        return [
            replace(a_post(number, chance), audience=EVERYONE, kind="", below=None, categories=(1,), tags=(), front="", path=f"/lamps/post-{number}/",
                    goes_out=1_790_000_000 + number * DAY, updated=1_790_000_000 + number * DAY)
            for number in range(1, count + 1)
        ]  # fmt: skip

    def test_a_new_post_alters_only_the_newest_pages_of_its_lists(self) -> None:
        posts = [replace(post, series_id=None, links=()) for post in self.posts(40)]
        before, now = whole(MemorySnapshot(posts[:-1], 5)), whole(MemorySnapshot(posts, 5))
        differs = {key for key in before.keys() | now.keys() if before.get(key) != now.get(key)}
        of_front = {key for key in differs if key.startswith("list/front/")}
        self.assertLessEqual(len(of_front), 2)
        self.assertLess(
            len(differs), 24
        )  # its own, its lists’ newest, their feeds, neighbours, and the two that count posts

    def test_a_post_that_comes_or_goes_alters_few_pages_wherever_it_stands(self) -> None:
        posts = [replace(post, series_id=None, links=()) for post in self.posts(300)]
        now = whole(MemorySnapshot(posts, 5))
        for place in (0, 7, 150, 290, 299):
            before = whole(MemorySnapshot(posts[:place] + posts[place + 1 :], 5))
            differs = {key for key in before.keys() | now.keys() if before.get(key) != now.get(key)}
            self.assertLess(len(differs), 35, place)

    def test_the_newest_page_leads_to_the_first_post_it_does_not_show(self) -> None:
        page = page_at(Plan(MemorySnapshot(self.posts(8), 5)), "list/front/0")
        self.assertEqual([card.id for card in page.context.posts], [8, 7, 6, 5, 4])
        self.assertEqual(page.context.older, "/page/from-1/#post-3")

    def test_older_pages_are_known_by_their_oldest_posts_and_lead_to_one_another(self) -> None:
        plan = Plan(MemorySnapshot(self.posts(40), 5))
        firsts = [0, *plan.lists.pages(FRONT), 0]
        shown = []
        for at, first in enumerate(firsts[1:-1], 1):
            page = page_at(plan, f"list/front/from-{first}")
            shown += [card.id for card in reversed(page.context.posts)]
            older = f"/page/from-{firsts[at - 1]}/" if firsts[at - 1] else None
            newer = f"/page/from-{firsts[at + 1]}/" if firsts[at + 1] else "/"
            self.assertEqual(
                (page.path, page.context.older, page.context.newer), (f"/page/from-{first}/", older, newer)
            )
        self.assertEqual(shown, list(range(1, len(shown) + 1)))
        self.assertGreaterEqual(len(shown), 35)
        for key in ("list/front/from-2", "list/front/from-40", "list/front/from-99", "list/front/1"):
            self.assertIsNone(page_at(plan, key))

    def test_a_numbered_address_leads_to_where_its_page_was(self) -> None:
        posts = self.posts(40)
        plan = Plan(MemorySnapshot(posts, 5))
        self.assertEqual(page_at(plan, "numbered/front/1").leads_to, "/page/from-1/")
        page = page_at(plan, "numbered/front/2")
        self.assertIn(20, [card.id for card in page_at(plan, key_at(plan, page.leads_to)).context.posts])
        self.assertEqual((page.path, page_at(plan, "numbered/front/7").leads_to), ("/page/2/", "/"))
        self.assertIsNone(page_at(plan, "numbered/front/99"))

    def test_a_post_for_one_reader_stands_nowhere_else(self) -> None:
        hidden = replace(
            self.posts(1)[0],
            id=99,
            audience="person:7",
            title="Marmalade",
            path="/lamps/marmalade/",
            tags=(2,),
            media=(1,),
        )
        plan = Plan(MemorySnapshot([*self.posts(4), hidden]))
        renderer = Renderer(plan.snapshot.house, plan.snapshot.item)
        for page in filter(None, (page_at(plan, key) for key in all_keys(plan))):
            if page.audience == EVERYONE:
                with self.subTest(page.key):
                    self.assertNotIn(b"Marmalade", render(renderer, page).body)
                    self.assertNotIn(b"marmalade", render(renderer, page).body)
        self.assertEqual(
            page_at(plan, "media/1/whole/image/webp/800").audience,
            EVERYONE if any(post.media for post in self.posts(4)) else "person:7",
        )
        self.assertEqual(page_at(plan, "post/99").context.tags, ())

    def test_keys_that_name_nothing_have_no_page(self) -> None:
        plan = Plan(MemorySnapshot(self.posts(4)))
        for key in (
            "list/all/0",
            "list/all/1",
            "list/top/0",
            "list/under:1/0",
            "feed/atom",
            "list/category:99/0",
            "list/tag:99/0",
            "else/1",
            "post/99",
            "short/99",
            "card/99",
        ):
            with self.subTest(key):
                self.assertIsNone(page_at(plan, key))

    def test_an_old_address_leads_to_the_present_one(self) -> None:
        posts = self.posts(1)
        plan = Plan(MemorySnapshot(posts, 3, {"/old/place/": 1, posts[0].path: 1}))
        self.assertEqual(page_at(plan, "former//old/place/").leads_to, "/lamps/post-1/")
        self.assertIsNone(page_at(plan, "former//lamps/post-1/"))
        self.assertIsNone(page_at(Plan(MemorySnapshot([], 3, {"/old/place/": 1})), "former//old/place/"))
