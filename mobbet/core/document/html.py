"""What blocks of text and marks become in HTML. Blocks take (node, inner HTML, Html).

The HTML of a document can be read back without loss (`from_html`): what HTML has no element for is in
class names and data attributes, and text whose white space HTML would fold has the class `as-typed`.
"""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Callable
from dataclasses import dataclass, field, replace
from html import escape
from typing import Any

from mobbet.core.addresses import free_slug, make_slug
from mobbet.core.document.colouring import coloured
from mobbet.core.document.links import unwrapped
from mobbet.core.document.mentions import walk
from mobbet.core.document.text import plain

Node = dict[str, Any]

AS_TYPED = "as-typed"
FAKE_SIGN = re.compile(
    r"([•·▪◦‣●○■□➢➤✓✔§Ø*–—-]|\bo)(?=[\s\u00a0])\s*|\(?(\d{1,3}|[a-zA-Z]|[ivxIVX]{1,5})[.)](?=[\s\u00a0])\s*"
)
"""How a list item begins that a word processor wrote as a paragraph: with a sign, or a number."""
_FOLDS = re.compile(r"\A\Z|\A\s|\s\Z|\s\s|[^\S \n]|(\A|\n)(" + FAKE_SIGN.pattern + ")")
LIST_TYPES = {"lower-alpha": "a", "upper-alpha": "A", "lower-roman": "i", "upper-roman": "I"}


@dataclass(frozen=True)
class Rendition:
    """How one picture is offered to a browser; width and height in pixels of the largest file.

    `sources` are (type, srcset) of better formats than that of `src`; `tiny` are the colours that show,
    in rows of `across` on the one `colour` of the whole, until it has loaded.
    """

    src: str
    width: int | None = None
    height: int | None = None
    srcset: str = ""
    sizes: str = ""
    sources: tuple[tuple[str, str], ...] = ()
    tiny: tuple[str, ...] = ()
    across: int = 4
    colour: str = ""


@dataclass(frozen=True)
class Playing:
    """A sound, a video or a file as it is offered to a browser: its address, type, and what shows beside it.

    `poster` and `captions` are addresses ('' for none), `wave` (address, width, height) of a drawing.
    """

    name: str
    href: str
    type: str
    bytes: int = 0
    seconds: float = 0.0
    width: int = 0
    height: int = 0
    poster: str = ""
    captions: str = ""
    wave: str = ""
    transcript: str = ""


@dataclass(frozen=True)
class Entry:
    """One heading for a table of contents."""

    level: int
    words: str
    anchor: str


def as_written(src: str, sizes: str) -> Rendition | None:
    """A picture offered at the address it was written with."""
    return Rendition(src)


def nothing_played(src: str) -> Playing | None:
    """Sounds, videos and files are not offered."""
    return None


@dataclass
class Html:
    """What rendering needs besides the tree, and what it keeps count of.

    `rendition` answers with the files of a picture (for `sizes`, how wide it stands), `playing` with those of
    a sound, a video or a file, or None when readers cannot be given any;
    `address` with the address and the relations of a link, or None when readers cannot go there;
    `fill` with the value of a fill-in, or None when it has none; `frame_hosts` are those whose frames may show. `is_page` is for pages that readers
    get: headings have anchors, code is coloured. In a feed what plays is a picture with a link.
    """

    rendition: Callable[[str, str], Rendition | None] = as_written
    playing: Callable[[str], Playing | None] = nothing_played
    address: Callable[[str], tuple[str, tuple[str, ...]] | None] = lambda href: (href, ())
    fill: Callable[[str], str | None] = lambda name: None
    is_page: bool = False
    is_feed: bool = False
    language: str = "en"
    frame_hosts: tuple[str, ...] = ()
    forms: str = ""
    """The address before that of what answers readers' forms, ending in `~/`; '' where nothing does."""
    post: int = 0
    """The number of the post that is written, 0 outside of posts."""
    takes_subscribers: bool = False
    entries: tuple[Entry, ...] = ()
    share: float = 1.0
    is_stacked: bool = False
    is_row: bool = False
    counts: Counter[str] = field(default_factory=Counter)

    def next_anchor(self) -> str:
        """The anchor of the next heading in reading order."""
        self.counts["headings"] += 1
        at = self.counts["headings"]
        return self.entries[at - 1].anchor if at <= len(self.entries) else ""

    def next_picture(self) -> int:
        """How many pictures were written before this one."""
        self.counts["pictures"] += 1
        return self.counts["pictures"] - 1

    def within(self, share: float, is_stacked: bool = True, is_row: bool = False) -> Html:
        """The same writing, in a part of the line; `is_stacked` parts take the whole line on a narrow page.

        In a row (`is_row`) pictures are told as equally high, so that a browser shrinks them to one height.
        """
        return replace(self, share=self.share * share, is_stacked=is_stacked, is_row=is_row)


