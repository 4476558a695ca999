"""A series with a gap: its parts are numbered, and one is missing."""

from __future__ import annotations

from collections.abc import Iterator

from mobbet.core.proofing.marks import Mark, Why, docket
from mobbet.core.proofing.material import Material, OfWhole


def check(material: Material) -> Iterator[Mark]:
    parts = material.knowledge.series_parts
    missing = sorted(set(range(1, max(parts, default=0) + 1)) - set(parts))
    if missing:
        told = ", ".join(map(str, missing[:5]))
        yield Mark(
            "series",
            f"The series has no part {told}; readers who go through it look for {'it' if len(missing) == 1 else 'them'}.",
            mends=(docket("series", "Look at the series"),),
        )


CHECKS = (OfWhole(check),)
WHY = {
    "series": Why(
        "Series",
        "Each part shows its number and what comes before and after. A number left out looks like a post that was lost.",
        "Parts 1, 2 and 4: where is 3?",
    )
}
