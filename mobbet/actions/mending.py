"""The proof of a whole blog: posts by problem, and mends for many of them at once."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any

from mobbet.actions import placing
from mobbet.actions.access import editable_post, may_edit_item, title_for
from mobbet.actions.docket_lines import set_line
from mobbet.actions.posts import read_line, save_text
from mobbet.actions.proof_material import material_of
from mobbet.actions.proofing import before_placing, read
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.document import schema
from mobbet.core.document.links import media_number
from mobbet.core.document.mentions import walk
from mobbet.core.document.text import plain
from mobbet.core.errors import BadInput, Refused
from mobbet.core.proofing.marks import Mark
from mobbet.core.proofing.material import DocketFacts, Material
from mobbet.core.proofing.mending import mended
from mobbet.core.search_results import proposed_description
from mobbet.core.values import existing
from mobbet.store import media, placements, posts, proofs
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.posts import Post
from mobbet.store.proofs import ReadProof

AT_ONCE = 20
BY_ITSELF = frozenset(
    (
        "quotation-marks",
        "dashes",
        "ellipses",
        "spaces",
        "doubled-words",
        "articles",
        "house-words",
        "link-scheme",
        "partner-links",
        "empty-blocks",
        "table-headings",
        "headings",
        "standing-copy",
    )
)
"""Checks whose first mend can be done without looking, for many posts at once."""


@dataclass(frozen=True)
class Marked:
    """A post with its marks of one check (of all, where none was chosen), and the document they stand in."""

    post: ReadProof
    marks: list[Mark]
    is_out: bool
    document: dict[str, Any]

    def address_of(self, mark: Mark) -> str:
        """Where the link of a mark leads, without what comes after #."""
        found = (
            link.href
            for link in Material(self.document, DocketFacts()).links
            if (link.path, link.start) == (mark.path, mark.start)
        )
        return next(found, "").partition("#")[0]

    def node_of(self, mark: Mark) -> dict[str, Any]:
        """The block of a mark."""
        node = self.document
        for index in mark.path:
            node = node["content"][index]
        return node


@dataclass(frozen=True)
class Mended:
    """What mending many came to: how many marks in how many posts, and which of those readers still get as they were."""

    marks: int
    posts: int
    waiting: list[int]


def page_of(
    workshop: Workshop, blog: Blog, check: str, after: int, author_id: int = 0
) -> tuple[list[Marked], int]:
    """Posts with a mark of a check ('' for any) that come after one, and the number to go on after (0 at the end)."""
    found = proofs.with_check(workshop.db, blog.id, check, after, AT_ONCE + 1, author_id)
    marked = []
    for one in found[:AT_ONCE]:
        post = existing(posts.on_blog(workshop.db, blog.id, one.post_id))
        reading = read(workshop, post, blog)
        marks = [mark for mark in reading.marks if check in ("", mark.check)]
        marked.append(Marked(one, marks, _is_out(workshop, post), reading.document))
    return marked, found[AT_ONCE - 1].post_id if len(found) > AT_ONCE else 0


def _is_out(workshop: Workshop, post: Post) -> bool:
    now = workshop.clock()
    return any(row.shows_from <= now < row.shows_until for row in placements.of_post(workshop.db, post.id))


def mend_all(workshop: Workshop, person: Person, blog: Blog, check: str, post_ids: list[int]) -> Mended:
    """Does the first mend of every mark of a check in these posts. Raises BadInput for a check that wants looking at."""
    if check not in BY_ITSELF:
        raise BadInput("These marks want looking at one by one; open each post.", "check")

    def operations(post: Post) -> Iterator[dict[str, Any]]:
        marks = (mark for mark in read(workshop, post, blog).marks if mark.check == check)
        yield from (
            mark.mends[0].operation
            for mark in marks
            if mark.mends and mark.mends[0].operation["do"] != "docket"
        )

    return _for_each(workshop, person, post_ids, operations)


def describe(workshop: Workshop, person: Person, blog: Blog, words: dict[tuple[int, str], str]) -> Mended:
    """Gives pictures their alternative text: {(post, path of the block as JSON): words}; the library keeps it where it had none."""
    given = {key: read_line(text, "alt") for key, text in words.items() if text.strip()}
    if not given:
        raise BadInput("No picture was described; write what one of them shows.", "alt")

    def operations(post: Post) -> Iterator[dict[str, Any]]:
        document = schema.load(posts.working_body(workshop.db, post.id))
        for (number, path), text in given.items():
            if number == post.id:
                yield {"do": "set", "path": json.loads(path), "name": "alt", "value": text}
                _tell_library(workshop, person, blog, document, json.loads(path), text)

    return _for_each(workshop, person, list(dict.fromkeys(number for number, _ in given)), operations)


