"""Cards: what a list, a feed or a neighbour shows of a post, worked out once from its text."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from html import escape
from typing import TYPE_CHECKING

from mobbet.core.canonical import digest
from mobbet.core.document import outline
from mobbet.core.document.html import Html
from mobbet.core.document.links import media_number
from mobbet.core.facts import Item, OutPost
from mobbet.core.fill_ins import values
from mobbet.core.timing import day_in_words, iso

if TYPE_CHECKING:
    from mobbet.publish.values import Snapshot

MOST_CARDS = 20_000
WIDE_ENOUGH = 480
"""The width in pixels from which a picture of the text leads its post."""


@dataclass(frozen=True)
class Card:
    """A post in a list. `teaser` is inline HTML; `digest` stands for everything shown of the post."""

    id: int
    path: str
    title: str
    subtitle: str
    author: str
    date: str
    date_iso: str
    updated: str
    updated_iso: str
    teaser: str
    description: str
    form: str
    quotation: str
    picture: Item | None
    alt: str
    words: int
    minutes: int
    category: str
    category_path: str
    audience: str
    fill: tuple[tuple[str, str], ...] = ()
    digest: str = ""


class Cards:
    """Makes cards and keeps them while a plan lives."""

    def __init__(self, snapshot: Snapshot) -> None:
        self._snapshot = snapshot
        self._kept: dict[tuple, Card] = {}

    def of(self, post: OutPost) -> Card:
        key = (post.id, post.revision, post.updated, post.kept)
        card = self._kept.get(key)
        if card is None:
            if len(self._kept) >= MOST_CARDS:
                self._kept.clear()
            card = self._kept[key] = self._make(post)
        return card

    def _make(self, post: OutPost) -> Card:
        body = self._snapshot.body(post)
        lead = outline.lead(body, lambda number: self._is_wide(number))
        item, alt = self._lead_item(post, lead)
        form = "picture" if post.lead_media and item else lead.form
        words = outline.count_words(body)
        main = self._snapshot.categories.get(post.categories[0]) if post.categories else None
        card = Card(
            id=post.id,
            path=post.path,
            title=post.title,
            subtitle=post.subtitle,
            author=post.author,
            date=day_in_words(post.goes_out, post.zone),
            date_iso=iso(post.goes_out),
            updated=day_in_words(post.updated, post.zone) if post.updated > post.goes_out else "",
            updated_iso=iso(post.updated),
            teaser=escape(post.excerpt, quote=False) or outline.teaser_html(body, Html(fill=self.fill(post).get, is_page=True)),
            description=post.description or post.excerpt or outline.teaser_text(body) or post.subtitle or post.title,
            form=form if item or form != "picture" else "text",
            quotation=lead.words,
            picture=item,
            alt=alt,
            words=words,
            minutes=outline.minutes(words),
            category=main.name if main else "",
            category_path=f"/{main.slug}/" if main else "",
            audience=post.audience,
            fill=tuple(self.fill(post).items()),
        )
        facts = [asdict(card), post.revision, post.categories, post.tags, self._names(post), self._versions(post), post.kept]
        return Card(**{**card.__dict__, "digest": digest(facts)})

    def _is_wide(self, number: int) -> bool:
        """Whether a picture is wide enough to be shown large."""
        item = self._snapshot.item(number)
        return item is not None and item.kind in ("picture", "video") and bool(item.of("whole")) and item.width >= WIDE_ENOUGH

    def _lead_item(self, post: OutPost, lead: outline.Lead) -> tuple[Item | None, str]:
        """The picture that a post is shown by, chosen or taken by rule, and its alternative text."""
        number = post.lead_media or media_number(lead.src)
        item = self._snapshot.item(number) if number is not None else None
        return (item, lead.alt) if item and item.of("whole") else (None, "")

    def _versions(self, post: OutPost) -> list[tuple[int, int]]:
        """The version of everything of the library that a post shows."""
        found = (self._snapshot.item(number) for number in post.media)
        return [(item.id, item.version) for item in found if item]

    def fill(self, post: OutPost) -> dict[str, str]:
        """The values of the fill-ins in a post."""
        house = self._snapshot.house
        return values(
            title=post.title, subtitle=post.subtitle, author=post.author, date=day_in_words(post.goes_out, post.zone),
            updated=day_in_words(post.updated, post.zone), blog=house.name, address=house.home + post.path[1:], facts=house.facts,
        )  # fmt: skip

    def _names(self, post: OutPost) -> list[str]:
        """The names and slugs of everything the post is filed under, so that a renaming is seen."""
        categories = (self._snapshot.categories.get(number) for number in post.categories)
        subjects = [*(category for category in categories if category), *self._snapshot.tags(post.tags)]
        return [part for subject in subjects for part in (subject.name, subject.slug)]
