"""The outline of a site: where posts and lists are, without the content of any page.

A change of the filing alters the names, the lists and the addresses of posts, and nothing of their texts. So its footprint
follows from an outline without it and one with it (`counted.py`), in the time in which the lists of these posts are read.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import NamedTuple

from mobbet.core.audience import list_audiences
from mobbet.core.facts import CategoryPage, list_keys
from mobbet.core.filing import category_lists, trail
from mobbet.core.keys import ChangedFact, ListName, PageKey
from mobbet.core.promo_places import Filed, standing, text_of
from mobbet.core.promos import Promos
from mobbet.core.timing import month_of
from mobbet.core.values import existing
from mobbet.publish.changes.exact import prints_of
from mobbet.publish.pages import former_address
from mobbet.publish.plan import Plan
from mobbet.publish.renderer import house_digest
from mobbet.publish.values import Step
from mobbet.store import editions, outlines, placements, stale
from mobbet.store.database import Database
from mobbet.store.editions import Edition
from mobbet.store.filed import FiledPlacement
from mobbet.store.snapshot import SiteSnapshot

Numbers = tuple[int, ...]
Names = tuple[object, ...]
"""What something names of a post's categories and tags."""
Rows = Mapping[int, FiledPlacement]
"""{post: what shows of it}."""


class ListHead(NamedTuple):
    """What stands above the posts of a list, and where the list is; `own` on its first page alone."""

    name: str
    path: str
    trail: tuple[Step, ...] = ()
    own: CategoryPage | None = None


class Outline:
    """Where some posts and lists stand at an instant, by the facts as they are when it is made."""

    def __init__(self, db: Database, blog_id: int, instant: int, rows: Rows, own: list[ChangedFact]) -> None:
        """`rows` are the posts, `own` the changed facts."""
        self._db = db
        self.snapshot = SiteSnapshot(db, blog_id, instant)
        self._plan = Plan(self.snapshot)
        self.audiences = list_audiences(self.snapshot.reader)
        self._texts: dict[int, str] = {}
        self._names: dict[Numbers, tuple[tuple[str, str], ...]] = {}
        self._trails: dict[int, tuple[str, ...]] = {}
        self._category_lists: dict[Numbers, tuple[ListName, ...]] = {}
        self.rows = rows
        self.own = own
        tags = {
            *(tag for row in self.rows.values() for tag in row.tags),
            *(fact.number for fact in self.own if fact.kind == "tag"),
        }
        self.tags = {tag.id: (tag.name, tag.slug) for tag in self.snapshot.tags(tuple(tags))}
        self.subjects = set(filter(None, (fact.list_name for fact in own)))
        self.heads: dict[ListName, ListHead | None] = {}
        for name in (
            *self.subjects,
            *(ListName.of("category", number) for number in self.snapshot.categories),
            *(ListName.of("tag", number) for number in self.tags),
        ):
            self.head(name)
        self.addresses = {name: self.addresses_of(name) for name in self.subjects}
        self.looked_at = prints_of(self._plan, list(self._singular()))

    def addresses_of(self, name: ListName) -> list[str]:
        """The addresses that a category or a tag has had, by the facts of when it is asked."""
        return self.snapshot.addresses_of(name.kind, name.number)

    def lists_of(self, row: FiledPlacement) -> tuple[ListName, ...]:
        """The lists on which strangers find a post."""
        return (
            list_keys(
                self.lists_by(row.categories),
                row.tags,
                month_of(row.goes_out, row.zone),
                row.front,
                row.author_id,
            )
            if self.is_listed(row)
            else ()
        )

    def lists(self) -> set[ListName]:
        """Every list on which strangers find one of the posts."""
        listed = [row for row in self.rows.values() if self.is_listed(row)]
        by_category = tuple(
            {name for categories in {row.categories for row in listed} for name in self.lists_by(categories)}
        )
        tags = tuple({tag for row in listed for tag in row.tags})
        places = {(month_of(row.goes_out, row.zone), row.front, row.author_id) for row in listed}
        return {name for place in places for name in list_keys(by_category, tags, *place)}

    def is_listed(self, row: FiledPlacement) -> bool:
        return row.list_audience in self.audiences

    def trail_of(self, category: int) -> tuple[str, ...]:
        """The names and slugs of a category and of those above it."""
        if category not in self._trails:
            steps = trail(self.snapshot.categories, category)
            self._trails[category] = tuple(part for step in steps for part in (step.name, step.slug))
        return self._trails[category]

    def promos_below(self, row: FiledPlacement) -> Numbers:
        """The saved blocks that stand below a post by a rule."""
        house = self.snapshot.house
        if not house.promos or row.kind:
            return ()
        filed = Filed(row.post_id, row.categories, row.tags)
        rules = standing(
            Promos(house.promos, house.promos_most),
            filed,
            self.snapshot.categories,
            lambda: self._text(row.post_id),
        )
        return tuple(rule.block for rule in rules)

    def promos_of(self, post_id: int) -> Numbers:
        """The saved blocks that stand below a post of which the filing stays."""
        return tuple(shown.block.id for shown in self._plan.promos_of(existing(self.snapshot.post(post_id))))

    def _text(self, post_id: int) -> str:
        if post_id not in self._texts:
            post = existing(self.snapshot.post(post_id))
            self._texts[post_id] = text_of(self.snapshot.body(post), post.title, post.subtitle)
        return self._texts[post_id]

    def own_names(self, categories: Numbers) -> tuple[tuple[str, str], ...]:
        """(name, slug) of categories themselves."""
        if categories not in self._names:
            found = (self.snapshot.categories.get(number) for number in categories)
            self._names[categories] = tuple((one.name, one.slug) for one in found if one)
        return self._names[categories]

    def lists_by(self, categories: Numbers) -> tuple[ListName, ...]:
        """The lists on which a post stands by its categories."""
        if categories not in self._category_lists:
            self._category_lists[categories] = category_lists(self.snapshot.categories, categories)
        return self._category_lists[categories]

    def head(self, name: ListName) -> ListHead | None:
        """What stands above the posts of a list; None for one of a category or tag that is unknown."""
        if name not in self.heads:
            step = self._plan.lists.step(name)
            above: tuple[Step, ...] = ()
            own: CategoryPage | None = None
            if step and name.is_of_category:
                number = name.number
                above, own = self._plan.lists.trail(number)[:-1], self.snapshot.category_page(number)
            self.heads[name] = ListHead(step.name, step.path, above, own) if step else None
        return self.heads[name]

    def _singular(self) -> Iterator[PageKey]:
        """The keys of the few pages that are looked at: the files of a category's picture, and addresses that redirect away."""
        for fact in self.own:
            if fact.kind == "media":
                yield from self._plan.media_keys(fact.number)
            elif fact.kind == "away":
                yield former_address.key(fact.which)

    def redirecting_here(self, post_ids: set[int]) -> Iterator[tuple[str, int]]:
        """(old address, post) of posts that came down and whose addresses redirect to one of these."""
        if post_ids and outlines.leading_on(self._db, self.snapshot.blog_id):
            for number in self.snapshot.redirected_posts():
                heir = None if self.snapshot.post(number) else former_address.successor(self.snapshot, number)
                if heir and heir.id in post_ids:
                    yield from ((path, heir.id) for path in self.snapshot.addresses_of("post", number))


