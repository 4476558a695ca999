"""The composed kinds of blocks, those that CommonMark has no sign for: how each is written as HTML, and as text."""

from __future__ import annotations

import json
import re
from html import escape, unescape
from typing import Any

from mobbet.core.document import review as scores
from mobbet.core.document import text
from mobbet.core.document.html import Entry, Html, bare, classes
from mobbet.core.document.raw import clean_html
from mobbet.core.document.signs import drawing

Node = dict[str, Any]


def table(node: Node, inner: str, html: Html) -> str:
    """A table; readers on a narrow screen move it sideways, so it takes the focus."""
    caption = escape(node["attrs"]["caption"])
    head = f"<caption>{caption}</caption>" if caption else ""
    rows = node["content"]
    heads = next((at for at, row in enumerate(rows) if not _is_head(row)), len(rows))
    parts = [part.removesuffix("\n") for part in inner.split("\x00")[1:]]
    thead = f"<thead>{''.join(parts[:heads])}</thead>" if heads else ""
    tbody = f"<tbody>{''.join(parts[heads:])}</tbody>" if heads < len(parts) else ""
    label = caption or "Table"
    frame = (
        f'<div class="table" tabindex="0" role="group" aria-label="{label}">'
        if html.is_page
        else '<div class="table">'
    )
    return f'{frame}<table class="data">{head}{thead}{tbody}</table></div>'


def table_row(node: Node, inner: str, html: Html) -> str:
    """A row, told apart from the next by a NUL, which no text can hold; the table takes it away."""
    if _is_head(node):
        inner = inner.replace('<th scope="row"', '<th scope="col"')
    return f"\x00<tr>{inner}</tr>"


def table_header(node: Node, inner: str, html: Html) -> str:
    return _cell("th", ' scope="row"', node, inner)


def table_cell(node: Node, inner: str, html: Html) -> str:
    return _cell("td", "", node, inner)


def _cell(tag: str, scope: str, node: Node, inner: str) -> str:
    attrs = node["attrs"]
    spans = "".join(f' {name}="{attrs[name]}"' for name in ("colspan", "rowspan") if attrs[name] != 1)
    align = "" if attrs["align"] == "start" else f"align-{attrs['align']}"
    return f"<{tag}{scope}{spans}{classes(align)}>{bare(node, inner)}</{tag}>"


def _is_head(row: Node) -> bool:
    cells = row.get("content", ())
    return bool(cells) and all(cell["type"] == "tableHeader" for cell in cells)


def callout(node: Node, inner: str, html: Html) -> str:
    sign, tint, title = (node["attrs"][name] for name in ("sign", "tint", "title"))
    head = f'<p class="callout-title">{escape(title)}</p>' if title else ""
    return f'<aside class="callout wash-{tint}" data-callout="{sign}">{drawing(sign)}{head}<div class="callout-text">{inner}</div></aside>'


def button(node: Node, inner: str, html: Html) -> str:
    words, address, weight = (node["attrs"][name] for name in ("words", "address", "weight"))
    found = html.address(address) if address else None
    if html.is_page and (not words or found is None):
        return ""
    href = f' href="{escape(found[0] if found else address)}"' if address else ""
    rel = f' rel="{" ".join(found[1])}"' if found and found[1] else ""
    return f'<p class="put-button"><a class="button-{weight}"{href}{rel}>{escape(words)}</a></p>'


SUBSCRIBE_TO = ("all", "category", "author", "series")
"""What a form subscribes to: everything, or the posts of the category, author or series of the post in which it stands."""
SUBSCRIBE_WORDS = "New posts by e-mail"


def subscribe(node: Node, inner: str, html: Html) -> str:
    """A form for an e-mail address; nothing where nobody may subscribe, and in feeds."""
    words, what = node["attrs"]["words"], node["attrs"]["what"]
    if not html.is_page:
        return f'<div class="subscribe" data-subscribe="{what}">{escape(words)}</div>'
    if html.is_feed or not (html.forms and html.takes_subscribers):
        return ""
    html.counts["forms"] += 1
    number = f"letters-{html.counts['forms']}"
    subject = f"{what}-of:{html.post}" if what != "all" and html.post else "all"
    return (
        f'<form class="ask subscribe" method="post" action="{escape(html.forms)}letters"><label for="{number}">{escape(words or SUBSCRIBE_WORDS)}</label>'
        f'<div class="one-line"><input id="{number}" name="email" type="email" required autocomplete="email" maxlength="254">'
        f'<input type="hidden" name="what" value="{subject}"><button>Get letters</button></div></form>'
    )


