"""The rules by which saved blocks stand below posts: tried first, then given to readers; and which of them show below a post, and why."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any

from mobbet.actions import kept_blocks
from mobbet.actions.access import owned_blog, readable_post
from mobbet.actions.house_values import HouseValue
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core import promos as rules
from mobbet.core.document import schema
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.document.mentions import expanded
from mobbet.core.errors import BadInput
from mobbet.core.filing import path_in_words, read_category
from mobbet.core.frontmatter import fields_of
from mobbet.core.house import PROMOS
from mobbet.core.names import one_line
from mobbet.core.promo_places import Filed, Verdict, text_of, verdicts
from mobbet.core.promos import MOST_BELOW, Promo, Promos, promos_text, read_never, read_promos
from mobbet.core.timing import instant_of_wall
from mobbet.core.when import read_when
from mobbet.publish.published import Published
from mobbet.store import filing, kept, posts
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.posts import Post
from mobbet.store.snapshot import SiteSnapshot

Change = Callable[[Promos], Promos]
VALUE = HouseValue(PROMOS, read_promos, promos_text, "the blocks below posts changed")
given, present = VALUE.given, VALUE.present
try_change, give_change = VALUE.try_change, VALUE.give_change
FILE_FIELDS = ("name", "categories", "tags", "never", "from", "until", "weight")
"""The fields of a file with a rule and its block, in front matter before the block as Markdown."""


def adding(workshop: Workshop, blog: Blog, block: str) -> Change:
    """The change that adds a rule for a saved block, by its name or number. Raises BadInput where there is none."""
    number = block_named(workshop, blog, block)
    return lambda promos: rules.added(promos, number)


def block_named(workshop: Workshop, blog: Blog, text: str) -> int:
    """A saved block by its name, or its number. Raises BadInput."""
    words = one_line(text)
    found = kept.every(workshop.db, blog.id)
    number = next((one.id for one in found if words in (one.name, str(one.id))), None)
    if number is None:
        raise BadInput(
            f"“{words[:60]}” is no saved block; choose one of the list, or save one in the writing room first.",
            "block",
        )
    return number


def most(count: int) -> Change:
    if not 1 <= count <= MOST_BELOW:
        raise BadInput(f"1 to {MOST_BELOW} blocks can stand below a post; {count} is another number.", "most")
    return lambda promos: replace(promos, most=count)


def removing(number: int) -> Change:
    return lambda promos: rules.removed(promos, number)


def setting(workshop: Workshop, blog: Blog, number: int, field: str, typed: str) -> Change:
    """The change that gives a rule what was typed for one of its words: `block`, `place` (one more), `never`, `from`, `until` or `weight`. Raises
    BadInput."""
    if field == "place":
        return _with_place(number, *_place(workshop, blog, typed))
    values = _SETTINGS[field](workshop, blog, typed) if field in _SETTINGS else None
    if values is None:
        raise BadInput(f"“{field[:30]}” is nothing of a rule; choose a word on yellow.", "where")
    return lambda promos: rules.changed(promos, number, **values)


_SETTINGS: dict[str, Callable[[Workshop, Blog, str], dict[str, Any]]] = {
    "block": lambda workshop, blog, typed: {"block": block_named(workshop, blog, typed)},
    "never": lambda workshop, blog, typed: {"never": read_never(typed)},
    "from": lambda workshop, blog, typed: {"shows_from": _instant(workshop, blog, typed, "from")},
    "until": lambda workshop, blog, typed: {"shows_until": _instant(workshop, blog, typed, "until")},
    "weight": lambda workshop, blog, typed: {"weight": _whole(typed)},
}
"""{field: (workshop, blog, what was typed) -> values of the rule}."""


def _with_place(number: int, kind: str, place: int) -> Change:
    def change(promos: Promos) -> Promos:
        there: tuple[int, ...] = getattr(promos.rule(number), kind)
        return rules.changed(promos, number, **{kind: tuple(dict.fromkeys((*there, place)))})

    return change


def leaving(number: int, kind: str, place: int) -> Change:
    """The change that takes a category or a tag (`categories`, `tags`) from a rule. Raises BadInput for another kind."""
    if kind not in ("categories", "tags"):
        raise BadInput("A rule is for categories and tags; look at it again.", "where")
    return lambda promos: rules.changed(
        promos, number, **{kind: tuple(one for one in getattr(promos.rule(number), kind) if one != place)}
    )


def _place(workshop: Workshop, blog: Blog, typed: str) -> tuple[str, int]:
    """(`categories` or `tags`, the number) of what was typed: a category by its path in words or its slug, or a tag by its name."""
    db, words = workshop.db, one_line(typed)
    kind, _, rest = words.partition(":")
    if kind in ("category", "tag") and rest:
        words = rest.strip()
    subjects = filing.subjects(db, blog.id)
    if kind != "tag":
        try:
            wanted = [part.casefold() for part in read_category(words)]
        except BadInput:
            wanted = []
        for one in subjects:
            path = [part.strip().casefold() for part in path_in_words(subjects, one).split(">")]
            if wanted and (path == wanted or (len(wanted) == 1 and words.strip("/") == subjects[one].slug)):
                return "categories", one
    tag = filing.find_tag(db, blog.id, words) if kind != "category" and words else None
    if tag:
        return "tags", tag.id
    raise BadInput(
        f"“{words[:60]}” is no category and no tag of this blog; write one that there is, like Lamps > Wiring.",
        "place",
    )


def _instant(workshop: Workshop, blog: Blog, typed: str, field: str) -> int | None:
    """What was typed as a time of the blog; None for nothing. Raises BadInput."""
    words = one_line(typed)
    if not words or words.casefold() in ("always", "now", "for good"):
        return None
    return instant_of_wall(read_when(words, workshop.clock(), blog.zone, field), blog.zone)


def _whole(typed: str) -> int:
    text = typed.strip()
    if not (text.isascii() and text.isdecimal() and len(text) < 4):
        raise BadInput(
            f"“{text[:20]}” is no weight; write a whole number from 1 to {rules.HEAVIEST}.", "weight"
        )
    return int(text)


@dataclass(frozen=True)
class AddedFromFile:
    """The rule that a file made, the saved block it shows, and the edition that readers got."""

    rule: Promo
    block: str
    published: Published


def add_file(workshop: Workshop, person: Person, slug: str, text: str) -> AddedFromFile:
    """Gives readers a rule and its block as a file has them: front matter (`FILE_FIELDS`), then the block as Markdown. A saved block of that name gets
    these words; without any, it stays as it is. Raises BadInput."""
    blog = owned_blog(workshop, person, slug)
    fields, body = fields_of(text)
    unknown = next((name for name in fields if name not in FILE_FIELDS), None)
    if unknown is not None:
        raise BadInput(f"“{unknown}” is nothing of a rule; the fields are {', '.join(FILE_FIELDS)}.", "file")
    name = one_line(str(fields.get("name") or ""))
    with changing(workshop, person, VALUE.why) as unit:
        block = _block_of_file(workshop, person, blog, name, body)
        number = 0

        def change(promos: Promos) -> Promos:
            nonlocal number
            promos = rules.added(promos, block)
            number = promos.rules[-1].id
            for field, kind in (("categories", "category"), ("tags", "tag")):
                for place in _listed(fields.get(field)):
                    promos = setting(workshop, blog, number, "place", f"{kind}:{place}")(promos)
            for field in ("never", "from", "until", "weight"):
                if fields.get(field) is not None:
                    typed = ", ".join(_listed(fields[field])) if field == "never" else str(fields[field])
                    promos = setting(workshop, blog, number, field, typed)(promos)
            return promos

        give_change(workshop, person, slug, change)
    return AddedFromFile(given(workshop, blog).rule(number), name, unit.published(blog))


def _listed(value: Any) -> list[str]:
    """A list of words as front matter has them, or several with commas."""
    items = value if isinstance(value, list) else [] if value is None else str(value).split(",")
    return [one_line(str(item)) for item in items if one_line(str(item))]


def _block_of_file(workshop: Workshop, person: Person, blog: Blog, name: str, body: str) -> int:
    there = next((one for one in kept.every(workshop.db, blog.id) if one.name == name), None)
    if not body.strip():
        return block_named(workshop, blog, name)
    document = schema.check(from_markdown(body))
    if there is None:
        return kept_blocks.keep_blocks(workshop, person, blog.slug, name, document["content"]).id
    kept_blocks.change_kept(workshop, person, blog.slug, there.id, name, document)
    return there.id


@dataclass(frozen=True)
class BelowPost:
    """What each rule does below a post: the post, and the verdicts in the order of the rules, with the names of the blocks."""

    post: Post
    verdicts: list[tuple[str, Verdict]]


def below(workshop: Workshop, person: Person, post_id: int, promos: Promos | None = None) -> BelowPost:
    """What the rules that readers get, or others, do below a post now: as readers have it, or as it is written where it is not out."""
    post, blog = readable_post(workshop, person, post_id)
    snapshot = SiteSnapshot(workshop.db, blog.id, workshop.clock())
    shown = snapshot.post(post.id)
    if shown:
        filed = Filed(post.id, shown.categories, shown.tags)
        text = text_of(snapshot.body(shown), shown.title, shown.subtitle)
    else:
        revision = posts.working(workshop.db, post.id)
        whole = expanded(schema.load(revision.body), snapshot.standing_copy)
        filed = Filed(
            post.id, tuple(posts.categories(workshop.db, post.id)), tuple(posts.tags(workshop.db, post.id))
        )
        text = text_of(whole, revision.title, revision.subtitle)
    promos = given(workshop, blog) if promos is None else promos
    names = {one.id: one.name for one in kept.every(workshop.db, blog.id)}
    found = (
        verdicts(
            promos,
            filed,
            snapshot.categories,
            text,
            workshop.clock(),
            names.__contains__,
            lambda place: place_name(snapshot, place),
        )
        if not post.is_page
        else [Verdict(rule, False, "nothing stands below pages") for rule in promos.rules]
    )
    return BelowPost(post, [(names.get(one.rule.block, "a block that is gone"), one) for one in found])


def place_name(snapshot: SiteSnapshot, place: int) -> str:
    """What `promo_places.place_of` answers with, in words."""
    if place > 0:
        return f"it is filed in {path_in_words(snapshot.categories, place)}"
    tag = next((one.name for one in snapshot.tags((-place,))), "") if place else ""
    return f"it has the tag {tag}" if tag else "it is for every post"
