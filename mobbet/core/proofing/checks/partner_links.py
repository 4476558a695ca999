"""Links to partners, by the blog's rules for domains, that are not marked as paid."""

from __future__ import annotations

from collections.abc import Iterator

from mobbet.core.link_rules import RULES, relations
from mobbet.core.proofing.marks import Mark, Mend, Why
from mobbet.core.proofing.material import Material, OfWhole


def check(material: Material) -> Iterator[Mark]:
    for link in material.links:
        if not link.is_paid and relations(link.href, material.rules.domains) == RULES["paid"]:
            mend = Mend(
                "Mark it as paid",
                {"do": "paid", "path": list(link.path), "start": link.start, "end": link.end, "value": True},
            )
            yield Mark(
                "partner-links",
                f"“{link.words}” leads to a partner of the blog, and is not marked as paid.",
                link.words,
                link.path,
                link.start,
                link.end,
                mends=(mend,),
            )


CHECKS = (OfWhole(check),)
WHY = {
    "partner-links": Why(
        "Partner links",
        "Search engines and the law in many places want to know which links are paid for. The rules for domains are kept under Site, House.",
        "shop.example paid",
    )
}
