"""Generates made-up posts for measurements; the same seed gives the same posts."""

from __future__ import annotations

import random
import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Any

from mobbet.actions import blogs as blog_actions
from mobbet.actions import indexing
from mobbet.actions import people as people_actions
from mobbet.actions.categories import make_category
from mobbet.actions.permalinks import category_subjects, filed
from mobbet.actions.tags import make_tag
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.addresses import make_slug
from mobbet.core.audience import EVERYONE
from mobbet.core.canonical import canonical
from mobbet.core.document import outline
from mobbet.core.document.nodes import MARK, NODE, MarkType, NodeType
from mobbet.core.facts import Subject
from mobbet.core.filing import category_lists
from mobbet.core.permalinks import path_of
from mobbet.core.timing import FOREVER, wall
from mobbet.store import blogs, people, placements, posts, stale
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.placements import Placement
from mobbet.store.posts import Revision

CATEGORIES = (
    "Lamps", "Lamps > Wiring", "Lamps > Shades", "Radios", "Radios > Valves", "Toasters", "Clocks", "Clocks > Movements",
    "Textiles", "Textiles > Zips", "Textiles > Darning", "Materials", "Materials > Glue", "Safety", "Sessions", "Bicycles",
)  # fmt: skip
TAGS = (
    "flex fuse solder switch elastic rust spring thread cord dial hinge bearing motor battery belt brush cable clamp crank dynamo "
    "felt filter gasket gear handle heater knob latch lever magnet needle nut oil pedal pin plug pulley pump ratchet rivet screw seal "
    "shaft socket spindle spoke stitch strap terminal valve varnish washer wax wheel wick winder wire wool zip"
).split()
NOUNS = (
    "lamp radio toaster clock zip flex fuse switch plug spring thread bench drawer kettle fan iron heel sleeve hinge dial knob gear "
    "motor belt cord wheel pedal chain brake tube lens shade base grommet screw washer terminal solder joint cloth elastic needle "
    "seam hem pocket lining button buckle strap handle lid latch key lock mainspring pendulum bearing bushing plate case glass hand"
).split()
VERBS = (
    "holds turns sticks bends breaks clicks hums rattles leaks slips warms cools tightens loosens seizes wears splits frays stops starts "
    "answers needs wants takes keeps loses finds shows hides carries drops"
).split()
ADJECTIVES = (
    "old new bent dry worn loose tight cheap stubborn quiet loud honest careful rusty clean brittle soft hard spare missing broken "
    "borrowed forgotten patient second first last ordinary"
).split()
ENDS = (
    "so look there first", "and nobody had noticed", "which is why we ask", "before anything else", "on the second try", "with a little oil",
    "after an hour of looking", "as it did in June", "and that was all", "without any tool", "if it is kept dry", "in most of them",
)  # fmt: skip


@dataclass(frozen=True)
class Filled:
    """How many posts were made, how many pages were written for them, and how long it took."""

    blog: str
    posts: int
    written: int
    pages: int
    seconds: float


def fill(workshop: Workshop, count: int, seed: int) -> Filled:
    """Adds `count` posts to the first blog (made when there is none), most of them published, and publishes."""
    started = time.perf_counter()
    person, blog = _blog(workshop)
    with changing(workshop) as unit:
        categories = [make_category(workshop, blog, name) for name in CATEGORIES]
        tags = [make_tag(workshop, blog, name) for name in TAGS]
        maker = _Maker(workshop, blog, person, random.Random(seed), categories, tags, count)
        for number in range(count):
            maker.make(number)
    indexing.bring_up_to_date(workshop, blog)
    published = unit.published(blog)
    return Filled(blog.slug, count, published.written, published.pages, time.perf_counter() - started)


def _blog(workshop: Workshop) -> tuple[Person, Blog]:
    known = blogs.every(workshop.db)
    if known:
        members = people.of_blog(workshop.db, known[0].id)
        return next(one for one in members if blogs.role(workshop.db, known[0].id, one.id) == "owner"), known[
            0
        ]
    person = people_actions.add_person(
        workshop, name="Measuring Person", email="measuring@mobbet.example", password=None
    )
    home = "http://127.0.0.1:8000/b/measured/"
    return person, blog_actions.make_blog(
        workshop, person, name="A measured blog", address="measured", zone="UTC", home=home
    )


