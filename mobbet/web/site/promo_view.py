"""The rules for blocks below posts, as sentences."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.actions.workshop import Workshop
from mobbet.core.filing import path_in_words
from mobbet.core.promos import HEAVIEST, MOST_BELOW, Promo, Promos
from mobbet.core.screen_dates import time_in_words
from mobbet.core.timing import wall
from mobbet.store import filing, kept
from mobbet.store.blogs import Blog
from mobbet.web.shell.contexts import Choice
from mobbet.web.site.promo_contexts import RuleSlip
from mobbet.web.site.sentence_contexts import Sentence, Word
from mobbet.web.site.sentences import short, typed_word, with_problem

GONE = "a block that is gone"


@dataclass(frozen=True)
class PromoView:
    """Says of one blog's rules what they do; `problem` is (field, what was typed, the reason) of what was refused."""

    workshop: Workshop
    blog: Blog
    promos: Promos
    problem: tuple[str, str, str] = ("", "", "")

    def blocks(self) -> list[Choice]:
        return [Choice(str(one.id), one.name) for one in kept.every(self.workshop.db, self.blog.id)]

    def sentences(self) -> list[Sentence]:
        most = Word(
            "most",
            "how many stand below a post",
            str(self.promos.most),
            least=1,
            most=MOST_BELOW,
            number=self.promos.most,
        )
        return [["At most", most, f"stand{'s' if self.promos.most == 1 else ''} below a post; heavier ones first, and those of one weight in turn."]]  # fmt: skip

    def slips(self) -> list[RuleSlip]:
        names = {choice.value: choice.words for choice in self.blocks()}
        return [
            RuleSlip(
                rule.id,
                names.get(str(rule.block), GONE),
                [with_problem(one, *self.problem) for one in self._sentences(rule, names)],
                ""
                if str(rule.block) in names
                else "Its block is no longer among the saved blocks; choose another one.",
            )
            for rule in self.promos.rules
        ]

    def _sentences(self, rule: Promo, names: dict[str, str]) -> list[Sentence]:
        at, now = f"{rule.id}", self.workshop.clock()
        block = Word(
            f"{at}:block", "which block", f"“{short(names.get(str(rule.block), GONE))}”",
            options=tuple(Choice(value, words, value == str(rule.block)) for value, words in names.items()), is_wrong=str(rule.block) not in names,
        )  # fmt: skip
        never = typed_word(
            f"{at}:never", "words that no post beside it may name", short(", ".join(rule.never)) or "any words", ", ".join(rule.never), 0,
            "Names with commas, such as those of rivals; it never stands below a post that names one. Lamp* means every word that begins so.",
        )  # fmt: skip
        begins = typed_word(f"{at}:from", "from when it shows", time_in_words(rule.shows_from, self.blog.zone, now) if rule.shows_from else "now", wall(rule.shows_from, self.blog.zone).replace("T", " ") if rule.shows_from else "", 60, "Such as 1 December or tomorrow at nine. Left empty, from now.")  # fmt: skip
        ends = typed_word(f"{at}:until", "until when it shows", f"until {time_in_words(rule.shows_until, self.blog.zone, now)}" if rule.shows_until else "for good", wall(rule.shows_until, self.blog.zone).replace("T", " ") if rule.shows_until else "", 60, "Left empty, for good.")  # fmt: skip
        weight = Word(
            f"{at}:weight", "its weight", str(rule.weight), least=1, most=HEAVIEST, number=rule.weight
        )
        return [
            [*self._places(rule, at), "stands", block, "."],
            ["It is never below a post that names", never, "."]
            if rule.never
            else ["It may stand beside", never, "."],
            ["It shows from", begins, ",", ends, "; its weight is", weight, "."],
        ]

    def _places(self, rule: Promo, at: str) -> Sentence:
        subjects = filing.subjects(self.workshop.db, self.blog.id)
        tags = {tag.id: tag.name for tag in filing.tags(self.workshop.db, list(rule.tags))}
        found: Sentence = []
        for kind, number, words in (
            *(("categories", number, path_in_words(subjects, number) if number in subjects else "a category that is gone") for number in rule.categories),
            *(("tags", number, f"tag {tags[number]}" if number in tags else "a tag that is gone") for number in rule.tags),
        ):  # fmt: skip
            choices = (Choice("yes", "posts there have it", True),)
            found += [
                Word(f"{at}:{kind}.{number}", f"whether it is for {words}", words, choices, removes=True),
                ",",
            ]
        more = typed_word(f"{at}:place", "a category or a tag", "one more" if found else "every category", "", 200, "A category with all below it, such as Lamps, or a tag. Posts in any of them have it.", verb="Add it")  # fmt: skip
        return ["Below posts in", *found, more]
