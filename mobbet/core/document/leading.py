"""The lead of a post: the one block that it is shown by in lists, and that its page opens with where the writer chose it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from mobbet.core.canonical import digest
from mobbet.core.document.links import media_number
from mobbet.core.document.mentions import walk
from mobbet.core.document.review import overall, shown
from mobbet.core.document.text import plain
from mobbet.core.values import existing

Node = dict[str, Any]

KINDS = {
    "picture": "picture", "gallery": "gallery", "video": "video", "embed": "video of a host", "sound": "sound", "quote": "quotation",
    "review": "review", "table": "table", "file": "file", "callout": "note box", "bulletList": "list", "orderedList": "numbered list",
    "codeBlock": "code", "beside": "two sides", "paragraph": "paragraph", "button": "button", "subscribe": "form for letters", "ask": "questions to readers", "rawHtml": "HTML by hand",
    "heading": "heading", "divider": "rule",
}  # fmt: skip
"""The kinds of blocks that can lead, in words."""
FORMS = {
    "picture": "picture",
    "gallery": "picture",
    "video": "video",
    "embed": "video",
    "sound": "sound",
    "quote": "quotation",
    "review": "review",
    "table": "table",
}
"""The form that a post takes from the block that leads it; 'link' for a link on a line of its own, 'block' for any other."""
RULE, CHOSEN, LOST = "rule", "chosen", "lost"
LONGEST_WORDS = 30


@dataclass(frozen=True)
class Reference:
    """Which block of a text leads it: the digest of the block, its kind, and where it stood (from 0)."""

    digest: str
    kind: str
    at: int


@dataclass(frozen=True)
class Lead:
    """The block that leads. `at` is its place among the blocks of the text, None where it is not one of them itself.

    `form` is 'picture', 'video', 'sound', 'quotation', 'link', 'review', 'table', 'block', or 'text' when none leads.
    `why` is 'rule', 'chosen', or 'lost' when the chosen block is gone and the rule has taken over.
    """

    form: str
    node: Node | None = None
    at: int | None = None
    why: str = RULE

    @property
    def src(self) -> str:
        """The address of what it shows of the library, or ''."""
        node = self.node or {}
        if node.get("type") == "gallery":
            node = node["content"][0]
        return node.get("attrs", {}).get("src") or node.get("attrs", {}).get("poster") or ""

    @property
    def alt(self) -> str:
        node = self.node or {}
        if node.get("type") == "gallery":
            node = node["content"][0]
        return node.get("attrs", {}).get("alt", node.get("attrs", {}).get("title", "")) or ""


def mark_of(node: Node) -> str:
    """What tells a block from others: a digest of its whole content."""
    return digest(node)[:20]


def reference(document: Node, at: int) -> Reference | None:
    """A reference to the block at a place; None where there is none, or none that can lead."""
    blocks = document["content"]
    if not 0 <= at < len(blocks) or not can_lead(blocks[at]):
        return None
    return Reference(mark_of(blocks[at]), blocks[at]["type"], at)


def can_lead(node: Node) -> bool:
    return node["type"] in KINDS and (node["type"] != "paragraph" or bool(plain(node).strip()))


def place_of(document: Node, mark: str) -> int | None:
    """Where the block with that mark stands."""
    return (
        next((at for at, node in enumerate(document["content"]) if mark_of(node) == mark), None)
        if mark
        else None
    )


def carried(found: Reference, before: Node, after: Node) -> Reference:
    """The reference in a text that was changed: to the same block, moved or reworded; as it was where the block is gone."""
    marks = [mark_of(node) for node in after["content"]]
    same = [at for at, mark in enumerate(marks) if mark == found.digest]
    if same:
        return Reference(found.digest, found.kind, min(same, key=lambda at: abs(at - found.at)))
    old = [mark_of(node) for node in before["content"]]
    if found.digest not in old:
        return found
    known = set(old)
    reworded = [
        at
        for at, node in enumerate(after["content"])
        if node["type"] == found.kind and marks[at] not in known and can_lead(node)
    ]
    if not reworded:
        return found
    # the block stood after some that are unchanged; the reworded one stands after the same
    fixed = sum(mark in set(marks) for mark in old[: old.index(found.digest)])
    at = min(
        reworded, key=lambda at: (abs(sum(mark in known for mark in marks[:at]) - fixed), abs(at - found.at))
    )
    return Reference(marks[at], found.kind, at)


def lead(document: Node, chosen: str = "", is_wide: Callable[[int], bool] = lambda number: True) -> Lead:
    """The block whose mark was chosen; by rule the first picture or video that is wide enough, or else the first at all,
    or else the first sound, quotation at the top, review, video of a host, or table that opens the text; or else its words.

    `is_wide` is asked about numbers of the library.
    """
    at = place_of(document, chosen)
    if at is not None:
        node = document["content"][at]
        return Lead(form_of(node), node, at, CHOSEN)
    found = _by_rule(document, is_wide)
    return Lead(found.form, found.node, found.at, LOST) if chosen else found


def form_of(node: Node) -> str:
    return "link" if link_alone(node) else FORMS.get(node["type"], "block")


def _by_rule(document: Node, is_wide: Callable[[int], bool]) -> Lead:
    blocks = document["content"]
    pictured = [
        node
        for node in walk(document)
        if node["type"] in ("picture", "video") and media_number(node["attrs"]["src"]) is not None
    ]
    picture = next(
        (node for node in pictured if is_wide(existing(media_number(node["attrs"]["src"])))),
        pictured[0] if pictured else None,
    )
    if picture is not None:
        at = next((at for at, node in enumerate(blocks) if node is picture), None)
        return Lead(FORMS[picture["type"]], picture, at)
    first = next(
        (at for at, node in enumerate(blocks) if node["type"] != "paragraph" or plain(node).strip()), None
    )
    if first is not None and (blocks[first]["type"] in ("quote", "table") or link_alone(blocks[first])):
        return Lead(form_of(blocks[first]), blocks[first], first)
    for at, node in enumerate(blocks):
        if node["type"] in ("sound", "embed", "review"):
            return Lead(FORMS[node["type"]], node, at)
    return Lead("text")


def link_alone(node: Node) -> tuple[str, str] | None:
    """(address, words) of a paragraph that is one link and nothing else."""
    if node["type"] != "paragraph":
        return None
    words, hrefs = "", set()
    for child in node.get("content", ()):
        href = next(
            (mark["attrs"]["href"] for mark in child.get("marks", ()) if mark["type"] == "link"), None
        )
        if href is None:
            if child.get("text", "x").strip():
                return None
            continue
        hrefs.add(href)
        words += child.get("text", "")
    return (hrefs.pop(), words.strip()) if len(hrefs) == 1 and words.strip() else None


def words_of(node: Node) -> str:
    """A block in a few words: what it is, and how it begins."""
    kind = "link" if link_alone(node) else KINDS.get(node["type"], "block")
    attrs = node.get("attrs", {})
    about = (
        attrs.get("alt")
        or attrs.get("title")
        or attrs.get("name")
        or attrs.get("caption")
        or attrs.get("words")
        or " ".join(plain(node).split())
    )
    if node["type"] == "gallery":
        about = f"of {len(node['content'])} picture{'s' if len(node['content']) != 1 else ''}"
        return f"gallery {about}"
    about = about if len(about) <= LONGEST_WORDS else about[:LONGEST_WORDS].rsplit(" ", 1)[0] + "…"
    return f"{kind} “{about}”" if about else kind


def score_of(node: Node) -> str:
    """The overall score of a review, as it is printed; '' without one."""
    score = overall(node["attrs"]["criteria"]) if node["type"] == "review" else None
    return shown(score) if score is not None else ""
