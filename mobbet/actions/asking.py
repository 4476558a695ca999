"""Answers of readers to the questions that a post asks."""

from __future__ import annotations

import csv
import io
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from mobbet.actions.access import blog_for, right_to_settle
from mobbet.actions.comments import post_to_comment
from mobbet.actions.pacing import count_try, network
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.asking import AskedBlock, Counted, block_of, counted, is_closed, read_answers
from mobbet.core.audience import Reader
from mobbet.core.document import schema
from mobbet.core.document.mentions import walk
from mobbet.core.errors import NotFound, Refused
from mobbet.core.facts import OutPost
from mobbet.core.networks import one_client
from mobbet.core.sheets import cell
from mobbet.core.timing import iso, local
from mobbet.services.vault import Vault
from mobbet.store import answers as store
from mobbet.store import posts
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.snapshot import SiteSnapshot

OF_NETWORK = 12
"""So many votes are taken from one network: a household, a class."""
MOST_COUNTED, NEWEST = 100_000, 1 << 60
GONE = "This post asks nothing any more; its page may say more."
TWICE = "You voted here already; each browser votes once."
OVER = "It is closed since {}; nothing is taken any more."


@dataclass(frozen=True)
class Asked:
    """A form or poll as a reader gets it: its post, and whether they voted."""

    post: OutPost
    block: AskedBlock
    has_voted: bool
    is_closed: bool


def asked(
    workshop: Workshop, blog: Blog, post_id: int, key: str, reader: Reader, address: str, agent: str
) -> Asked:
    """The form or poll of a post that this reader may read. Raises NotFound."""
    post = post_to_comment(workshop, blog, post_id, reader)
    body = SiteSnapshot(workshop.db, blog.id, workshop.clock(), reader).body(post)
    blocks = (block_of(node["attrs"]) for node in walk(body) if node["type"] == "ask")
    block = next((one for one in blocks if one.key == key), None)
    if block is None or not block.questions:
        raise NotFound(GONE)
    voter = _voter(workshop, post_id, key, address, agent)
    has_voted = block.is_poll and store.has_voted(workshop.db, post_id, key, voter)
    today = local(workshop.clock(), blog.zone).date()
    return Asked(post, block, has_voted, is_closed(block, today))


def _voter(workshop: Workshop, post_id: int, key: str, address: str, agent: str) -> str:
    """Whoever votes, as a hash that says nothing without this server's key."""
    return _hash(workshop, f"{post_id} {key} {one_client(address)} {agent}")


def _hash(workshop: Workshop, text: str) -> str:
    return Vault(workshop.settings.sealing_key).mac(text)[:32]


def answer(
    workshop: Workshop, blog: Blog, post_id: int, key: str, reader: Reader, typed: Mapping[str, Sequence[str]], address: str, agent: str,
) -> Asked:  # fmt: skip
    """Keeps what a reader answered. Raises NotFound, BadInput, TooSoon, Refused where it is closed, or was voted already."""
    found = asked(workshop, blog, post_id, key, reader, address, agent)
    block = found.block
    if found.is_closed:
        raise Refused(OVER.format(block.closes))
    if found.has_voted:
        raise Refused(TWICE)
    answers = read_answers(block, typed)
    count_try(workshop, ("answers", f"{blog.id} {one_client(address)}"), network(address))
    voter = _voter(workshop, post_id, key, address, agent) if block.is_poll else ""
    place = _hash(workshop, f"{post_id} {key} {one_client(address)}") if block.is_poll else ""
    with changing(workshop):
        if block.is_poll and store.count_of_network(workshop.db, post_id, key, place) >= OF_NETWORK:
            raise Refused("Very many votes came from your network already; no more are taken from there.")
        person = None if block.is_poll else reader.person_id
        title = block.title or block.questions[0][1]
        if not store.add(
            workshop.db, blog.id, post_id, key, title, person, voter, place, answers, workshop.clock()
        ):
            raise Refused(TWICE)
    return found


def outcome(workshop: Workshop, post_id: int, block: AskedBlock) -> list[Counted]:
    """What a poll came to so far."""
    rows = store.of_form(workshop.db, post_id, block.key, NEWEST, MOST_COUNTED)
    return counted(block, [row.answers for row in rows])


def form_of(
    workshop: Workshop, person: Person, slug: str, post_id: int, key: str
) -> tuple[Blog, AskedBlock | None, str]:
    """(the blog, the form as the working text has it, the title of its post), for those who settle what stands under that post. Raises NotFound, NotAllowed."""
    blog = blog_for(workshop, person, slug)
    post = posts.on_blog(workshop.db, blog.id, post_id)
    if post is None:
        raise NotFound("This post is no more; the desk leads to the others.")
    right_to_settle(workshop, person, post.id)
    body = schema.load(posts.working_body(workshop.db, post.id))
    blocks = (block_of(node["attrs"]) for node in walk(body) if node["type"] == "ask")
    return blog, next((one for one in blocks if one.key == key), None), post.title or "No title yet"


def remove(workshop: Workshop, person: Person, slug: str, post_id: int, key: str, number: int) -> int:
    """Removes one answer, or (0) all answers to a form, for good; answers with how many. Raises NotFound, NotAllowed."""
    form_of(workshop, person, slug, post_id, key)
    with changing(workshop, person, "answers of readers were removed"):
        return store.remove(workshop.db, post_id, key, number)


def as_csv(workshop: Workshop, person: Person, slug: str, post_id: int, key: str) -> str:
    """All answers to a form as CSV, a column for each question. Raises NotFound, NotAllowed."""
    _, block, _ = form_of(workshop, person, slug, post_id, key)
    rows = store.of_form(workshop.db, post_id, key, NEWEST, MOST_COUNTED)
    asked_now = [question[1] for question in block.questions] if block else []
    columns = list(dict.fromkeys([*asked_now, *(question for row in rows for question, _ in row.answers)]))
    file = io.StringIO()
    sheet = csv.writer(file)
    sheet.writerow(["when", *map(cell, columns)])
    for row in reversed(rows):
        known = {question: _words(value) for question, value in row.answers}
        sheet.writerow([iso(row.made_at), *(cell(known.get(column, "")) for column in columns)])
    return file.getvalue()


def _words(value: Any) -> str:
    return "; ".join(value) if isinstance(value, list) else str(value)