def entries(document: Node) -> tuple[Entry, ...]:
    """The headings of a document with their anchors: a fixed one, or one made from the words."""
    found = [node for node in walk(document) if node["type"] == "heading"]
    taken = {node["attrs"]["anchor"] for node in found if node["attrs"]["anchor"]}
    entries, seen = [], set()
    for node in found:
        words, anchor = plain(node), node["attrs"]["anchor"]
        if not anchor or anchor in seen:
            anchor = free_slug(make_slug(words, "part"), lambda slug: slug in taken or slug in seen)
        seen.add(anchor)
        entries.append(Entry(node["attrs"]["level"], words, anchor))
    return tuple(entries)


def classes(*names: str) -> str:
    """A class attribute with those of the names that are not empty."""
    given = " ".join(name for name in names if name)
    return f' class="{given}"' if given else ""


def typed(node: Node) -> str:
    """`as-typed` for inline content that HTML would fold, or that reads as a made-up list item; else ''."""
    return AS_TYPED if _is_folded("".join(_shape(child) for child in node.get("content", ()))) else ""


def _is_folded(words: str) -> bool:
    """Whether reading would change the words; most are told without the pattern, which costs more."""
    if not words or words[0].isspace() or words[-1].isspace() or "\t" in words:
        return True
    if "\n" in words or "  " in words or not words.isascii():
        return bool(_FOLDS.search(words))
    return bool(FAKE_SIGN.match(words))


def _shape(child: Node) -> str:
    """An inline node as white space is judged: code keeps its own."""
    if child["type"] == "lineBreak":
        return "\n"
    return (
        child["text"]
        if child["type"] == "text" and {"type": "code"} not in child.get("marks", ())
        else "\ufffc"
    )


def is_plain(node: Node) -> bool:
    """Whether a block is a paragraph that needs no `<p>` around its words where it stands alone."""
    return (
        node["type"] == "paragraph"
        and node["attrs"]["align"] == "start"
        and ("content" not in node or not typed(node))
    )


def bare(node: Node, inner: str) -> str:
    """The HTML of a node's content, without `<p>` around a single plain paragraph."""
    content = node["content"]
    return _words_of(content[0], inner)[0] if len(content) == 1 and is_plain(content[0]) else inner


def _words_of(first: Node, inner: str) -> tuple[str, str]:
    """What stands in the first paragraph of `inner`, and what follows it."""
    if "content" not in first:
        return "", inner.removeprefix(f'<p class="{AS_TYPED}"></p>').removeprefix("\n")
    words, _, rest = inner.removeprefix("<p>").partition("</p>")
    return words, rest.removeprefix("\n")


def element(tag: str) -> Callable[[Node, str, Html], str]:
    """A function for nodes that are one element around their content."""
    return lambda node, inner, html: f"<{tag}>{inner}</{tag}>"


def line_break(node: Node, inner: str, html: Html) -> str:
    return "<br>\n"


def void(tag: str) -> Callable[[Node, str, Html], str]:
    """A function for nodes that are one empty element."""
    return lambda node, inner, html: f"<{tag}>"


def paragraph(node: Node, inner: str, html: Html) -> str:
    align = node["attrs"]["align"]
    return f"<p{classes('' if align == 'start' else f'align-{align}', typed(node))}>{inner}</p>"


def heading(node: Node, inner: str, html: Html) -> str:
    level, fixed = node["attrs"]["level"], node["attrs"]["anchor"]
    anchor = html.next_anchor() if html.is_page else fixed
    place = f' id="{escape(anchor)}"' if anchor else ""
    is_strong = all(
        {"type": "strong"} in child.get("marks", ())
        for child in node.get("content", ())
        if child["type"] == "text" and child["text"].strip()
    )
    kept = AS_TYPED if is_strong and not html.is_page else typed(node)
    return f"<h{level}{classes(kept)}{place}{' data-fixed' if fixed and not html.is_page else ''}>{inner}</h{level}>"


def bullet_list(node: Node, inner: str, html: Html) -> str:
    sign, inner = node["attrs"]["sign"], _spaced(node, inner)
    return f"<ul{classes('' if sign == 'disc' else f'sign-{sign}', _loose(node))}>\n{inner}\n</ul>"


