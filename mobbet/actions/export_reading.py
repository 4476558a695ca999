"""Reads an export of a blog (docs/export.md), row by row, and checks each value."""

from __future__ import annotations

import json
import re
import secrets
from collections.abc import Iterator
from hashlib import sha256
from pathlib import PurePosixPath
from typing import IO, Any

from mobbet.actions.export_sinks import SUMMARY
from mobbet.actions.export_sources import Tree, lines, text
from mobbet.actions.exporting import FORMAT, VERSION
from mobbet.actions.workshop import Workshop
from mobbet.core.canonical import canonical
from mobbet.core.document import outline, schema
from mobbet.core.document.leading import reference
from mobbet.core.document.reading import read_markdown
from mobbet.core.emails import read_email
from mobbet.core.errors import BadInput, MobbetError
from mobbet.core.exporting import checks, post_files
from mobbet.core.exporting.forms import Field, Key, read
from mobbet.core.exporting.structures import lenient, renumbered
from mobbet.core.exporting.tables import (
    BLOG,
    BLOG_LEFT,
    MEDIA,
    PERSON,
    POST,
    POST_LEFT,
    REVISION,
    REVISION_LEFT,
    TABLES,
    Table,
)

SECONDS = 30.0
Rows = dict[str, Any]
_NEWEST = frozenset(one.name for one in REVISION)
_BESIDE_POST = frozenset({"number", "revision", "categories", "tags", "lead", *_NEWEST})
_POST_FILE = re.compile(r"posts/[^/]+\.md")


class _Texts:
    """The documents of Markdown texts that were read, in a file: an import goes through them twice."""

    def __init__(self, workshop: Workshop, file: IO[bytes]) -> None:
        self._workshop, self._file = workshop, file
        self._places: dict[bytes, tuple[int, int]] = {}

    def document(self, markdown: str) -> dict[str, Any]:
        digest = sha256(markdown.encode()).digest()
        if digest not in self._places:
            document = self._workshop.services.heavy(
                read_markdown, markdown, seconds=SECONDS, what="The text"
            )
            data = json.dumps(schema.check(document)).encode()
            self._places[digest] = (self._file.seek(0, 2), len(data))
            self._file.write(data)
        start, length = self._places[digest]
        self._file.seek(start)
        document = json.loads(self._file.read(length))
        return dict(document)


class Numbers:
    """The numbers that the rows of an export get: those of a table follow each other, after the last one that is there."""

    def __init__(self, texts: _Texts) -> None:
        self._texts = texts
        self.after: dict[str, int] = {}
        self.counts: dict[str, int] = {}
        self.named: dict[str, dict[str, int]] = {}
        self.people: dict[str, int] = {}

    def key(self, kind: str, number: int) -> Key | None:
        raise NotImplementedError

    def number(self, kind: str, key: Key) -> int:
        if kind == "person":
            found = self.people.get(str(key).casefold())
        elif kind in self.named:
            place = self.named[kind].get(str(key).casefold())
            found = None if place is None else self.after[kind] + place
        else:
            is_there = isinstance(key, int) and 0 < key <= self.counts.get(kind, 0)
            found = self.after[kind] + key if isinstance(key, int) and is_there else None
        if found is None:
            raise BadInput(
                f"the export has no {kind} “{str(key)[:60]}”; put it back, or export the blog again.",
                "folder",
            )
        return found

    def document(self, markdown: str) -> dict[str, Any]:
        return self._texts.document(markdown)


