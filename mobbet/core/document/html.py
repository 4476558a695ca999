"""What each node and mark becomes in HTML. The functions take (node, inner HTML, Html)."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from html import escape
from typing import Any

from mobbet.core.addresses import free_slug, make_slug
from mobbet.core.document.text import plain

Node = dict[str, Any]


@dataclass(frozen=True)
class Rendition:
    """How one picture is offered to a browser; width and height in pixels of the largest file."""

    src: str
    width: int | None = None
    height: int | None = None
    srcset: str = ""
    sizes: str = ""


def as_written(src: str) -> Rendition | None:
    """A picture offered at the address it was written with."""
    return Rendition(src)


@dataclass
class Html:
    """What rendering needs besides the tree, and what it keeps count of.

    `rendition` answers with the files of a picture, or None when readers cannot be given any.
    """

    rendition: Callable[[str], Rendition | None] = as_written
    anchors: set[str] = field(default_factory=set)
    pictures: int = 0

    def anchor(self, words: str) -> str:
        slug = free_slug(make_slug(words, "part"), self.anchors.__contains__)
        self.anchors.add(slug)
        return slug


def element(tag: str) -> Callable[[Node, str, Html], str]:
    """A function for nodes that are one element around their content."""
    return lambda node, inner, html: f"<{tag}>{inner}</{tag}>"


def void(tag: str) -> Callable[[Node, str, Html], str]:
    """A function for nodes that are one empty element."""
    return lambda node, inner, html: f"<{tag}>"


def heading(node: Node, inner: str, html: Html) -> str:
    level = node["attrs"]["level"]
    return f'<h{level} id="{html.anchor(plain(node))}">{inner}</h{level}>'


def ordered_list(node: Node, inner: str, html: Html) -> str:
    start = node["attrs"]["start"]
    return f"<ol>{inner}</ol>" if start == 1 else f'<ol start="{start}">{inner}</ol>'


def list_item(node: Node, inner: str, html: Html) -> str:
    """An item that is a single paragraph needs no `<p>` inside."""
    content = node["content"]
    if [child["type"] for child in content] == ["paragraph"]:
        inner = inner.removeprefix("<p>").removesuffix("</p>")
    return f"<li>{inner}</li>"


def code_block(node: Node, inner: str, html: Html) -> str:
    language = node["attrs"]["language"]
    name = f' class="language-{escape(language)}"' if language else ""
    return f"<pre><code{name}>{inner}</code></pre>"


def picture(node: Node, inner: str, html: Html) -> str:
    """The first picture of a text loads at once, the others when they come near."""
    attrs = node["attrs"]
    rendition = html.rendition(attrs["src"])
    caption = f"<figcaption>{inner}</figcaption>" if inner else ""
    alt = escape(attrs["alt"])
    if rendition is None:
        return f'<figure class="picture"><a href="{escape(attrs["src"])}">{alt or "Picture"}</a>{caption}</figure>'
    parts = [f'src="{escape(rendition.src)}"']
    if rendition.srcset:
        parts += [f'srcset="{escape(rendition.srcset)}"', f'sizes="{escape(rendition.sizes)}"']
    if rendition.width and rendition.height:
        parts += [f'width="{rendition.width}"', f'height="{rendition.height}"']
    parts.append(f'alt="{alt}"')
    parts.append('loading="lazy" decoding="async"' if html.pictures else 'fetchpriority="high"')
    html.pictures += 1
    return f'<figure class="picture"><img {" ".join(parts)}>{caption}</figure>'


def tag(name: str) -> Callable[[dict, str], str]:
    """A function for marks that are one element around the marked text."""
    return lambda attrs, inner: f"<{name}>{inner}</{name}>"


def link(attrs: dict, inner: str) -> str:
    return f'<a href="{escape(attrs["href"])}">{inner}</a>'