class _Maker:
    """Makes one post after the other, out of one stream of chance."""

    def __init__(
        self,
        workshop: Workshop,
        blog: Blog,
        person: Person,
        chance: random.Random,
        categories: list[int],
        tags: list[int],
        count: int,
    ) -> None:
        self._workshop, self._blog, self._person = workshop, blog, person
        self._chance, self._categories, self._tags = chance, categories, tags
        self._subjects: dict[int, Subject] = category_subjects(workshop, blog)
        self._now = workshop.clock()
        span = max(60, min(3650, int(count * 0.4))) * 86400
        self._times = sorted(self._now - chance.randrange(3600, span) for _ in range(count))

    def make(self, number: int) -> None:
        chance, db = self._chance, self._workshop.db
        goes_out = self._times[number]
        title = self._title()
        document = self._document()
        words = outline.count_words(document)
        post = posts.add(db, blog_id=self._blog.id, author_id=self._person.id, made_at=goes_out - 86400)
        posts.add_revision(
            db,
            Revision(
                post.id,
                1,
                self._person.id,
                title,
                "",
                canonical(document),
                "",
                goes_out - 7200,
                goes_out - 3600,
            ),
            words,
        )
        categories = chance.sample(self._categories, chance.choice((1, 1, 1, 2)))
        tags = chance.sample(self._tags, chance.choice((0, 1, 2, 3, 3, 4)))
        posts.set_categories(db, post.id, categories, goes_out)
        posts.set_tags(db, post.id, tags, goes_out)
        state = chance.random()
        if state < 0.04:
            return
        if state < 0.05:
            goes_out = self._now + chance.randrange(3600, 60 * 86400)
        slug = f"{make_slug(title, 'post')}-{post.id}"
        placement = Placement(
            id=0, blog_id=self._blog.id, post_id=post.id, revision=1, zone=self._blog.zone,
            goes_out_wall=wall(goes_out, self._blog.zone), comes_down_wall=None, goes_out=goes_out, comes_down=FOREVER,
            shows_from=goes_out, shows_until=FOREVER, path=path_of(self._blog.pattern, slug, filed(self._subjects, categories, goes_out, self._blog.zone)), audience=EVERYONE, slug=slug,
            author_id=self._person.id, excerpt="", description="", categories=tuple(categories), tags=tuple(tags), media=(),
            placed_by=self._person.id, placed_at=min(goes_out, self._now),
        )  # fmt: skip
        if 0.05 <= state < 0.06 and goes_out < self._now:
            placement = replace(placement, shows_until=min(self._now, goes_out + 86400))
        placements.add(db, placement, category_lists(self._subjects, categories))
        stale.mark_posts(db, self._blog.id, post.id)
        posts.settle(db, post.id, goes_out - 3600, slug=slug, goes_out_wall=placement.goes_out_wall)

    def _pick(self, some: Sequence[str]) -> str:
        """One of them; `choice` takes four times as long, and a text is a thousand of these."""
        return some[int(self._chance.random() * len(some))]

    def _between(self, least: int, most: int) -> int:
        return least + int(self._chance.random() * (most - least + 1))

    def _title(self) -> str:
        pick = self._pick
        forms: tuple[Callable[[], str], ...] = (
            lambda: f"The {pick(ADJECTIVES)} {pick(NOUNS)} and the {pick(NOUNS)}",
            lambda: f"What a {pick(ADJECTIVES)} {pick(NOUNS)} {pick(VERBS)}",
            lambda: f"{pick(NOUNS).capitalize()} or {pick(NOUNS)}: how to tell",
            lambda: f"Why the {pick(NOUNS)} {pick(VERBS)}",
        )
        return forms[int(self._chance.random() * len(forms))]()

    def _sentence(self) -> str:
        pick = self._pick
        start = f"The {pick(ADJECTIVES)} {pick(NOUNS)} {pick(VERBS)}"
        middle = f" when the {pick(NOUNS)} {pick(VERBS)}" if self._chance.random() < 0.6 else ""
        return f"{start}{middle}, {pick(ENDS)}."

    def _paragraph(self) -> dict[str, Any]:
        sentences = " ".join([self._sentence() for _ in range(self._between(2, 6))])
        content: list[dict[str, Any]] = [{"type": "text", "text": sentences}]
        if self._chance.random() < 0.25:
            link = {"type": "link", "attrs": {**_LINK, "href": f"https://{self._pick(NOUNS)}.example/"}}
            content = [
                {"type": "text", "text": f"{sentences} "},
                {"type": "text", "text": self._sentence(), "marks": [link]},
            ]
        return {"type": "paragraph", "attrs": _PARAGRAPH, "content": content}

    def _document(self) -> dict[str, Any]:
        """A document in its normal form, so that it need not be checked."""
        chance = self._chance
        blocks = [self._paragraph()]
        for _ in range(self._between(1, 5)):
            if chance.random() < 0.7:
                words = f"{self._pick(ADJECTIVES).capitalize()} {self._pick(NOUNS)}"
                blocks.append(
                    {"type": "heading", "attrs": _HEADING, "content": [{"type": "text", "text": words}]}
                )
            blocks += [self._paragraph() for _ in range(self._between(1, 3))]
            if chance.random() < 0.3:
                items = [
                    {"type": "listItem", "content": [self._paragraph()]} for _ in range(self._between(2, 4))
                ]
                blocks.append({"type": "bulletList", "attrs": _LIST, "content": items})
            if chance.random() < 0.15:
                blocks.append({"type": "quote", "attrs": _QUOTE, "content": [self._paragraph()]})
        return {"type": "doc", "content": blocks}


def _usual(kind: NodeType | MarkType, **more: object) -> dict[str, object]:
    """The attributes of a kind of block or mark, with their defaults."""
    return {row.name: more.get(row.name, row.default) for row in kind.attributes}


_PARAGRAPH, _HEADING, _LIST, _QUOTE = (
    _usual(NODE["paragraph"]),
    _usual(NODE["heading"], level=2),
    _usual(NODE["bulletList"]),
    _usual(NODE["quote"]),
)
_LINK = _usual(MARK["link"])
