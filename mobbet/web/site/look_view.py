"""A look as sentences, and its drawings: the looks to begin from, and contrast as bars against what is needed."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Any

from markupsafe import Markup, escape

from mobbet.actions.looks import OverPicture
from mobbet.core.look.check import Checked, Remedy
from mobbet.core.look.choices import COLOUR_NAMES, NUMBERS, PICTURES, WORDS
from mobbet.core.look.colour_words import colour_words
from mobbet.core.look.look import Look
from mobbet.core.look.palette import TEXT
from mobbet.core.numbers import counted
from mobbet.web.shell.contexts import Choice
from mobbet.web.site.look_contexts import PairLine, RemedyLine
from mobbet.web.site.sentence_contexts import Sentence, Word

LEVEL, ALL_OF_IT = 16.0, 150.0
"""The ratio that fills a bar, and its length in units of the drawing."""
MOST_BARS = 6


def sentences(look: Look, wrong: list[Checked], pictures: list[Choice]) -> list[Sentence]:
    """What a look is, as sentences in which each changeable word is a `Word`; `pictures` are those of the library to choose from."""
    words = _Words(look, {(one.mode, one.name) for one in wrong}, pictures)
    word = words.word
    return [
        ["Texts are set in", word("letters.text", "the letters of texts"), ",", word("letters.size", "their size"), ", about",
         word("letters.measure", "how long a line is"), "a line, each line", word("letters.leading", "how far lines stand apart"), "as high as its letters; headings in",
         word("letters.headings", "the letters of headings"), ", the rest in", word("letters.plain", "the letters of the rest"), "."],
        words.colours("light"),
        words.dark(),
        ["On top stands", word("top.shows", "what stands on top"), ",", word("top.size", "how large it is"), ",", word("top.at", "where it stands"),
         "; the menu stands", word("top.menu", "where the menu stands"), ", with", word("top.search", "whether there is a field for the search"), "."],
        words.over(),
        ["Lists show", word("front.shows", "how lists show posts"), "."],
        ["A post has", word("post.columns", "the columns of a post"), "; large pictures stand", word("post.pictures", "how wide pictures stand"), ". Below it comes",
         word("post.below", "what comes below a post"), "."],
        [*words.behind(), ". Corners are", word("page.corners", "how round corners are"), "round, lines",
         word("page.lines", "how lines are drawn"), ", and a page is", word("page.width", "how wide a page is"), "."],
    ]  # fmt: skip


@dataclass(frozen=True)
class _Words:
    """Makes the changeable words of a look; `broken` are the colours that cannot be read."""

    look: Look
    broken: set[tuple[str, str]]
    pictures: list[Choice]

    @cached_property
    def values(self) -> dict[str, Any]:
        return self.look.dump()

    def word(self, where: str, label: str) -> Word:
        part, _, name = where.partition(".")
        value = self.values[part][name]
        if where in NUMBERS:
            return _number(where, label, int(value))
        words = WORDS[where]
        offered = tuple(Choice(one, told, one == value) for one, told in words.items())
        return Word(where, label, words[value], offered)

    def colours(self, mode: str) -> Sentence:
        """The six colours in the light, or in the dark."""
        found: Sentence = []
        palette = self.look.light if mode == "light" else self.look.in_dark
        for at, (name, told) in enumerate(COLOUR_NAMES.items()):
            verb = ("" if at else "In the dark " if mode == "dark" else "") + told
            verb = verb[0].upper() + verb[1:] if not at else verb
            are = "are" if name in ("soft", "accent", "line") else "is"
            colour = _colour(mode, name, getattr(palette, name), (mode, name) in self.broken)
            found += [f"{verb} {are}", colour, "," if at < 5 else "."]
        return found

    def dark(self) -> Sentence:
        """Where the colours for the dark come from."""
        if self.look.light.is_dark and self.look.dark is None:
            return ["It is dark by day and by night."]
        if self.look.dark is None:
            return ["In the dark its colours", _dark_word("follow from these"), "."]
        return [*self.colours("dark"), "They", _dark_word("are chosen"), "."]

    def picture(self, where: str) -> Word:
        """Which picture of the library stands at a place."""
        part, _, name = where.partition(".")
        chosen = str((self.values[part][name] or {}).get("item", ""))
        known = [*self.pictures]
        if chosen and all(one.value != chosen for one in known):
            known.append(Choice(chosen, "the present one"))
        offered = (
            Choice("0", "no picture", not chosen),
            *(Choice(one.value, one.words, one.value == chosen) for one in known),
        )
        words = next((f"“{one.words}”" for one in known if one.value == chosen), "no picture")
        hint = "Of the newest in the library; bring others in there."
        return Word(where, PICTURES[where], words, options=offered, hint=hint)

    def over(self) -> Sentence:
        """The mark before the name, and the picture that the top stands over."""
        top = self.look.top
        said: Sentence = [
            "Before the name stands",
            self.picture("top.mark"),
            "; it stands over",
            self.picture("top.picture"),
        ]
        if top.picture is None:
            return [*said, "."]
        return [
            *said, "with the point", _number("top.picture.x", "the point in sight, from the left", top.picture.x), "and",
            _number("top.picture.y", "the point in sight, from the top", top.picture.y), "always in sight, in", self.word("top.words", "the colour of words over it"),
            "words on", self.word("top.veil", "how thick the veil over the picture is"), ", and is", self.word("top.height", "how high the top is"), ".",
        ]  # fmt: skip

    def behind(self) -> Sentence:
        """What lies behind everything."""
        said: Sentence = ["Behind everything lies", self.word("page.ground", "what lies behind everything")]
        if self.look.page.ground in ("picture", "pattern"):
            said += [":", self.picture("page.picture")]
        return said


def _number(where: str, label: str, value: int) -> Word:
    least, most, unit = NUMBERS[where]
    told = unit.format(value) if "{}" in unit else f"{value} {unit}"
    words = f"{value / 100:g} times" if unit == "hundredths" else told
    return Word(where, label, words, least=least, most=most, number=value)


def _colour(mode: str, name: str, colour: str, is_wrong: bool) -> Word:
    label = f"{COLOUR_NAMES[name]}{' in the dark' if mode == 'dark' else ''}"
    return Word(
        f"{mode}.{name}",
        label,
        colour_words(colour),
        colour=colour,
        swatch=_swatch(colour),
        is_wrong=is_wrong,
    )


def _dark_word(words: str) -> Word:
    offered = (
        Choice("follow", "follow from the light ones", words != "are chosen"),
        Choice("chosen", "are chosen one by one", words == "are chosen"),
    )
    return Word("dark", "where the colours for the dark come from", words, offered)


def _swatch(colour: str) -> Markup:
    return Markup(
        f'<svg class="swatch" width="13" height="13" viewBox="0 0 13 13" aria-hidden="true"><rect x=".5" y=".5" width="12" height="12" fill="{colour}" stroke="#53656a"/></svg>'
    )


def pair_line(one: Checked) -> PairLine:
    return PairLine(
        one.where,
        one.foreground,
        one.background,
        f"{one.ratio:.1f}",
        f"{one.needed:g}",
        one.holds,
        one.nearest or "",
    )


def remedy_line(one: Remedy) -> RemedyLine:
    """“Links and accents, in the light: 3.3 of 4.5 for links, and 8 more pairs.”"""
    first, others = one.failing[0], len(one.failing) - 1
    name = COLOUR_NAMES[one.name]
    more = f", and {counted(others, 'more pair', 'more pairs')}" if others else ""
    where = first.where.removesuffix(f", in the {one.mode}")
    words = f"{name[0].upper()}{name[1:]}, in the {one.mode}: {first.ratio:.1f} of {first.needed:g} for {where}{more}."
    return RemedyLine(
        words, f"{one.mode}.{one.name}", one.nearest or "", colour_words(one.nearest) if one.nearest else ""
    )


def veil_line(over: OverPicture) -> RemedyLine:
    """What is wrong with the words over the picture on top, and the veil with which they can be read."""
    words = f"Name and menu over the picture on top: {over.checked.ratio:.1f} of {over.checked.needed:g}."
    return RemedyLine(words, "top.veil", str(over.least_veil), "a veil of")


def bars(found: list[Checked]) -> Markup:
    """The pairs nearest to failing as bars: the sample, its ratio, and the line that is needed."""
    shown = sorted(found, key=lambda one: one.ratio / one.needed)[:MOST_BARS]
    rows = [_bar(one, 8 + 26 * at) for at, one in enumerate(shown)]
    height = 26 * len(shown) + 26
    lines = "".join(
        f'<line class="{name}" x1="{_x(ratio)}" y1="2" x2="{_x(ratio)}" y2="{height - 20}"/><text class="{name}" x="{_x(ratio)}" y="{height - 6}" text-anchor="{anchor}">{words}</text>'
        for ratio, name, words, anchor in ((TEXT, "needed", "4.5 needed", "end"), (7, "more", "7", "start"))
    )
    told = "; ".join(f"{one.where}: {one.ratio:.1f} of {one.needed:g} needed" for one in shown)
    return Markup(
        f'<svg class="bars" viewBox="0 0 370 {height}" role="img" aria-label="{escape(told)}">{lines}{"".join(rows)}</svg>'
    )


def _x(ratio: float) -> float:
    return round(150 + min(1.0, ratio / LEVEL) * ALL_OF_IT, 1)


def _bar(one: Checked, top: int) -> str:
    words = escape(one.where.replace(", also visited", "").replace(", in the", ","))
    short = words if len(words) <= 24 else words[:23] + "…"
    kind = "holds" if one.holds else "fails"
    beyond = _x(one.ratio if one.holds else max(one.ratio, TEXT)) + 6
    return (
        f'<rect class="sample" x="0.5" y="{top - 4}.5" width="140" height="20" fill="{one.background}"/>'
        f'<text class="sample-words" x="6" y="{top + 10}" fill="{one.foreground}">{short}</text>'
        f'<rect class="{kind}" x="150" y="{top + 2}" width="{_x(one.ratio) - 150:g}" height="8"/>'
        f'<text class="{kind}" x="{beyond:g}" y="{top + 10}">{one.ratio:.1f}{"" if one.holds else ", too little"}</text>'
    )


def thumb(look: Look) -> Markup:
    """A look as a small drawing: its paper, its name, and how it shows posts."""
    palette, x = look.light, 64 if look.top.at == "middle" else 12
    anchor = -22 if look.top.at == "middle" else 0
    height = 9 if look.top.size == "large" else 6
    parts = [
        f'<rect width="128" height="72" fill="{palette.paper}"/>',
        f'<rect x="{x + anchor}" y="9" width="44" height="{height}" fill="{palette.ink}"/>',
        _lines(palette.line, 12, 24, 104, 1, 1)
        if look.top.menu == "below"
        else _lines(palette.soft, 78, 10, 38, 3, 1),
        *_FRONTS[look.front.shows](palette.ink, palette.soft, palette.accent, palette.tint),
    ]
    return Markup(f'<svg class="thumb" viewBox="0 0 128 72" aria-hidden="true">{"".join(parts)}</svg>')


def _rect(x: float, y: float, width: float, height: float, fill: str) -> str:
    return f'<rect x="{x:g}" y="{y:g}" width="{width:g}" height="{height:g}" fill="{fill}"/>'


def _lines(fill: str, x: float, y: float, width: float, height: float, count: int, step: float = 5) -> str:
    return "".join(_rect(x, y + step * at, width, height, fill) for at in range(count))


_FRONTS = {
    "newest-large": lambda ink, soft, accent, tint: [_rect(12, 30, 48, 22, tint), _rect(66, 32, 46, 5, ink), _lines(soft, 66, 41, 46, 2, 2), _rect(12, 57, 40, 3, ink), _rect(66, 57, 40, 3, ink), _lines(soft, 12, 63, 46, 2, 1), _lines(soft, 66, 63, 46, 2, 1)],
    "list": lambda ink, soft, accent, tint: [part for y in (30, 45, 60) for part in (_rect(24, y, 16, 10, tint), _rect(44, y, 50, 3, ink), _lines(soft, 44, y + 6, 58, 2, 1))],
    "dense": lambda ink, soft, accent, tint: [part for y in range(28, 70, 7) for part in (_rect(12, y, 18, 2, accent), _rect(36, y, 52, 3, ink), _rect(98, y, 18, 2, soft))],
    "sheet": lambda ink, soft, accent, tint: [part for x in (12, 48, 84) for y in (29, 52) for part in (_rect(x, y, 32, 15, tint), _rect(x, y + 17, 24, 2, ink))],
    "notices": lambda ink, soft, accent, tint: [part for y in (30, 44, 58) for part in (_rect(12, y, 20, 7, accent), _rect(38, y, 48, 3, ink), _lines(soft, 38, y + 5, 60, 2, 1))],
}  # fmt: skip
