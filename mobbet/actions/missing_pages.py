"""What readers ask for: how often each address is requested, and the requests that find nothing."""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import dataclass
from difflib import SequenceMatcher

from mobbet.actions.access import owned_blog
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.store import addresses
from mobbet.store.blogs import Blog
from mobbet.store.people import Person


@dataclass(frozen=True)
class Unresolved:
    """An address that readers asked for and that leads nowhere: how often, when last, and the likeliest target (path, title), if any."""

    path: str
    hits: int
    last_at: int
    likely: tuple[str, str] | None


def unresolved(workshop: Workshop, blog: Blog, most: int = 50) -> list[Unresolved]:
    """The addresses most asked for that lead nowhere."""
    rows = addresses.unknown(workshop.db, blog.id, most)
    known = (
        [
            (path, title, _words(path), _words(title))
            for path, _, title in addresses.public_paths(workshop.db, blog.id)
        ]
        if rows
        else []
    )
    return [Unresolved(path, hits, last_at, likeliest(path, known)) for path, hits, last_at in rows]


def likeliest(
    path: str, known: Iterable[tuple[str, str, frozenset[str], frozenset[str]]]
) -> tuple[str, str] | None:
    """The (path, title) that a mistyped address most likely meant: by the words they share, and by their letters."""
    last = path.rstrip("/").rpartition("/")[2]
    words = _words(last) or _words(path)
    best, best_score = None, 0.55
    for other, title, other_words, title_words in known:
        shared = len(words & (other_words | title_words))
        score = (
            0.8
            * shared
            / max(1, len(words))
            * (0.6 + 0.4 * len(words & other_words) / max(1, len(other_words)))
        )
        if shared or abs(len(last) - len(other)) < 20:
            slug = other.rstrip("/").rpartition("/")[2]
            if shared or (slug[:1] == last[:1] and abs(len(slug) - len(last)) <= 3):
                score = max(score, SequenceMatcher(None, last, slug, autojunk=False).ratio())
        if score > best_score:
            best, best_score = (other, title), score
    return best


def _words(text: str) -> frozenset[str]:
    return frozenset(
        word
        for word in re.findall(r"[^\W_]+", text.lower())
        if len(word) > 2 and not word.isdecimal() and word not in ("html", "php", "index", "the", "and")
    )


def dismiss(workshop: Workshop, person: Person, blog_slug: str, path: str) -> None:
    """Takes an address that leads nowhere off the list, until it is asked for again."""
    blog = owned_blog(workshop, person, blog_slug)
    with changing(workshop):
        addresses.forget_asked(workshop.db, blog.id, path)


def count(workshop: Workshop, blog_id: int, asked: dict[tuple[str, bool], int]) -> None:
    """Adds to how often addresses were asked for: {(path, whether it leads anywhere): times}."""
    now = workshop.clock()
    with changing(workshop):
        for (path, is_known), hits in asked.items():
            addresses.count_asked(workshop.db, blog_id, path, hits, now, is_known)
        if any(not is_known for _, is_known in asked):
            addresses.thin_unknown(workshop.db, blog_id)