def summarise(workshop: Workshop, person: Person, words: dict[int, str]) -> Mended:
    """Gives posts the description that search engines and shared links show: {post: words}."""
    given = {number: text for number, text in words.items() if text.strip()}
    if not given:
        raise BadInput("No description was written; write one, or take what is proposed.", "description")
    waiting = []
    with changing(workshop):
        for number, text in given.items():
            post, _ = editable_post(workshop, person, number)
            if _is_out(workshop, post) and _had_no_changes(workshop, post):
                waiting.append(number)
            set_line(workshop, person, number, "description", text)
    return Mended(len(given), len(given), waiting)


def proposed(document: dict[str, Any]) -> str:
    """A description made of the first sentences of a text."""
    return proposed_description([plain(node) for node in walk(document) if node["type"] == "paragraph"])


def _tell_library(
    workshop: Workshop, person: Person, blog: Blog, document: dict[str, Any], path: list[int], text: str
) -> None:
    node = document
    for index in path:
        node = node["content"][index]
    row = media.on_blog(workshop.db, blog.id, media_number(node["attrs"].get("src", "")) or 0)
    if row is not None and not row.alt and may_edit_item(workshop, person, row.id):
        media.change(workshop.db, row.id, alt=text)


def lead_on(workshop: Workshop, person: Person, blog: Blog, addresses: dict[str, str]) -> Mended:
    """Lets links lead elsewhere: {the address of now: the other}; in every post of the blog that has them."""
    wanted = {old: new.strip() for old, new in addresses.items() if new.strip()}
    for new in wanted.values():
        if not new.startswith(("https://", "http://")):
            raise BadInput(f"“{new[:80]}” is no address; write it like https://name.example/page.", "address")
    if not wanted:
        raise BadInput("No other address was given; write where one of the links is to lead.", "address")

    def operations(post: Post) -> Iterator[dict[str, Any]]:
        for link in material_of(workshop, post, blog).links:
            new = wanted.get(link.href.partition("#")[0])
            if new:
                yield {
                    "do": "link",
                    "path": list(link.path),
                    "start": link.start,
                    "end": link.end,
                    "href": new,
                }

    found = dict.fromkeys(number for old in wanted for number in proofs.posts_leading_to(workshop.db, old))
    return _for_each(
        workshop,
        person,
        [number for number in found if posts.on_blog(workshop.db, blog.id, number)],
        operations,
    )


def _for_each(
    workshop: Workshop,
    person: Person,
    post_ids: list[int],
    operations: Callable[[Post], Iterator[dict[str, Any]]],
) -> Mended:
    """Does the operations in each post, the last passage first, all of it or nothing; each post gets one new revision."""
    done, changed, waiting = 0, 0, []
    with changing(workshop):
        for number in dict.fromkeys(post_ids):
            post, _ = editable_post(workshop, person, number)
            revision = posts.working(workshop.db, post.id)
            document, before = schema.load(revision.body), done
            for operation in sorted(
                operations(post), key=lambda one: (one["path"], one.get("start", 0)), reverse=True
            ):
                document = mended(document, operation)
                done += 1
            if done > before:
                saved = save_text(
                    workshop,
                    person,
                    post.id,
                    base=revision.number,
                    title=revision.title,
                    subtitle=revision.subtitle,
                    body=document,
                    is_apart=True,
                )
                changed += 1
                if (
                    _is_out(workshop, post)
                    and saved.revision != revision.number
                    and _had_no_changes(workshop, post)
                ):
                    waiting.append(post.id)
    return Mended(done, changed, waiting)


def _had_no_changes(workshop: Workshop, post: Post) -> bool:
    """Whether readers had the text as it was before, so that only the mends would go out with it."""
    now = workshop.clock()
    return any(
        row.shows_from <= now < row.shows_until and row.revision == post.revision
        for row in placements.of_post(workshop.db, post.id)
    )


def update_all(
    workshop: Workshop, person: Person, blog: Blog, post_ids: list[int]
) -> tuple[int, list[str], int]:
    """Gives readers the mended texts; (how many posts, reasons of those that could not, pages that changed)."""
    done, problems = 0, []
    with changing(workshop, person, "mends of the proof") as unit:
        for number in dict.fromkeys(post_ids):
            try:
                before_placing(workshop, person, number)
                placing.place(workshop, person, number)
            except Refused as error:
                problems.append(f"“{title_for(workshop, person, number)}”: {error}")
                continue
            done += 1
    return done, problems, unit.published(blog).written
