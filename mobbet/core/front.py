"""The front page as an ordered sequence of sections, one value of the menu's; each edit answers with another one."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any, NamedTuple

from mobbet.core.errors import BadInput
from mobbet.core.keys import ListName
from mobbet.core.names import one_line

NEWEST, CHOSEN, CATEGORY, TAG, CATEGORIES, MOST_READ, AUTHORS, BLOCKS, PAGES = (
    "newest",
    "chosen",
    "category",
    "tag",
    "categories",
    "most_read",
    "authors",
    "blocks",
    "pages",
)


class SectionKind(NamedTuple):
    """What a kind of section is called, the heading it has without words of its own ('' for the name of what it shows, or none), and whether
    it shows one thing by number, several that are chosen, or how many."""

    words: str
    heading: str = ""
    is_of_one: bool = False
    is_of_many: bool = False
    is_counted: bool = False


KINDS = {
    NEWEST: SectionKind("the newest posts"),
    CHOSEN: SectionKind("chosen posts", "Worth reading", is_of_many=True),
    CATEGORY: SectionKind("the newest of a category", is_of_one=True, is_counted=True),
    TAG: SectionKind("the newest with a tag", is_of_one=True, is_counted=True),
    CATEGORIES: SectionKind("all categories", "Subjects"),
    MOST_READ: SectionKind("the most read", "Most read", is_counted=True),
    AUTHORS: SectionKind("who writes", "Who writes", is_of_many=True, is_counted=True),
    BLOCKS: SectionKind("a saved block", is_of_one=True),
    PAGES: SectionKind("pages", "Pages", is_of_many=True),
}
"""{kind: what it is}."""
MOST_SECTIONS, MOST_CHOSEN, MOST_SHOWN, LONGEST_HEADING = 12, 12, 12, 60


@dataclass(frozen=True)
class Section:
    """One section: its kind, its heading ('' for the usual one), the numbers of what it shows (posts, one category or tag, people, one saved block, pages),
    how many it shows at most, and whether it shows pictures of what has none in its text."""

    kind: str
    words: str = ""
    of: tuple[int, ...] = ()
    most: int = 4
    pictures: bool = False

    @property
    def list_name(self) -> ListName | None:
        """The list of which it shows the newest posts; None for another kind."""
        if self.kind in (CATEGORY, TAG) and self.of:
            return ListName.of(self.kind, self.of[0])
        return None


Sections = tuple[Section, ...]
USUAL: Sections = (Section(NEWEST),)


def read_section(data: dict[str, Any]) -> Section:
    """A section that was kept."""
    return Section(**{**data, "of": tuple(data.get("of", ()))})


def read_heading(text: str) -> str:
    """The words above a section. Raises BadInput when they are too long."""
    words = one_line(text)
    if len(words) > LONGEST_HEADING:
        raise BadInput(
            f"“{words[:30]}…” has {len(words)} letters; {LONGEST_HEADING} is the most above a section.",
            "words",
        )
    return words


def at(sections: Sections, place: int) -> Section:
    """The section at a place, from 0. Raises BadInput where none stands."""
    if not 0 <= place < len(sections):
        raise BadInput(
            f"The front page has no section {place + 1}; look at it again, somebody may have changed it.",
            "at",
        )
    return sections[place]


def added(sections: Sections, section: Section, place: int | None = None) -> Sections:
    """With one more, at the end or at a place. Raises BadInput where the page is full, and for a second one of what stands there."""
    if len(sections) >= MOST_SECTIONS:
        raise BadInput(
            f"{MOST_SECTIONS} sections are the most on a front page; take one out first.", "section"
        )
    kind = KINDS[section.kind]
    if not kind.is_of_many and any(one.kind == section.kind and one.of == section.of for one in sections):
        raise BadInput("That section stands on the front page already.", "section")
    place = len(sections) if place is None else max(0, min(place, len(sections)))
    return (*sections[:place], section, *sections[place:])


def removed(sections: Sections, place: int) -> Sections:
    """Without the section at a place. Raises BadInput for the newest posts, to which older pages lead back."""
    if at(sections, place).kind == NEWEST:
        raise BadInput("The newest posts always stand on the front page; move them down instead.", "at")
    return (*sections[:place], *sections[place + 1 :])


def moved(sections: Sections, place: int, to: int) -> Sections:
    """With the section at a place moved to another one, by the order without it."""
    section = at(sections, place)
    rest = [*sections[:place], *sections[place + 1 :]]
    rest.insert(max(0, min(to, len(rest))), section)
    return tuple(rest)


def changed(sections: Sections, place: int, **values: Any) -> Sections:
    """With other values of the section at a place."""
    section = replace(at(sections, place), **values)
    return (*sections[:place], section, *sections[place + 1 :])


def with_one_more(section: Section, number: int) -> Section:
    """A section that shows one more of what is chosen. Raises BadInput where it is full or shows it already."""
    if number in section.of:
        raise BadInput("That is shown there already.", "value")
    if len(section.of) >= MOST_CHOSEN:
        raise BadInput(f"{MOST_CHOSEN} are the most in one section; take one out first.", "value")
    return replace(section, of=(*section.of, number))


Change = Callable[[Sections], Sections]
