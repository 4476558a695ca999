"""Letters to subscribers as text and HTML, made of the same plan as the pages.

The addresses at which one subscriber changes or ends letters stand in it as `core.letters.CHANGE_LINK` and `END_LINK`, and are filled in when it is handed over.
"""

from __future__ import annotations

import textwrap
from collections.abc import Iterable
from dataclasses import dataclass, replace
from functools import lru_cache
from html import unescape
from re import compile as pattern
from typing import TYPE_CHECKING

from mobbet.core.audience import EVERYONE
from mobbet.core.document.write import to_html, to_text
from mobbet.core.facts import OutPost
from mobbet.core.letters import CHANGE_LINK, END_LINK, LARGEST, TEASER, WHOLE
from mobbet.core.permalinks import short_path
from mobbet.publish.cards import Card
from mobbet.publish.pictures import share_picture
from mobbet.publish.plan import Plan
from mobbet.publish.renderer import Renderer, parted
from mobbet.publish.templating import written

if TYPE_CHECKING:
    from css_inline import CSSInliner

LONGEST, SHORT = 1500, 200
"""In letters: how much of a teaser a letter shows at the most, and where many do not fit."""
WIDTH = 72
"""In letters: where lines of the text are broken."""
_TAG = pattern(r"<[^<>]+>")


@dataclass(frozen=True)
class LetterText:
    """A letter as it is frozen."""

    subject: str
    text: str
    html: str

    @property
    def parts(self) -> tuple[str, str, str]:
        return self.subject, self.text, self.html


@dataclass(frozen=True)
class Shown:
    """A post in a letter: its card, its address with what tells that a letter led there, its whole text as HTML and as text ('' for its teaser)."""

    card: Card
    address: str
    teaser: str
    html: str = ""
    text: str = ""
    picture: str = ""
    alt: str = ""
    alike: tuple[tuple[str, str], ...] = ()


class LetterMaker:
    """Makes letters of one blog at one instant."""

    def __init__(self, plan: Plan) -> None:
        self._plan = plan
        self._house = plan.snapshot.house
        self._renderer = Renderer(plan.snapshot.house, plan.snapshot.item)

    def of_post(self, post: OutPost, shows: str, mailing: str, line: str = "") -> LetterText:
        """The letter about a post. Its whole text is in it where it is for everyone and fits (`LARGEST`), else the teaser."""
        is_whole = shows == WHOLE and post.audience == EVERYONE
        made = self._letter(post.letter_subject or post.title, line, [self._shown(post, is_whole, mailing)])
        return self.of_post(post, TEASER, mailing, line) if is_whole and _is_too_large(made) else made

    def of_posts(self, subject: str, posts: Iterable[OutPost], mailing: str) -> LetterText:
        """A digest: the teasers of some posts; shorter ones, and fewer, where they do not fit."""
        shown = [self._shown(post, False, mailing) for post in posts]
        made = self._letter(subject, "", shown)
        if _is_too_large(made):
            shown = [replace(one, teaser=_clipped(one.teaser, SHORT), picture="", alike=()) for one in shown]
            made = self._letter(subject, "", shown)
        while _is_too_large(made) and len(shown) > 1:
            shown = shown[: len(shown) // 2]
            made = self._letter(subject, "", shown)
        return made

    def of_words(self, subject: str, words: str, post: OutPost, mailing: str) -> LetterText:
        """A letter with words about a post, such as a correction or a comment, and where it is."""
        return self._letter(
            subject, words, [replace(self._shown(post, False, mailing), teaser="", picture="", alike=())]
        )

    def _shown(self, post: OutPost, is_whole: bool, mailing: str) -> Shown:
        plan, renderer = self._plan, self._renderer
        card = plan.cards.of(post)
        address = f"{renderer.absolute(short_path(post.id))}?from={mailing}"
        file = share_picture(card.picture) if post.audience == EVERYONE else None
        shown = Shown(
            card, address, _clipped(_plain(card.teaser), LONGEST), picture=renderer.absolute(file.path) if file else "", alt=card.alt,
            alike=tuple((one.title, f"{renderer.absolute(short_path(one.id))}?from={mailing}") for one in plan.lists.older_alike(post)),
        )  # fmt: skip
        if not is_whole:
            return shown
        body = plan.snapshot.body(post)
        html = replace(renderer.html_of(card, plan.cards.links(post), renderer.absolute), is_feed=True)
        parts = [to_html(part, html) for part in parted(card, body) if part]
        return replace(shown, html="\n".join(parts), text=to_text(body))

    def _letter(self, subject: str, words: str, posts: list[Shown]) -> LetterText:
        house = self._house
        language = (posts[0].card.language if len(posts) == 1 else "") or house.language
        values = {
            "house": house, "subject": subject, "line": words, "posts": posts, "language": language,
            "light": house.look.light, "dark": house.look.in_dark, "end": END_LINK, "change": CHANGE_LINK,
        }  # fmt: skip
        html = written("letter", values)
        return LetterText(
            subject, _text(house.name, words, posts), _inlined(html, written("letter_style", values))
        )


def _is_too_large(letter: LetterText) -> bool:
    return len(letter.html.encode()) > LARGEST


def _clipped(words: str, most: int) -> str:
    """Some words, cut between two of them where they are longer."""
    return words if len(words) <= most else f"{words[:most].rpartition(' ')[0] or words[:most]}…"


def _inlined(html: str, style: str) -> str:
    """A letter whose rules stand in its elements, for mail programs that leave style sheets out."""
    return _inliner(style).inline(html)


@lru_cache(maxsize=16)
def _inliner(style: str) -> CSSInliner:
    from css_inline import CSSInliner  # a compiled package that commands do without

    return CSSInliner(
        load_remote_stylesheets=False, extra_css=style, inline_style_tags=False, keep_style_tags=True
    )


def _plain(html: str) -> str:
    return " ".join(unescape(_TAG.sub("", html)).split())


def _text(name: str, words: str, posts: list[Shown]) -> str:
    """The letter as plain text."""
    parts = [name, _filled(words)]
    for one in posts:
        parts += [
            one.card.title.upper() if one.card.title.isascii() else one.card.title, one.card.subtitle,
            f"By {one.card.author}, {one.card.date}",
            _filled(one.text or one.teaser), f"{'On the site' if one.text else 'Read on'}: {one.address}",
        ]  # fmt: skip
        if one.alike:
            parts.append(
                "\n".join(
                    ["Older posts on this:", *(f"- {title}\n  {address}" for title, address in one.alike)]
                )
            )
    parts += [
        f"You get this because you asked {name} for letters.\nChange which: {CHANGE_LINK}\nEnd them: {END_LINK}"
    ]
    return "\n\n".join(part for part in parts if part) + "\n"


def _filled(text: str) -> str:
    """A text with lines of at most WIDTH letters; a line that begins with a space or a sign of a list keeps its own."""
    return "\n\n".join(
        textwrap.fill(part, WIDTH, break_long_words=False, break_on_hyphens=False)
        if "\n" not in part
        else part
        for part in text.split("\n\n")
    )
