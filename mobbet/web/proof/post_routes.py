"""The proof of a post: for the margin of its sheet, and as a list on its docket."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from fastapi import APIRouter
from starlette.responses import JSONResponse, Response

from mobbet.actions import house_words, proofing
from mobbet.actions.access import editable_post, is_keeper
from mobbet.actions.proofing import ProofReading
from mobbet.actions.workshop import Workshop
from mobbet.core.document.text import plain
from mobbet.core.errors import BadInput
from mobbet.core.proofing.marks import SEVERITIES, Mark
from mobbet.core.proofing.table import WHY
from mobbet.core.screen_dates import time_in_words
from mobbet.store import proofs
from mobbet.store.people import Person
from mobbet.web.proof import addresses as to_proof
from mobbet.web.shell.fields import Text
from mobbet.web.shell.rendering import html_of
from mobbet.web.shell.session import Here, Me
from mobbet.web.write import addresses as to_write
from mobbet.web.write.contexts import MarkShown, ProofPart, Standing

router = APIRouter()
MOST, MOST_DRAWN, MOST_PLACES = 60, 100, 20
"""How many marks the docket lists, the sheet draws, and at how many places each is drawn; further ones are counted."""
LONGEST, LONGEST_PASSAGE = 60, 400


@router.get(to_proof.proof.route)
def proof(here: Here, me: Me, post_id: int) -> Response:
    """The marks with their places on the writing surface, and the list of them for the docket."""
    return _answer(here, me, post_id)


@router.post(to_proof.proof.at("stand"))
def stand(here: Here, me: Me, post_id: int, sign: Text = "", reason: Text = "") -> Response:
    """Lets a mark stand, with the reason."""
    return _after(here, me, post_id, lambda: proofing.ignore(here, me, post_id, sign, reason))


@router.post(to_proof.proof.at("reopen"))
def unignore(here: Here, me: Me, post_id: int, sign: Text = "") -> Response:
    """A mark that stood wants settling again."""
    return _after(here, me, post_id, lambda: proofing.unignore(here, me, post_id, sign))


@router.post(to_proof.proof.at("learn"))
def learn(here: Here, me: Me, post_id: int, word: Text = "", whose: Text = "me") -> Response:
    """Learns a word for whoever asks, or for the blog."""
    return _after(here, me, post_id, lambda: house_words.learn(here, me, post_id, word, whose))


def _after(here: Workshop, me: Person, post_id: int, change: Any) -> Response:
    try:
        change()
    except BadInput as error:
        return JSONResponse({"message": str(error)}, status_code=422)
    return _answer(here, me, post_id)


def _answer(here: Workshop, me: Person, post_id: int) -> Response:
    with here.db.reading():  # a save may take the revision away meanwhile
        post, blog = editable_post(here, me, post_id)
        reading = proofing.read(here, post, blog, me.id)
    proofing.keep_read(here, post, blog, reading)
    drawn = _gravest(reading.marks)
    marks = [_on_surface(reading.document, mark, number) for number, mark in enumerate(drawn)]
    return JSONResponse({
        "revision": post.revision,
        "must": len(reading.must),
        "count": len(reading.marks),
        "marks": marks,
        "why": {name: [WHY[name].name, WHY[name].sentences, WHY[name].example] for name in {mark.check for mark in drawn}},
        "html": html_of(part_of(here, me, post_id, reading)),
    })  # fmt: skip


def _gravest(marks: list[Mark]) -> list[Mark]:
    """The marks that are drawn, in reading order: all, or the gravest of very many."""
    if len(marks) <= MOST_DRAWN:
        return marks
    chosen = sorted(range(len(marks)), key=lambda at: (SEVERITIES.index(marks[at].severity), at))[:MOST_DRAWN]
    return [marks[at] for at in sorted(chosen)]


def part_of(here: Workshop, me: Person, post_id: int, reading: ProofReading) -> ProofPart:
    """The list for the docket: the gravest first."""
    post, blog = editable_post(here, me, post_id)
    numbered = sorted(enumerate(_gravest(reading.marks)), key=lambda pair: SEVERITIES.index(pair[1].severity))
    return ProofPart(
        [_shown(number, mark) for number, mark in numbered[:MOST]],
        max(0, len(reading.marks) - MOST),
        len(reading.marks),
        len(reading.must),
        is_keeper(here, me, blog),
        [
            Standing(mark.message, _short(mark), why.reason, why.person, mark.sign)
            for mark, why in reading.stand
        ],
        [
            (to_write.write(other.number), other.title)
            for other in proofing.should_link_here(here, post, blog)
        ],
        _despite(here, post_id, blog.zone),
    )


def _despite(here: Workshop, post_id: int, zone: str) -> str:
    """Who let the post go out in spite of its marks, when and why; '' where nobody did."""
    last = proofs.last_override(here.db, post_id)
    return (
        f"{last.person} let it go out {time_in_words(last.overridden_at, zone, here.clock())} in spite of its marks: “{last.reason}”"
        if last
        else ""
    )


def _short(mark: Mark) -> str:
    text = mark.text if len(mark.text) <= LONGEST else mark.text[:LONGEST].rsplit(" ", 1)[0] + "…"
    return "" if text and f"“{text}”" in mark.message else text


def _shown(number: int, mark: Mark) -> MarkShown:
    sheets = [
        (mend.words, mend.operation["sheet"]) for mend in mark.mends if mend.operation["do"] == "docket"
    ]
    mends = [(at, mend.words) for at, mend in enumerate(mark.mends) if mend.operation["do"] != "docket"]
    why = WHY[mark.check]
    return MarkShown(
        number,
        mark.severity,
        mark.message + (f" {len(mark.others) + 1} times." if mark.others else ""),
        _short(mark),
        bool(mark.path),
        mends[:3],
        sheets,
        why.name,
        why.sentences,
        why.example,
        mark.sign,
    )


def _on_surface(document: dict[str, Any], mark: Mark, number: int) -> dict[str, Any]:
    """A mark as the writing surface finds it: where its block is, and the places in it that the surface counts by."""
    block = _block(document, mark.path)
    word = mark.text if mark.check == "spelling" else ""
    return {
        "number": number, "check": mark.check, "severity": mark.severity, "message": mark.message[:LONGEST_PASSAGE], "sign": mark.sign, "word": word, "path": list(mark.path),
        "from": _place(block, mark.start), "to": _place(block, mark.end), "type": block["type"],
        "mends": [{"words": mend.words, **_placed(block, mend.operation)} for mend in mark.mends],
        "others": [_other_place(document, *place) for place in mark.others[:MOST_PLACES]], "times": 1 + len(mark.others),
    }  # fmt: skip


def _block(document: dict[str, Any], path: Sequence[int]) -> dict[str, Any]:
    for index in path:
        document = document["content"][index]
    return document


def _other_place(document: dict[str, Any], path: tuple[int, ...], start: int, end: int) -> dict[str, Any]:
    block = _block(document, path)
    return {"path": list(path), "from": _place(block, start), "to": _place(block, end), "type": block["type"]}


def _placed(block: dict[str, Any], operation: dict[str, Any]) -> dict[str, Any]:
    placed = dict(operation)
    for name in ("start", "end"):
        if name in placed:
            placed[name] = _place(block, placed[name])
    if "changes" in placed:
        placed["changes"] = [
            [_place(block, start), _place(block, end), text] for start, end, text in placed["changes"]
        ]
    return placed


def _place(block: dict[str, Any], at: int) -> int:
    """Where a character of a block's words stands as the surface counts: in UTF-16, a fill-in or a line break as one."""
    place = 0
    for child in block.get("content", ()):
        words = plain(child)
        if child["type"] == "text":
            place += len(words[:at].encode("utf-16-le", "surrogatepass")) // 2
        elif at > 0:
            place += 1
        if at <= len(words):
            break
        at -= len(words)
    return place
