"""The shape of a long post: headings, contents, a picture, a teaser line of the right length; and empty blocks."""

from __future__ import annotations

from collections.abc import Iterator

from mobbet.core.document import outline
from mobbet.core.document.text import plain
from mobbet.core.proofing.marks import COULD, Mark, Mend, Why, docket
from mobbet.core.proofing.material import Material, OfWhole

LONG_WITHOUT, LONG, LONG_FOR_HEADINGS, LONG_FOR_CONTENTS, LONG_TEASER = 40, 400, 600, 1500, 80
SHOWS = ("picture", "gallery", "video", "sound", "embed", "table", "review", "pictureText")


def check(material: Material) -> Iterator[Mark]:
    document, kinds = material.document, {node["type"] for _, node in material.nodes}
    count = outline.count_words(document)
    if count > LONG_FOR_HEADINGS and "heading" not in kinds:
        yield Mark(
            "headings-missing",
            f"The text has {count:,} words and no heading; readers look for a place to stop.",
        )
    if count > LONG_FOR_CONTENTS and "contents" not in kinds:
        yield Mark(
            "contents-missing",
            f"The text has {count:,} words; contents let readers go where they want.",
            severity=COULD,
        )
    if count > 0 and not kinds & {"picture", "gallery", "video", "embed", "beside"}:
        yield Mark(
            "picture-missing",
            "The post shows no picture; lists and shared links have a drawn card instead.",
            severity=COULD,
        )
    if outline.has_teaser_line(document):
        words = len(" ".join(plain(node) for node in outline.teaser(document)).split())
        if words > LONG_TEASER:
            yield Mark(
                "teaser",
                f"What stands above the teaser line has {words} words; {LONG_TEASER} are enough for lists.",
            )
    elif not material.knowledge.lists_show_teasers:
        return
    elif count > LONG and not material.docket.excerpt:
        yield Mark(
            "teaser",
            "A long post without a teaser line or excerpt: lists show its first paragraph.",
            severity=COULD,
            mends=(docket("excerpt", "Write an excerpt"),),
        )
    elif count > LONG_WITHOUT and not material.docket.excerpt and not outline.teaser_text(document):
        yield Mark(
            "teaser",
            "Lists show no words of this post: it has no excerpt, and no paragraph that could stand for it.",
            mends=(docket("excerpt", "Write an excerpt"),),
        )


def empty_blocks(material: Material) -> Iterator[Mark]:
    """Empty paragraphs between others; the one at the end is where one writes on."""
    blocks = material.document.get("content", ())
    for at, block in enumerate(blocks[:-1]):
        if block["type"] == "paragraph" and not block.get("content"):
            yield Mark(
                "empty-blocks",
                "This paragraph is empty.",
                "",
                (at,),
                severity=COULD,
                mends=(Mend("Remove it", {"do": "remove", "path": [at]}),),
            )


def table_headings(material: Material) -> Iterator[Mark]:
    """Tables in which no cell is a heading."""
    for path, node in material.nodes:
        if node["type"] == "table" and not any(
            cell["type"] == "tableHeader"
            for row in node.get("content", ())
            for cell in row.get("content", ())
        ):
            yield Mark(
                "table-headings",
                "The table has no headings; readers who hear it do not know what a cell is about.",
                plain(node).strip()[:60],
                path,
                mends=(Mend("Make the first row headings", {"do": "top-row", "path": list(path)}),),
            )


CHECKS = (OfWhole(check), OfWhole(empty_blocks), OfWhole(table_headings))
WHY = {
    "headings-missing": Why(
        "No headings",
        "A long text without headings is left in the middle. Two or three tell readers where they are.",
        "Before you open it",
    ),
    "contents-missing": Why(
        "No contents",
        "Past 1,500 words readers look for one part. Contents made of the headings lead there.",
        "Contents, from the toolbar",
    ),
    "picture-missing": Why(
        "No picture",
        "Lists and shared links show the picture of a post. Without one they show a drawn card with its title.",
        "one picture near the top",
    ),
    "teaser": Why(
        "Teaser",
        "Lists show what stands above the teaser line, or the excerpt. It should be short, and make one want the rest.",
        "80 words at the most",
    ),
    "empty-blocks": Why(
        "Empty paragraphs",
        "An empty paragraph makes a hole in the page. The space between blocks is the look's to choose.",
        "between two paragraphs",
    ),
    "table-headings": Why(
        "Table headings",
        "People who hear a table need the heading of each column. The first row can be made one.",
        "Fuse | Rating",
    ),
}
