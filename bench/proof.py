"""Measures the proof: a text of 10,000 words read for the first time, and again after one paragraph changed."""

from __future__ import annotations

import time
from statistics import median
from typing import Any

from mobbet.actions.proof_material import material_of
from mobbet.actions.workshop import Workshop
from mobbet.core.document import outline, schema
from mobbet.core.proofing.proof import Proof
from mobbet.core.values import existing
from mobbet.store import blogs, posts

WORDS, ROUNDS = 10_000, 15


def figures(large: Workshop) -> dict[str, float]:
    """Times in milliseconds, with the knowledge handed in: dictionaries, rules, and the posts that may be meant."""
    blog = blogs.every(large.db)[0]
    document = _long(large)
    post = existing(posts.by_id(large.db, 1))
    began = time.perf_counter()
    material = material_of(large, post, blog, document=document)
    known = time.perf_counter() - began
    material.knowledge.knows("a", "en")  # the dictionary is read once, when the server starts to proof
    proof = Proof()
    began = time.perf_counter()
    proof.marks(material)
    first = time.perf_counter() - began
    again = []
    for number in range(ROUNDS):
        changed = material_of(large, post, blog, document=_changed(document, number))
        began = time.perf_counter()
        proof.marks(changed)
        again.append(time.perf_counter() - began)
    return {
        f"proof of {WORDS} words, first": round(1000 * first, 1),
        f"proof of {WORDS} words after a changed paragraph, middle": round(1000 * median(again), 1),
        "knowledge for a proof, first": round(1000 * known, 1),
    }


def _long(large: Workshop) -> dict[str, Any]:
    """The texts of one post after another, until there are words enough."""
    blocks: list[dict[str, Any]] = []
    number = 0
    while outline.count_words({"type": "doc", "content": blocks}) < WORDS:
        number += 1
        blocks += schema.load(posts.body(large.db, number, existing(posts.by_id(large.db, number)).revision))[
            "content"
        ]
    return schema.check(
        {"type": "doc", "content": [block for block in blocks if block["type"] != "teaserLine"]}
    )


def _changed(document: dict[str, Any], number: int) -> dict[str, Any]:
    paragraph = {
        "type": "paragraph",
        "attrs": {"align": "start"},
        "content": [{"type": "text", "text": f"A chnaged paragraph, number {number}, of a few words."}],
    }
    content = list(document["content"])
    content[number * 7 % len(content)] = paragraph
    return {**document, "content": content}
