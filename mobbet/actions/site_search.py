"""Search on a blog's site, for each reader: words, phrases, one slip forgiven, narrowed to a category or a tag."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

from mobbet.actions.access import blog_for
from mobbet.actions.attention import note_idea
from mobbet.actions.post_search import plain
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.audience import Reader
from mobbet.core.keys import ListName
from mobbet.core.names import one_line
from mobbet.core.proofing.slips import LONGEST, letters_for, slips_of
from mobbet.core.rights import Action
from mobbet.core.searching import Query, matching, place_of, read_words
from mobbet.publish.site_index import bring_up_to_date as read_pages
from mobbet.store import filing, site_search
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.site_search import Scope

ON_PAGE, MOST_PAGES = 10, 50
SECONDS, MOST_SLIPS, MOST_NEAR = 2.0, 3, 12
READ_AT_ONCE, MOST_NARROWINGS, FEW = 300, 6, 600
LONGEST_WORDS, LONGEST_BEGINNING = 60, 140
Parts = list[tuple[str, bool]]
"""Text as (words, is a hit)."""


@dataclass(frozen=True)
class Asked:
    """What a reader asks for: words, and the slugs of a category and a tag to narrow results to; `number` is the page of results, from 1."""

    words: str = ""
    category: str = ""
    tag: str = ""
    number: int = 1


@dataclass(frozen=True)
class Result:
    """A page that was found: its title and the place in its text, with the hits marked."""

    path: str
    title: Parts
    place: Parts


@dataclass(frozen=True)
class Narrowing:
    """A category or tag to which the results can be narrowed, or are: its slug, and how many results it has."""

    kind: str
    slug: str
    name: str
    count: int
    is_chosen: bool


@dataclass(frozen=True)
class Found:
    """What a search came to. `instead` has {a word as typed: the one that was taken for it}."""

    asked: Asked
    total: int = 0
    results: tuple[Result, ...] = ()
    instead: tuple[tuple[str, str], ...] = ()
    narrowings: tuple[Narrowing, ...] = ()
    problem: str = ""

    @property
    def pages(self) -> int:
        """How many pages of results there are."""
        return min(MOST_PAGES, -(-self.total // ON_PAGE))


def bring_up_to_date(workshop: Workshop, blog_id: int = 0, most: int = 100_000) -> int:
    """Reads pages that changed into the index, those of one blog first; answers with how many."""
    return read_pages(workshop.db, workshop.pages, blog_id, most)


def find(workshop: Workshop, blog: Blog, reader: Reader, asked: Asked) -> Found:
    """What a reader finds on the site as the current edition has it. Raises TooMuch for a search that takes too long."""
    query = read_words(asked.words)
    if not query.phrases:
        return Found(asked)
    if site_search.is_any_to_index(workshop.db):
        bring_up_to_date(workshop, blog.id, READ_AT_ONCE)
    with workshop.db.within(SECONDS, "This search"), workshop.db.reading():
        return _find(workshop, blog, reader, asked, query)


def _find(workshop: Workshop, blog: Blog, reader: Reader, asked: Asked, query: Query) -> Found:
    db = workshop.db
    chosen = _chosen(workshop, blog, asked)
    if chosen is None:
        return Found(asked)
    whole = Scope(blog.id, workshop.clock(), site_search.audiences_of(reader))
    scope = replace(whole, lists=tuple(chosen))
    first = (max(1, min(asked.number, MOST_PAGES)) - 1) * ON_PAGE
    hits, total = site_search.search(db, scope, matching(query), first + ON_PAGE)
    instead: dict[str, str] = {}
    if not total:
        query, instead = _without_slips(workshop, scope, query)
        if instead:
            hits, total = site_search.search(db, scope, matching(query), first + ON_PAGE)
    shown = hits[first : first + ON_PAGE]
    texts = site_search.texts(db, shown)
    results = tuple(
        Result(
            one.path,
            place_or_all(texts[one.id][0], query),
            place_of(texts[one.id][1], query) or _beginning(texts[one.id][1]),
        )
        for one in shown
    )
    posts = [hit.post_id for hit in hits] if total <= FEW else []
    narrowings = _narrowings(workshop, scope, chosen, posts, total) if total else ()
    return Found(asked, total, results, tuple(instead.items()) if total else (), narrowings)


def place_or_all(title: str, query: Query) -> Parts:
    """A title with its hits marked; whole, where none stands in it."""
    found = place_of(title, query)
    is_whole = found and not found[0][0].startswith("…") and not found[-1][0].endswith("…")
    return found if is_whole else [(title, False)]


def _beginning(text: str) -> Parts:
    words = " ".join(text[: 2 * LONGEST_BEGINNING].split())
    is_cut = len(words) > LONGEST_BEGINNING
    return [(words[:LONGEST_BEGINNING].rsplit(" ", 1)[0] + "…" if is_cut else words, False)] if words else []


def _chosen(workshop: Workshop, blog: Blog, asked: Asked) -> list[ListName] | None:
    """The lists to which results are narrowed; None for a category or tag that there is not."""
    found: list[ListName] = []
    for kind, slug, number_of in (
        ("category", asked.category, filing.category_with_slug),
        ("tag", asked.tag, filing.tag_with_slug),
    ):
        number = number_of(workshop.db, blog.id, slug) if slug else None
        if slug and number is None:
            return None
        found += [ListName.of(kind, number)] if number else []
    return found


def _without_slips(workshop: Workshop, scope: Scope, query: Query) -> tuple[Query, dict[str, str]]:
    """The query with the nearest word that the reader can find in the place of each that they cannot."""
    instead: dict[str, str] = {}
    phrases, tried = [], 0
    for at, words in enumerate(query.phrases):
        for number, word in enumerate(words):
            one = plain(word)
            is_begun = query.is_open and at == len(query.phrases) - 1 and number == len(words) - 1
            if not 2 < len(one) <= LONGEST or tried >= MOST_SLIPS or _counts(workshop, scope, one, is_begun):
                continue
            tried += 1
            near = site_search.near_terms(
                workshop.db,
                scope,
                (other for _, other in slips_of(one, letters_for(one)) if other != one),
                MOST_NEAR,
            )
            counts = {other: _counts(workshop, scope, other) for other in near}
            best = max(near, key=lambda other: (counts[other], other), default="")
            if best and counts[best]:
                instead[word] = best
        phrases.append(tuple(instead.get(word, word) for word in words))
    return replace(query, phrases=tuple(phrases), is_open=query.is_open and not instead), instead


def _counts(workshop: Workshop, scope: Scope, word: str, is_begun: bool = False) -> int:
    return site_search.count(workshop.db, scope, f'"{word}"{"*" if is_begun else ""}', 50)


def _narrowings(
    workshop: Workshop, scope: Scope, chosen: list[ListName], posts: list[int], total: int
) -> tuple[Narrowing, ...]:
    """Categories and tags that part the results, where those are few (`posts`); those that are chosen already in any case."""
    found = []
    for kind in ("category", "tag"):
        rows = [
            (ListName(name), count)
            for name, count in site_search.lists_of(workshop.db, scope, posts, f"{kind}:", 40)
        ]
        shown = [(name, count) for name, count in rows if name in chosen or count < total][:MOST_NARROWINGS]
        missing = [(name, total) for name in chosen if name.kind == kind and name not in dict(shown)]
        subjects = _subjects(workshop, scope, kind, [name.number for name, _ in (*missing, *shown)])
        found += [
            Narrowing(kind, *subjects[name.number], count, name in chosen)
            for name, count in (*missing, *shown)
            if name.number in subjects
        ]
    return tuple(found)


def _subjects(workshop: Workshop, scope: Scope, kind: str, numbers: list[int]) -> dict[int, tuple[str, str]]:
    """{number: (slug, name)}."""
    if kind == "tag":
        return {tag.id: (tag.slug, tag.name) for tag in filing.tags(workshop.db, numbers)}
    every = filing.subjects(workshop.db, scope.blog_id)
    return {number: (every[number].slug, every[number].name) for number in numbers if number in every}


def missed_words(found: Found) -> str:
    """The words of a search that found nothing, as they are counted; '' for those that say too much, or too little."""
    words = one_line(found.asked.words).lower()
    is_plain = not found.total and not found.asked.category and not found.asked.tag
    return words if is_plain and 2 < len(words) <= LONGEST_WORDS and "@" not in words else ""


def count_missed(workshop: Workshop, blog_id: int, day: int, words: Mapping[str, int]) -> None:
    """Adds what readers searched for on a day and did not find."""
    with changing(workshop):
        site_search.note_not_found(workshop.db, blog_id, day, dict(words))


def missed(workshop: Workshop, blog: Blog, most: int = 12) -> list[tuple[str, int]]:
    """(words, how often) of what readers searched for in vain on three days at least."""
    return site_search.not_found(workshop.db, blog.id, most)


def keep_as_idea(workshop: Workshop, person: Person, slug: str, words: str) -> None:
    """Makes an idea of words that were searched for in vain, and counts them no more. Raises NotFound, NotAllowed, BadInput."""
    blog = blog_for(workshop, person, slug, Action.ANY_AUTHOR)
    with changing(workshop, person):
        note_idea(workshop, person, slug, words, "Readers searched for it.")
        site_search.forget_not_found(workshop.db, blog.id, words)
