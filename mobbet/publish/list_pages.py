"""The pages of lists: posts of the front page, of a category, a tag or a month; their feeds, the indexes of them, and the site map."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from functools import cached_property
from typing import Any

from mobbet.core.document import schema
from mobbet.core.document.write import to_text
from mobbet.core.facts import OutPost
from mobbet.core.filing import trail as trail_of
from mobbet.core.filing import tree
from mobbet.publish.cards import Card, Cards
from mobbet.publish.values import FeedPage, ListPage, Page, Snapshot, Step, SubjectsPage

FEED_LENGTH = 20
SITEMAP_LENGTH = 1000
FEEDS = ("atom", "rss", "json")
MOST_ON_TOP = 5
"""How many posts stand at the top of the front page at the most."""


class Lists:
    """The pages of lists over one snapshot, which show the posts' cards."""

    def __init__(self, snapshot: Snapshot, cards: Cards) -> None:
        self._snapshot = snapshot
        self._cards = cards
        self._feed: tuple[str, tuple] = ("", ())
        self._trails: dict[int, tuple[Step, ...]] = {}

    def keys_of(self, name: str) -> Iterator[str]:
        """The keys of a list's pages, and of the feeds or the parts of the site map that it has."""
        if name in ("all", "top"):
            return
        if name.startswith("under:"):
            yield f"list/category:{name[6:]}/0"
            return
        count = self._snapshot.count(name)
        yield from (
            f"list/{name}/{number}" for number in range(pages(count, self._snapshot.house.posts_on_page) + 1)
        )
        if name.startswith("category:"):
            yield from (f"feed/{name}/{feed}" for feed in FEEDS)
        if name.startswith("month:"):
            yield from (f"sitemap/{name[6:]}/{part}" for part in range(1, -(-count // SITEMAP_LENGTH) + 1))

    def path(self, name: str, number: int) -> str | None:
        """Where a page of a list is; None for a list without a page, and a number it does not reach."""
        step = self.step(name) if name != "all" else None
        if (
            step is None
            or number > self.last(name)
            or (self._snapshot.count(name) == 0 and not self.has_page(name))
        ):
            return None
        return f"{step.path}page/{number}/" if number else step.path

    def path_of(self, key: str) -> str | None:
        """Where the page of a list is that has this key in the plan, as `path` says."""
        name, _, number = key.removeprefix("list/").rpartition("/")
        return self.path(name, int(number))

    def last(self, name: str) -> int:
        """The number of the newest of a list's numbered pages; 0 without any."""
        return pages(self._snapshot.count(name), self._snapshot.house.posts_on_page)

    def page(self, key: str, rest: str) -> Page | None:
        """A page of a list, by `<list>/<number>`; None where `path` has none."""
        name, _, number_text = rest.rpartition("/")
        number = int(number_text)
        path = self.path(name, number)
        if path is None:
            return None
        snapshot, size = self._snapshot, self._snapshot.house.posts_on_page
        last, step = self.last(name), self.step(name)
        base = step.path
        posts = (
            snapshot.newest(name, size)
            if number == 0
            else list(reversed(snapshot.window(name, (number - 1) * size, size)))
        )
        if name == "front" and number == 0:
            on_top = snapshot.newest("top", MOST_ON_TOP)
            posts = list({post.id: post for post in (*on_top, *posts)}.values())
        older = newer = None
        if number == 0 and last:
            first_unseen = snapshot.newest(name, size + 1)[-1]
            older = f"{base}page/{last}/#post-{first_unseen.id}"
        elif number > 1:
            older = f"{base}page/{number - 1}/"
        if number:
            newer = f"{base}page/{number + 1}/" if number < last else base
        return self._page(key, name, step, path, posts, number, older, newer)

    def _page(
        self,
        key: str,
        name: str,
        step: Step,
        path: str,
        posts: list[OutPost],
        number: int,
        older: str | None,
        newer: str | None,
    ) -> Page:
        kind, _, which = name.partition(":")
        cards = tuple(self._cards.in_lists(post) for post in posts)
        steps = (
            ()
            if kind == "front"
            else (self.label, *(self.trail(int(which))[:-1] if kind == "category" else ()))
        )
        about = picture = None
        if kind == "category" and number == 0:
            own = self._snapshot.category_page(int(which))
            about = schema.load(own.description) if own.description else None
            picture = self._snapshot.item(own.picture) if own.picture else None
        bodies, links = {}, {}
        if self._snapshot.house.full_in_lists:
            bodies = {post.id: self._cards.body_in_lists(post) for post in posts}
            links = {post.id: self._cards.links(post) for post in posts}
        feed = f"{step.path}feed" if kind == "category" else "/feed"
        context = ListPage(
            step.name, kind, path, cards, number, older, newer, steps, about, picture, feed, bodies, links
        )
        reads = [
            step.name,
            [card.digest for card in cards],
            older,
            newer,
            data(steps),
            about,
            picture and [picture.id, picture.version],
        ]
        reads.append(sorted((post_id, sorted(found.items())) for post_id, found in links.items()))
        return Page(key, path, "list", reads, context)

    def has_page(self, name: str) -> bool:
        """Whether a list has a page: one of its own posts, or one below it, is out. The front page is always there."""
        kind, _, which = name.partition(":")
        return (
            kind == "front"
            or self._snapshot.has_any(name)
            or (kind == "category" and self._snapshot.has_any(f"under:{which}"))
        )

    @cached_property
    def label(self) -> Step:
        """The blog's section, as its owner calls it."""
        return Step(self._snapshot.house.label, "/")

    def step(self, name: str) -> Step | None:
        """A list by its name and path; None for a category or a tag that is unknown."""
        kind, _, which = name.partition(":")
        if kind in ("all", "front"):
            return Step(self._snapshot.house.name, "/")
        if kind == "month":
            return Step(which, f"/{which.replace('-', '/')}/")
        if kind == "category":
            category = self._snapshot.categories.get(int(which))
            return Step(category.name, f"/{category.slug}/") if category else None
        if kind == "tag":
            tag = next(iter(self._snapshot.tags((int(which),))), None)
            return Step(tag.name, f"/tag/{tag.slug}/") if tag else None
        return None

    def trail(self, category_id: int) -> tuple[Step, ...]:
        """The steps from the top down to a category."""
        if category_id not in self._trails:
            self._trails[category_id] = tuple(
                Step(subject.name, f"/{subject.slug}/")
                for subject in trail_of(self._snapshot.categories, category_id)
            )
        return self._trails[category_id]

    def subjects(self, key: str, rest: str) -> Page:
        """The page of all categories and tags with posts."""
        numbers = {
            int(name.partition(":")[2])
            for kind in ("category:", "under:")
            for name in self._snapshot.lists(kind)
        }
        steps = tuple(
            (depth, Step(subject.name, f"/{subject.slug}/"))
            for depth, subject in tree(self._snapshot.categories.values())
            if subject.id in numbers
        )
        tags = tuple(
            sorted(
                filter(None, map(self.step, self._snapshot.lists("tag:"))),
                key=lambda tag: (tag.name.casefold(), tag.name),
            )
        )
        context = SubjectsPage(steps, tags)
        return Page(
            key,
            "/subjects/",
            "subjects",
            [[(depth, *data([step])) for depth, step in steps], data(tags)],
            context,
        )

    def archive(self, key: str, rest: str) -> Page:
        """The page of all months with posts, the newest first."""
        months = tuple(self.step(name) for name in reversed(self._snapshot.lists("month:")))
        return Page(key, "/archive/", "archive", data(months), months)

    def feed(self, key: str, rest: str) -> Page | None:
        """A feed of a list, by `<list>/<format>`; None for a list without posts, but for that of the whole blog."""
        name, _, format = rest.rpartition("/")
        step, house = self.step(name), self._snapshot.house
        posts = self._feed_posts(name) if step else ()
        if step is None or (name != "all" and not posts):
            return None
        title, about = house.name, house.tagline
        if name != "all":
            own = self._snapshot.category_page(int(name.partition(":")[2])).description
            title, about = (
                f"{step.name} · {house.name}",
                " ".join(to_text(schema.load(own)).split()) if own else "",
            )
        context = FeedPage(title, about, f"{step.path}feed", step.path, posts)
        reads = [
            title,
            about,
            step.path,
            [[card.digest, sorted(links.items())] for card, _, links in context.posts],
        ]
        return Page(key, f"{context.path}.{format}", f"feed-{format}", reads, context)

    def _feed_posts(self, name: str) -> tuple[tuple[Card, dict[str, Any], dict[int, str]], ...]:
        """The newest posts of a list with their texts; read once for all of its formats."""
        if name != self._feed[0]:
            posts = self._snapshot.newest(name, FEED_LENGTH)
            self._feed = (
                name,
                tuple(
                    (self._cards.in_lists(post), self._cards.body_in_lists(post), self._cards.links(post))
                    for post in posts
                ),
            )
        return self._feed[1]

    def sitemap(self, key: str, rest: str) -> Page | None:
        """The index of the site map, by `index`, or a part of a month, by `<month>/<number>`; None for a part without posts."""
        if rest == "index":
            parts = tuple(
                f"/sitemap-{name[6:]}-{part}.xml"
                for name in self._snapshot.lists("month:")
                for part in range(1, -(-self._snapshot.count(name) // SITEMAP_LENGTH) + 1)
            )
            return Page(key, "/sitemap.xml", "sitemap-index", parts, parts)
        month, part = rest.split("/")
        posts = self._snapshot.window(f"month:{month}", (int(part) - 1) * SITEMAP_LENGTH, SITEMAP_LENGTH)
        entries = tuple((post.path, post.updated) for post in posts)
        return Page(key, f"/sitemap-{month}-{part}.xml", "sitemap", entries, entries) if entries else None


def pages(count: int, size: int) -> int:
    """How many numbered pages a list has beside its newest one; each is full and never changes its posts."""
    return -(-(count - size) // size) if count > size else 0


def data(steps: Iterable[Step | None]) -> list[list[str] | None]:
    """Steps as data, for a fingerprint."""
    return [[step.name, step.path] if step else None for step in steps]
