"""The sections of the front page on the map: what each shows, and the sentences of the one that is chosen."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.actions.workshop import Workshop
from mobbet.core import front
from mobbet.core.front import (
    AUTHORS,
    BLOCKS,
    CATEGORIES,
    CATEGORY,
    CHOSEN,
    KINDS,
    MOST_SHOWN,
    NEWEST,
    PAGES,
    TAG,
    Section,
)
from mobbet.core.keys import ALL
from mobbet.core.menu import COUNTS, FOOT_CATEGORIES, Menu
from mobbet.core.numbers import counted, ordinal
from mobbet.publish.front import section_of
from mobbet.publish.plan import Plan
from mobbet.publish.values import FrontSection
from mobbet.store import filing, kept, people, posts
from mobbet.store.blogs import Blog
from mobbet.store.snapshot import SiteSnapshot
from mobbet.web.shell.contexts import Choice
from mobbet.web.site.menu_contexts import FINE, WAITS, ChosenSection, Leads, SectionSpot
from mobbet.web.site.sentence_contexts import Sentence, Word
from mobbet.web.site.sentences import short, typed_word

MOST_TAGS = 200
COUNTED = ", which come from one small file, so a new post rewrites no other page"
ASKS_FOR = {CHOSEN: "a post by its title", PAGES: "a page by its title", AUTHORS: "somebody by name"}


@dataclass(frozen=True)
class FrontView:
    """Says of one blog's front page what its sections show, as strangers find it."""

    workshop: Workshop
    blog: Blog
    menu: Menu
    snapshot: SiteSnapshot

    def spots(self, chosen: str) -> list[SectionSpot]:
        plan, found = Plan(self.snapshot), []
        for place, section in enumerate(self.menu.sections):
            at = written(place)
            leads = self._shows(section, section_of(plan, section))
            found.append(SectionSpot(at, section.words or self.name(section), leads, at == chosen))
        return found

    def name(self, section: Section) -> str:
        """What a section shows, in words: “the newest of Lamps”."""
        number = section.of[0] if section.of else 0
        if section.kind == CATEGORY:
            subject = self.snapshot.categories.get(number)
            return f"The newest of {subject.name}" if subject else "The newest of a category that is gone"
        if section.kind == TAG:
            tag = filing.tag(self.workshop.db, self.blog.id, number)
            return f"The newest with {tag.name}" if tag else "The newest with a tag that is gone"
        if section.kind == BLOCKS:
            names = {one.id: one.name for one in kept.every(self.workshop.db, self.blog.id)}
            return names.get(number, "A saved block that is gone")
        words = KINDS[section.kind].words
        return words[0].upper() + words[1:]

    def _shows(self, section: Section, shown: FrontSection | None) -> Leads:
        if section.kind == NEWEST:
            return Leads(counted(self.snapshot.count(ALL), "post"), "as the look shows them", "")
        if shown is None:
            nothing = section.kind == CHOSEN and not section.of
            about = "nothing is chosen yet: not shown" if nothing else "nothing to show yet: not shown"
            return Leads("", KINDS[section.kind].words, about, WAITS)
        names = [card.title for card in shown.cards] or [one.step.name for one in shown.subjects]
        names = names or [one.author.name for one in shown.authors]
        kind = KINDS[section.kind].words if section.words or section.kind == BLOCKS else ""
        return Leads(", ".join(map(short, names[:3])) + (", …" if len(names) > 3 else ""), kind, "", FINE)

    def chosen(self, place: int) -> ChosenSection:
        """The slip of one section. Raises BadInput where none stands there."""
        section = front.at(self.menu.sections, place)
        moves = [Choice(str(place), "Earlier")] if place else []
        moves += [Choice(str(place + 2), "Later")] if place < len(self.menu.sections) - 1 else []
        return ChosenSection(
            written(place), self.name(section), self._sentences(place, section), moves, section.kind != NEWEST
        )

    def _sentences(self, place: int, section: Section) -> list[Sentence]:
        at, kind = written(place), KINDS[section.kind]
        usual = kind.heading or (
            "no words"
            if section.kind in (NEWEST, BLOCKS)
            else self.name(section).removeprefix("The newest of ")
        )
        heading = typed_word(
            f"{at}:words", "the words above it", f"“{section.words}”" if section.words else f"the usual: {usual}",
            section.words, front.LONGEST_HEADING, "Left empty, the usual words stand there.",
        )  # fmt: skip
        said: list[Sentence] = [
            [f"On the front page it stands {ordinal(place + 1)}; above it:", heading, "."]
        ]
        if kind.is_counted and not (section.kind == AUTHORS and section.of):
            number = Word(
                f"{at}:most",
                "how many it shows",
                str(section.most),
                least=1,
                most=MOST_SHOWN,
                number=section.most,
            )
            said.append(["It shows at most", number, "."])
        if kind.is_of_many:
            said.append(self._many(at, section))
        if section.kind == CATEGORIES:
            choices = (
                Choice("yes", "with its picture", section.pictures),
                Choice("", "without a picture", not section.pictures),
            )
            word = Word(
                f"{at}:pictures", "whether pictures are shown", choices[not section.pictures].words, choices
            )
            said.append(["Each category stands", word, ", with how many posts it has."])
        return said

    def _many(self, at: str, section: Section) -> Sentence:
        usual = {AUTHORS: "those who wrote last", PAGES: "all pages of the first level"}.get(
            section.kind, "nothing yet"
        )
        said: Sentence = ["It shows"]
        for number in section.of:
            title = self._title(section.kind, number)
            said += [
                Word(
                    f"{at}:of.{number}",
                    f"whether {title} is shown",
                    f"“{short(title)}”",
                    (Choice("yes", "is shown", True),),
                    removes=True,
                ),
                ",",
            ]
        asks = ASKS_FOR[section.kind]
        words = f"one more: {asks}" if section.of else f"{usual}; or choose {asks}"
        return [*said, typed_word(f"{at}:of", asks, words, "", 200, verb="Show it"), "."]

    def _title(self, kind: str, number: int) -> str:
        if kind == AUTHORS:
            person = people.by_id(self.workshop.db, number)
            return person.name if person else "somebody who is gone"
        post = posts.on_blog(self.workshop.db, self.blog.id, number)
        return post.title or "No title yet" if post else "a post that is gone"

    def offered(self) -> list[tuple[str, list[Choice]]]:
        """(group, sections) that can be added."""
        db, there = self.workshop.db, {(one.kind, one.of) for one in self.menu.sections}
        plain = [
            (Section(kind), KINDS[kind].words)
            for kind in KINDS
            if not KINDS[kind].is_of_one and kind != NEWEST
        ]
        groups = [
            ("Anything", plain),
            ("The newest of a category", [(Section(CATEGORY, of=(one.id,)), one.name) for one in self.snapshot.categories.values()]),
            ("The newest with a tag", [(Section(TAG, of=(one.id,)), one.name) for one in filing.tag_counts(db, self.blog.id)[:MOST_TAGS]]),
            ("A saved block", [(Section(BLOCKS, of=(one.id,)), one.name) for one in kept.every(db, self.blog.id)]),
        ]  # fmt: skip
        found = [
            (group, [Choice(spelled(one), words) for one, words in rows if (one.kind, one.of) not in there or one.kind == CHOSEN])
            for group, rows in groups
        ]  # fmt: skip
        return [(group, choices) for group, choices in found if choices]

    def sentences(self) -> list[Sentence]:
        """Where categories show beside their own pages."""
        menu = self.menu
        foot = tuple(
            Choice(how, words, how == menu.foot_categories) for how, words in FOOT_CATEGORIES.items()
        )
        subjects = (
            Choice("yes", "with their pictures", menu.subject_pictures),
            Choice("", "without pictures", not menu.subject_pictures),
        )
        return [
            [
                "The foot names", Word("foot_categories", "whether the foot names categories", FOOT_CATEGORIES[menu.foot_categories], foot),
                f"{COUNTED if menu.foot_categories == COUNTS else ''}; the page of all subjects shows categories", Word("subject_pictures", "whether pictures of categories are shown", subjects[not menu.subject_pictures].words, subjects), ".",
            ]
        ]  # fmt: skip


def written(place: int) -> str:
    """The place of a section as addresses and forms spell it: `front.2`, counted from 1."""
    return f"front.{place + 1}"


def spelled(section: Section) -> str:
    """A section as the form that adds it spells it, and `actions/front_sections.read_section` reads it."""
    return f"{section.kind}:{section.of[0]}" if section.of else section.kind
