"""The posts of an export, as those of an older site: for a blog that has posts of its own."""

from __future__ import annotations

import json
import re
from collections.abc import Iterator
from pathlib import PurePosixPath
from typing import Any

from mobbet.actions.export_sinks import SUMMARY
from mobbet.actions.export_sources import Tree, lines, text
from mobbet.core.errors import BadInput, MobbetError
from mobbet.core.exporting import post_files
from mobbet.core.importing.item import MARKDOWN, Item, NotRead, names, one_line

_MEDIA = re.compile(r"\bmedia:(\d{1,12})\b")
_POST = re.compile(r"\[([^\[\]\n]{0,300})\]\(post:\d{1,12}[^)\s]{0,300}\)")
_FILE = re.compile(r"posts/[^/]+\.md")
LARGEST_PICTURE = 500_000_000


def items(tree: Tree) -> Iterator[Item | NotRead]:
    """The posts, with categories and tags by their names, as they were out last; pictures are named by their paths. Pages and what was set aside are told."""
    if not tree.has(SUMMARY):
        raise BadInput(
            f"There is no {SUMMARY} here: this is no export, or one that was broken off.", "source"
        )
    blog = json.loads(text(tree, SUMMARY)).get("blog", {})
    categories, tags, files, out = (
        _names(tree, "category.jsonl"),
        _names(tree, "tag.jsonl"),
        _files(tree),
        _out(tree),
    )
    for path in tree.names("posts"):
        if not _FILE.fullmatch(path):
            continue
        key = f"{one_line(blog.get('slug'), 80)}/{PurePosixPath(path).name}"
        try:
            number = post_files.number_in(PurePosixPath(path).stem)
            facts, markdown = post_files.read(text(tree, path))
        except MobbetError as error:
            yield NotRead(key, str(error))
            continue
        if facts.get("kind") or facts.get("aside_at") or facts.get("is_template"):
            yield NotRead(key, "it is a page, a template, or was set aside")
            continue
        markdown = _MEDIA.sub(lambda found: files.get(int(found[1]), found[0]), markdown)
        placed = out.get(number, {})
        yield Item(
            key, one_line(facts.get("title")), _POST.sub(r"\1", markdown), MARKDOWN, str(placed.get("goes_out", "")) if placed else "",
            names(categories.get(one, one) for one in _listed(facts.get("categories"))), names(tags.get(one, one) for one in _listed(facts.get("tags"))), "",
            one_line(facts.get("excerpt"), 1000), not placed or placed.get("audience", "everyone") != "everyone", (str(placed["path"]),) if placed.get("path") else (),
            "", one_line(facts.get("slug")),
        )  # fmt: skip


def _listed(value: Any) -> list[str]:
    return [str(one) for one in value] if isinstance(value, list) else []


def _rows(tree: Tree, path: str) -> Iterator[dict[str, Any]]:
    for line in lines(tree, path):
        try:
            found = json.loads(line)
        except (ValueError, RecursionError):
            continue
        if isinstance(found, dict):
            yield found


def _names(tree: Tree, path: str) -> dict[str, str]:
    """{slug: name}, of categories with those above them."""
    rows = {str(row.get("slug")): row for row in _rows(tree, path)}

    def name(slug: str, depth: int = 0) -> str:
        row = rows[slug]
        above = str(row.get("parent", ""))
        own = one_line(row.get("name"))
        return f"{name(above, depth + 1)} › {own}" if above in rows and depth < 10 else own

    return {slug: name(slug) for slug in rows}


def _files(tree: Tree) -> dict[int, str]:
    """{number: path} of the files of the library."""
    return {place: str(row.get("file", "")) for place, row in enumerate(_rows(tree, "media.jsonl"), start=1)}


def _out(tree: Tree) -> dict[int, dict[str, Any]]:
    """{post: the placement in which readers got it last}."""
    found: dict[int, dict[str, Any]] = {}
    for row in _rows(tree, "placement.jsonl"):
        if isinstance(row.get("post"), int) and row.get("shows_from") != row.get("shows_until"):
            found[row["post"]] = row
    return found


def bring(tree: Tree, src: str) -> bytes | None:
    """The bytes of a file of the library; None for what is none."""
    if not src.startswith("media/") or not tree.has(src):
        return None
    with tree.open(src) as file:
        return file.read(LARGEST_PICTURE)