def ordered_list(node: Node, inner: str, html: Html) -> str:
    start, numbers = node["attrs"]["start"], node["attrs"]["numbers"]
    kind = f' type="{LIST_TYPES[numbers]}"' if numbers in LIST_TYPES else ""
    first = "" if start == 1 else f' start="{start}"'
    return f"<ol{classes('numbers-greek' if numbers == 'lower-greek' else '', _loose(node))}{first}{kind}>\n{_spaced(node, inner)}\n</ol>"


def list_item(node: Node, inner: str, html: Html) -> str:
    """An item; its first paragraph stands between two control signs, which the list replaces."""
    first, *rest = node["content"]
    if not is_plain(first) or (rest and rest[0]["type"] == "paragraph"):
        return f"<li>\n{inner}\n</li>"
    words, after = _words_of(first, inner)
    words = f"\x01{words}\x02" if words else ""
    return f"<li>{words}\n{after}\n</li>" if after else f"<li>{words}</li>"


def _loose(node: Node) -> str:
    """`loose`, where the `<p>` of the items do not tell it."""
    told = any(is_plain(item["content"][0]) and "content" in item["content"][0] for item in node["content"])
    return "loose" if node["attrs"]["loose"] and not told else ""


def _spaced(node: Node, inner: str) -> str:
    """The items of a list: with `<p>` around first paragraphs where there is air between its items."""
    if not node["attrs"]["loose"]:
        return inner.replace("\x01", "").replace("\x02", "")
    return inner.replace("\x01", "\n<p>").replace("\x02\n", "</p>\n").replace("\x02", "</p>\n")


def quote(node: Node, inner: str, html: Html) -> str:
    source, address = escape(node["attrs"]["source"]), escape(node["attrs"]["address"])
    cite = f' cite="{address}"' if address else ""
    if source and address:
        source = f'<a href="{address}">{source}</a>'
    foot = f'<footer class="source">{source}</footer>\n' if source else ""
    if len(node["content"]) == 1 and is_plain(node["content"][0]) and "content" not in node["content"][0]:
        return f"<blockquote{cite}>\n{foot}</blockquote>"
    return f"<blockquote{cite}>\n{inner}\n{foot}</blockquote>"


def code_block(node: Node, inner: str, html: Html) -> str:
    language = node["attrs"]["language"]
    name = f' class="language-{escape(language)}"' if language else ""
    if html.is_page and language:
        inner = coloured(plain(node), language)
    scrolls = ' tabindex="0"' if html.is_page else ""
    end = "\n" if inner else ""
    return f"<pre{scrolls}><code{name}>{inner}{end}</code></pre>"


def fill_in(node: Node, inner: str, html: Html) -> str:
    """The value of a fill-in; its name in braces where it has none here."""
    name = node["attrs"]["name"]
    value = html.fill(name)
    words = escape(value if value is not None else f"{{{name}}}", quote=False)
    return words if html.is_page else f'<span class="fill-in" data-fill-in="{name}">{words}</span>'


def tag(name: str) -> Callable[[dict[str, Any], str, Html], str]:
    """A function for marks that are one element around the marked text."""
    return lambda attrs, inner, html: f"<{name}>{inner}</{name}>"


def classed(name: str, attribute: str) -> Callable[[dict[str, Any], str, Html], str]:
    """A function for marks told by a class that ends in their one attribute."""
    return lambda attrs, inner, html: f'<{name} class="{attribute}-{attrs[attribute]}">{inner}</{name}>'


def language(attrs: dict[str, Any], inner: str, html: Html) -> str:
    """Words in another language than the text around them."""
    return f'<span class="language" lang="{escape(attrs["language"])}">{inner}</span>'


def link(attrs: dict[str, Any], inner: str, html: Html) -> str:
    """A link; its words alone where readers cannot go there."""
    found = html.address(attrs["href"])
    if found is None:
        return inner
    href, more = found
    relations = dict.fromkeys(
        [
            *(("sponsored", "nofollow") if attrs["paid"] else ()),
            *more,
            *(("noopener",) if attrs["window"] == "new" else ()),
        ]
    )
    rel = f' rel="{" ".join(relations)}"' if relations else ""
    title = f' title="{escape(attrs["title"])}"' if attrs["title"] else ""
    target = ' target="_blank"' if attrs["window"] == "new" else ""
    exact = "" if html.is_page or unwrapped(href) == href else " data-exact"
    return f'<a href="{escape(href)}"{title}{target}{rel}{exact}>{inner}</a>'
