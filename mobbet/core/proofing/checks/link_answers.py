"""What came back when the links out were tried, and since when."""

from __future__ import annotations

from collections.abc import Iterator

from mobbet.core.proofing.marks import COULD, Mark, Mend, Why
from mobbet.core.proofing.material import Material, OfWhole
from mobbet.core.web_addresses import split_address


def check(material: Material) -> Iterator[Mark]:
    for link in material.links:
        answer = material.knowledge.answers.get(link.href.partition("#")[0])
        if answer is None:
            continue
        place = split_address(link.href).hostname or link.href
        if answer.problem:
            yield Mark(
                "link-answers",
                f"{place} {answer.problem}, since {answer.since}; readers get nothing there.",
                link.words,
                link.path,
                link.start,
                link.end,
            )
        elif answer.ends_at:
            mend = Mend(
                "Lead to its end",
                {
                    "do": "link",
                    "path": list(link.path),
                    "start": link.start,
                    "end": link.end,
                    "href": answer.ends_at,
                },
            )
            yield Mark(
                "link-answers",
                f"{place} has moved to {answer.ends_at} for good.",
                link.words,
                link.path,
                link.start,
                link.end,
                COULD,
                (mend,),
            )


CHECKS = (OfWhole(check),)
WHY = {
    "link-answers": Why(
        "Links that answer",
        "Each link out is asked for once a week, quietly, and what came back is told. A place that was away for a moment is asked again before it is told of.",
        "name.example answered with 404",
    )
}
