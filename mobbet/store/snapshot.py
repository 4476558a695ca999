"""The facts of one blog at one instant, queried when they are needed."""

from __future__ import annotations

import json
from bisect import bisect_left
from collections import Counter
from collections.abc import Callable, Iterator, Mapping
from dataclasses import replace
from functools import cached_property
from itertools import islice
from typing import Any

from mobbet.core.alike import MOST as MOST_ALIKE
from mobbet.core.alike import chosen, read_choice
from mobbet.core.audience import EVERYONE, STRANGER, Reader, list_audience, list_audiences
from mobbet.core.division import Place
from mobbet.core.document import outline, schema
from mobbet.core.document.mentions import expanded
from mobbet.core.facts import (
    AddressOwner,
    Author,
    CategoryPage,
    Comment,
    House,
    Item,
    OutPost,
    SavedBlock,
    Subject,
    Titled,
    newest_path,
)
from mobbet.core.filing import below, tree
from mobbet.core.fill_ins import filled
from mobbet.core.front import BLOCKS
from mobbet.core.house import FACTS, LOOK, MENU, PROMOS
from mobbet.core.keys import ALL, ListName
from mobbet.core.letters import read_rules
from mobbet.core.look.begun import begun_look
from mobbet.core.menu import COUNTS, USUAL, Menu, Target, links, read_menu
from mobbet.core.promo_places import Reach
from mobbet.core.promos import Promos, read_promos
from mobbet.core.values import existing
from mobbet.store import (
    addresses,
    alike,
    announcing,
    blogs,
    comments,
    filing,
    guests,
    house,
    kept,
    media,
    numbered_pages,
    people,
    profiles,
    reads,
)
from mobbet.store.database import Database
from mobbet.store.menu_targets import MenuTargets
from mobbet.store.out_posts import Order, OutPosts

MOST_BODIES = 80
"""How many texts a snapshot keeps in memory."""
OFTEN, VERY_OFTEN = 24, 200
"""How many questions about one list are asked before it is read whole; how often one thing is asked of single posts before it is read for all."""