def on_page(outline: Outline, row: FiledPlacement) -> Names:
    """What the page of a post names of its categories and tags, and the blocks below it; that of a post on no list, only its categories."""
    own = (outline.own_names(row.categories), outline.promos_below(row))
    if not outline.is_listed(row):
        return own
    tags = tuple(outline.tags[tag] for tag in row.tags if tag in outline.tags)
    return (*own, outline.trail_of(row.categories[0]) if row.categories else (), tags)


def in_lists(outline: Outline, row: FiledPlacement) -> Names:
    """What lists name of a post's categories."""
    return outline.own_names(row.categories)


def in_feeds(outline: Outline, row: FiledPlacement) -> Names:
    """What feeds name of a post's categories."""
    return tuple(name for name, _ in outline.own_names(row.categories))


def settled_edition(db: Database, blog_id: int, instant: int) -> Edition | None:
    """The edition readers get, where it is what follows from the facts at an instant; None where something waits to be published."""
    with db.reading():
        base = editions.current(db, blog_id)
        if base is None or base.house != house_digest(
            SiteSnapshot(db, blog_id, max(instant, base.instant)).house
        ):
            return None
        is_noted = stale.last_post(db, blog_id) or stale.facts(db, blog_id)
        return (
            None
            if is_noted or placements.turned_between(db, blog_id, base.instant, max(instant, base.instant))
            else base
        )


def changed_facts(db: Database, blog_id: int) -> list[ChangedFact]:
    """The facts that changed since the edition that readers get."""
    return list(dict.fromkeys(fact for _, fact in stale.facts(db, blog_id)))
