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

from collections.abc import Callable, Iterator
from typing import Any

from mobbet.core import comments as comment_rules
from mobbet.core.audience import EVERYONE, list_audience, list_audiences, widest
from mobbet.core.canonical import digest
from mobbet.core.facts import Comment, OutPost, list_keys
from mobbet.core.filing import category_lists
from mobbet.core.permalinks import short_path
from mobbet.core.search_results import can_be_drawn
from mobbet.core.timing import month_of
from mobbet.publish.cards import Cards
from mobbet.publish.design import ASSETS
from mobbet.publish.list_pages import FEEDS, Lists, data
from mobbet.publish.memo import Memo
from mobbet.publish.pictures import card_path
from mobbet.publish.values import House, Page, PostPage, SeriesBox, Snapshot, Step


class Plan:
    """The plan over one snapshot, for the snapshot's reader. Cards of posts are made once and kept while the plan lives; with a memo, beyond that."""

    def __init__(self, snapshot: Snapshot, memo: Memo | None = None) -> None:
        self.snapshot = snapshot
        self.cards = Cards(snapshot, memo)
        self.lists = Lists(snapshot, self.cards)
        self._lists: dict[int, tuple[OutPost, list[str]]] = {}
        self._audiences = list_audiences(snapshot.reader)
        self._category_lists: dict[tuple[int, ...], tuple[str, ...]] = {}

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
        yield from dict.fromkeys(key for name in names for key in self.lists.keys_of(name))
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
        pictures.update(
            page.picture
            for page in map(self.snapshot.category_page, self.snapshot.categories)
            if page.picture
        )
        for media_id in sorted(pictures):
            yield from self.media_keys(media_id)

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
        return list(
            list_keys(
                self._category_lists[post.categories],
                post.tags,
                month_of(post.goes_out, post.zone),
                post.front,
            )
        )

    def post_page(self, key: str, rest: str) -> Page | None:
        post = self.snapshot.post(int(rest))
        return self.page_of_post(post, lambda: self.snapshot.body(post)) if post else None

    def page_of_post(self, post: OutPost, body: Callable[[], dict[str, Any]]) -> Page:
        """The page of a post that is out, or that stands as if it were; `body` reads its text."""
        card = self.cards.of(post)
        older = newer = None
        steps = tags = ()
        if self.lists_of(post):  # any other has no neighbours, and its subjects perhaps no page
            steps = (self.lists.label, *(self.lists.trail(post.categories[0]) if post.categories else ()))
            tags = tuple(Step(tag.name, f"/tag/{tag.slug}/") for tag in self.snapshot.tags(post.tags))
            older = _neighbour(self.snapshot.older(post.goes_out, post.id))
            newer = _neighbour(self.snapshot.newer(post.goes_out, post.id))
        links, series = self.cards.links(post), self._series(post)
        comments, may_comment = (
            tuple(self.snapshot.comments(post.id)),
            comment_rules.may_comment(self.snapshot.house.comments, post.comments, True),
        )
        context = PostPage(card, body, steps, tags, older, newer, links, series, comments, may_comment)
        reads = [card.digest, data(steps), data(tags), data([older]), data([newer]), sorted(links.items())]
        reads.append([series.name, series.number, data(series.parts)] if series else None)
        reads.append([may_comment, [_said(one) for one in comments]])
        return Page(f"post/{post.id}", post.path, "post", reads, context, post.audience)

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
        return SeriesBox(
            self.snapshot.series_name(post.series_id),
            number,
            tuple(Step(part.title, part.path) for part in parts),
        )

    def short(self, key: str, rest: str) -> Page | None:
        post = self.snapshot.post(int(rest))
        return (
            leading(self.snapshot.house, key, short_path(post.id), post.path, post.audience) if post else None
        )

    def former(self, key: str, path: str) -> Page | None:
        home = self.snapshot.home_of(path)
        if home is None or "?" in path:  # an address with a question mark is no file; the server knows it
            return None
        if home.kind == "post":
            post = self.snapshot.post(home.number) or self.successor(home.number)
            return (
                leading(self.snapshot.house, key, path, post.path, post.audience)
                if post and post.path != path
                else None
            )
        if home.kind == "away":
            return leading(self.snapshot.house, key, path, home.target)
        name = f"{home.kind}:{home.number}"
        step = self.lists.step(name) if self.lists.has_page(name) else Step("Subjects", "/subjects/")
        return leading(self.snapshot.house, key, path, step.path) if step and step.path != path else None

    def successor(self, post_id: int) -> OutPost | None:
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

    def missing(self, key: str, rest: str) -> Page:
        return Page(key, "/404.html", "missing", None, None)

    def card(self, key: str, rest: str) -> Page | None:
        """The drawn share card of a post that shows no picture."""
        post = self.snapshot.post(int(rest))
        card = self.cards.of(post) if post else None
        if card is None or card.picture or not can_be_drawn(card.title + self.snapshot.house.name):
            return None
        context = (card.title, self.snapshot.house.name)
        return Page(
            key,
            card_path(post.id, *context, self.snapshot.house.design),
            "card",
            context,
            context,
            post.audience,
        )

    def card_paths(self) -> dict[str, str | None]:
        """{key: where the share card of a post is, if it has one}, of every post that is out; None where the fonts lack a letter."""
        name, design = self.snapshot.house.name, self.snapshot.house.design
        return {
            f"card/{post_id}": card_path(post_id, title, name, design) if can_be_drawn(title + name) else None
            for post_id, title in self.snapshot.titles()
        }

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
    "list": lambda plan, key, rest: plan.lists.page(key, rest),
    "subjects": lambda plan, key, rest: plan.lists.subjects(key, rest),
    "archive": lambda plan, key, rest: plan.lists.archive(key, rest),
    "missing": Plan.missing,
    "feed": lambda plan, key, rest: plan.lists.feed(key, rest),
    "card": Plan.card,
    "sitemap": lambda plan, key, rest: plan.lists.sitemap(key, rest),
    "robots": Plan.robots,
    "media": Plan.media,
    "asset": Plan.asset,
}


def fingerprint(page: Page, house: str) -> str:
    """The hash of everything a page's bytes follow from; `house` is the digest of what all pages share."""
    return digest([page.path, page.recipe, page.audience, page.leads_to, page.reads, house])


def leading(house: House, key: str, path: str, leads_to: str, audience: str = EVERYONE) -> Page:
    """An address that leads to another, of this site or away from it."""
    return Page(key, path, "leads-on", [leads_to, house.language, house.home], leads_to, audience, leads_to)


def _said(comment: Comment) -> list[Any]:
    return [
        comment.id,
        comment.name,
        comment.text,
        comment.made_at,
        comment.is_ours,
        [_said(one) for one in comment.answers],
    ]


def _neighbour(post: OutPost | None) -> Step | None:
    return Step(post.title, post.path) if post else None