class ExportReader:
    """The rows of an export. `numbers.after` says after which numbers of this installation they are numbered, `blog_id` whose they are."""

    def __init__(self, workshop: Workshop, tree: Tree, texts: IO[bytes]) -> None:
        self._tree = tree
        self.summary = _summary(tree)
        self.numbers = Numbers(_Texts(workshop, texts))
        self.blog_id = 0
        self.posts = self._post_paths()
        self._count()

    def blog(self, slug: str) -> Rows:
        """The row of the blog, under this address."""
        values = self._read({**self.summary["blog"], "slug": slug}, BLOG, "blog", SUMMARY, 0)
        return {**checks.blog(values), **BLOG_LEFT}

    def people(self) -> Iterator[Rows]:
        """What people say of themselves, each with an e-mail address."""
        for place, line in enumerate(lines(self._tree, "person.jsonl"), start=1):
            values = self._read(_facts(line, "person.jsonl", place), PERSON, "person", "person.jsonl", place)
            yield {**values, "email": read_email(values["email"])}

    def rows(self, table: Table) -> Iterator[Rows]:
        """The rows of a table, with the columns that the export has not. The lead of a placement is the place of its block; None for none."""
        other = frozenset({"file"}) if table is MEDIA else frozenset()
        for place, line in enumerate(lines(self._tree, table.file), start=1):
            values = self._read(
                _facts(line, table.file, place), table.fields, table.name, table.file, place, other
            )
            left = {column: self._left(value) for column, value in table.left.items()}
            number = (
                {"id": self.numbers.after.get(table.kind or table.name, 0) + place} if table.has_id else {}
            )
            if table.name == "address":
                left["kind"], _, owner = values["owner"].partition(":")
                values["owner"] = int(owner)
            yield {**left, **number, **values}

    def originals(self) -> Iterator[tuple[int, str, str]]:
        """(place in the file of the library, name, path of the original) of each item."""
        for place, line in enumerate(lines(self._tree, MEDIA.file), start=1):
            facts = _facts(line, MEDIA.file, place)
            path = str(facts.get("file", ""))
            if not path.startswith("media/") or not self._tree.has(path):
                raise BadInput(
                    f"In line {place} of {MEDIA.file}, there is no file {path[:80]}; put it back.", "folder"
                )
            yield place, str(facts.get("name", "")), path

    def _left(self, value: Any) -> Any:
        return (
            self.blog_id if value == ":blog" else secrets.token_urlsafe(24) if value == ":secret" else value
        )

    def _read(
        self,
        facts: Rows,
        fields: tuple[Field, ...],
        name: str,
        path: str,
        place: int,
        other: frozenset[str] = frozenset(),
    ) -> Rows:
        try:
            return checks.row(name, read(facts, fields, self.numbers, other))
        except BadInput as error:
            raise _at(f"line {place} of {path}" if place else path, error) from None

    def _count(self) -> None:
        """Counts the rows of each kind, and notes by which names others refer to them."""
        for table in TABLES:
            if not table.kind:
                continue
            names: dict[str, int] = {}
            place = 0
            for place, line in enumerate(lines(self._tree, table.file), start=1):
                name = (
                    str(_facts(line, table.file, place).get(table.key)).casefold()
                    if table.key
                    else str(place)
                )
                if names.setdefault(name, place) != place:
                    raise BadInput(f"{table.file} has “{name[:60]}” twice; take one out.", "folder")
            self.numbers.counts[table.kind], self.numbers.after[table.kind] = place, 0
            if table.key:
                self.numbers.named[table.kind] = names
        self.numbers.counts["post"], self.numbers.after["post"] = len(self.posts), 0

    # posts

    def _post_paths(self) -> list[str]:
        """The files of posts, in the order of their numbers, which are 1, 2, 3 …"""
        paths = [path for path in self._tree.names("posts") if _POST_FILE.fullmatch(path)]
        found = {post_files.number_in(PurePosixPath(path).stem): path for path in paths}
        if len(found) != len(paths) or (found and max(found) != len(found)):
            wrong = next((number for number in range(1, len(paths) + 1) if number not in found), max(found))
            raise BadInput(
                f"The files of posts are numbered from 1 on, without gaps; look at number {wrong}.", "folder"
            )
        return [found[number] for number in sorted(found)]

    def post(self, path: str) -> Iterator[tuple[str, Rows]]:
        """(table, row) of a post: itself, its revisions, its categories and tags."""
        stem = PurePosixPath(path).stem
        number = post_files.number_in(stem)
        facts, markdown = self._file(path)
        revision = facts.get("revision", 0)
        if facts.get("number") != number or isinstance(revision, bool) or not isinstance(revision, int):
            raise BadInput(
                f"In {path}, number and revision are not as they were; export the blog again.", "folder"
            )
        values = self._read(
            {name: value for name, value in facts.items() if name not in _BESIDE_POST}, POST, "post", path, 0
        )
        post_id = self.numbers.after["post"] + number
        row = {**POST_LEFT, "blog_id": self.blog_id, "id": post_id, **values}
        texts = [self._revision(one, post_id) for one in self._tree.names(f"posts/{stem}")]
        if revision:
            newest = {name: value for name, value in facts.items() if name in _NEWEST}
            text_row, document = self._text(newest, markdown, path, post_id, revision)
            row |= {
                "title": text_row["title"],
                "words": text_row["words"],
                "revision": revision,
                "lead": _reference(document, facts.get("lead")),
            }
            texts.append(text_row)
        yield "post", row
        yield from (("revision", one) for one in texts)
        for name, kind in (("categories", "category"), ("tags", "tag")):
            for position, key in enumerate(dict.fromkeys(facts.get(name) or [])):
                yield (
                    f"post_{kind}",
                    {"post_id": post_id, "position": position, f"{kind}_id": self._number(kind, key, path)},
                )

    def _number(self, kind: str, key: Any, path: str) -> int:
        try:
            return self.numbers.number(kind, key)
        except BadInput as error:
            raise _at(path, error) from None

    def _revision(self, path: str, post_id: int) -> Rows:
        facts, markdown = self._file(path)
        return self._text(facts, markdown, path, post_id, post_files.number_in(PurePosixPath(path).stem))[0]

    def _text(self, facts: Rows, markdown: str, path: str, post_id: int, number: int) -> tuple[Rows, Rows]:
        """(a revision, its document)."""
        values = self._read(facts, REVISION, "revision", path, 0)
        try:
            document = renumbered(self.numbers.document(markdown), lenient(self.numbers))
        except MobbetError as error:
            raise _at(path, error) from None
        row = {
            **REVISION_LEFT,
            "post_id": post_id,
            "number": number,
            "body": canonical(document),
            "words": outline.count_words(document),
        }
        return {**row, **values}, document

    def _file(self, path: str) -> tuple[Rows, str]:
        try:
            return post_files.read(text(self._tree, path))
        except BadInput as error:
            raise _at(path, error) from None


