"""Posts like one: computed when it is placed, kept as facts, and changed by its writer."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace

from mobbet.actions.access import editable_post
from mobbet.actions.docket_lines import other_post
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.alike import (
    MOST,
    Choice,
    Likeness,
    Matter,
    checked,
    counted_words,
    likeness,
    read_choice,
    reason,
    telling,
)
from mobbet.core.audience import EVERYONE
from mobbet.core.document import schema
from mobbet.core.document.mentions import expanded, linked_posts
from mobbet.core.document.write import to_text
from mobbet.core.errors import BadInput
from mobbet.core.searching import spaced
from mobbet.store import alike as store
from mobbet.store import blogs, filing, placements, posts, stale
from mobbet.store import kept as kept_store
from mobbet.store.alike import Alike, Standing
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.placements import Placement
from mobbet.store.posts import Post

MOST_CANDIDATES, MOST_BY_TAG, SEARCHED_WORDS = 24, 12, 8
COMMON = 0.12
"""A word that stands in a greater part of all pages tells nothing; of few pages, one that stands in more than this many does."""
FEW = 6


def join(workshop: Workshop, blog: Blog, placement: Placement) -> None:
    """Computes the posts like one that was placed, and puts it among those that it is like: at most so many pages change. In the unit of work that places it."""
    db, now = workshop.db, workshop.clock()
    store.set_due(db, placement.post_id, False)
    found = _alike(workshop, blog, _placed(placement), now) if not placement.is_page else []
    _keep(workshop, blog.id, placement.post_id, found)
    is_open = placement.audience == EVERYONE and not placement.is_page
    mine = {row.other_id: row for row in found} if is_open else {}
    for other in {*mine, *store.showing(db, placement.post_id)}:
        rows = [row for row in store.of_post(db, other) if row.other_id != placement.post_id]
        if other in mine:
            rows.append(replace(mine[other], post_id=other, other_id=placement.post_id))
        rows.sort(key=lambda row: (-row.score, -row.other_id))
        _keep(workshop, blog.id, other, rows[:MOST])


def _keep(workshop: Workshop, blog_id: int, post_id: int, rows: list[Alike]) -> None:
    if rows != store.of_post(workshop.db, post_id):
        store.replace(workshop.db, post_id, rows)
        stale.mark_fact(workshop.db, blog_id, "alike", post_id)


@dataclass(frozen=True)
class _Text:
    """What is compared of a post: a revision with the filing it has, or would have."""

    post_id: int
    revision: int
    tags: tuple[int, ...]
    categories: tuple[int, ...]
    language: str
    series_id: int | None


def _placed(row: Placement) -> _Text:
    return _Text(row.post_id, row.revision, row.tags, row.categories, row.language, row.series_id)


def _alike(workshop: Workshop, blog: Blog, placement: _Text, now: int) -> list[Alike]:
    db = workshop.db
    matter = _matter(workshop, blog, placement)
    pages = store.count_pages(db)
    rarity = _rarity(pages, store.frequencies(db, matter.words))
    searched = telling(matter.words, rarity, SEARCHED_WORDS)
    numbers = {
        *store.candidates(db, blog.id, searched, placement.post_id, MOST_CANDIDATES),
        *store.sharing_tags(db, blog.id, matter.tags, placement.post_id, now, MOST_BY_TAG),
        *matter.links,
    }
    others = [
        one
        for one in store.standing(db, blog.id, numbers - {placement.post_id}, now)
        if one.series_id is None or one.series_id != placement.series_id
    ]
    matters = {one.id: _matter_of(one) for one in others}
    words = {word for one in matters.values() for word in one.words} | matter.words.keys()
    rarity = _rarity(pages, store.frequencies(db, words))
    found = [
        (likeness(matter, matters[one.id], (placement.post_id, one.id), rarity), one.id) for one in others
    ]
    best = sorted(
        ((one, number) for one, number in found if one), key=lambda pair: (-pair[0].score, -pair[1])
    )
    return [
        Alike(blog.id, placement.post_id, number, one.score, _reason(workshop, blog, one))
        for one, number in best[:MOST]
    ]


def _rarity(pages: int, frequencies: dict[str, int]) -> Callable[[str], float]:
    """How much a word tells: the logarithm of how few pages have it; 0 for one that no other page has, or that very many have."""

    def rarity(word: str) -> float:
        count = frequencies.get(word, 0)
        if not count or count > max(FEW, COMMON * pages):
            return 0.0
        return math.log(1 + (pages + 1) / count)

    return rarity


def _matter(workshop: Workshop, blog: Blog, placement: _Text) -> Matter:
    revision = posts.revision(workshop.db, placement.post_id, placement.revision)
    assert revision is not None
    body = expanded(
        schema.load(revision.body), lambda number: kept_store.document(workshop.db, blog.id, number)
    )
    text = spaced(f"{revision.subtitle}\n{to_text(body)}")
    words = counted_words(spaced(revision.title), text, placement.language or blog.language)
    return Matter(
        words, frozenset(placement.tags), frozenset(placement.categories), frozenset(linked_posts(body))
    )


def _matter_of(one: Standing) -> Matter:
    return Matter(
        counted_words(one.title, one.text, one.language or "en"),
        frozenset(one.tags),
        frozenset(one.categories),
        frozenset(one.links),
    )


def _reason(workshop: Workshop, blog: Blog, found: Likeness) -> str:
    tags = {tag.id: tag.name for tag in filing.tags(workshop.db, list(found.tags))}
    subjects = filing.subjects(workshop.db, blog.id)
    return reason(
        found, tags, {number: subjects[number].name for number in found.categories if number in subjects}
    )


def leave(workshop: Workshop, post_id: int) -> None:
    """Leaves the computation for later, where many posts are placed at once. In the unit of work that places them."""
    store.set_due(workshop.db, post_id, True)


CAUGHT_UP_AT_ONCE = 20


def catch_up(workshop: Workshop, most: int = CAUGHT_UP_AT_ONCE) -> int:
    """Computes what was left for later, of so many posts; answers with how many."""
    waiting = store.due(workshop.db, most)
    if not waiting:
        return 0
    with changing(workshop, why="posts like others were found"):
        for post_id in waiting:
            store.set_due(workshop.db, post_id, False)
            placement = placements.shown_at(placements.of_post(workshop.db, post_id), workshop.clock())
            blog = blogs.by_id(workshop.db, placement.blog_id) if placement else None
            if placement and blog:
                join(workshop, blog, placement)
    return len(waiting)


@dataclass(frozen=True)
class Shown:
    """A post like another, for its writer: why it stands there, whether it was put first or struck out, and whether readers find it now."""

    post_id: int
    title: str
    reason: str
    is_pinned: bool
    is_struck: bool
    is_out: bool


def shown(workshop: Workshop, post: Post, blog: Blog) -> tuple[Choice, list[Shown]]:
    """What was chosen for a post that was handed out, and the posts like it: those that stand there first, then those that were struck out. Of a draft, those
    that would be found now."""
    choice = read_choice(post.alike)
    rows = store.of_post(workshop.db, post.id)
    if not rows and not placements.of_post(workshop.db, post.id):
        tags, categories = posts.tags(workshop.db, post.id), posts.categories(workshop.db, post.id)
        text = _Text(post.id, post.revision, tuple(tags), tuple(categories), post.language, post.series_id)
        rows = _alike(workshop, blog, text, workshop.clock())
    kept = {row.other_id: row.reason for row in rows}
    numbers = dict.fromkeys(
        [*choice.pinned, *(one for one in kept if one not in choice.struck), *choice.struck]
    )
    now = workshop.clock()
    found = []
    for number in numbers:
        row = placements.shown_at(placements.of_post(workshop.db, number), now)
        if row is None and number not in (*choice.pinned, *choice.struck):
            continue
        title = placements.title_of(workshop.db, row) if row else "a post that is not out"
        is_out = row is not None and row.audience == EVERYONE and not row.kind
        found.append(
            Shown(
                number, title, kept.get(number, ""), number in choice.pinned, number in choice.struck, is_out
            )
        )
    return choice, found


def choose(workshop: Workshop, person: Person, post_id: int, act: str, which: str = "") -> None:
    """Changes what stands below a post: `act` is 'none', 'usual', 'strike', 'back', 'pin' or 'unpin'; `which` a post's number, or for 'pin' its title or
    address. Raises BadInput, NotFound, NotAllowed."""
    post, blog = editable_post(workshop, person, post_id)
    choice = read_choice(post.alike)
    if act in ("none", "usual"):
        choice = replace(choice, none=act == "none")
    elif act == "pin":
        number = other_post(workshop, blog, post, which, "alike")
        choice = replace(choice, pinned=_with(choice.pinned, number), struck=_without(choice.struck, number))
    elif act in ("strike", "back", "unpin"):
        number = int(which) if which.isascii() and which.isdecimal() and len(which) < 16 else 0
        choice = {
            "strike": replace(
                choice, struck=_with(choice.struck, number), pinned=_without(choice.pinned, number)
            ),
            "back": replace(choice, struck=_without(choice.struck, number)),
            "unpin": replace(choice, pinned=_without(choice.pinned, number)),
        }[act]
    else:
        raise BadInput(f"“{act[:20]}” is nothing that is done with posts like it.", "alike")
    with changing(workshop):
        posts.settle(workshop.db, post.id, workshop.clock(), alike=checked(choice).stored())


def _with(numbers: Iterable[int], number: int) -> tuple[int, ...]:
    return tuple(dict.fromkeys([*numbers, number]))


def _without(numbers: Iterable[int], number: int) -> tuple[int, ...]:
    return tuple(one for one in numbers if one != number)
