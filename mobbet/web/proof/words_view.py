"""The rules for words of a blog as sentences."""

from __future__ import annotations

import json

from mobbet.core.proofing.house import OFF
from mobbet.core.proofing.table import WHY
from mobbet.store.blogs import Blog
from mobbet.web.proof.contexts import CheckLine
from mobbet.web.shell.contexts import Choice
from mobbet.web.site.sentence_contexts import Sentence, Word
from mobbet.web.site.sentences import typed_word, with_problem

STYLES = {
    "quotes": (
        "how quotation marks stand",
        {"": "as they are written", "curly": "“so”", "curly-single": "‘so’", "guillemets": "«so»", "low": "„so“", "straight": '"so"'},
    ),
    "dashes": ("how dashes stand", {"": "as they are written", "spaced": "so – so", "closed": "so—so"}),
    "ellipses": ("how an ellipsis stands", {"": "as it is written", "sign": "as one sign…", "dots": "as three dots..."}),
}  # fmt: skip
"""{style: (what it sets, {value: words})}."""
SEVERITIES = {
    "": "as it comes", "must": "must be settled", "should": "should be settled", "could": "could be better", OFF: "is off",
}  # fmt: skip
TYPED = ("avoided", "learned")
"""The rules that are typed; what is refused of them stays open in the sentence."""
SHOWN = 6
"""How many words of a list a sentence names."""


def sentences(blog: Blog, learned: list[str], problem: tuple[str, str, str] = ("", "", "")) -> list[Sentence]:
    """The styles, the words to avoid, the words learned, and whether links are tried. `problem` is (rule, what was typed, the reason) of what was refused."""
    found: list[Sentence] = [
        ["Quotation marks stand", _style(blog, "quotes"), ", dashes", _style(blog, "dashes"), ", an ellipsis", _style(blog, "ellipses"), "."],
        _avoided(blog),
        _learned(learned),
        ["Links to other sites are tried", _tries(blog), "."],
    ]  # fmt: skip
    return [with_problem(one, *problem) for one in found]


def checks(blog: Blog) -> list[CheckLine]:
    """Each check with how grave the blog takes it."""
    severities = json.loads(blog.severities)
    return [
        CheckLine(name, why.name, _severity(name, why.name, severities.get(name, "")), why.sentences, why.example)
        for name, why in WHY.items()
    ]  # fmt: skip


def _severity(name: str, label: str, now: str) -> Word:
    choices = tuple(Choice(value, words, value == now) for value, words in SEVERITIES.items())
    return Word(f"check:{name}", f"how grave “{label}” is", SEVERITIES[now], choices)


def _style(blog: Blog, name: str) -> Word:
    label, known = STYLES[name]
    now = getattr(blog, name)
    return Word(
        name, label, known[now], tuple(Choice(value, words, value == now) for value, words in known.items())
    )


def _avoided(blog: Blog) -> Sentence:
    rules = json.loads(blog.avoided)
    text = "\n".join(f"{word}: {better}" if better else word for word, better in rules)
    named = [f"“{better}” for “{word}”" if better else f"nothing for “{word}”" for word, better in rules]
    word = typed_word(
        "avoided", "the words the house avoids, one a line", _count(rules, "word"), text, rows=8, verb="Keep this",
        hint="What it prefers comes after a colon; a word alone is one the house does without.", placeholder="email: e-mail",
    )  # fmt: skip
    return ["The house avoids", word, _naming(named, ": it writes")]


def _learned(learned: list[str]) -> Sentence:
    word = typed_word(
        "learned", "the words the blog has learned", _count(learned, "word"), "\n".join(learned), rows=8, verb="Keep this",
        hint="Names and words of the trade that the dictionary does not have, one a line. “Learn it for the blog” beside a mark adds to them.",
    )  # fmt: skip
    return ["The blog has learned", word, _naming([f"“{one}”" for one in learned], ":")]


def _count(values: list[str], name: str) -> str:
    return f"{len(values):,} {name}{'s' if len(values) != 1 else ''}" if values else f"no {name} yet"


def _naming(named: list[str], lead: str) -> str:
    """The first of a list in words, and the end of the sentence."""
    more = len(named) - SHOWN
    return f"{lead} {', '.join(named[:SHOWN])}{f' and {more:,} more' if more > 0 else ''}." if named else "."


def _tries(blog: Blog) -> Word:
    offered = (("yes", "once a week"), ("", "never"))
    now = "yes" if blog.tries_links else ""
    choices = tuple(Choice(value, words, value == now) for value, words in offered)
    return Word("tries_links", "whether links are tried", dict(offered)[now], choices)
