"""How a post is shown: its lead, heading, place on the front page, search result, and location."""

from __future__ import annotations

import json
from collections.abc import Iterable
from dataclasses import asdict

from mobbet.actions.access import editable_post
from mobbet.actions.docket_lines import set_lead_picture
from mobbet.actions.posts import read_line
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core import geo
from mobbet.core.document import schema
from mobbet.core.document.leading import KINDS, can_lead, link_alone, reference
from mobbet.core.errors import BadInput
from mobbet.core.headings import read_heading
from mobbet.store import posts
from mobbet.store.people import Person
from mobbet.store.posts import Post

FRONTS = {"": "as it comes", "top": "at the top", "off": "not at all"}
"""Where a post stands on the front page."""


def lead_with_block(workshop: Workshop, person: Person, post_id: int, at: int) -> None:
    """Lets a block of the working text lead the post. Raises BadInput where there is none that can."""
    post, _ = editable_post(workshop, person, post_id)
    found = reference(schema.load(posts.working_body(workshop.db, post.id)), at)
    if found is None:
        raise BadInput(
            "That block cannot lead; choose a paragraph, a picture, a quotation or any other block that shows something.",
            "lead",
        )
    with changing(workshop):
        set_lead_picture(workshop, person, post_id, None)
        posts.settle(workshop.db, post.id, workshop.clock(), lead=json.dumps(asdict(found)))


def lead_by_rule(workshop: Workshop, person: Person, post_id: int) -> None:
    """Leaves it to the rule what leads the post."""
    post, _ = editable_post(workshop, person, post_id)
    with changing(workshop):
        set_lead_picture(workshop, person, post_id, None)
        posts.settle(workshop.db, post.id, workshop.clock(), lead="")


def lead_with_kind(workshop: Workshop, person: Person, post_id: int, kind: str) -> bool:
    """Lets the first block of a kind lead, by its word (“quotation”, “sound”); False when there is no such word."""
    post, _ = editable_post(workshop, person, post_id)
    kinds = {words: name for name, words in KINDS.items()}
    wanted = kind.strip().lower()
    if wanted != "link" and wanted not in kinds:
        return False
    blocks = schema.load(posts.working_body(workshop.db, post.id))["content"]
    at = next(
        (
            at
            for at, node in enumerate(blocks)
            if can_lead(node)
            and (bool(link_alone(node)) if wanted == "link" else node["type"] == kinds[wanted])
        ),
        None,
    )
    if at is None:
        raise BadInput(
            f"The text has no {wanted} of its own to lead with; check “lead” in the front matter.", "lead"
        )
    lead_with_block(workshop, person, post_id, at)
    return True


def set_heading(workshop: Workshop, person: Person, post_id: int, kind: str, shown: Iterable[str]) -> None:
    """Chooses the standard heading, with the parts it shows, or none. Raises BadInput."""
    post, _ = editable_post(workshop, person, post_id)
    _settle(workshop, post, heading=read_heading(kind, shown))


def set_front(workshop: Workshop, person: Person, post_id: int, front: str) -> None:
    """Where the post stands on the front page. Raises BadInput."""
    post, _ = editable_post(workshop, person, post_id)
    if front not in FRONTS:
        raise BadInput(
            f"“{front}” is no place on the front page; choose top, off or leave it empty.", "front"
        )
    _settle(workshop, post, front=front)


def set_search(workshop: Workshop, person: Person, post_id: int, title: str, description: str) -> None:
    """Title and description for search engines; empty ones are computed."""
    post, _ = editable_post(workshop, person, post_id)
    _settle(
        workshop,
        post,
        search_title=read_line(title, "title"),
        description=read_line(description, "description"),
    )


def set_place(workshop: Workshop, person: Person, post_id: int, name: str, point: str, has_map: bool) -> None:
    """The place the post is about; empty fields take it away. Raises BadInput."""
    post, _ = editable_post(workshop, person, post_id)
    _settle(workshop, post, place=geo.kept(geo.read_place(name, point, has_map)))


def _settle(workshop: Workshop, post: Post, **values: object) -> None:
    with changing(workshop):
        posts.settle(workshop.db, post.id, workshop.clock(), **values)
