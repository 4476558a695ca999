"""Searches posts: by what is typed, forgiving a typing error where nothing matches, and by the filters of the desk."""

from __future__ import annotations

import unicodedata
from dataclasses import dataclass, replace

from mobbet.actions.indexing import bring_up_to_date
from mobbet.actions.permalinks import category_subjects
from mobbet.actions.workshop import Workshop
from mobbet.core.facts import Subject
from mobbet.core.filing import path_in_words
from mobbet.core.proofing.slips import LONGEST, letters_for, slips_of
from mobbet.core.searching import Query, matching, place_of, read
from mobbet.store import finding, people
from mobbet.store.blogs import Blog
from mobbet.store.finding import Found, Wanted

MOST_FOUND = 24
SECONDS, MOST_SLIPS = 2.0, 4
"""How long a search may take, and of how many words that stand nowhere a near one is looked for."""


@dataclass(frozen=True)
class Result:
    """What a search found: the first posts, how many there are, {a word typed: the one that was taken instead}, and what could not be meant."""

    posts: list[Found]
    total: int
    instead: dict[str, str]
    problems: tuple[str, ...]
    query: Query


def find(workshop: Workshop, blog: Blog, text: str, most: int = MOST_FOUND) -> Result:
    """Posts as a query wants them (`core/searching.py`), by the text of their last save. Raises TooMuch for a query that takes too long."""
    with workshop.db.within(SECONDS, "This search"):
        return _find(workshop, blog, text, most)


def _find(workshop: Workshop, blog: Blog, text: str, most: int) -> Result:
    query = read(text, blog.zone)
    if query.is_empty:
        return Result([], 0, {}, query.problems, query)
    bring_up_to_date(workshop, blog)
    wanted = wanted_of(workshop, blog, query)
    posts, total = finding.search(workshop.db, blog.id, wanted, workshop.clock(), most)
    instead: dict[str, str] = {}
    if not total and query.phrases:
        query, instead = _without_slips(workshop, query)
        if instead:
            posts, total = finding.search(
                workshop.db, blog.id, wanted_of(workshop, blog, query), workshop.clock(), most
            )
    return Result(posts, total, instead if total else {}, query.problems, query)


def places(workshop: Workshop, result: Result) -> dict[int, list[tuple[str, bool]]]:
    """{post: the place in its text that was found, as (words, is a hit) parts}; [] where the words stand in its title alone."""
    if not result.query.phrases:
        return {one.id: [] for one in result.posts}
    texts = finding.texts(workshop.db, [one.id for one in result.posts])
    return {one.id: place_of(texts.get(one.id, ""), result.query) for one in result.posts}


def wanted_of(workshop: Workshop, blog: Blog, query: Query) -> Wanted:
    """A query in the terms of the database: the numbers of categories (with those below them) and of authors."""
    subjects = category_subjects(workshop, blog) if query.categories else {}
    members = people.of_blog(workshop.db, blog.id) if query.authors else []
    return Wanted(
        match=matching(query),
        tags=query.tags,
        categories=tuple(_categories(subjects, name) for name in query.categories),
        authors=tuple(
            frozenset(
                one.id
                for one in members
                if any(
                    word.casefold().startswith(name.casefold())
                    for word in (*one.name.split(), one.name, one.email)
                )
            )
            for name in query.authors
        ),
        states=query.states,
        is_page=query.is_page,
        before=query.before,
        after=query.after,
    )


def _categories(subjects: dict[int, Subject], name: str) -> frozenset[int]:
    """The categories of a name, a slug or a path `A > B`, and all below them."""
    said = " > ".join(part.strip() for part in name.casefold().split(">"))
    named = {
        number
        for number, one in subjects.items()
        if said in (one.name.casefold(), one.slug.casefold(), path_in_words(subjects, number).casefold())
    }
    return below(subjects, named)


def below(subjects: dict[int, Subject], named: set[int]) -> frozenset[int]:
    """Categories with all that are below them."""
    found, fresh = set(named), set(named)
    while fresh:
        fresh = {number for number, one in subjects.items() if one.parent_id in fresh} - found
        found |= fresh
    return frozenset(found)


def _without_slips(workshop: Workshop, query: Query) -> tuple[Query, dict[str, str]]:
    """The query with each word that no text has in the place of the nearest one that some text has."""
    instead: dict[str, str] = {}
    phrases, tried = [], 0
    for at, words in enumerate(query.phrases):
        is_last = query.is_open and at == len(query.phrases) - 1
        for word in words:
            one = plain(word)
            if (
                2 < len(one) <= LONGEST
                and tried < MOST_SLIPS
                and not finding.is_term(workshop.db, one, is_last)
            ):
                tried += 1
                near = finding.near_terms(
                    workshop.db,
                    list(
                        dict.fromkeys(other for _, other in slips_of(one, letters_for(one)) if other != one)
                    ),
                )
                if near:
                    instead[word] = near[0]
        phrases.append(tuple(instead.get(word, word) for word in words))
    return replace(query, phrases=tuple(phrases)), instead


def plain(word: str) -> str:
    """A word as the index has it: in small letters, without accents."""
    return "".join(
        letter
        for letter in unicodedata.normalize("NFD", word.lower())
        if unicodedata.category(letter) != "Mn"
    )
