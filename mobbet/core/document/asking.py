"""The block by which a post asks its readers, as HTML and as text."""

from __future__ import annotations

import json
from html import escape
from typing import Any

from mobbet.core.asking import (
    CHOICE,
    EMAIL,
    KINDS,
    LONGEST_CHOICE,
    LONGEST_QUESTION,
    MOST_CHOICES,
    MOST_QUESTIONS,
    SCALE,
    SEVERAL,
    STEPS,
    TEXT,
    AskedBlock,
    block_of,
    name_of,
)
from mobbet.core.document.attributes import lines, words
from mobbet.core.document.html import Html

Node = dict[str, Any]


def questions(value: Any) -> list[list[Any]] | None:
    """At most 30 of [kind, words, choices, whether it must be answered]."""
    if not isinstance(value, list) or len(value) > MOST_QUESTIONS:
        return None
    found = []
    for row in value:
        if not isinstance(row, list) or len(row) != 4 or row[0] not in KINDS or not isinstance(row[3], bool):
            return None
        asked, choices = words(LONGEST_QUESTION)(row[1]), lines(MOST_CHOICES, LONGEST_CHOICE)(row[2])
        if asked is None or choices is None:
            return None
        found.append([row[0], asked, [*dict.fromkeys(choices)], row[3]])
    return found


def ask(node: Node, inner: str, html: Html) -> str:
    """A form; nothing in feeds and letters, which cannot send it, and nothing while it has no question."""
    attrs = node["attrs"]
    if not html.is_page:
        data = escape(json.dumps(attrs, ensure_ascii=False))
        return f'<section class="asks" data-ask="{data}"><p>{escape(attrs["title"])}</p></section>'
    block = block_of(attrs)
    if html.is_feed or not (html.forms and html.post and block.questions):
        return ""
    return form_html(block, f"{html.forms}ask/{html.post}/{block.key}")


def form_html(block: AskedBlock, address: str, typed: dict[str, list[str]] | None = None) -> str:
    """The form of a block, sent to an address; with what was typed."""
    start = f"ask-{block.key}"
    title = f'<p class="asks-title" id="{start}">{escape(block.title)}</p>' if block.title else ""
    fields = "".join(
        _field(f"{start}-{at}", name_of(at), question, (typed or {}).get(name_of(at), []))
        for at, question in enumerate(block.questions)
    )
    until = f" Open until the end of {block.closes}." if block.closes else ""
    named = f' aria-labelledby="{start}"' if title else ' aria-label="Questions"'
    return (
        f'<form class="ask asks" method="post" action="{escape(address)}"{named}>{title}{fields}'
        '<div class="unseen" aria-hidden="true"><label>Leave this empty <input name="remark" tabindex="-1" autocomplete="off"></label></div>'
        f'<button>{"Vote" if block.is_poll else "Send it"}</button><p class="promise">{escape(block.promise)}{until}</p></form>'
    )


def _field(number: str, name: str, question: list[Any], typed: list[str]) -> str:
    kind, asked, choices, is_needed = question
    required = " required" if is_needed else ""
    label = escape(asked) + ("" if is_needed else ' <span class="may">(if you like)</span>')
    value = escape(typed[0]) if typed else ""
    if kind in (CHOICE, SEVERAL, SCALE):
        type_, needed = ("checkbox", "") if kind == SEVERAL else ("radio", required)
        rows = "".join(
            f'<label class="tick"><input type="{type_}" name="{name}" value="{escape(one)}"{needed}{" checked" if one in typed else ""}> {escape(one)}</label>'
            for one in (choices if kind != SCALE else STEPS)
        )
        return f'<fieldset class="{"steps" if kind == SCALE else "picks"}"><legend>{label}</legend>{rows}</fieldset>'
    if kind == TEXT:
        return f'<label for="{number}">{label}</label><textarea id="{number}" name="{name}" rows="6"{required}>{value}</textarea>'
    more = ' type="email" autocomplete="email"' if kind == EMAIL else ""
    return f'<label for="{number}">{label}</label><input id="{number}" name="{name}" value="{value}"{more}{required}>'


def ask_text(node: Node, parts: list[str]) -> str:
    attrs = node["attrs"]
    return "\n".join(
        line for line in (attrs["title"], *(f"- {question[1]}" for question in attrs["questions"])) if line
    )
