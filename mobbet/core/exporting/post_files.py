"""The file of a post in an export: its facts as YAML front matter, each value spelled as in JSON, and its text as Markdown."""

from __future__ import annotations

import json
import re
from typing import Any

import yaml

from mobbet.core.addresses import make_slug
from mobbet.core.errors import BadInput

LONGEST_FACTS = 1_000_000
_FENCE = re.compile(r"\A---\n(.*?\n)?---\n", re.DOTALL)
_NAME = re.compile(r"(\d{1,9})(-[^/]*)?\Z")


def stem(number: int, words: str) -> str:
    """What the file of a row is called: its number and some words, such as `0012-a-desk-lamp`."""
    return f"{number:04}-{make_slug(words[:60], 'untitled')[:60]}"


def number_in(name: str) -> int:
    """The number that a name begins with. Raises BadInput."""
    found = _NAME.match(name)
    if not found or not int(found[1]):
        raise BadInput(f"“{name[:60]}” begins with no number; name it like 0012-a-desk-lamp.", "folder")
    return int(found[1])


def written(facts: dict[str, Any], markdown: str) -> str:
    """The text of a file."""
    lines = "".join(f"{name}: {json.dumps(value, ensure_ascii=False)}\n" for name, value in facts.items())
    return f"---\n{lines}---\n{markdown}"


def read(text: str) -> tuple[dict[str, Any], str]:
    """(the facts, the Markdown) of a file. Raises BadInput."""
    text = text.removeprefix("\ufeff").replace("\r\n", "\n")
    fence = _FENCE.match(text)
    if not fence or len(fence[0]) > LONGEST_FACTS:
        raise BadInput(
            "There are no facts between two lines of --- at the beginning; export the blog again.", "folder"
        )
    try:
        facts = _json_lines(fence[1] or "")
    except ValueError:
        facts = _yaml(fence[1] or "")
    return facts, text[fence.end() :]


def _json_lines(text: str) -> dict[str, Any]:
    """Facts as an export writes them. Raises ValueError for any other YAML."""
    facts: dict[str, Any] = {}
    for line in text.split("\n"):
        name, colon, value = line.partition(": ")
        if colon:
            facts[name] = json.loads(value)
        elif line:
            raise ValueError(line)
    return facts


def _yaml(text: str) -> dict[str, Any]:
    """Facts that somebody wrote by hand. Aliases are refused: a few lines of them stand for millions of values."""
    try:
        if any(isinstance(event, yaml.AliasEvent) for event in yaml.parse(text)):
            raise BadInput("The facts at the beginning have YAML aliases; write each value out.", "folder")
        found = yaml.safe_load(text)
    except (yaml.YAMLError, ValueError, RecursionError) as error:
        raise BadInput(
            f"The facts at the beginning are no YAML: {str(error).splitlines()[0][:100]}.", "folder"
        ) from None
    if not isinstance(found, dict) or not all(isinstance(name, str) for name in found):
        raise BadInput("The facts at the beginning are no list of names and values.", "folder")
    return {name: _plain(value) for name, value in found.items()}


def _plain(value: Any) -> Any:
    """A value as JSON has it; YAML reads dates as such."""
    if hasattr(value, "strftime"):
        return value.strftime("%Y-%m-%dT%H:%M:%SZ") if hasattr(value, "hour") else value.isoformat()
    return [_plain(one) for one in value] if isinstance(value, list) else value
