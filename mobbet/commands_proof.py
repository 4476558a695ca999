"""The command that reads a text as a careful editor would."""

from __future__ import annotations

from argparse import Namespace

from mobbet import wiring
from mobbet.actions import building, proofing
from mobbet.commands import post_at_work, read_source, report
from mobbet.core.errors import BadInput
from mobbet.core.proofing.marks import Mark
from mobbet.store import posts


def proof(options: Namespace) -> None:
    """The marks of a file, or of a post of a data folder."""
    if (options.file is None) == (options.post is None):
        raise BadInput("Name a file, or a post with --post; one of them.", "file")
    if options.post is not None:
        if options.data is None:
            raise BadInput("--post needs the data folder; name it with --data DIR.", "--data")
        options.id = options.post
        workshop, _, blog = post_at_work(options)
        marks = proofing.of_post(workshop, posts.by_id(workshop.db, options.id), blog)
    else:
        workshop = wiring.open_existing(options.data) if options.data else None
        chosen = building.chosen_blogs(workshop, options.blog) if workshop else []
        marks = proofing.of_text(workshop, chosen[0] if chosen else None, read_source(options.file))
    lines = [f"{mark.gravity:<7} {mark.message}" + (f"  [{mark.text[:60]}]" if mark.text else "") for mark in marks]
    report(options, {"marks": [_facts(mark) for mark in marks]}, "\n".join(lines) or "Nothing stands out.")


def _facts(mark: Mark) -> dict[str, object]:
    mends = [{"words": mend.words, **mend.operation} for mend in mark.mends]
    return {"check": mark.check, "gravity": mark.gravity, "message": mark.message, "text": mark.text, "mends": mends}
