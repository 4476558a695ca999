"""The site as a function of facts and instant: which pages there are, and what each of them shows.

Each page has a *key* that says what it is of:

    post/12                  the page of a post
    short/12                 its short address, which leads to it
    former//lamps/old/       an old address that leads to where its post, category or tag is now
    list/category:3/0        the newest posts of a list; list/category:3/2 its second page, counted from
                             the oldest, so that a new post alters only the newest
    feed/category:3/atom     a feed of a list, as Atom, RSS or JSON
    card/12                  the share card of a post without a picture
    subjects/, archive/, missing/
    sitemap/index, sitemap/2026-11/1, robots/
    media/17/whole/image/webp/800  a file of an item of the library, by its use
    asset/site.css           a file of the design

`page(key)` is the page at that key, or None when there is none at the snapshot's instant. `all_keys` names
every page; `touched.py` those that a change may have altered. A full build asks for the first, a
publication for the second, and both give the same bytes.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from functools import cached_property
from typing import Any

from mobbet.core import comments as comment_rules
from mobbet.core.audience import (
    EVERYONE,
    covers,
    list_audience,
    list_audiences,
    may_read,
    widest,
)
from mobbet.core.canonical import digest
from mobbet.core.document import schema
from mobbet.core.document.write import to_text
from mobbet.core.facts import Comment, OutPost, list_keys
from mobbet.core.filing import category_lists, trail, tree
from mobbet.core.permalinks import short_path
from mobbet.core.search_results import can_be_drawn
from mobbet.core.timing import month_of
from mobbet.publish.cards import Card, Cards
from mobbet.publish.design import ASSETS
from mobbet.publish.memo import Memo
from mobbet.publish.pictures import card_path
from mobbet.publish.values import (
    FeedPage,
    House,
    ListPage,
    Page,
    PostPage,
    SeriesBox,
    Snapshot,
    Step,
    SubjectsPage,
)

FEED_LENGTH = 20
SITEMAP_LENGTH = 1000
FEEDS = ("atom", "rss", "json")
MOST_ON_TOP = 5
"""How many posts stand at the top of the front page at the most."""


class Plan:
    """The plan over one snapshot, for the snapshot's reader. Cards of posts are made once and kept while the plan lives; with a memo, beyond that."""

    def __init__(self, snapshot: Snapshot, memo: Memo | None = None) -> None:
        self.snapshot = snapshot
        self.cards = Cards(snapshot, memo)
        self._feed: tuple[str, tuple] = ("", ())
        self._lists: dict[int, tuple[OutPost, list[str]]] = {}
        self._audiences = list_audiences(snapshot.reader)
        self._category_lists: dict[tuple[int, ...], tuple[str, ...]] = {}
        self._trails: dict[int, tuple[Step, ...]] = {}

    def page(self, key: str) -> Page | None:
        """The page at a key; None when there is none at this instant."""
        kind, _, rest = key.partition("/")
        return _KINDS[kind](self, key, rest) if kind in _KINDS else None

    def all_keys(self) -> Iterator[str]:
        """The keys of every page there may be."""
        yield from ("subjects/", "archive/", "missing/", "robots/", "sitemap/index")
        yield from (f"feed/all/{name}" for name in FEEDS)
        yield from (f"asset/{asset.name}" for asset in ASSETS)
        names = dict.fromkeys(("front", *self.snapshot.lists()))
        yield from dict.fromkeys(key for name in names for key in self.keys_of_list(name))
        for number in self.snapshot.categories:
            yield from self.former_keys("category", number)
        for number in self.snapshot.tag_numbers():
            yield from self.former_keys("tag", number)
        yield from (f"former/{path}" for path in self.snapshot.addresses_away())
        for number in self.snapshot.led_on():
            yield from self.former_keys("post", number)
        pictures = set(self.snapshot.media_shown())
        former = self.snapshot.addresses_of_posts()
        for post_id in self.snapshot.post_ids():
            yield from (f"post/{post_id}", f"short/{post_id}", f"card/{post_id}")
            yield from (f"former/{path}" for path in former.get(post_id, ()))
        pictures.update(page.picture for page in map(self.snapshot.category_page, self.snapshot.categories) if page.picture)
        for media_id in sorted(pictures):
            yield from self.media_keys(media_id)

    def keys_of_list(self, name: str) -> Iterator[str]:
        """The keys of a list's pages, and of the feeds or the parts of the site map that it has."""
        if name in ("all", "top"):
            return
        if name.startswith("under:"):
            yield f"list/category:{name[6:]}/0"
            return
        count = self.snapshot.count(name)
        yield from (f"list/{name}/{number}" for number in range(pages(count, self.snapshot.house.posts_on_page) + 1))
        if name.startswith("category:"):
            yield from (f"feed/{name}/{feed}" for feed in FEEDS)
        if name.startswith("month:"):
            yield from (f"sitemap/{name[6:]}/{part}" for part in range(1, -(-count // SITEMAP_LENGTH) + 1))

    def media_keys(self, media_id: int) -> list[str]:
        item = self.snapshot.item(media_id)
        return [file.key for file in item.files] if item else []

    def former_keys(self, kind: str, number: int) -> list[str]:
        return [f"former/{path}" for path in self.snapshot.addresses_of(kind, number)]

    def state(self, post_id: int) -> dict[str, Any] | None:
        """What the site shows of a post, as data: kept with an edition, compared by the next."""
        post = self.snapshot.post(post_id)
        if post is None:
            return None
        return {
            "digest": self.cards.of(post).digest,
            "path": post.path,
            "title": post.title,
            "goes_out": post.goes_out,
            "lists": self.lists_of(post),
            "media": list(post.media),
            "files": [key for media_id in post.media for key in self.media_keys(media_id)],
            "audience": post.audience,
            "series": [post.series_id, post.series_position] if post.series_id else None,
        }

    def lists_of(self, post: OutPost) -> list[str]:
        """The lists on which the reader finds a post; kept, since its page and its state both ask."""
        kept = self._lists.get(post.id)
        if kept is None or kept[0] is not post:  # a preview has other states of a post
            kept = self._lists[post.id] = (post, self._lists_of(post))
        return kept[1]

    def _lists_of(self, post: OutPost) -> list[str]:
        if list_audience(post.audience, post.listed) not in self._audiences:
            return []
        if post.categories not in self._category_lists:
            self._category_lists[post.categories] = category_lists(self.snapshot.categories, post.categories)
        return list(list_keys(self._category_lists[post.categories], post.tags, month_of(post.goes_out, post.zone), post.front))

    def post_page(self, key: str, rest: str) -> Page | None:
        post = self.snapshot.post(int(rest))
        return self.page_of_post(post, lambda: self.snapshot.body(post)) if post else None

    def page_of_post(self, post: OutPost, body: Callable[[], dict[str, Any]]) -> Page:
        """The page of a post that is out, or that stands as if it were; `body` reads its text."""
        card = self.cards.of(post)
        older = newer = None
        steps = tags = ()
        if self.lists_of(post):  # any other has no neighbours, and its subjects perhaps no page
            steps = (self._label, *(self._trail(post.categories[0]) if post.categories else ()))
            tags = tuple(Step(tag.name, f"/tag/{tag.slug}/") for tag in self.snapshot.tags(post.tags))
            older = _neighbour(self.snapshot.older(post.goes_out, post.id))
            newer = _neighbour(self.snapshot.newer(post.goes_out, post.id))
        links, series = self.links(post), self._series(post)
        comments, may_comment = tuple(self.snapshot.comments(post.id)), comment_rules.may_comment(self.snapshot.house.comments, post.comments, True)
        context = PostPage(card, body, steps, tags, older, newer, links, series, comments, may_comment)
        reads = [card.digest, _data(steps), _data(tags), _data([older]), _data([newer]), sorted(links.items())]
        reads.append([series.name, series.number, _data(series.parts)] if series else None)
        reads.append([may_comment, [_said(one) for one in comments]])
        return Page(f"post/{post.id}", post.path, "post", reads, context, post.audience)

    def links(self, post: OutPost) -> dict[int, str]:
        """The paths of the posts a text leads to, of those that all its readers may see."""
        found = ((number, self.snapshot.post(number)) for number in post.links)
        return {number: other.path for number, other in found if other and (covers(other.audience, post.audience) or may_read(other.audience, self.snapshot.reader))}

    def _series(self, post: OutPost) -> SeriesBox | None:
        """The series of a post; None while it is the only part that is out."""
        if post.series_id is None or post.audience not in self._audiences:
            return None
        parts = self.snapshot.series_parts(post.series_id)
        if all(part.id != post.id for part in parts):
            parts = sorted([*parts, post], key=lambda part: (part.series_position, part.goes_out, part.id))
        if len(parts) < 2:
            return None
        number = next(at for at, part in enumerate(parts, 1) if part.id == post.id)
        return SeriesBox(self.snapshot.series_name(post.series_id), number, tuple(Step(part.title, part.path) for part in parts))

    def short(self, key: str, rest: str) -> Page | None:
        post = self.snapshot.post(int(rest))
        return leading(self.snapshot.house, key, short_path(post.id), post.path, post.audience) if post else None

    def former(self, key: str, path: str) -> Page | None:
        home = self.snapshot.home_of(path)
        if home is None or "?" in path:  # an address with a question mark is no file; the server knows it
            return None
        if home.kind == "post":
            post = self.snapshot.post(home.number) or self._successor(home.number)
            return leading(self.snapshot.house, key, path, post.path, post.audience) if post and post.path != path else None
        if home.kind == "away":
            return leading(self.snapshot.house, key, path, home.target)
        name = f"{home.kind}:{home.number}"
        step = self._list_step(name) if self._has_page(name) else Step("Subjects", "/subjects/")
        return leading(self.snapshot.house, key, path, step.path) if step and step.path != path else None

    def _successor(self, post_id: int) -> OutPost | None:
        """The post to which the address of one leads that came down; None where it answers that it is gone."""
        seen = {post_id}
        number = self.snapshot.leads_on_to(post_id)
        while number and number not in seen:
            post = self.snapshot.post(number)
            if post is not None:
                return post if post.audience == EVERYONE else None
            seen.add(number)
            number = self.snapshot.leads_on_to(number)
        return None

    def list_page(self, key: str, rest: str) -> Page | None:
        name, _, number_text = rest.rpartition("/")
        number = int(number_text)
        snapshot, size = self.snapshot, self.snapshot.house.posts_on_page
        count = snapshot.count(name)
        last = pages(count, size)
        step = self._list_step(name) if name != "all" else None
        if step is None or number > last or (count == 0 and not self._has_page(name)):
            return None
        base = step.path
        posts = snapshot.newest(name, size) if number == 0 else list(reversed(snapshot.window(name, (number - 1) * size, size)))
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
        path = f"{base}page/{number}/" if number else base
        return self._list_page(key, name, step, path, posts, number, older, newer)

    def _list_page(self, key: str, name: str, step: Step, path: str, posts: list[OutPost], number: int, older: str | None, newer: str | None) -> Page:
        kind, _, which = name.partition(":")
        cards = tuple(self.cards.in_lists(post) for post in posts)
        steps = () if kind == "front" else (self._label, *(self._trail(int(which))[:-1] if kind == "category" else ()))
        about = picture = None
        if kind == "category" and number == 0:
            own = self.snapshot.category_page(int(which))
            about = schema.load(own.description) if own.description else None
            picture = self.snapshot.item(own.picture) if own.picture else None
        bodies, links = {}, {}
        if self.snapshot.house.full_in_lists:
            bodies = {post.id: self.cards.body_in_lists(post) for post in posts}
            links = {post.id: self.links(post) for post in posts}
        feed = f"{step.path}feed" if kind == "category" else "/feed"
        context = ListPage(step.name, kind, path, cards, number, older, newer, steps, about, picture, feed, bodies, links)
        reads = [step.name, [card.digest for card in cards], older, newer, _data(steps), about, picture and [picture.id, picture.version]]
        reads.append(sorted((post_id, sorted(found.items())) for post_id, found in links.items()))
        return Page(key, path, "list", reads, context)

    def _has_page(self, name: str) -> bool:
        """Whether a list has a page: one of its own posts, or one below it, is out. The front page is always there."""
        kind, _, which = name.partition(":")
        return kind == "front" or self.snapshot.has_any(name) or (kind == "category" and self.snapshot.has_any(f"under:{which}"))

    @cached_property
    def _label(self) -> Step:
        """The blog's section, as its owner calls it."""
        return Step(self.snapshot.house.label, "/")

    def _list_step(self, name: str) -> Step | None:
        kind, _, which = name.partition(":")
        if kind in ("all", "front"):
            return Step(self.snapshot.house.name, "/")
        if kind == "month":
            return Step(which, f"/{which.replace('-', '/')}/")
        if kind == "category":
            category = self.snapshot.categories.get(int(which))
            return Step(category.name, f"/{category.slug}/") if category else None
        if kind == "tag":
            tag = next(iter(self.snapshot.tags((int(which),))), None)
            return Step(tag.name, f"/tag/{tag.slug}/") if tag else None
        return None

    def _trail(self, category_id: int) -> tuple[Step, ...]:
        """The steps from the top down to a category."""
        if category_id not in self._trails:
            self._trails[category_id] = tuple(Step(subject.name, f"/{subject.slug}/") for subject in trail(self.snapshot.categories, category_id))
        return self._trails[category_id]

    def subjects(self, key: str, rest: str) -> Page:
        numbers = {int(name.partition(":")[2]) for kind in ("category:", "under:") for name in self.snapshot.lists(kind)}
        steps = tuple((depth, Step(subject.name, f"/{subject.slug}/")) for depth, subject in tree(self.snapshot.categories.values()) if subject.id in numbers)
        tags = tuple(sorted(filter(None, map(self._list_step, self.snapshot.lists("tag:"))), key=lambda tag: (tag.name.casefold(), tag.name)))
        context = SubjectsPage(steps, tags)
        return Page(key, "/subjects/", "subjects", [[(depth, *_data([step])) for depth, step in steps], _data(tags)], context)

    def archive(self, key: str, rest: str) -> Page:
        months = tuple(self._list_step(name) for name in reversed(self.snapshot.lists("month:")))
        return Page(key, "/archive/", "archive", _data(months), months)

    def missing(self, key: str, rest: str) -> Page:
        return Page(key, "/404.html", "missing", None, None)

    def feed(self, key: str, rest: str) -> Page | None:
        name, _, format = rest.rpartition("/")
        step, house = self._list_step(name), self.snapshot.house
        posts = self._feed_posts(name) if step else ()
        if step is None or (name != "all" and not posts):
            return None
        title, about = house.name, house.tagline
        if name != "all":
            own = self.snapshot.category_page(int(name.partition(":")[2])).description
            title, about = f"{step.name} · {house.name}", " ".join(to_text(schema.load(own)).split()) if own else ""
        context = FeedPage(title, about, f"{step.path}feed", step.path, posts)
        reads = [title, about, step.path, [[card.digest, sorted(links.items())] for card, _, links in context.posts]]
        return Page(key, f"{context.path}.{format}", f"feed-{format}", reads, context)

    def _feed_posts(self, name: str) -> tuple[tuple[Card, dict[str, Any], dict[int, str]], ...]:
        """The newest posts of a list with their texts; read once for all of its formats."""
        if name != self._feed[0]:
            posts = self.snapshot.newest(name, FEED_LENGTH)
            self._feed = (name, tuple((self.cards.in_lists(post), self.cards.body_in_lists(post), self.links(post)) for post in posts))
        return self._feed[1]

    def card(self, key: str, rest: str) -> Page | None:
        """The drawn share card of a post that shows no picture."""
        post = self.snapshot.post(int(rest))
        card = self.cards.of(post) if post else None
        if card is None or card.picture or not can_be_drawn(card.title + self.snapshot.house.name):
            return None
        context = (card.title, self.snapshot.house.name)
        return Page(key, card_path(post.id, *context, self.snapshot.house.design), "card", context, context, post.audience)

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
    "short": Plan.short,
    "former": Plan.former,
    "list": Plan.list_page,
    "subjects": Plan.subjects,
    "archive": Plan.archive,
    "missing": Plan.missing,
    "feed": Plan.feed,
    "card": Plan.card,
    "sitemap": Plan.sitemap,
    "robots": Plan.robots,
    "media": Plan.media,
    "asset": Plan.asset,
}


def fingerprint(page: Page, house: str) -> str:
    """The hash of everything a page's bytes follow from; `house` is the digest of what all pages share."""
    return digest([page.path, page.recipe, page.audience, page.leads_to, page.reads, house])


def pages(count: int, size: int) -> int:
    """How many numbered pages a list has beside its newest one; each is full and never changes its posts."""
    return -(-(count - size) // size) if count > size else 0


def leading(house: House, key: str, path: str, leads_to: str, audience: str = EVERYONE) -> Page:
    """An address that leads to another, of this site or away from it."""
    return Page(key, path, "leads-on", [leads_to, house.language, house.home], leads_to, audience, leads_to)


def _said(comment: Comment) -> list[Any]:
    return [comment.id, comment.name, comment.text, comment.made_at, comment.is_ours, [_said(one) for one in comment.answers]]


def _neighbour(post: OutPost | None) -> Step | None:
    return Step(post.title, post.path) if post else None


def _data(steps: Iterable[Step | None]) -> list[list[str] | None]:
    return [[step.name, step.path] if step else None for step in steps]