def _summary(tree: Tree) -> Rows:
    """What an export says of itself. Raises BadInput for what is no export that this Mobbet reads."""
    if not tree.has(SUMMARY):
        raise BadInput(
            f"There is no {SUMMARY} here: this is no export, or one that was broken off; export the blog again.",
            "source",
        )
    facts = _facts(text(tree, SUMMARY), SUMMARY, 1)
    if facts.get("format") != FORMAT or not isinstance(facts.get("blog"), dict):
        raise BadInput(f"{SUMMARY} is not that of an export of Mobbet; name another folder.", "source")
    if facts.get("version") != VERSION:
        raise BadInput(
            f"The export has version {str(facts.get('version'))[:20]} of the format, and this Mobbet reads {VERSION}; use a newer Mobbet.",
            "source",
        )
    return facts


def _facts(line: str, path: str, place: int) -> Rows:
    try:
        facts = json.loads(line)
    except (ValueError, RecursionError):
        facts = None
    if not isinstance(facts, dict):
        raise BadInput(
            f"Line {place} of {path} is no JSON object; correct it, or export the blog again.", "folder"
        )
    return facts


def _at(where: str, error: MobbetError) -> BadInput:
    return BadInput(f"In {where}: {error}", "folder")


def _reference(document: Rows, at: Any) -> str:
    """The lead of a post as it is kept, for the place of its block."""
    found = reference(document, at) if isinstance(at, int) and not isinstance(at, bool) else None
    return json.dumps(found.__dict__) if found else ""
