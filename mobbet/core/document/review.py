"""What a review comes to."""

from __future__ import annotations

from decimal import ROUND_HALF_UP, Decimal
from typing import Any

BEST = 10
KINDS = {
    "": "Thing", "product": "Product", "book": "Book", "film": "Movie", "music": "MusicRecording", "game": "Game",
    "software": "SoftwareApplication", "place": "LocalBusiness", "event": "Event", "course": "Course", "recipe": "Recipe",
}  # fmt: skip
"""{kind of thing reviewed: its type at schema.org}."""


def overall(criteria: list[list[Any]]) -> float | None:
    """The weighted mean of [name, score, weight] rows, to one decimal; None when nothing was scored."""
    weights = sum(Decimal(weight) for _, _, weight in criteria)
    if not weights:
        return None
    mean = sum(Decimal(str(score)) * weight for _, score, weight in criteria) / weights
    return float(mean.quantize(Decimal("0.1"), ROUND_HALF_UP))


def shown(score: float) -> str:
    """A score as it is printed: without a decimal where it has none."""
    return f"{score:g}"


def structured(attrs: dict[str, Any], author: dict[str, str]) -> dict[str, Any]:
    """schema.org Review of a review's attributes; `author` is its Person."""
    facts: dict[str, Any] = {
        "@context": "https://schema.org",
        "@type": "Review",
        "itemReviewed": {"@type": KINDS[attrs["kind"]], "name": attrs["name"]},
        "author": author,
    }
    score = overall(attrs["criteria"])
    if score is not None:
        facts["reviewRating"] = {
            "@type": "Rating",
            "ratingValue": score,
            "bestRating": BEST,
            "worstRating": 0,
        }
    if attrs["verdict"]:
        facts["reviewBody"] = attrs["verdict"]
    for name, key in (("positiveNotes", "points_for"), ("negativeNotes", "points_against")):
        if attrs[key]:
            items = [
                {"@type": "ListItem", "position": number, "name": words}
                for number, words in enumerate(attrs[key], 1)
            ]
            facts[name] = {"@type": "ItemList", "itemListElement": items}
    return facts
