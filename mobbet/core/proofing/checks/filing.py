"""Filing and address: no category, only the catch-all, against the blog's rule; the slug; the description."""

from __future__ import annotations

from collections.abc import Iterator

from mobbet.core.near import doubles
from mobbet.core.proofing.marks import COULD, MUST, Mark, Why, docket
from mobbet.core.proofing.material import Material, OfWhole

LONGEST_SLUG = 50


def check(material: Material) -> Iterator[Mark]:
    """The categories and tags."""
    if not material.docket.is_known or material.docket.is_page:
        return
    settings, known = material.docket, material.knowledge
    if known.rule:
        yield Mark(
            "category",
            known.rule,
            ", ".join(settings.categories),
            severity=MUST,
            mends=(docket("categories", "File it"),),
        )
    elif not settings.categories:
        where = f"; it falls under {known.catch_all}" if known.catch_all else ""
        yield Mark(
            "category", f"The post is in no category{where}.", mends=(docket("categories", "File it"),)
        )
    elif settings.categories == (known.catch_all,):
        yield Mark(
            "category",
            f"The post is only in {known.catch_all}, where whatever has no category falls.",
            known.catch_all,
            mends=(docket("categories", "File it"),),
        )
    for double in doubles(settings.tags, lambda word: known.knows(word, material.language)):
        yield Mark(
            "tags",
            f"The tags “{double.one}” and “{double.other}” mean one thing; keep one.",
            f"{double.one}, {double.other}",
            mends=(docket("tags", "Settle the tags"),),
        )


def address(material: Material) -> Iterator[Mark]:
    """The last part of the address."""
    if not material.docket.is_known:
        return
    slug, usual = material.docket.slug, material.docket.usual_slug
    if len(slug or usual) > LONGEST_SLUG:
        yield Mark(
            "address",
            f"The address is {len(slug or usual)} letters long; a shorter one is remembered.",
            slug or usual,
            mends=(docket("slug", "Shorten it"),),
        )
    if material.docket.moves_to:
        yield Mark(
            "address",
            f"The address changes from {material.docket.moves_from} to {material.docket.moves_to}; the old one redirects.",
            material.docket.moves_to,
            severity=COULD,
            mends=(docket("slug", "Look at it"),),
        )
    elif slug and usual and not material.docket.is_out and not set(slug.split("-")) & set(usual.split("-")):
        yield Mark(
            "address",
            "The address says nothing of the title any more; it was made for another one.",
            slug,
            mends=(docket("slug", "Change it"),),
        )


def description(material: Material) -> Iterator[Mark]:
    """What search engines and shared links show."""
    if not material.docket.is_known:
        return
    words = material.docket.description.strip()
    if not words:
        yield Mark(
            "description",
            "There is no description; search engines take what they find.",
            mends=(docket("description", "Write one"),),
        )
    elif material.knowledge.descriptions.get(words.casefold()):
        yield Mark(
            "description",
            "Another post has the same description.",
            words,
            mends=(docket("description", "Change it"),),
        )


def fill_ins(material: Material) -> Iterator[Mark]:
    """Fill-ins that stand for nothing."""
    for path, node in material.nodes:
        name = node["attrs"]["name"] if node["type"] == "fillIn" else ""
        if name and material.knowledge.facts and name not in material.knowledge.facts:
            yield Mark(
                "fill-ins",
                f"“{name}” has no value; readers get nothing in its place.",
                f"{{{name}}}",
                path[:-1],
                severity=MUST,
            )


CHECKS = (OfWhole(check), OfWhole(address), OfWhole(description), OfWhole(fill_ins))
WHY = {
    "category": Why(
        "Category",
        "Readers find older posts by their categories. A post in none falls where nobody looks.",
        "Lamps first, and Safety",
    ),
    "tags": Why(
        "Tags",
        "Two tags for one thing part its posts into two lists. One of them can lead to the other.",
        "fuse, fuses",
    ),
    "address": Why(
        "Address",
        "A short address is remembered, said aloud and typed. A published one should stay as it is.",
        "/lamps/rewiring/",
    ),
    "description": Why(
        "Description",
        "Search engines and shared links show it under the title. Without one they take the first words they find.",
        "How to rewire a lamp in forty minutes.",
    ),
    "fill-ins": Why(
        "Fill-ins",
        "A fill-in is replaced by a fact of the blog. Where there is no such fact readers get nothing.",
        "{next-session}",
    ),
}
