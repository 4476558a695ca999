"""The filter of the desk: a sentence whose words are in the address."""

from __future__ import annotations

from dataclasses import dataclass
from urllib.parse import urlencode

from mobbet.actions import desk_views
from mobbet.actions.access import is_keeper
from mobbet.actions.permalinks import category_subjects
from mobbet.actions.workshop import Workshop
from mobbet.core import states
from mobbet.core.filing import path_in_words, tree
from mobbet.store import desk_views as view_store
from mobbet.store import people
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.web.desk import addresses as to_desk
from mobbet.web.desk.contexts import FilterSentence, KeptView
from mobbet.web.shell.contexts import Choice

ANYONE = "anyone"
STATES = {
    "": "every post", states.DRAFT: "drafts", states.IN_TIMETABLE: "what is in the timetable", states.OUT: "what is published", states.CAME_DOWN: "what came down",
    states.WITHDRAWN: "what was withdrawn", states.SET_ASIDE: "what is set aside",
}  # fmt: skip
MARKS = {"": "any problem", "unsettled": "problems to settle", "clear": "no problem"}
ORDERS = {
    "newest": "newest first",
    "oldest": "oldest first",
    "untouched": "longest untouched first",
    "touched": "last changed first",
    "read": "most read first",
}


@dataclass(frozen=True)
class Filter:
    """What the sentence says; '' and 0 for whatever comes. `usual` is the author whose posts this person sees first, 0 for all."""

    state: str = ""
    author: int = 0
    category: int = 0
    marks: str = ""
    order: str = "newest"
    usual: int = 0

    @property
    def is_plain(self) -> bool:
        """Whether the groups of the desk show it, of whatever author."""
        return self == Filter(author=self.author, usual=self.usual)

    @property
    def is_usual(self) -> bool:
        return self.is_plain and self.author == self.usual

    @property
    def query(self) -> str:
        usual = Filter(author=self.usual, usual=self.usual)
        said = {name: value for name, value in self.__dict__.items() if value != getattr(usual, name)}
        return urlencode({**said, **({"author": ANYONE} if said.get("author") == 0 else {})})


def usual_author(workshop: Workshop, person: Person, blog: Blog) -> int:
    """Whose posts a person sees first: a writer their own, a keeper everyone's."""
    return 0 if is_keeper(workshop, person, blog) else person.id


def read_filter(state: str, author: str, category: str, marks: str, order: str, usual: int = 0) -> Filter:
    """The filter of an address; a word that means nothing is left out."""
    return Filter(
        state if state in STATES else "", int(author) if author.isdecimal() else 0 if author == ANYONE else usual, int(category) if category.isdecimal() else 0,
        marks if marks in MARKS else "", order if order in ORDERS else "newest", usual,
    )  # fmt: skip


def sentence_of(workshop: Workshop, person: Person, blog: Blog, chosen: Filter) -> FilterSentence:
    """The sentence with its choices, and the filters this person kept."""
    subjects = category_subjects(workshop, blog)
    members = people.of_blog(workshop.db, blog.id)
    authors = [
        Choice(_value(0, chosen), "anyone", not chosen.author),
        *(
            Choice(_value(one.id, chosen), "me" if one.id == person.id else one.name, one.id == chosen.author)
            for one in members
        ),
    ]
    categories = [
        Choice("", "any category"),
        *(
            Choice(str(one.id), f"{'– ' * depth}{one.name}, and what is below", one.id == chosen.category)
            for depth, one in tree(subjects.values())
        ),
    ]
    kept = [
        KeptView(number, name, f"{to_desk.desk(blog.slug)}?{query}", query == chosen.query)
        for number, name, query in view_store.of(workshop.db, blog.id, person.id)
    ]
    by = next((one.name for one in members if one.id == chosen.author), "")
    told = ", ".join(
        filter(
            None,
            (
                STATES[chosen.state] if chosen.state else "",
                path_in_words(subjects, chosen.category) if chosen.category in subjects else "",
                MARKS[chosen.marks] if chosen.marks else "",
                f"by {by}" if by and chosen.author != chosen.usual else "",
            ),
        )
    )
    return FilterSentence(
        _choices(STATES, chosen.state),
        authors,
        categories,
        _choices(MARKS, chosen.marks),
        _choices(ORDERS, chosen.order),
        chosen.is_usual,
        chosen.query,
        kept,
        told[: desk_views.LONGEST_NAME],
    )


def _value(author: int, chosen: Filter) -> str:
    """An author as the address names them: not at all, where they are the usual one."""
    return "" if author == chosen.usual else str(author or ANYONE)


def _choices(known: dict[str, str], chosen: str) -> list[Choice]:
    return [Choice(value, words, value == chosen) for value, words in known.items()]
