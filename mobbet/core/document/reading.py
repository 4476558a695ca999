"""Texts from outside read as documents: functions that take and answer plain values, so that a process of its own can run them."""

from __future__ import annotations

from mobbet.core.document.from_files import READERS
from mobbet.core.document.from_html import Reading, from_html, read_html
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.document.html import entries
from mobbet.core.document.schema import Node, check
from mobbet.core.document.unclosed import mistakes
from mobbet.core.document.write import to_html, to_markdown

PASTED = "pasted"


def read_source(
    kind: str, data: str | bytes, brought: dict[str, str | None] | None = None
) -> tuple[Reading, list[str]]:
    """A paste (`pasted`, as text) or a file (`docx`, `odt`, `html`, `txt`, as bytes), and the addresses of the pictures in it, each once.

    `brought` says what becomes of each picture: its `src` on the sheet, or None where it is left out, as all are without it. Raises BadInput.
    """
    sources: dict[str, None] = {}

    def bring(src: str) -> str | None:
        sources[src] = None
        return (brought or {}).get(src)

    reading = read_html(data, bring) if isinstance(data, str) else READERS[kind](data, bring)
    return reading, list(sources)


def read_markdown(text: str) -> Node:
    """The document in Markdown. Raises BadDocument."""
    return from_markdown(text)


def read_written_html(text: str) -> tuple[Node, list[str]]:
    """The document in HTML somebody wrote, and remarks on it; a mistake is refused with its line."""
    return from_html(text), mistakes(text)


def written(document: object, format: str) -> str:
    """A document as Markdown or HTML. Raises BadDocument."""
    checked = check(document)
    return to_markdown(checked) if format == "markdown" else to_html(checked) + "\n"


def anchors(document: object) -> list[str]:
    """The anchors of the headings, in order. Raises BadDocument."""
    return [entry.anchor for entry in entries(check(document))]