class SiteSnapshot:
    """Answers `publish.plan`'s questions with indexed queries; costs nothing for what is not asked.

    Lists, counts and neighbours are those of one reader; of a stranger, unless told otherwise.
    """

    def __init__(
        self,
        db: Database,
        blog_id: int,
        instant: int,
        reader: Reader = STRANGER,
        tried: Mapping[str, str] | None = None,
    ) -> None:
        """With `tried`, the site with these parts of its house ({part: JSON}) in the place of those that readers get."""
        self._db = db
        self._tried = tried or {}
        blog = existing(blogs.by_id(db, blog_id))
        self._blog = replace(blog, **json.loads(self._tried[FACTS])) if FACTS in self._tried else blog
        self.blog_id = blog_id
        self.instant = instant
        self.reader = reader
        self._audiences = list_audiences(reader)
        self._for_reader = f"audience IN ({', '.join('?' * len(self._audiences))})"
        self._counts: dict[ListName, int] = {}
        self._list_counts: dict[tuple[str, int], dict[ListName, int]] = {}
        self._items: dict[int, Item | None] = {}
        self._placed = OutPosts(db, lambda: self.menu.front_door)
        self._shown: dict[int, int | None] = {}
        self._tags: dict[int, Subject] = {}
        self._bodies: dict[tuple[Any, ...], dict[str, Any]] = {}
        self._commented: set[int] | None = None
        self._authors: dict[int, Author | None] = {}
        self._saved: dict[int, SavedBlock | None] = {}
        self._addresses: dict[int, list[str]] | None = None
        self._questions: Counter[str] = Counter()
        self._orders: dict[ListName, Order] = {}

    @cached_property
    def house(self) -> House:
        blog = self._blog
        pairs = {name: tuple(map(tuple, json.loads(getattr(blog, name)))) for name in ("facts", "link_rules")}
        targets = MenuTargets(self)
        return House(
            blog.name, blog.tagline, blog.zone, blog.language, blog.home, self._look(), blog.posts_on_page, **pairs, label=blog.label,
            read_on=blog.read_on, full_in_lists=bool(blog.full_in_lists), categories_in_lists=bool(blog.categories_in_lists),
            menu=links(self.menu.menu, targets), foot=links(self.menu.foot, targets), menu_open=self.menu.open_on_phone,
            foot_line=filled(self.menu.line, self.foot_values), licence=self.menu.licence, front_door=self.menu.front_door,
            sharing=tuple(json.loads(blog.sharing)), server=blog.server, counts_reads=bool(blog.server and blog.counts_reads), takes_mentions=bool(blog.mentions), hub=blog.hub, me=tuple(one.profile for one in announcing.of_blog(self._db, blog.id) if one.profile), takes_subscribers=read_rules(blog.letters).is_open, share_links=tuple(map(tuple, json.loads(blog.share_links))), made_by=blog.made_by, icon=self._icon(), comments=blog.comments, frame_hosts=tuple(json.loads(blog.video_hosts)),
            sections=self.menu.sections, foot_categories=self._foot_categories(targets), foot_counts=self.menu.foot_categories == COUNTS,
            subject_pictures=self.menu.subject_pictures, block_media=self._block_media(),
            promos=self._promos.rules, promos_most=self._promos.most,
        )  # fmt: skip

    def _foot_categories(self, targets: MenuTargets) -> tuple[tuple[int, str, str], ...]:
        """(number, name, path) of each category of the first level that has a page."""
        if not self.menu.foot_categories:
            return ()
        first = (one.id for depth, one in tree(self.categories.values()) if depth == 0)
        found = ((number, targets.link(Target.of("category", number))) for number in first)
        return tuple((number, *link) for number, link in found if link)

    def _block_media(self) -> tuple[int, ...]:
        """The items of the library in the saved blocks that stand outside of posts."""
        blocks = (self.saved_block(number) for number in self._blocks_outside())
        return tuple(sorted({item for block in blocks if block for item in outline.items(block.document)}))

    def _blocks_outside(self) -> list[int]:
        """The saved blocks that stand outside of posts."""
        sections = () if self.menu.front_door else self.menu.sections
        found = [section.of[0] for section in sections if section.kind == BLOCKS and section.of]
        return [*found, *(rule.block for rule in self._promos.rules)]

    @cached_property
    def _promos(self) -> Promos:
        """The rules for blocks below posts of which it is the time, and of which the block is still on the list."""
        promos = read_promos(self._part(PROMOS) or "{}")
        rules = (
            rule for rule in promos.rules if rule.shows_at(self.instant) and self.saved_block(rule.block)
        )
        return replace(promos, rules=tuple(rules))

    def _look(self) -> str:
        """The look as JSON: the one that is tried, the one given, or the one that the blog began with."""
        return self._part(LOOK) or begun_look(self._blog.design)

    def _icon(self) -> tuple[int, str, str] | None:
        item = self.item(self._blog.icon) if self._blog.icon else None
        files = (item.of("square") or item.of("whole")) if item and item.kind == "picture" else ()
        return (files[0].media_id, files[0].path, files[0].type) if files else None

    def _part(self, part: str) -> str:
        """A part of the house as it is tried, or given at the instant, as JSON; '' where it never was."""
        given = None if part in self._tried else house.given_at(self._db, self.blog_id, part, self.instant)
        return self._tried.get(part, given.value if given else "")

    @property
    def foot_values(self) -> dict[str, str]:
        """What the fill-ins of the foot's line stand for."""
        blog = self._blog
        usual = {"blog": blog.name, "line": blog.tagline, "address": blog.home}
        return {**dict(json.loads(blog.facts)), **usual}

    @property
    def label(self) -> str:
        """What the blog's section is called."""
        return self._blog.label

    @property
    def newest_path(self) -> str:
        return newest_path(self.menu.front_door)

    def post_to_read(self, post_id: int) -> OutPost | None:
        """A post of the blog that the reader may read at the instant and find on lists, or a page."""
        post = self.post(post_id)
        return post if post and post.audience in self._audiences else None

    @cached_property
    def menu(self) -> Menu:
        """The menu and the foot; a front door that is no page which everyone may read now is left out."""
        text = self._part(MENU)
        menu = read_menu(text) if text else USUAL
        is_door = menu.front_door and self._db.value(
            "SELECT 1 FROM placement WHERE post_id = ? AND blog_id = ? AND kind <> '' AND audience = 'everyone' AND shows_from <= ? AND shows_until > ?",
            menu.front_door, self._blog.id, self.instant, self.instant,
        )  # fmt: skip
        return menu if bool(menu.front_door) == bool(is_door) else replace(menu, front_door=0)

    def post(self, post_id: int) -> OutPost | None:
        """The post as it is out at the instant, for whatever audience."""
        if post_id not in self._shown:
            self._ahead("shown", self._read_shown)
        if post_id not in self._shown:
            self._shown[post_id] = self._db.value(
                "SELECT id FROM placement INDEXED BY placement_post WHERE post_id = ? AND blog_id = ? AND shows_from <= ? AND shows_until > ? ORDER BY id DESC LIMIT 1",
                post_id,
                self._blog.id,
                self.instant,
                self.instant,
            )
        number = self._shown[post_id]
        return self._placed.of(number) if number else None

    def _ahead(self, question: str, read_all: Callable[[], None]) -> None:
        """Reads at once what is asked of so many posts that a full build seems to ask it of every one."""
        self._questions[question] += 1
        if self._questions[question] == VERY_OFTEN:
            read_all()

    def _read_shown(self) -> None:
        rows = self._db.all(
            "SELECT post_id, MAX(id) FROM placement WHERE blog_id = ? AND shows_from <= ? AND shows_until > ? GROUP BY post_id",
            self._blog.id,
            self.instant,
            self.instant,
        )
        self._shown.update(map(tuple, rows))

    def _read_commented(self) -> None:
        self._commented = comments.posts_with_shown(self._db, self._blog.id)

    def body(self, post: OutPost) -> dict[str, Any]:
        """The text of a post, with its standing copies put in; the last few are kept, since lists and feeds ask for the same."""
        key = (post.id, post.revision, post.kept)
        if key not in self._bodies:
            if len(self._bodies) >= MOST_BODIES:
                del self._bodies[next(iter(self._bodies))]
            self._bodies[key] = self._body(post)
        return self._bodies[key]

    def _body(self, post: OutPost) -> dict[str, Any]:
        kept = schema.load(
            self._db.value(
                "SELECT body FROM revision WHERE post_id = ? AND number = ?", post.id, post.revision
            )
        )
        return expanded(kept, self.standing_copy) if post.kept else kept

    def standing_copy(self, number: int) -> dict[str, Any] | None:
        """The blocks of a standing copy as a document; None when it is none of this blog's."""
        body = self._db.value("SELECT body FROM kept WHERE id = ? AND blog_id = ?", number, self._blog.id)
        return schema.load(body) if body else None

    def posts_in_reach(self, reach: Reach) -> list[int]:
        """The posts out at the instant that some rules for blocks below posts may concern."""
        if reach.is_every:
            return list(self.post_ids())
        parts = {
            part
            for number in reach.categories
            if number in self.categories
            for part in below(self.categories, number)
        }
        return self._db.column(
            "SELECT DISTINCT post_id FROM placement WHERE shows_from <= ? AND shows_until > ? AND blog_id = ? AND id IN ("
            " SELECT placement_id FROM placement_category WHERE category_id IN (SELECT value FROM JSON_EACH(?))"
            " UNION SELECT placement_id FROM placement_tag WHERE tag_id IN (SELECT value FROM JSON_EACH(?))) ORDER BY post_id",
            self.instant, self.instant, self._blog.id, json.dumps(sorted({*parts, *reach.categories})), json.dumps(sorted(set(reach.tags))),
        )  # fmt: skip

    def posts_with_own_look(self) -> list[int]:
        """The posts out at the instant that differ from the look of the site."""
        return self._db.column(
            "SELECT DISTINCT post_id FROM placement WHERE blog_id = ? AND own_look <> '' AND shows_from <= ? AND shows_until > ? ORDER BY post_id",
            self._blog.id, self.instant, self.instant,
        )  # fmt: skip

    def home_address(self, post: OutPost) -> str:
        """The public address at which everyone reads a post in the blog in which it lives; '' for one that lives here."""
        return guests.home_address(self._db, post.home_post, self.instant) if post.home_post else ""

    def saved_block(self, number: int) -> SavedBlock | None:
        """A saved block that is still on the list, with the standing copies of others put in; None for any other."""
        if number not in self._saved:
            self._saved[number] = self._saved_block(number)
        return self._saved[number]

    def _saved_block(self, number: int) -> SavedBlock | None:
        one = kept.by_id(self._db, self._blog.id, number)
        if one is None or one.removed_at is not None:
            return None
        return SavedBlock(one.id, one.version, expanded(schema.load(one.body), self.standing_copy))

    def most_read(self, most: int) -> list[OutPost]:
        """The posts that were read most when they were last counted, of those that the reader finds on lists; the most read first."""
        found = (self.post(number) for number in reads.most_read(self._db, self._blog.id))
        listed = [
            post for post in found if post and list_audience(post.audience, post.listed) in self._audiences
        ]
        return listed[:most]

    def authors_by_newest(self, most: int) -> list[int]:
        """Those who wrote what the reader finds on lists, by their newest post."""
        newest = {name.number: self._listed_places(name) for name in self.lists("author:")}
        return sorted(newest, key=lambda number: newest[number], reverse=True)[:most]

    def _listed_places(self, name: ListName) -> Place:
        count = self.count(name)
        return self.places(name, count - 1, 1)[0]

    def linking_to(self, post_id: int) -> list[int]:
        """The posts out at the instant whose text leads to that post."""
        return [
            row[0]
            for row in self._db.all(
                "SELECT DISTINCT placement.post_id FROM placement_link CROSS JOIN placement ON placement.id = placement_id"
                " WHERE placement_link.post_id = ? AND blog_id = ? AND shows_from <= ? AND shows_until > ?",
                post_id, self._blog.id, self.instant, self.instant,
            )
        ]  # fmt: skip

    def alike(self, post: OutPost) -> list[OutPost]:
        """The posts on the same matter to stand below one: of those that everybody may read now, at most four; not those of its own series."""
        others = (self.post(number) for number in chosen(read_choice(post.alike), self._computed_alike(post)))
        found = (
            other
            for other in others
            if other and other.audience == EVERYONE and not other.kind and other.id != post.id
            and (other.series_id is None or other.series_id != post.series_id)
        )  # fmt: skip
        return list(islice(found, MOST_ALIKE))

    def _computed_alike(self, post: OutPost) -> list[int]:
        return [row.other_id for row in alike.of_post(self._db, post.id)]

    def showing_alike(self, post_id: int) -> list[int]:
        """The posts below which a post may stand as one on the same matter."""
        return alike.showing(self._db, post_id)

    def redirect_target(self, post_id: int) -> int | None:
        """The post to which the address of one leads that everyone could read and that came down; None for any other."""
        return self._db.value(
            "SELECT leads_to FROM placement WHERE post_id = ? AND blog_id = ? AND shows_from < shows_until AND shows_until = comes_down"
            " AND comes_down <= ? AND audience = 'everyone' ORDER BY id DESC LIMIT 1",
            post_id, self._blog.id, self.instant,
        )  # fmt: skip

    def redirected_posts(self) -> list[int]:
        """The posts whose address may lead to another post, since they came down."""
        return self._leading("leads_to IS NOT NULL AND blog_id = ?", self._blog.id)

    def redirecting_to(self, post_id: int) -> list[int]:
        """The posts whose address may lead to that one, since they came down."""
        return self._leading("leads_to = ?", post_id)

    def _leading(self, condition: str, value: int) -> list[int]:
        rows = self._db.all(
            f"SELECT DISTINCT post_id FROM placement WHERE {condition} AND comes_down <= ? ORDER BY post_id",
            value,
            self.instant,
        )
        return [row[0] for row in rows]

    def comments(self, post_id: int) -> list[Comment]:
        """What readers see under a post now, whatever the instant: nobody places a comment."""
        self._ahead("comments", self._read_commented)
        return (
            comments.shown(self._db, post_id) if self._commented is None or post_id in self._commented else []
        )

    def series_name(self, series_id: int) -> str:
        return self._db.value("SELECT name FROM series WHERE id = ?", series_id)

    def series_parts(self, series_id: int) -> list[OutPost]:
        """The parts of a series that the reader may read at the instant, in their order."""
        return self._placed.where(
            f"WHERE placement.series_id = ? AND shows_from <= ? AND shows_until > ? AND {self._for_reader}"
            " ORDER BY placement.series_position, goes_out, placement.post_id",
            series_id, self.instant, self.instant, *self._audiences,
        )  # fmt: skip

    def author(self, number: int) -> Author | None:
        """Somebody who wrote on the blog, as they show themselves there."""
        if number not in self._authors:
            self._authors[number] = profiles.author(self._db, self._blog.id, number)
        return self._authors[number]

    def author_at(self, slug: str) -> int | None:
        """The person of whose page's address this is the last part."""
        return people.with_slug(self._db, slug)

    def author_pictures(self) -> list[int]:
        """The pictures of the library that those who work on the blog are shown by."""
        return profiles.pictures(self._db, self._blog.id)

    def pages(self) -> list[OutPost]:
        """The pages beside posts that the reader may read at the instant, in the order in which they went out."""
        return self._pages("blog_id = ?", self._blog.id)

    def pages_below(self, post_id: int) -> list[OutPost]:
        """Those of them that stand right below a page."""
        return self._pages("below = ?", post_id)

    def numbers_below(self, post_id: int) -> list[int]:
        """The pages right below one that are out at the instant, for whatever audience."""
        return self._db.column(
            "SELECT DISTINCT post_id FROM placement WHERE below = ? AND kind <> '' AND shows_from <= ? AND shows_until > ? ORDER BY post_id",
            post_id, self.instant, self.instant,
        )  # fmt: skip

    def _pages(self, condition: str, value: int) -> list[OutPost]:
        return self._placed.where(
            f"WHERE placement.{condition} AND placement.kind <> '' AND shows_from <= ? AND shows_until > ? AND {self._for_reader}"
            " ORDER BY goes_out, placement.post_id",
            value, self.instant, self.instant, *self._audiences,
        )  # fmt: skip

    def post_ids(self) -> Iterator[int]:
        """Every post that is out at the instant, for whatever audience."""
        rows = self._db.all(
            "SELECT DISTINCT post_id FROM placement WHERE blog_id = ? AND shows_from <= ? AND shows_until > ? ORDER BY goes_out, post_id",
            self._blog.id, self.instant, self.instant,
        )  # fmt: skip
        return (row[0] for row in rows)

    def titles(self) -> list[tuple[int, str]]:
        """(post, its title) of every post that is out at the instant, for whatever audience."""
        rows = self._db.all(
            "SELECT post_id, MAX(placement.id), title FROM placement JOIN revision USING (post_id) WHERE blog_id = ? AND shows_from <= ? AND shows_until > ?"
            " AND number = placement.revision GROUP BY post_id",
            self._blog.id, self.instant, self.instant,
        )  # fmt: skip
        return [(row[0], row[2]) for row in rows]

    def count(self, name: ListName) -> int:
        """How many posts stand on a list; counted once."""
        if name not in self._counts:
            self._counts[name] = self._db.value(
                f"SELECT COUNT(*) FROM listing WHERE blog_id = ? AND list = ? AND shows_from <= ? AND shows_until > ? AND {self._for_reader}",
                self._blog.id, name, self.instant, self.instant, *self._audiences,
            )  # fmt: skip
        return self._counts[name]

    def counts(self, start: str, most: int) -> dict[ListName, int]:
        """How many posts stand now on each list with that beginning on which one does, in alphabetical order; of a longer one, only `most`,
        so that the cost follows from the number of lists; counted once."""
        if (start, most) not in self._list_counts:
            self._list_counts[start, most] = self._counted(start, most)
        return self._list_counts[start, most]

    def _counted(self, start: str, most: int) -> dict[ListName, int]:
        last = start + "\U0010ffff"
        rows = self._db.all(
            "WITH RECURSIVE names (list) AS ("
            " SELECT MIN(list) FROM listing WHERE blog_id = ? AND list >= ?"
            " UNION ALL SELECT (SELECT MIN(listing.list) FROM listing WHERE blog_id = ? AND listing.list > names.list) FROM names WHERE names.list < ?)"
            " SELECT list, (SELECT COUNT(*) FROM (SELECT 1 FROM listing WHERE blog_id = ? AND listing.list = names.list"
            f" AND shows_from <= ? AND shows_until > ? AND {self._for_reader} LIMIT ?)) FROM names WHERE list < ?",
            self._blog.id, start, self._blog.id, last, self._blog.id, self.instant, self.instant, *self._audiences, most, last,
        )  # fmt: skip
        return {ListName(name): count for name, count in rows if count}

    def newest_titles(self, name: ListName, most: int) -> list[Titled]:
        """The titles of the newest posts of a list, newest first."""
        rows = self._db.all(
            "SELECT title, path, placement.goes_out, zone FROM listing JOIN placement ON placement.id = placement_id"
            " JOIN revision ON revision.post_id = placement.post_id AND number = placement.revision"
            " WHERE listing.blog_id = ? AND list = ? AND listing.shows_from <= ? AND listing.shows_until > ?"
            f" AND listing.{self._for_reader} ORDER BY listing.goes_out DESC, listing.post_id DESC LIMIT ?",
            self._blog.id, name, self.instant, self.instant, *self._audiences, most,
        )  # fmt: skip
        return [Titled(*row) for row in rows]

    def has_any(self, name: ListName) -> bool:
        return self._db.value(
            f"SELECT 1 FROM listing WHERE blog_id = ? AND list = ? AND shows_from <= ? AND shows_until > ? AND {self._for_reader} LIMIT 1",
            self._blog.id, name, self.instant, self.instant, *self._audiences,
        ) is not None  # fmt: skip

    def rank(self, name: ListName, goes_out: int, post_id: int) -> int:
        """How many posts of a list stand before that place; faster near the newest."""
        order = self._order(name)
        if order is not None:
            return bisect_left(order, (goes_out, post_id))
        return self.count(name) - self._db.value(
            "SELECT COUNT(*) FROM listing WHERE blog_id = ? AND list = ? AND (goes_out, post_id) >= (?, ?)"
            f" AND shows_from <= ? AND shows_until > ? AND {self._for_reader}",
            self._blog.id, name, goes_out, post_id, self.instant, self.instant, *self._audiences,
        )  # fmt: skip

    def window(self, name: ListName, start: int, most: int) -> list[OutPost]:
        """Posts of a list from the oldest on, beginning with number `start` (from 0)."""
        order = self._order(name)
        if order is not None:
            return [self._placed.in_order(order, at) for at in range(start, min(start + most, len(order)))]
        count = self.count(name)
        end = min(start + most, count)
        if 2 * start > count:  # nearer to the newest: walked from there
            return self._listed(
                "ORDER BY goes_out DESC, post_id DESC LIMIT ? OFFSET ?",
                name,
                max(0, end - start),
                count - end,
            )[::-1]
        return self._listed("ORDER BY goes_out, post_id LIMIT ? OFFSET ?", name, most, start)

    def places(self, name: ListName, start: int, most: int) -> list[Place]:
        """Where the posts of a list stand, from the oldest on, beginning with number `start` (from 0)."""
        order = self._order(name)
        if order is not None:
            return [(goes_out, post_id) for goes_out, post_id, _ in order[start : start + most]]
        count = self.count(name)
        end = min(start + most, count)
        is_near_newest = 2 * start > count
        rows = self._db.all(
            f"SELECT goes_out, post_id FROM listing WHERE blog_id = ? AND list = ? AND shows_from <= ? AND shows_until > ? AND {self._for_reader}"
            f" ORDER BY goes_out {'DESC' * is_near_newest}, post_id {'DESC' * is_near_newest} LIMIT ? OFFSET ?",
            self._blog.id, name, self.instant, self.instant, *self._audiences,
            max(0, end - start), count - end if is_near_newest else start,
        )  # fmt: skip
        found: list[Place] = [(row[0], row[1]) for row in rows]
        return found[::-1] if is_near_newest else found

    def newest(self, name: ListName, most: int) -> list[OutPost]:
        """The newest posts of a list, newest first."""
        return self._listed("ORDER BY goes_out DESC, post_id DESC LIMIT ?", name, most)

    def older(self, goes_out: int, post_id: int) -> OutPost | None:
        """The post of the blog's list just before that place."""
        order = self._order(ALL)
        if order is not None:
            at = bisect_left(order, (goes_out, post_id))
            return self._placed.in_order(order, at - 1) if at else None
        found = self._listed(
            "AND (goes_out, post_id) < (?, ?) ORDER BY goes_out DESC, post_id DESC LIMIT 1",
            ALL,
            goes_out,
            post_id,
        )
        return found[0] if found else None

    def newer(self, goes_out: int, post_id: int) -> OutPost | None:
        """The post of the blog's list just after that place."""
        order = self._order(ALL)
        if order is not None:
            at = bisect_left(order, (goes_out, post_id + 1))
            return self._placed.in_order(order, at) if at < len(order) else None
        found = self._listed(
            "AND (goes_out, post_id) > (?, ?) ORDER BY goes_out, post_id LIMIT 1", ALL, goes_out, post_id
        )
        return found[0] if found else None

    def lists(self, start: str = "") -> list[ListName]:
        """The lists with that beginning on which a post stands now, in alphabetical order."""
        found: list[ListName] = []
        key = start
        operator = ">="
        while True:
            key = self._db.value(
                f"SELECT list FROM listing WHERE blog_id = ? AND list {operator} ? ORDER BY list LIMIT 1",
                self._blog.id,
                key,
            )
            if key is None or not key.startswith(start):
                return found
            if self.has_any(ListName(key)):
                found.append(ListName(key))
            operator = ">"

    @cached_property
    def categories(self) -> dict[int, Subject]:
        return filing.subjects(self._db, self._blog.id)

    def tag_numbers(self) -> list[int]:
        """Every tag of the blog."""
        return [
            row[0] for row in self._db.all("SELECT id FROM tag WHERE blog_id = ? ORDER BY id", self._blog.id)
        ]

    def category_page(self, number: int) -> CategoryPage:
        """What a category's own page shows above its posts."""
        return filing.page_of(self._db, number)

    def tags(self, numbers: tuple[int, ...]) -> list[Subject]:
        """The tags of these numbers, each asked for once."""
        new = [number for number in numbers if number not in self._tags]
        self._tags.update({tag.id: Subject(tag.id, tag.name, tag.slug) for tag in filing.tags(self._db, new)})
        return [self._tags[number] for number in numbers if number in self._tags]

    def item(self, media_id: int) -> Item | None:
        """An item of this blog's library; asked for once."""
        if media_id not in self._items:
            self._items[media_id] = media.item(self._db, self._blog.id, media_id)
        return self._items[media_id]

    def media_audiences(self, media_id: int) -> list[str]:
        """The audiences of the posts that show a picture at the instant, and everyone where a category, an author or the look does."""
        of_category = self._db.value(
            "SELECT 1 FROM category WHERE blog_id = ? AND picture = ?", self._blog.id, media_id
        )
        is_of_house = media_id in self.house.pictures or media_id in self.author_pictures()
        return [EVERYONE] * bool(of_category or is_of_house) + [
            row[0]
            for row in self._db.all(
                "SELECT DISTINCT audience FROM placement_media JOIN placement ON placement.id = placement_id"
                " WHERE media_id = ? AND shows_from <= ? AND shows_until > ?",
                media_id, self.instant, self.instant,
            )
        ]  # fmt: skip

    def addresses_of(self, kind: str, number: int) -> list[str]:
        """The addresses that a post, a category or a tag has had up to the instant."""
        if kind == "post":
            self._ahead("addresses", self._read_addresses)
            if self._addresses is not None:
                return self._addresses.get(number, [])
        return addresses.of(self._db, kind, number, self.instant)

    def _read_addresses(self) -> None:
        self._addresses = addresses.of_posts(self._db, self._blog.id, self.instant)

    def subject_at(self, path: str) -> AddressOwner | None:
        """The category or tag whose page stands at a path, whether or not it has posts."""
        parts = path.strip("/").split("/")
        if len(parts) == 2 and parts[0] == "tag":
            number = filing.tag_with_slug(self._db, self._blog.id, parts[1])
            return AddressOwner("tag", number) if number else None
        number = filing.category_with_slug(self._db, self._blog.id, parts[0]) if len(parts) == 1 else None
        return AddressOwner("category", number) if number else None

    def media_shown(self) -> list[int]:
        """Everything of the library that a post shows at the instant."""
        rows = self._db.all(
            "SELECT DISTINCT media_id FROM placement_media JOIN placement ON placement.id = placement_id WHERE blog_id = ? AND shows_from <= ? AND shows_until > ?",
            self._blog.id, self.instant, self.instant,
        )  # fmt: skip
        return [row[0] for row in rows]

    def addresses_away(self) -> list[str]:
        """The addresses that stand for another one."""
        return addresses.away(self._db, self._blog.id, self.instant)

    def former_page(self, name: ListName, number: int) -> Place | None:
        """Where the oldest post stood of a page that had a number in its address, as once all had; None for one that never was."""
        return numbered_pages.place(self._db, self._blog.id, name, number)

    def former_pages(
        self, name: ListName, first: Place | None = None, last: Place | None = None
    ) -> list[int]:
        """The numbers of such pages of a list, with both ends given only of those whose oldest post stood between them."""
        return numbered_pages.numbers(self._db, self._blog.id, name, first, last)

    def address_owner(self, path: str) -> AddressOwner | None:
        """What an address stands for at the instant."""
        return addresses.address_owner(self._db, self._blog.id, path, self.instant)

    def _order(self, name: ListName) -> Order | None:
        """A list as (goes out, post, placement) from the oldest on, once it was asked about often: a full build asks for all of it."""
        self._questions[name] += 1
        if self._questions[name] < OFTEN:
            return None
        if name not in self._orders:
            rows = self._db.all(
                f"SELECT goes_out, post_id, placement_id FROM listing WHERE blog_id = ? AND list = ? AND shows_from <= ? AND shows_until > ? AND {self._for_reader}"
                " ORDER BY goes_out, post_id",
                self._blog.id, name, self.instant, self.instant, *self._audiences,
            )  # fmt: skip
            self._orders[name] = [tuple(row) for row in rows]
        return self._orders[name]

    def _listed(self, rest: str, name: ListName, *values: int) -> list[OutPost]:
        rows = self._db.all(
            f"SELECT placement_id FROM listing WHERE blog_id = ? AND list = ? AND shows_from <= ? AND shows_until > ? AND {self._for_reader} {rest}",
            self._blog.id, name, self.instant, self.instant, *self._audiences, *values,
        )  # fmt: skip
        return [self._placed.of(row[0]) for row in rows]