def beside(node: Node, inner: str, html: Html) -> str:
    return f'<div class="beside share-{node["attrs"]["share"]}">{inner}</div>'


def side(node: Node, inner: str, html: Html) -> str:
    return f'<div class="side">{inner}</div>'


def contents(node: Node, inner: str, html: Html) -> str:
    """Links to the headings from level 2 down to the chosen depth."""
    depth = node["attrs"]["depth"]
    shown = [entry for entry in html.entries if 2 <= entry.level <= depth and entry.words.strip()]
    if html.is_page and not shown:
        return ""
    return f'<nav class="contents" data-depth="{depth}" aria-label="Contents">{_nested(shown)}</nav>'


def _nested(shown: list[Entry]) -> str:
    """Nested lists of the entries; a level that was left out makes none of its own."""
    parts: list[str] = []
    open_levels: list[int] = []
    for entry in shown:
        while open_levels and entry.level < open_levels[-1] and len(open_levels) > 1:
            parts.append("</li></ol>")
            open_levels.pop()
        if not open_levels or entry.level > open_levels[-1]:
            parts.append("<ol>")
            open_levels.append(entry.level)
        else:
            parts.append("</li>")
            open_levels[-1] = entry.level
        parts.append(f'<li><a href="#{escape(entry.anchor)}">{escape(entry.words, quote=False)}</a>')
    return "".join(parts) + "</li></ol>" * len(open_levels)


def teaser_line(node: Node, inner: str, html: Html) -> str:
    return "" if html.is_page else '<hr class="teaser-line" hidden>'


def review(node: Node, inner: str, html: Html) -> str:
    attrs = node["attrs"]
    score = scores.overall(attrs["criteria"])
    parts = [f'<p class="review-name">{escape(attrs["name"])}</p>']
    if score is not None:
        parts.append(
            f'<p class="review-score"><b>{scores.shown(score)}</b> of {scores.BEST}{_bar(score)}</p>'
        )
        rows = "".join(
            f'<tr><th scope="row">{escape(name)}</th><td>{_bar(value)}</td><td class="figure">{scores.shown(value)}</td></tr>'
            for name, value, _ in attrs["criteria"]
        )
        parts.append(f'<table class="review-criteria"><tbody>{rows}</tbody></table>')
    for title, key in (("For", "points_for"), ("Against", "points_against")):
        if attrs[key]:
            items = "".join(f"<li>{escape(words)}</li>" for words in attrs[key])
            parts.append(f'<div class="review-points"><p>{title}</p><ul>{items}</ul></div>')
    if attrs["verdict"]:
        parts.append(f'<p class="review-verdict">{escape(attrs["verdict"])}</p>')
    data = "" if html.is_page else f' data-review="{escape(json.dumps(attrs, ensure_ascii=False))}"'
    return f'<section class="review"{data}>{"".join(parts)}</section>'


def _bar(score: float) -> str:
    return (
        '<svg class="score-bar" viewBox="0 0 100 6" preserveAspectRatio="none" aria-hidden="true" focusable="false">'
        f'<rect class="whole" width="100" height="6"/><rect class="part" width="{scores.shown(score * 10)}" height="6"/></svg>'
    )


def raw_html(node: Node, inner: str, html: Html) -> str:
    source = node["attrs"]["html"]
    data = "" if html.is_page else f' data-source="{escape(source)}"'
    return f'<div class="by-hand"{data}>{clean_html(source)[0]}</div>'


def standing(node: Node, inner: str, html: Html) -> str:
    """A page has the blocks of the copy in its place before it is written (`standing.expanded`)."""
    return "" if html.is_page else f'<div class="standing" data-standing="{node["attrs"]["copy"]}"></div>'


def callout_text(node: Node, parts: list[str]) -> str:
    return text.blocks(node, [node["attrs"]["title"], *parts])


def subscribe_text(node: Node, parts: list[str]) -> str:
    return str(node["attrs"]["words"])


def button_text(node: Node, parts: list[str]) -> str:
    return str(node["attrs"]["words"])


def review_text(node: Node, parts: list[str]) -> str:
    attrs = node["attrs"]
    lines = [attrs["name"], *(f"{name}: {score:g}" for name, score, _ in attrs["criteria"])]
    lines += [f"+ {words}" for words in attrs["points_for"]] + [
        f"- {words}" for words in attrs["points_against"]
    ]
    return "\n".join([*lines, *([attrs["verdict"]] if attrs["verdict"] else [])])


def raw_html_text(node: Node, parts: list[str]) -> str:
    return " ".join(unescape(re.sub(r"<[^<>]*>", " ", node["attrs"]["html"])).split())
