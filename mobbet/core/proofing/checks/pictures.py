"""Pictures, videos and sounds: alternative text, credit, size, captions and transcripts."""

from __future__ import annotations

import re
from collections.abc import Iterator

from mobbet.core.document.links import media_number
from mobbet.core.document.text import plain
from mobbet.core.proofing.marks import COULD, MUST, Mark, Why
from mobbet.core.proofing.material import Material, OfWhole

_FILE = re.compile(
    r"^(?:(?:img|dsc|dscn|pict|image|photo|screenshot|scan)[ _-]?\d[\w -]*|.+\.(?:jpe?g|png|gif|webp|heic|avif|svg))$",
    re.IGNORECASE,
)
_SAYS_PICTURE = re.compile(
    r"^(?:an?\s+|the\s+)?(?:picture|image|photo|photograph|graphic|screenshot)\s+(?:of|showing)\b",
    re.IGNORECASE,
)
TOO_SMALL = 480
FAR_TOO_LARGE = 40_000_000
"""Pixels of a picture of which the library makes smaller copies, but with trouble."""


def check(material: Material) -> Iterator[Mark]:
    """The alternative text of each picture."""
    for path, node in material.nodes:
        if node["type"] != "picture" or node["attrs"].get("decoration"):
            continue
        alt, caption = (node["attrs"].get("alt") or "").strip(), plain(node).strip()
        if not alt:
            yield Mark(
                "alternative-text",
                "The picture has no alternative text; say what it shows, for those who do not see it.",
                caption or _name_of(material, str(node["attrs"].get("src", ""))),
                path,
                severity=MUST,
            )
        elif _FILE.match(alt):
            yield Mark(
                "alternative-text", f"“{alt}” is a file’s name; say what the picture shows.", alt, path
            )
        elif _SAYS_PICTURE.match(alt):
            yield Mark(
                "alternative-text",
                "That it is a picture is said already; begin with what it shows.",
                alt,
                path,
            )
        elif caption and alt.casefold().rstrip(".") == caption.casefold().rstrip("."):
            yield Mark(
                "alternative-text",
                "The alternative text repeats the caption; readers who hear the page get it twice.",
                alt,
                path,
            )


def _name_of(material: Material, src: str) -> str:
    """A picture by its file’s name; one that is not in the library by its address."""
    item = material.knowledge.items.get(media_number(src) or 0)
    return item.name if item else src


def items(material: Material) -> Iterator[Mark]:
    """What the library knows of what is shown: credit, size, captions, transcript."""
    for path, node in material.nodes:
        number = media_number(str(node.get("attrs", {}).get("src", "")))
        item = material.knowledge.items.get(number) if number is not None else None
        if item is None:
            continue
        if item.needs_credit and not item.credit:
            yield Mark(
                "credit",
                f"The licence of “{item.name}” asks for a credit, and there is none.",
                item.name,
                path,
                severity=MUST,
            )
        if item.kind == "picture" and 0 < item.width < TOO_SMALL and node["type"] == "picture":
            yield Mark(
                "picture-size",
                f"“{item.name}” is {item.width} pixels wide; it looks coarse at the width of the text.",
                item.name,
                path,
            )
        if item.kind == "picture" and item.width * item.height > FAR_TOO_LARGE:
            yield Mark(
                "picture-size",
                f"“{item.name}” has {item.width * item.height // 1_000_000} million pixels, far more than any place shows; a smaller one is quicker to work with.",
                item.name,
                path,
                severity=COULD,
            )
        if item.kind == "video" and not item.has_captions:
            yield Mark(
                "captions",
                f"“{item.name}” has no captions; who does not hear it misses what is said.",
                item.name,
                path,
            )
        if item.kind == "sound" and not item.has_transcript:
            yield Mark(
                "captions",
                f"“{item.name}” has no transcript; who does not hear it misses it.",
                item.name,
                path,
            )


CHECKS = (OfWhole(check), OfWhole(items))
WHY = {
    "alternative-text": Why(
        "Alternative text",
        "It stands in for the picture where that is not seen: read aloud, or not loaded. It says what the picture shows, in a sentence.",
        "A hand holds the switch open",
    ),
    "credit": Why(
        "Credit",
        "The licence asks that the maker is named. The library keeps the credit with the picture.",
        "Photo: Ada Renn, CC BY 4.0",
    ),
    "picture-size": Why(
        "Picture size",
        "A picture narrower than its place is blown up and looks coarse. A small one can be set to a smaller width.",
        "at least 480 pixels",
    ),
    "captions": Why(
        "Captions and transcripts",
        "Many people watch without sound, and some hear none. Captions and transcripts also let search find what is said.",
        "0:01 - 0:04 First unplug it",
    ),
}
