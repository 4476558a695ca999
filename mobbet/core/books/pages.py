"""The blocks of a book as XHTML, which HTML and EPUB share."""

from __future__ import annotations

from collections.abc import Callable
from html import escape

from mobbet.core.books.book import Chapter, Node

_MARKS = {
    "strong": "strong",
    "emphasis": "em",
    "underline": "u",
    "strike": "s",
    "superscript": "sup",
    "subscript": "sub",
    "code": "code",
}
STYLE = """body { font-family: serif; line-height: 1.5; margin: 1em auto; max-width: 40em; padding: 0 1em; }
h1, h2, h3, h4, h5, h6 { line-height: 1.2; } .by { color: #444; font-style: italic; } figure { margin: 1em 0; text-align: center; } img { max-width: 100%; height: auto; }
figcaption { font-size: .9em; } blockquote { border-left: .2em solid #999; margin: 1em 0; padding-left: 1em; } pre { background: #eee; padding: .6em; white-space: pre-wrap; }
table { border-collapse: collapse; } td, th { border: 1px solid #999; padding: .3em .5em; text-align: left; vertical-align: top; } nav ol { padding-left: 1.5em; }
@media print { body { max-width: none; } .chapter { break-before: page; } h1, h2, h3 { break-after: avoid; } figure, table { break-inside: avoid; } }
"""
Place = Callable[[str], str]
"""Answers with the address of a picture in the book by its `src`; '' for one that is not there."""


def chapter_html(chapter: Chapter, place: Place, level: int = 1) -> str:
    """A chapter with its title as a heading of a level; headings of the text follow below it."""
    by = " ".join(filter(None, (f"By {chapter.author}" if chapter.author else "", chapter.date)))
    head = f"<h{level}>{escape(chapter.title)}</h{level}>\n"
    subtitle = f'<p class="by">{escape(chapter.subtitle)}</p>\n' if chapter.subtitle else ""
    return f'{head}{subtitle}<p class="by">{escape(by)}</p>\n{blocks_html(chapter.document["content"], place, level)}'


def blocks_html(nodes: list[Node], place: Place, level: int = 1) -> str:
    return "\n".join(_block(node, place, level) for node in nodes)


def _block(node: Node, place: Place, level: int) -> str:
    kind, content = node["type"], node.get("content", [])
    if kind == "paragraph":
        return f"<p>{inline_html(content)}</p>"
    if kind == "heading":
        depth = min(6, node["attrs"]["level"] + level - 1)
        return f"<h{depth}>{inline_html(content)}</h{depth}>"
    if kind in ("bulletList", "orderedList"):
        start = node.get("attrs", {}).get("start", 1)
        name = "ul" if kind == "bulletList" else "ol"
        tag = f'ol start="{start}"' if name == "ol" and start != 1 else name
        items = "".join(f"<li>{blocks_html(item['content'], place, level)}</li>" for item in content)
        return f"<{tag}>{items}</{name}>"
    if kind == "quote":
        return f"<blockquote>{blocks_html(content, place, level)}</blockquote>"
    if kind == "codeBlock":
        return f"<pre><code>{escape(content[0]['text'])}</code></pre>"
    if kind == "divider":
        return "<hr/>"
    if kind == "picture":
        return _figure(node, place)
    return _table(node, place, level)


def _figure(node: Node, place: Place) -> str:
    where, alt = place(node["attrs"]["src"]), escape(node["attrs"]["alt"])
    caption = inline_html(node.get("content", []))
    told = f"<figcaption>{caption}</figcaption>" if caption else ""
    return (
        f'<figure><img src="{escape(where)}" alt="{alt}"/>{told}</figure>'
        if where
        else f"<p>{alt}</p>{f'<p>{caption}</p>' if caption else ''}"
    )


def _table(node: Node, place: Place, level: int) -> str:
    rows = []
    for row in node["content"]:
        cells = []
        for cell in row["content"]:
            name = "th" if cell["type"] == "tableHeader" else "td"
            spans = "".join(
                f' {one}="{cell["attrs"][one]}"'
                for one in ("colspan", "rowspan")
                if cell["attrs"].get(one, 1) != 1
            )
            cells.append(f"<{name}{spans}>{blocks_html(cell['content'], place, level)}</{name}>")
        rows.append(f"<tr>{''.join(cells)}</tr>")
    return f"<table><tbody>{''.join(rows)}</tbody></table>"


def inline_html(nodes: list[Node]) -> str:
    return "".join("<br/>" if node["type"] == "lineBreak" else _marked(node) for node in nodes)


def _marked(node: Node) -> str:
    found = escape(node["text"], quote=False)
    for mark in reversed(node["marks"]):
        if mark["type"] == "link":
            where = escape(mark["attrs"]["href"])
            found = f'<a href="{where}">{found}</a>'
        else:
            name = _MARKS[mark["type"]]
            found = f"<{name}>{found}</{name}>"
    return found
