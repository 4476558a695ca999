"""What is odd about when a post goes out and for whom: its time, its readers, its standing copies, its letters."""

from __future__ import annotations

from collections.abc import Iterator

from mobbet.core.proofing.marks import COULD, MUST, Mark, Mend, Why, docket
from mobbet.core.proofing.material import Material, OfWhole


def time(material: Material) -> Iterator[Mark]:
    going = material.going
    if going.comes_down_first:
        yield Mark(
            "time",
            "The post would come down before it goes out.",
            going.when,
            severity=MUST,
            mends=(docket("comes_down", "Choose when it comes down"),),
        )
    elif going.is_past:
        yield Mark(
            "time",
            f"{going.when} is past: the post goes out now, and stands among those of then.",
            going.when,
            severity=COULD,
            mends=(docket("goes_out", "Choose another time"),),
        )
    for title in going.same_hour:
        yield Mark(
            "time",
            f"“{title}” goes out in the same hour.",
            title,
            mends=(docket("goes_out", "Choose another time"),),
        )


def readers(material: Material) -> Iterator[Mark]:
    going = material.going
    if going.usual_readers:
        yield Mark(
            "readers",
            f"Fewer may read this than what is usual in {going.usual_readers}: those posts are for everyone.",
            mends=(docket("visibility", "Change who may read it"),),
        )
    if going.letters:
        count, group = going.letters
        yield Mark(
            "letters",
            f"When it goes out, {count} reader{'s' if count != 1 else ''} of {group} get{'s' if count == 1 else ''} a letter.",
            group,
            severity=COULD,
        )


def standing_copies(material: Material) -> Iterator[Mark]:
    for path, node in material.nodes:
        aside = (
            material.knowledge.aside_copies.get(node["attrs"]["copy"]) if node["type"] == "standing" else None
        )
        if aside:
            name, is_text_left = aside
            comes = "still get its last text here" if is_text_left else "get nothing in its place"
            yield Mark(
                "standing-copy",
                f"The standing copy “{name}” was set aside; readers {comes}.",
                name,
                path,
                mends=(Mend("Take it out", {"do": "remove", "path": list(path)}),),
            )


CHECKS = (OfWhole(time), OfWhole(readers), OfWhole(standing_copies))
WHY = {
    "time": Why(
        "When it goes out",
        "Two posts in one hour take each other's readers. A time in the past is fine for a post that belongs there, and odd for any other.",
        "Thu 26 Nov at 09:00",
    ),
    "readers": Why(
        "Who may read it",
        "Where all posts of a category are for everyone, one that is not may be an oversight. It may be meant as well: then let it stand.",
        "for Volunteers, in Lamps",
    ),
    "letters": Why(
        "Letters",
        "A letter that was sent cannot be called back. So the proof says who gets one before it is.",
        "12 readers of Volunteers",
    ),
    "standing-copy": Why(
        "Standing copy",
        "A block that is kept once was set aside by somebody. Posts that show it keep its last text, which may be out of date.",
        "the opening hours of last year",
    ),
}
