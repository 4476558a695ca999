"""The site as a function of facts and instant.

A plan is one snapshot of the facts with what is computed from it and used by several kinds of pages. Which pages there are, and what each of
them shows, say the modules of `publish/pages/`; `pages/kinds.py` is their table. A full build asks for all keys, a publication for those that a
change may have altered (`touched`), and both give the same bytes.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from mobbet.core.audience import list_audience, list_audiences
from mobbet.core.canonical import digest
from mobbet.core.facts import Author, Item, OutPost, list_keys
from mobbet.core.filing import category_lists
from mobbet.core.keys import FRONT, ListName, PageKey
from mobbet.core.timing import month_of
from mobbet.publish.cards import Cards
from mobbet.publish.lists import Lists, data
from mobbet.publish.render_cache import RenderCache
from mobbet.publish.saved_blocks import promos_below
from mobbet.publish.snapshot import Snapshot
from mobbet.publish.values import ShownBlock, Step


class Plan:
    """The plan over one snapshot, for the snapshot's reader. Cards of posts are made once and kept while the plan lives; with a memo, beyond that."""

    def __init__(self, snapshot: Snapshot, memo: RenderCache | None = None) -> None:
        self.snapshot = snapshot
        self.cards = Cards(snapshot, memo)
        self.lists = Lists(snapshot, self.cards)
        self._promos: dict[int, tuple[OutPost, tuple[ShownBlock, ...]]] = {}
        self._lists: dict[int, tuple[OutPost, list[ListName]]] = {}
        self._audiences = list_audiences(snapshot.reader)
        self._category_lists: dict[tuple[int, ...], tuple[ListName, ...]] = {}

    def may_read(self, audience: str | None) -> bool:
        """Whether the reader finds posts of that audience on lists."""
        return audience in self._audiences

    def list_names(self) -> Iterator[ListName]:
        """Every list with a post."""
        return iter(dict.fromkeys((FRONT, *self.snapshot.lists())))

    def media_keys(self, media_id: int) -> list[PageKey]:
        """The keys of the files of an item of the library."""
        item = self.snapshot.item(media_id)
        return [file.key for file in item.files] if item else []

    def state(self, post_id: int) -> dict[str, Any] | None:
        """What the site shows of a post, as data: kept with an edition, compared by the next. A page at the front keeps its path when its own address is
        another one, so that its addresses, which redirect to it, are a part."""
        post = self.snapshot.post(post_id)
        if post is None:
            return None
        is_door = post_id == self.snapshot.house.front_door
        return {
            "digest": self.cards.of(post).digest,
            "list_digest": self._shown_in_lists(post),
            "filed": digest([*(data(steps) for steps in self.filed(post)), self.author_shown(post)]),
            "home": self.snapshot.home_address(post),
            "promos": [shown.block.id for shown in self.promos_of(post)],
            "path": post.path,
            "title": post.title,
            "goes_out": post.goes_out,
            "lists": self.lists_of(post),
            "media": list(post.media),
            "files": [key for media_id in post.media for key in self.media_keys(media_id)],
            "audience": post.audience,
            "alike": [post.alike, post.sharing],
            "series": [post.series_id, post.series_position] if post.series_id else None,
            "kind": post.kind,
            "below": post.below,
            "addresses": self.snapshot.addresses_of("post", post_id) if is_door else None,
        }

    def _shown_in_lists(self, post: OutPost) -> str:
        """The digest of what lists show of a post; and of its whole text, where they show that. Feeds show no more of one behind a password."""
        card, house = self.cards.in_lists(post), self.snapshot.house
        names = card.categories if house.categories_in_lists else ()
        is_whole = house.full_in_lists or post.audience.startswith("password:")
        return digest([card.list_digest, names, card.digest if is_whole else ""])

    def filed(self, post: OutPost) -> tuple[tuple[Step, ...], tuple[Step, ...]]:
        """(the trail to the post's main category, its tags), as its page shows them; nothing of a post that is on no list, whose subjects perhaps have
        no page."""
        if not self.lists_of(post):
            return (), ()
        above = self.lists.trail(post.categories[0]) if post.categories else ()
        tags = tuple(Step(tag.name, f"/tag/{tag.slug}/") for tag in self.snapshot.tags(post.tags))
        return self.lists.below_label(above), tags

    def author_of(self, post: OutPost) -> tuple[Author | None, Item | None]:
        """(the author, their picture), as the page of a post shows them; nothing of a post that is on no list, whose author perhaps has no page."""
        author = self.snapshot.author(post.author_id) if self.lists_of(post) else None
        return author, self.snapshot.item(author.picture) if author and author.picture else None

    def promos_of(self, post: OutPost) -> tuple[ShownBlock, ...]:
        """The saved blocks that stand below a post by a rule; kept, since its page and its state both ask."""
        kept = self._promos.get(post.id)
        if kept is None or kept[0] is not post:
            kept = self._promos[post.id] = (post, promos_below(self.snapshot, self.may_read, post))
        return kept[1]

    def author_shown(self, post: OutPost) -> list[Any]:
        """What the page of a post shows of its author beside the name, as data."""
        author, portrait = self.author_of(post)
        return [author and [author.path, author.line], portrait and [portrait.id, portrait.version]]

    def lists_of(self, post: OutPost) -> list[ListName]:
        """The lists on which the reader finds a post; kept, since its page and its state both ask."""
        kept = self._lists.get(post.id)
        if kept is None or kept[0] is not post:  # a preview has other states of a post
            kept = self._lists[post.id] = (post, self._lists_of(post))
        return kept[1]

    def _lists_of(self, post: OutPost) -> list[ListName]:
        if post.kind or not self.may_read(list_audience(post.audience, post.listed)):
            return []
        if post.categories not in self._category_lists:
            self._category_lists[post.categories] = category_lists(self.snapshot.categories, post.categories)
        by_category = self._category_lists[post.categories]
        month = month_of(post.goes_out, post.zone)
        return list(list_keys(by_category, post.tags, month, post.front, post.author_id))
