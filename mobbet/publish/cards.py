"""Posts as cards: what lists, feeds and share cards show of them."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace
from html import escape
from typing import Any

from mobbet.core.audience import covers, may_read
from mobbet.core.canonical import digest
from mobbet.core.document import outline, schema
from mobbet.core.document.html import Html
from mobbet.core.document.leading import CHOSEN, Lead, lead, link_alone, score_of
from mobbet.core.document.links import media_number, post_number
from mobbet.core.document.mentions import walk
from mobbet.core.document.text import plain
from mobbet.core.facts import Item, OutPost
from mobbet.core.fill_ins import values
from mobbet.core.headings import NONE, shown_parts
from mobbet.core.media.captions import clock
from mobbet.core.timing import day_in_words, iso
from mobbet.core.values import existing, made_of
from mobbet.core.web_addresses import split_address
from mobbet.publish.render_cache import RenderCache, TrackedItems
from mobbet.publish.snapshot import Snapshot

LIST_FIELDS = (
    "id",
    "path",
    "title",
    "author",
    "date",
    "date_iso",
    "teaser",
    "form",
    "note",
    "quotation",
    "away",
    "picture",
    "sound",
    "kind",
)
"""What a list shows of each card, beside its categories, and how long the reading takes of the first one."""
MOST_CARDS = 20_000
LONGEST_NOTE = 70
WIDE_ENOUGH = 480
"""The width in pixels from which a picture of the text leads its post."""


@dataclass(frozen=True)
class Card:
    """A post in a list. `teaser` is inline HTML. `digest` stands for everything that its page shows of the post, `list_digest` for what lists do
    beside its categories, `text_digest` for its text.

    `form` is that of the lead (`core/document/leading.py`), `note` what a list adds for it, such as “sound, 0:41”;
    `picture` the item of the library it is shown by, `lead_at` the place of the block that its page opens
    with, where the writer chose one.
    """

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
    note: str
    quotation: str
    away: str
    picture: Item | None
    sound: Item | None
    alt: str
    lead_at: int | None
    words: int
    minutes: int
    categories: tuple[tuple[str, str], ...]
    audience: str
    heading: str = ""
    search_title: str = ""
    place: str = ""
    language: str = ""
    fill: tuple[tuple[str, str], ...] = ()
    author_address: str = ""
    kind: str = ""
    digest: str = ""
    list_digest: str = ""
    text_digest: str = ""

    def shown(self, names: Iterable[str]) -> list[Any]:
        """Some of its values as plain data; an item of the library by its number and version."""
        values = (getattr(self, name) for name in names)
        return [[value.id, value.version] if isinstance(value, Item) else value for value in values]

    @property
    def first_block(self) -> int | None:
        """The place of the block that leads the post, where its heading shows it; None where the text stands as it is."""
        return self.lead_at if self.heading != NONE and "lead" in shown_parts(self.heading) else None

    @property
    def played(self) -> Item | None:
        """The sound or the video that the post is shown by."""
        found = ((self.sound, "sound"), (self.picture, "video"))
        return next((item for item, kind in found if item and item.kind == kind), None)

    @property
    def category(self) -> str:
        """The name of the main category, or ''."""
        return self.categories[0][0] if self.categories else ""


class Cards:
    """Makes cards and keeps them while a plan lives."""

    def __init__(self, snapshot: Snapshot, memo: RenderCache | None = None) -> None:
        self._snapshot = snapshot
        self._memo = memo
        self._items = TrackedItems(snapshot.item)
        self._kept: dict[tuple[Any, ...], Card] = {}

    def take_over(self, other: Cards, but: int) -> None:
        """Keeps the cards that another plan of the same house and filing made, but for one post."""
        self._kept = {key: card for key, card in other._kept.items() if key[0] != but}

    def read_ahead(self, posts: list[int]) -> None:
        """Has at hand what earlier editions made of these posts, which are asked for next."""
        if self._memo:
            self._memo.read_ahead(posts)

    def of(self, post: OutPost) -> Card:
        key = (post.id, post.revision, post.updated, post.kept)
        card = self._kept.get(key)
        if card is None:
            if len(self._kept) >= MOST_CARDS:
                self._kept.clear()
            card = self._kept[key] = self._remembered(post)
        return card

    def _remembered(self, post: OutPost) -> Card:
        """The card as an earlier edition made it of the same facts, or a new one, which is kept."""
        if self._memo is None:
            return self._make(post, self._snapshot.body(post))
        house = self._snapshot.house
        facts = [post.__dict__, self._categories(post), house.name, house.home, house.facts]
        data = self._memo.worked(
            "card", post.id, facts, self._items, lambda: _data_of(self._make(post, self._snapshot.body(post)))
        )
        return _card_of(data, self._snapshot.item)

    def links(self, post: OutPost) -> dict[int, str]:
        """The paths of the posts a text leads to, of those that all its readers may see."""
        found = ((number, self._snapshot.post(number)) for number in post.links)
        return {
            number: other.path
            for number, other in found
            if other
            and (covers(other.audience, post.audience) or may_read(other.audience, self._snapshot.reader))
        }

    def links_in_lists(self, post: OutPost) -> dict[int, str]:
        """The same, as far as lists and feeds show the text."""
        return {} if post.audience.startswith("password:") else self.links(post)

    def in_lists(self, post: OutPost) -> Card:
        """The card for lists and feeds: of a post behind a password only what its author shows of it."""
        if not post.audience.startswith("password:"):
            return self.of(post)
        body = self.body_in_lists(post)
        shown = replace(
            post,
            subtitle="",
            description="",
            excerpt="",
            media=(),
            links=(),
            kept=(),
            lead="",
            lead_media=None,
            place="",
            search_title="",
            words=0,
        )
        return self._make(shown, body)

    def body_in_lists(self, post: OutPost) -> dict[str, Any]:
        """The text for feeds and lists of whole texts; of a post behind a password its teaser at the most."""
        body = self._snapshot.body(post)
        if not post.audience.startswith("password:"):
            return body
        words = (
            post.excerpt if post.excerpt and not outline.has_teaser_line(body) else outline.teaser_text(body)
        )
        return text_alone(words if post.listed == "teaser" else "")

    def _make(self, post: OutPost, body: dict[str, Any]) -> Card:
        leading = lead(body, post.lead, self._is_wide)
        shown = self._item(media_number(leading.src))
        chosen = self._item(post.lead_media)
        picture = next((item for item in (chosen, shown) if item and item.of("whole")), None)
        form = "picture" if chosen and picture else leading.form
        words = post.words if post.words and not post.kept else outline.count_words(body)
        fill = self.fill(post)
        used = {node["attrs"]["name"] for node in walk(body) if node["type"] == "fillIn"}
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
            teaser=self.teaser(post, without_lead(body, leading), fill),
            description=post.description
            or post.excerpt
            or outline.teaser_text(without_lead(body, leading))
            or post.subtitle
            or post.title,
            form=form if picture or form != "picture" else "text",
            note="" if chosen and picture else note_of(leading, shown),
            quotation=" ".join(plain(block) for block in (leading.node or {})["content"]).strip()
            if form == "quotation"
            else "",
            away=self._away(leading) if form == "link" else "",
            picture=picture if form in ("picture", "video") else None,
            sound=shown if form == "sound" else None,
            alt="" if chosen and picture else leading.alt,
            lead_at=leading.at if leading.why == CHOSEN else None,
            words=words,
            minutes=outline.minutes(words),
            categories=self._categories(post),
            audience=post.audience,
            heading=post.heading,
            search_title=post.search_title,
            place=post.place,
            language=post.language,
            fill=tuple((name, value) for name, value in fill.items() if name in used),
            author_address=post.author_address,
            kind=post.kind,
        )
        text = digest([body, self._versions(outline.items(body)), card.fill, card.first_block])
        whole = [text, card.shown(name for name in card.__dict__ if not name.endswith("digest"))]
        digests = {
            "digest": digest(whole),
            "list_digest": digest(card.shown(LIST_FIELDS)),
            "text_digest": text,
        }
        return made_of(Card, {**card.__dict__, **digests})

    def teaser(self, post: OutPost, body: dict[str, Any], fill: dict[str, str]) -> str:
        """What stands above the teaser line, or the excerpt, or the first paragraph, as inline HTML."""
        if post.excerpt and not outline.has_teaser_line(body):
            return escape(post.excerpt, quote=False)
        return outline.teaser_html(body, Html(fill=fill.get, is_page=True))

    def _categories(self, post: OutPost) -> tuple[tuple[str, str], ...]:
        """(name, path) of the categories, the main one first; none where not everyone may read the post."""
        found = (self._snapshot.categories.get(number) for number in post.categories)
        return tuple((subject.name, f"/{subject.slug}/") for subject in found if subject)

    def _is_wide(self, number: int) -> bool:
        """Whether a picture is wide enough to be shown large."""
        item = self._items(number)
        return (
            item is not None
            and item.kind in ("picture", "video")
            and bool(item.of("whole"))
            and item.width >= WIDE_ENOUGH
        )

    def _item(self, number: int | None) -> Item | None:
        return self._items(number) if number is not None else None

    def _away(self, leading: Lead) -> str:
        """Where a leading link goes out to; '' when it leads to a post of the blog."""
        href, _ = existing(link_alone(existing(leading.node)))
        return "" if post_number(href) is not None else href

    def _versions(self, numbers: Iterable[int]) -> list[tuple[int, int]]:
        """The versions of items of the library."""
        found = map(self._items, numbers)
        return [(item.id, item.version) for item in found if item]

    def fill(self, post: OutPost) -> dict[str, str]:
        """The values of the fill-ins in a post."""
        house = self._snapshot.house
        return values(
            title=post.title, subtitle=post.subtitle, author=post.author, date=day_in_words(post.goes_out, post.zone),
            updated=day_in_words(post.updated, post.zone), blog=house.name, address=house.home + post.path[1:], facts=house.facts,
        )  # fmt: skip


def _data_of(card: Card) -> dict[str, Any]:
    """A card as plain data, with the numbers of its items in their place."""
    return {**card.__dict__, **{name: getattr(card, name) and getattr(card, name).id for name in _ITEMS}}


def _card_of(data: dict[str, Any], items: Callable[[int], Item | None]) -> Card:
    found = {name: items(data[name]) if data[name] is not None else None for name in _ITEMS}
    return made_of(Card, {**data, **found, **{name: tuple(map(tuple, data[name])) for name in _PAIRS}})


_ITEMS, _PAIRS = ("picture", "sound"), ("categories", "fill")


def text_alone(words: str) -> dict[str, Any]:
    """A document of one paragraph."""
    return (
        schema.check(
            {"type": "doc", "content": [{"type": "paragraph", "content": [{"type": "text", "text": words}]}]}
        )
        if words
        else schema.EMPTY
    )


def without_lead(body: dict[str, Any], leading: Lead) -> dict[str, Any]:
    """A text without the link that leads it, which a list shows by itself."""
    if leading.form != "link" or leading.at is None or len(body["content"]) < 2:
        return body
    return {**body, "content": [*body["content"][: leading.at], *body["content"][leading.at + 1 :]]}


def _table_note(node: dict[str, Any]) -> str:
    """A table by its caption, or by the words of its first row."""
    rows = node["content"]
    first = ", ".join(filter(None, (" ".join(plain(cell).split()) for cell in rows[0].get("content", ()))))
    words = " ".join(node["attrs"]["caption"].split()) or first
    count = f"{len(rows)} row{'s' if len(rows) != 1 else ''}"
    if not words:
        return f"a table of {count}"
    return f"a table: {words[:LONGEST_NOTE].rstrip()}{'…' if len(words) > LONGEST_NOTE else ''}"


def note_of(leading: Lead, item: Item | None) -> str:
    """What a list says of a lead that it cannot show whole."""
    node = leading.node or {}
    if leading.form in ("sound", "video"):
        return f"{leading.form}, {clock(item.seconds)}" if item and item.seconds else leading.form
    if leading.form == "picture" and node.get("type") == "gallery":
        return f"{len(node['content'])} pictures" if len(node["content"]) > 1 else ""
    if leading.form == "review":
        score = score_of(node)
        return f"review, {score} of 10" if score else "review"
    if leading.form == "link":
        href, _ = existing(link_alone(node))
        return f"link to {split_address(href).hostname}" if split_address(href).hostname else "link"
    return _table_note(node) if leading.form == "table" else ""
