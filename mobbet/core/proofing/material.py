"""What the proof reads: the document block by block, the docket, the blog's rules, and what is known of the world outside."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from functools import cached_property

from mobbet.core.proofing.bounded import BoundedWords
from mobbet.core.proofing.marks import Mark
from mobbet.core.proofing.meant import Own
from mobbet.core.proofing.passages import Link, Node, Passage, passages_of, sampled
from mobbet.core.proofing.spellings import bare_of, is_strange, other_spellings

LEAST = 15
"""Fewer words say nothing of a language."""
_LATIN = re.compile(r"[A-Za-z\u00aa\u00ba\u00c0-\u024f\u1e00-\u1eff]")
_NOT_LATIN = frozenset("bg el sr uk ru ar he fa hi bn th zh ja ko mk be hy ka".split())


@dataclass(frozen=True)
class OtherPost:
    """What is known of another post of the blog: its state as in `core/states.py`, and the anchors of its headings."""

    title: str
    state: str
    comes_down: bool = False
    anchors: frozenset[str] = frozenset()


@dataclass(frozen=True)
class LibraryItem:
    """What is known of a picture, sound or video of the library."""

    kind: str
    name: str
    width: int
    height: int
    caption: str
    credit: str
    needs_credit: bool
    has_captions: bool
    has_transcript: bool


@dataclass(frozen=True)
class LinkAnswer:
    """What came back from an address: a problem in words ('' when it answers), since which day, and the address it redirects to permanently."""

    problem: str = ""
    since: str = ""
    ends_at: str = ""


@dataclass(frozen=True)
class Rules:
    """The house style for words and links: the styles of `checks/typography.py` ('' for none), (avoided, preferred) words, (domain, rule) pairs."""

    quotes: str = ""
    dashes: str = ""
    ellipses: str = ""
    avoided: tuple[tuple[str, str], ...] = ()
    domains: tuple[tuple[str, str], ...] = ()


@dataclass(frozen=True)
class PlannedNeighbour:
    """When and to whom the post goes out: its time in words, what is odd about it, (readers, group) that get a letter."""

    when: str = ""
    is_past: bool = False
    comes_down_first: bool = False
    same_hour: tuple[str, ...] = ()
    usual_readers: str = ""
    letters: tuple[int, str] | None = None


@dataclass(frozen=True)
class Knowledge:
    """The world outside, handed in. Without it a check says nothing.

    `aside_copies` are standing copies that were set aside: {number: (name, whether readers still get its last text)}.
    """

    knows: Callable[[str, str], bool] = lambda word, language: True
    words: BoundedWords = field(default_factory=lambda: BoundedWords(lambda word, language: []))
    has_dictionary: Callable[[str], bool] = lambda language: False
    detect_language: Callable[[str], str] = lambda text: ""
    learned: frozenset[str] = frozenset()
    titles: dict[str, int] = field(default_factory=dict)
    descriptions: dict[str, int] = field(default_factory=dict)
    posts: dict[int, OtherPost] = field(default_factory=dict)
    items: dict[int, LibraryItem] = field(default_factory=dict)
    facts: frozenset[str] = frozenset()
    rule: str = ""
    catch_all: str = ""
    answers: dict[str, LinkAnswer] = field(default_factory=dict)
    own: Own = Own()
    series_parts: tuple[int, ...] = ()
    aside_copies: dict[int, tuple[str, bool]] = field(default_factory=dict)
    lists_show_teasers: bool = True

    def is_checked(self, word: str) -> bool:
        """Whether a word is one that a dictionary could have, and not learned."""
        bare = bare_of(word)
        forms = (word, word.lower(), bare, bare.lower())
        return not is_strange(bare) and not any(form in self.learned for form in forms)

    def is_known(self, word: str, language: str) -> bool:
        """Whether the dictionary of a language has a word, in one of its spellings."""
        bare, knows = bare_of(word), self.knows
        if (
            knows(word, language)
            or knows(bare, language)
            or (bare != bare.lower() and knows(bare.lower(), language))
        ):
            return True
        return (
            language.startswith("en")
            and language != "en-US"
            and any(knows(other, language) for other in other_spellings(bare.lower()))
        )


@dataclass(frozen=True)
class DocketFacts:
    """The settings of the post that checks look at; `is_known` is false for a bare text, which has none."""

    title: str = ""
    subtitle: str = ""
    slug: str = ""
    usual_slug: str = ""
    excerpt: str = ""
    description: str = ""
    categories: tuple[str, ...] = ()
    tags: tuple[str, ...] = ()
    is_out: bool = False
    moves_from: str = ""
    moves_to: str = ""
    is_page: bool = False
    is_known: bool = True


@dataclass(frozen=True)
class Material:
    """Everything that the checks of one post read."""

    document: Node
    docket: DocketFacts
    language: str = "en"
    knowledge: Knowledge = Knowledge()
    rules: Rules = Rules()
    going: PlannedNeighbour = PlannedNeighbour()

    @cached_property
    def passages(self) -> tuple[Passage, ...]:
        """Every block of words, in reading order."""
        return tuple(
            passage
            for at, block in enumerate(self.document.get("content", ()))
            for passage in passages_of(block, (at,), self.language)
        )

    @cached_property
    def nodes(self) -> tuple[tuple[tuple[int, ...], Node], ...]:
        """(path, node) of every block, in reading order."""
        return tuple(_nodes(self.document, ()))

    @cached_property
    def sample(self) -> tuple[str, ...]:
        """The words of an even sample of the text."""
        return tuple(sampled(self.passages))

    @cached_property
    def is_foreign(self) -> bool:
        """Whether the text is in another language than it is said to be: more than half of the sampled words are none of it (`checks/foreign.py`)."""
        language, known = self.language, self.knowledge
        if not known.has_dictionary(language) or len(self.sample) < LEAST:
            return False
        looked, unknown = 0, 0
        for word in self.sample:
            is_other_script = language[:2] not in _NOT_LATIN and not _LATIN.match(word)
            if not is_other_script and not known.is_checked(word):
                continue
            looked += 1
            unknown += is_other_script or not known.is_known(word, language)
        return looked >= LEAST and unknown * 2 > looked

    @cached_property
    def links(self) -> tuple[Link, ...]:
        """Every link in the text, in reading order."""
        return tuple(link for passage in self.passages for link in passage.links())


@dataclass(frozen=True)
class OfPassage:
    """A check that reads one block of words at a time; its marks follow from that block, the rules and the knowledge alone."""

    run: Callable[[Passage, Material], Iterator[Mark]]


@dataclass(frozen=True)
class OfWhole:
    """A check that reads the post as a whole."""

    run: Callable[[Material], Iterator[Mark]]


def _nodes(node: Node, path: tuple[int, ...]) -> Iterator[tuple[tuple[int, ...], Node]]:
    for index, child in enumerate(node.get("content", ())):
        yield (*path, index), child
        yield from _nodes(child, (*path, index))
