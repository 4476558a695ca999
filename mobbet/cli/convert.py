"""`mobbet convert`: turns a text from one format into another."""

from __future__ import annotations

import json
import sys
from argparse import ArgumentParser, Namespace
from pathlib import Path

from mobbet.cli.shared import text_in

SOURCES = ("document", "docx", "html", "markdown", "odt", "text")
TARGETS = ("document", "html", "markdown", "text")


EPILOG = """It reads and writes every kind of block; [notation.md](notation.md) tells how they stand in Markdown."""


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    command.add_argument("--from", dest="source", required=True, choices=SOURCES)
    command.add_argument("--to", dest="target", required=True, choices=TARGETS)
    command.add_argument("file", nargs="?", default="-", metavar="FILE")
    command.set_defaults(run=convert)


def convert(options: Namespace) -> None:
    data = sys.stdin.buffer.read() if options.file == "-" else Path(options.file).read_bytes()
    print(_written(_read(data, options.source), options.target))


def _read(data: bytes, source: str) -> dict:
    """The document of a file in one of SOURCES."""
    from mobbet.core.document import from_files, from_html, from_markdown, schema

    readers = {
        "document": schema.read,
        "docx": from_files.from_docx,
        "html": lambda data: from_html.from_html(from_files.text_of(data)),
        "markdown": lambda data: from_markdown.from_markdown(text_in(data)),
        "odt": from_files.from_odt,
        "text": lambda data: from_files.from_text(from_files.text_of(data)),
    }
    return readers[source](data)


def _written(document: dict, target: str) -> str:
    """A document in one of TARGETS."""
    from mobbet.core.document import write

    writers = {
        "document": lambda document: json.dumps(document, ensure_ascii=False),
        "html": write.to_html,
        "markdown": lambda document: write.to_markdown(document).removesuffix("\n"),
        "text": write.to_text,
    }
    return writers[target](document)
