"""Places where another of the blog's posts is plainly meant, by the telling words of its title or by a tag that it alone has."""

from __future__ import annotations

from collections.abc import Iterator

from mobbet.core.document.links import post_number
from mobbet.core.proofing.marks import COULD, Mark, Mend, Why
from mobbet.core.proofing.material import Material, OfWhole
from mobbet.core.proofing.meant import meant_in

MOST = 5


def check(material: Material) -> Iterator[Mark]:
    if not material.knowledge.own:
        return
    linked = {post_number(link.href) for link in material.links}
    found = 0
    for passage in material.passages:
        if passage.node["type"] == "heading":
            continue
        for start, end, post in meant_in(passage.text, material.knowledge.own):
            is_free = not any(
                mark["type"] in ("link", "code")
                for first, last, node in passage.runs
                if first < end and start < last
                for mark in node.get("marks", ())
            )
            if post.number in linked or not is_free:
                continue
            linked.add(post.number)
            words = passage.text[start:end]
            mend = Mend(
                "Link them",
                {
                    "do": "link",
                    "path": list(passage.path),
                    "start": start,
                    "end": end,
                    "href": f"post:{post.number}",
                },
            )
            yield Mark(
                "own-links",
                f"“{words}” seems to mean your post “{post.title}”.",
                words,
                passage.path,
                start,
                end,
                COULD,
                (mend,),
            )
            found += 1
            if found == MOST:
                return


CHECKS = (OfWhole(check),)
WHY = {
    "own-links": Why(
        "Your own posts",
        "A link to an older post helps readers and keeps that post read. Only posts that are plainly meant are offered, five at the most.",
        "as in Rewiring a desk lamp",
    )
}
