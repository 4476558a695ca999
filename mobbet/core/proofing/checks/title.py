"""The title: missing, too long for results, or the same as another post's."""

from __future__ import annotations

from collections.abc import Iterator

from mobbet.core import search_results
from mobbet.core.proofing.marks import MUST, Mark, Why, docket
from mobbet.core.proofing.material import Material, OfWhole

MOST_LETTERS, MOST_PIXELS = 60, 580


def check(material: Material) -> Iterator[Mark]:
    title = material.docket.title
    if not title.strip():
        yield Mark("title", "The post has no title yet; without one it cannot go out.", severity=MUST)
        return
    width = round(search_results.title(title).pixels)
    if len(title) > MOST_LETTERS or width > MOST_PIXELS:
        size = f"{len(title)} letters" if len(title) > MOST_LETTERS else f"{width} pixels"
        yield Mark(
            "title",
            f"The title has {size}; search results cut it. A shorter one can be given for them.",
            title,
            mends=(docket("description", "A title for results"),),
        )
    other = material.knowledge.titles.get(title.strip().casefold())
    if other:
        yield Mark("title", "Another post has this title; readers cannot tell the two apart.", title)


CHECKS = (OfWhole(check),)
WHY = {
    "title": Why(
        "Title",
        "The title is the first and often the only thing that is read of a post. Search results show about 60 letters of it.",
        "Rewiring a desk lamp",
    )
}
