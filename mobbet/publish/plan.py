"""The site as a function of facts and instant: which pages there are, and what each of them shows.

Each page has a *key* that says what it is of:

    post/12                  the page of a post
    former//lamps/old/       an old address that leads to the post's present one
    list/category:3/0        the newest posts of a list; list/category:3/2 its second page, counted from
                             the oldest, so that a new post alters only the newest
    subjects/, archive/, missing/
    feed/atom, feed/rss, feed/json
    sitemap/index, sitemap/2026-11/1, robots/
    media/17/whole/image/webp/800  a file of an item of the library, by its use
    asset/site.css           a file of the design

`page(snapshot, key)` is the page at that key, or None when there is none at the snapshot's instant.
`all_keys` names every page; `touched` names those that a change of some posts may have altered. A full
build asks for the first, a publication for the second, and both give the same bytes.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from typing import Any

from mobbet.core.audience import EVERYONE, widest
from mobbet.core.canonical import digest
from mobbet.core.facts import OutPost, Subject, list_keys
from mobbet.core.filing import trail, tree, with_parents
from mobbet.core.timing import month_of
from mobbet.publish.cards import Cards
from mobbet.publish.design import ASSETS
from mobbet.publish.values import ListPage, Page, PostPage, SeriesBox, Snapshot, Step, SubjectsPage

FEED_LENGTH = 20
SITEMAP_LENGTH = 1000
FEEDS = ("atom", "rss", "json")


class Plan:
    """The plan over one snapshot. Cards of posts are made once and kept while the plan lives."""

    def __init__(self, snapshot: Snapshot) -> None:
        self.snapshot = snapshot
        self.cards = Cards(snapshot)

    def page(self, key: str) -> Page | None:
        """The page at a key; None when there is none at this instant."""
        kind, _, rest = key.partition("/")
        return _KINDS[kind](self, key, rest)

    def all_keys(self) -> Iterator[str]:
        """The keys of every page there may be."""
        yield from ("list/all/0", "subjects/", "archive/", "missing/", "robots/", "sitemap/index")
        yield from (f"feed/{name}" for name in FEEDS)
        yield from (f"asset/{asset.name}" for asset in ASSETS)
        size = self.snapshot.house.posts_on_page
        for name in self.snapshot.lists():
            count = self.snapshot.count(name)
            yield from (f"list/{name}/{number}" for number in range(0 if name != "all" else 1, _pages(count, size) + 1))
            if name.startswith("month:"):
                yield from (f"sitemap/{name[6:]}/{part}" for part in range(1, -(-count // SITEMAP_LENGTH) + 1))
        pictures: set[int] = set()
        for post_id in self.snapshot.post_ids():
            yield f"post/{post_id}"
            yield from self._former_keys(post_id)
            pictures.update(self.snapshot.post(post_id).media)
        for media_id in sorted(pictures):
            yield from self.media_keys(media_id)

    def media_keys(self, media_id: int) -> list[str]:
        item = self.snapshot.item(media_id)
        return [file.key for file in item.files] if item else []

    def _former_keys(self, post_id: int) -> list[str]:
        return [f"former/{path}" for path in self.snapshot.former_paths(post_id)]

    def state(self, post_id: int) -> dict[str, Any] | None:
        """What the site shows of a post, as data: kept with an edition, compared by the next."""
        post = self.snapshot.post(post_id)
        if post is None:
            return None
        categories = with_parents(self.snapshot.categories, post.categories)
        month = month_of(post.goes_out, post.zone)
        return {
            "digest": self.cards.of(post).digest,
            "path": post.path,
            "title": post.title,
            "goes_out": post.goes_out,
            "lists": list(list_keys(categories, post.tags, month)) if post.audience == EVERYONE else [],
            "media": list(post.media),
            "files": [key for media_id in post.media for key in self.media_keys(media_id)],
            "audience": post.audience,
            "series": [post.series_id, post.series_position] if post.series_id else None,
        }

    def touched(self, changes: dict[int, tuple[dict | None, dict | None]]) -> set[str]:
        """The keys of every page that may differ after these changes: {post: (state before, state now)}."""
        changes = {post_id: pair for post_id, pair in changes.items() if pair[0] != pair[1]}
        keys: set[str] = set()
        lists: dict[str, list[tuple[int, dict | None, dict | None]]] = {}
        for post_id, (before, now) in changes.items():
            keys.add(f"post/{post_id}")
            keys.update(self._former_keys(post_id))
            if before is None or now is None or any(before.get(name) != now[name] for name in ("path", "audience")):
                keys.update(self._touched_of_links(post_id))
            for state in (before, now):
                if state is None:
                    continue
                if state.get("series"):
                    keys.update(f"post/{part.id}" for part in self.snapshot.series_parts(state["series"][0]))
                keys.add(f"former/{state['path']}")
                for media_id in state["media"]:
                    keys.update(self.media_keys(media_id))
                keys.update(state.get("files", ()))
                if "all" in state["lists"]:
                    keys.update(self._neighbours(state["goes_out"], post_id))
            for name in {*(before or {}).get("lists", ()), *(now or {}).get("lists", ())}:
                on_before = before if before and name in before["lists"] else None
                on_now = now if now and name in now["lists"] else None
                lists.setdefault(name, []).append((post_id, on_before, on_now))
        for name, moved in lists.items():
            keys.update(self._touched_of_list(name, moved))
        return keys

    def _touched_of_links(self, post_id: int) -> Iterator[str]:
        """The pages that lead to a post, which has come, gone or moved; a feed may hold any of their texts."""
        linking = list(self.snapshot.linking_to(post_id))
        yield from (f"post/{number}" for number in linking)
        if linking:
            yield from (f"feed/{feed}" for feed in FEEDS)

    def _neighbours(self, goes_out: int, post_id: int) -> Iterator[str]:
        for post in (self.snapshot.older(goes_out, post_id), self.snapshot.newer(goes_out, post_id)):
            if post:
                yield f"post/{post.id}"

    def _touched_of_list(self, name: str, moved: list[tuple[int, dict | None, dict | None]]) -> set[str]:
        """The pages of one list that may differ: from the first place that shifted up to the newest."""
        size = self.snapshot.house.posts_on_page
        count = self.snapshot.count(name)
        count_before = count + sum((before is not None) - (now is not None) for _, before, now in moved)
        last, last_before = _pages(count, size), _pages(count_before, size)
        keys = {f"list/{name}/0"}
        for post_id, before, now in moved:
            places = {state["goes_out"] for state in (before, now) if state}
            ranks = [self.snapshot.rank(name, goes_out, post_id) for goes_out in places]
            first = min(ranks) // size + 1
            is_shifted = before is None or now is None or before["goes_out"] != now["goes_out"]
            numbers = range(max(1, first - 1), max(last, last_before) + 1) if is_shifted else [first]
            keys.update(f"list/{name}/{number}" for number in numbers)
            if name.startswith("month:"):
                keys.update(self._touched_of_sitemap(name[6:], min(ranks), max(count, count_before)))
        if last != last_before:  # numbered pages begin or end, and the one before them leads elsewhere
            keys.update(f"list/{name}/{number}" for number in range(max(1, min(last, last_before)), max(last, last_before) + 1))
        if name == "all":
            keys.update(f"feed/{feed}" for feed in FEEDS)
        elif (count == 0) != (count_before == 0):
            keys.update(("archive/",) if name.startswith("month:") else ("subjects/",))
        if name.startswith("month:") and -(-count // SITEMAP_LENGTH) != -(-count_before // SITEMAP_LENGTH):
            keys.add("sitemap/index")
        return keys

    def _touched_of_sitemap(self, month: str, rank: int, count: int) -> Iterator[str]:
        return (f"sitemap/{month}/{part}" for part in range(rank // SITEMAP_LENGTH + 1, -(-count // SITEMAP_LENGTH) + 1))

    def post_page(self, key: str, rest: str) -> Page | None:
        post = self.snapshot.post(int(rest))
        return self.page_of_post(post, self.snapshot.body(post)) if post else None

    def page_of_post(self, post: OutPost, body: dict[str, Any]) -> Page:
        """The page of a post that is out, or that stands as if it were."""
        card = self.cards.of(post)
        older = newer = None
        steps = tags = ()
        if post.audience == EVERYONE:  # any other has no neighbours, and its subjects perhaps no page
            steps = self._trail(post.categories[0]) if post.categories else ()
            tags = tuple(Step(tag.name, f"/tag/{tag.slug}/") for tag in self.snapshot.tags(post.tags))
            older = _neighbour(self.snapshot.older(post.goes_out, post.id))
            newer = _neighbour(self.snapshot.newer(post.goes_out, post.id))
        links, series = self._links(post), self._series(post)
        context = PostPage(card, body, steps, tags, older, newer, links, series)
        reads = [card.digest, _data(steps), _data(tags), _data([older]), _data([newer]), sorted(links.items())]
        reads.append([series.name, series.number, _data(series.parts)] if series else None)
        return Page(f"post/{post.id}", post.path, "post", reads, context, post.audience)

    def _links(self, post: OutPost) -> dict[int, str]:
        """The paths of the posts a text leads to, of those that all its readers may see."""
        found = ((number, self.snapshot.post(number)) for number in post.links)
        return {number: other.path for number, other in found if other and other.audience in (EVERYONE, post.audience)}

    def _series(self, post: OutPost) -> SeriesBox | None:
        """The series of a post; None while it is the only part that is out."""
        if post.series_id is None or post.audience != EVERYONE:
            return None
        parts = self.snapshot.series_parts(post.series_id)
        if all(part.id != post.id for part in parts):
            parts = sorted([*parts, post], key=lambda part: (part.series_position, part.goes_out, part.id))
        if len(parts) < 2:
            return None
        number = next(at for at, part in enumerate(parts, 1) if part.id == post.id)
        return SeriesBox(self.snapshot.series_name(post.series_id), number, tuple(Step(part.title, part.path) for part in parts))

    def former(self, key: str, path: str) -> Page | None:
        post_id = self.snapshot.owner_of(path)
        post = self.snapshot.post(post_id) if post_id else None
        if post is None or post.path == path:
            return None
        return Page(key, path, "leads-on", post.path, Step(post.title, post.path), post.audience, post.path)

    def list_page(self, key: str, rest: str) -> Page | None:
        name, _, number_text = rest.rpartition("/")
        number = int(number_text)
        snapshot, size = self.snapshot, self.snapshot.house.posts_on_page
        count = snapshot.count(name)
        last = _pages(count, size)
        if number > last or (count == 0 and name != "all"):
            return None
        step = self._list_step(name)
        base = step.path
        posts = snapshot.newest(name, size) if number == 0 else list(reversed(snapshot.window(name, (number - 1) * size, size)))
        older = newer = None
        if number == 0 and last:
            first_unseen = snapshot.newest(name, size + 1)[-1]
            older = f"{base}page/{last}/#post-{first_unseen.id}"
        elif number > 1:
            older = f"{base}page/{number - 1}/"
        if number:
            newer = f"{base}page/{number + 1}/" if number < last else base
        path = f"{base}page/{number}/" if number else base
        cards = tuple(self.cards.of(post) for post in posts)
        kind = name.partition(":")[0]
        steps = self._trail(int(name[9:]))[:-1] if kind == "category" else ()
        context = ListPage(step.name, kind, path, cards, number, older, newer, steps)
        return Page(key, path, "list", [step.name, [card.digest for card in cards], older, newer, _data(steps)], context)

    def _list_step(self, name: str) -> Step:
        kind, _, which = name.partition(":")
        if kind == "all":
            return Step(self.snapshot.house.name, "/")
        if kind == "category":
            category = self.snapshot.categories[int(which)]
            return Step(category.name, f"/{category.slug}/")
        if kind == "tag":
            tag = self.snapshot.tags((int(which),))[0]
            return Step(tag.name, f"/tag/{tag.slug}/")
        return Step(which, f"/{which.replace('-', '/')}/")

    def _trail(self, category_id: int) -> tuple[Step, ...]:
        return tuple(Step(subject.name, f"/{subject.slug}/") for subject in trail(self.snapshot.categories, category_id))

    def subjects(self, key: str, rest: str) -> Page:
        names = set(self.snapshot.lists("category:"))
        steps = tuple(
            (len(trail(self.snapshot.categories, number)) - 1, Step(subject.name, f"/{subject.slug}/"))
            for number, subject in _in_tree_order(self.snapshot.categories)
            if f"category:{number}" in names
        )
        tags = tuple(sorted((self._list_step(name) for name in self.snapshot.lists("tag:")), key=lambda tag: (tag.name.casefold(), tag.name)))
        context = SubjectsPage(steps, tags)
        return Page(key, "/subjects/", "subjects", [[(depth, *_data([step])) for depth, step in steps], _data(tags)], context)

    def archive(self, key: str, rest: str) -> Page:
        months = tuple(self._list_step(name) for name in reversed(self.snapshot.lists("month:")))
        return Page(key, "/archive/", "archive", _data(months), months)

    def missing(self, key: str, rest: str) -> Page:
        return Page(key, "/404.html", "missing", None, None)

    def feed(self, key: str, name: str) -> Page:
        posts = tuple((self.cards.of(post), post) for post in self.snapshot.newest("all", FEED_LENGTH))
        context = tuple((card, self.snapshot.body(post), self._links(post)) for card, post in posts)
        path = {"atom": "/feed.atom", "rss": "/feed.rss", "json": "/feed.json"}[name]
        return Page(key, path, f"feed-{name}", [[card.digest, sorted(links.items())] for card, _, links in context], context)

    def sitemap(self, key: str, rest: str) -> Page | None:
        if rest == "index":
            parts = tuple(
                f"/sitemap-{name[6:]}-{part}.xml"
                for name in self.snapshot.lists("month:")
                for part in range(1, -(-self.snapshot.count(name) // SITEMAP_LENGTH) + 1)
            )
            return Page(key, "/sitemap.xml", "sitemap-index", parts, parts)
        month, part = rest.split("/")
        posts = self.snapshot.window(f"month:{month}", (int(part) - 1) * SITEMAP_LENGTH, SITEMAP_LENGTH)
        entries = tuple((post.path, post.updated) for post in posts)
        return Page(key, f"/sitemap-{month}-{part}.xml", "sitemap", entries, entries) if entries else None

    def robots(self, key: str, rest: str) -> Page:
        return Page(key, "/robots.txt", "robots", None, None)

    def media(self, key: str, rest: str) -> Page | None:
        item = self.snapshot.item(int(rest.partition("/")[0]))
        file = next((file for file in item.files if file.key == key), None) if item else None
        audience = widest(self.snapshot.media_audiences(item.id)) if file else None
        return Page(key, file.path, "media", file.hash, file, audience) if audience else None

    def asset(self, key: str, name: str) -> Page | None:
        asset = next((asset for asset in ASSETS if asset.name == name), None)
        return Page(key, asset.path, "asset", asset.hash, asset) if asset else None


_KINDS = {
    "post": Plan.post_page,
    "former": Plan.former,
    "list": Plan.list_page,
    "subjects": Plan.subjects,
    "archive": Plan.archive,
    "missing": Plan.missing,
    "feed": Plan.feed,
    "sitemap": Plan.sitemap,
    "robots": Plan.robots,
    "media": Plan.media,
    "asset": Plan.asset,
}


def fingerprint(page: Page, house: str) -> str:
    """The hash of everything a page's bytes follow from; `house` is the digest of what all pages share."""
    return digest([page.path, page.recipe, page.audience, page.leads_to, page.reads, house])


def _pages(count: int, size: int) -> int:
    """How many numbered pages a list has beside its newest one; each is full and never changes its posts."""
    return -(-(count - size) // size) if count > size else 0


def _neighbour(post: OutPost | None) -> Step | None:
    return Step(post.title, post.path) if post else None


def _data(steps: Iterable[Step | None]) -> list[list[str] | None]:
    return [[step.name, step.path] if step else None for step in steps]


def _in_tree_order(categories: dict[int, Subject]) -> list[tuple[int, Subject]]:
    return [(subject.id, subject) for _, subject in tree(categories.values())]
