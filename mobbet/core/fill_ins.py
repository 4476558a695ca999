"""Fill-ins: names in the text that stand for fields of the post and facts of the blog."""

from __future__ import annotations

import re

from mobbet.core.errors import BadInput

FIELDS = {
    "title": "the title",
    "subtitle": "the subtitle",
    "byline": "the byline",
    "date": "the date it went out",
    "updated": "the date of the last update",
    "author": "the author's name",
    "blog": "the blog's name",
    "address": "the post's address",
}
"""The fields of a post, with what each stands for."""
LONGEST = 300
FILL_IN = re.compile(r"\{([^{}]*)\}")
"""A fill-in as people type it in a line."""


def read_facts(text: str) -> tuple[tuple[str, str], ...]:
    """Facts typed one a line, `phone: +351 21 000 0000`. Raises BadInput, naming the line."""
    facts: dict[str, str] = {}
    for line in text.splitlines():
        if not line.strip():
            continue
        name, colon, value = line.partition(":")
        name, value = "-".join(name.lower().split()), " ".join(value.split())
        if not colon or not re.fullmatch(r"[a-z][a-z0-9-]{0,40}", name):
            raise BadInput(
                f"“{line.strip()}” is no fact; write a name, a colon and a value, like phone: 21 000.",
                "facts",
            )
        if name in FIELDS:
            raise BadInput(f"“{name}” stands for {FIELDS[name]} already; choose another name.", "facts")
        if len(value) > LONGEST:
            raise BadInput(f"The fact “{name}” is longer than {LONGEST} letters; shorten it.", "facts")
        facts[name] = value
    return tuple(facts.items())


def values(
    *,
    title: str,
    subtitle: str,
    author: str,
    date: str,
    updated: str,
    blog: str,
    address: str,
    facts: tuple[tuple[str, str], ...],
) -> dict[str, str]:
    """The present value of every fill-in."""
    return {
        **dict(facts),
        "title": title,
        "subtitle": subtitle,
        "byline": f"By {author} · {date}",
        "date": date,
        "updated": updated or date,
        "author": author,
        "blog": blog,
        "address": address,
    }


def filled(line: str, known: dict[str, str]) -> str:
    """A line with `{name}` replaced by its value; by nothing where it has none."""
    return FILL_IN.sub(lambda found: known.get(found[1], ""), line)
