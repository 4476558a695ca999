"""Comments of readers: who may write them, which of them wait, how they are read and shown."""

from __future__ import annotations

import re
from html import escape

from mobbet.core.document.characters import UNPRINTABLE
from mobbet.core.errors import BadInput

NOBODY, SIGNED_IN, ANYONE = "", "signed-in", "anyone"
WHO = {NOBODY: "nobody", SIGNED_IN: "people who are signed in", ANYONE: "anyone"}
"""Who may comment on a blog's posts, in words."""
ALL, STRANGERS, NONE = "all", "strangers", "none"
WAITING = {
    ALL: "every comment waits",
    STRANGERS: "comments of people who are not signed in wait",
    NONE: "no comment waits",
}
"""Whose comments wait until somebody of the blog has read them."""
CLOSED, OPEN = "closed", "open"
"""What a post or page says of comments by itself; posts are open and pages closed until they do."""
WAITS, SHOWN, REFUSED = "waits", "shown", "refused"
STATES = {WAITS: "waiting", SHOWN: "shown", REFUSED: "refused"}
LONGEST, MANY_LINKS = 5000, 2
"""How many letters a comment may have; one with more links than that always waits."""
_ADDRESS = re.compile(r"https?://[^\s<>\"]*[^\s<>\".,;:!?)\]’”]", re.IGNORECASE)


def may_comment(rule: str, takes_comments: bool, is_signed_in: bool) -> bool:
    """Whether a reader who may read a post, or a page, may write under it; `takes_comments` as its docket has it."""
    return takes_comments and (rule == ANYONE or (rule == SIGNED_IN and is_signed_in))


def waits(rule: str, is_signed_in: bool, text: str) -> bool:
    """Whether a comment waits until somebody has read it."""
    return rule == ALL or (rule == STRANGERS and not is_signed_in) or len(_ADDRESS.findall(text)) > MANY_LINKS


def read_text(typed: str) -> str:
    """A comment as it was typed, without what cannot be printed. Raises BadInput for one that is empty or too long."""
    text = UNPRINTABLE.sub("", typed.replace("\r\n", "\n").replace("\r", "\n"))
    text = re.sub(r"\n{3,}", "\n\n", text).strip()
    if not text:
        raise BadInput("The comment is empty; write what you have to say.", "text")
    if len(text) > LONGEST:
        raise BadInput(f"The comment has {len(text):,} letters; {LONGEST:,} is the most.", "text")
    return text


def count_words(shown: int, waiting: int) -> str:
    """“2 comments, 1 waits”, “3 comments wait”; '' where there are none."""
    words = [f"{shown:,} comment{'s' if shown != 1 else ''}"] if shown else []
    if waiting:
        noun = "" if shown else "comment " if waiting == 1 else "comments "
        words.append(f"{waiting:,} {noun}wait{'s' if waiting == 1 else ''}")
    return ", ".join(words)


def html_of(text: str) -> str:
    """A comment as HTML: its paragraphs and line breaks, and addresses as links that search engines do not follow."""
    return "\n".join(f"<p>{_lines(part)}</p>" for part in text.split("\n\n"))


def _lines(text: str) -> str:
    at, parts = 0, []
    for match in _ADDRESS.finditer(text):
        address = escape(match[0])
        parts += [
            escape(text[at : match.start()], quote=False),
            f'<a href="{address}" rel="nofollow ugc noopener">{address}</a>',
        ]
        at = match.end()
    return "".join([*parts, escape(text[at:], quote=False)]).replace("\n", "<br>\n")
