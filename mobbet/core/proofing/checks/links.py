"""Links: words that say nothing, the same words to different places, posts that are not out, anchors, unsafe schemes, partners."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import Any

from mobbet.core.document.links import post_number
from mobbet.core.document.mentions import walk
from mobbet.core.proofing.marks import MUST, Mark, Mend, Why
from mobbet.core.proofing.material import Material, OfWhole
from mobbet.core.web_addresses import split_address

EMPTY_WORDS = {
    "here",
    "click here",
    "this",
    "this link",
    "link",
    "more",
    "read more",
    "this page",
    "this post",
    "go",
    "see here",
    "this article",
    "there",
}
_OUT = re.compile(r"https?://", re.IGNORECASE)
_BARE = re.compile(r"^(?:https?://|www\.)\S+$", re.IGNORECASE)


def outward(document: dict[str, Any]) -> list[str]:
    """The addresses that links and buttons of a document lead out to, without what comes after #, each once."""
    found: dict[str, None] = {}
    for node in walk(document):
        addresses = [mark["attrs"]["href"] for mark in node.get("marks", ()) if mark["type"] == "link"]
        addresses += [node["attrs"]["address"]] if node["type"] == "button" else []
        found.update({address.partition("#")[0]: None for address in addresses if _OUT.match(address)})
    return list(found)


def check(material: Material) -> Iterator[Mark]:
    """The words of links."""
    seen: dict[str, str] = {}
    for link in material.links:
        words = " ".join(link.words.split())
        if words.casefold().strip(" .,!>→") in EMPTY_WORDS:
            yield Mark(
                "link-words",
                f"“{words}” does not say where the link leads; let the words say it.",
                words,
                link.path,
                link.start,
                link.end,
            )
        elif _BARE.match(words):
            yield Mark(
                "link-words",
                "A bare address as a link’s words is read out letter by letter; say what is there.",
                words,
                link.path,
                link.start,
                link.end,
            )
        elif seen.setdefault(words.casefold(), link.href) != link.href:
            yield Mark(
                "link-words",
                f"“{words}” leads to another place further up; readers take them for the same.",
                words,
                link.path,
                link.start,
                link.end,
            )


def targets(material: Material) -> Iterator[Mark]:
    """Where links lead: posts that are not out or will come down, anchors that are not there."""
    own = {node["attrs"].get("anchor") for _, node in material.nodes if node["type"] == "heading"} - {
        None,
        "",
    }
    for link in material.links:
        number, fragment = post_number(link.href), link.href.partition("#")[2]
        if number is not None:
            other = material.knowledge.posts.get(number)
            if other is None:
                yield Mark(
                    "link-target",
                    "The post this leads to is no more; readers get the words without a link.",
                    link.words,
                    link.path,
                    link.start,
                    link.end,
                    MUST,
                )
            elif other.state != "out":
                yield Mark(
                    "link-target",
                    f"“{other.title}” is not out ({other.state.replace('-', ' ')}); readers get the words without a link.",
                    link.words,
                    link.path,
                    link.start,
                    link.end,
                )
            elif other.comes_down:
                yield Mark(
                    "link-target",
                    f"“{other.title}” will come down; the link leads nowhere then.",
                    link.words,
                    link.path,
                    link.start,
                    link.end,
                )
            elif fragment and fragment not in other.anchors:
                yield Mark(
                    "link-target",
                    f"“{other.title}” has no heading “{fragment}”.",
                    link.words,
                    link.path,
                    link.start,
                    link.end,
                )
        elif link.href.startswith("#") and fragment and fragment not in own:
            yield Mark(
                "link-target",
                f"There is no heading “{fragment}” in this post.",
                link.words,
                link.path,
                link.start,
                link.end,
            )


def schemes(material: Material) -> Iterator[Mark]:
    """Addresses over http, and those of a scheme that browsers do not follow for readers."""
    for link in material.links:
        parts = split_address(link.href)
        if parts.scheme == "http" and parts.hostname and parts.hostname not in ("localhost", "127.0.0.1"):
            mend = Mend(
                "Use https",
                {
                    "do": "link",
                    "path": list(link.path),
                    "start": link.start,
                    "end": link.end,
                    "href": f"https{link.href[4:]}",
                },
            )
            yield Mark(
                "link-scheme",
                f"{parts.hostname} is led to over http, which anybody on the way can read; try https.",
                link.words,
                link.path,
                link.start,
                link.end,
                mends=(mend,),
            )


def buttons(material: Material) -> Iterator[Mark]:
    """Buttons that readers do not get: without an address, without words, or to a post that is not out."""
    for path, node in material.nodes:
        if node["type"] != "button":
            continue
        words, address = node["attrs"]["words"], node["attrs"]["address"]
        number = post_number(address)
        other = material.knowledge.posts.get(number) if number is not None else None
        if not address:
            yield Mark(
                "button",
                f"The button “{words}” leads nowhere, so readers do not see it; give it an address."
                if words
                else "A button without words and address is not shown to readers.",
                words,
                path,
                severity=MUST,
            )
        elif not words:
            yield Mark(
                "button",
                "A button without words is not shown to readers; write what it does.",
                address,
                path,
                severity=MUST,
            )
        elif number is not None and (other is None or other.state != "out"):
            yield Mark(
                "button",
                f"The button “{words}” leads to a post that is not out, so readers do not see it.",
                words,
                path,
            )


CHECKS = (OfWhole(check), OfWhole(targets), OfWhole(schemes), OfWhole(buttons))
WHY = {
    "link-words": Why(
        "Words of links",
        "Some readers go from link to link and hear only those words. They should say what is there.",
        "the table of fuses, not here",
    ),
    "link-target": Why(
        "Where links lead",
        "A link to a post that is not out, or to a heading that is gone, leads nowhere. Readers then get the words alone.",
        "a post that comes down on Friday",
    ),
    "button": Why(
        "Buttons",
        "A button that leads nowhere is left out of the page. Readers then miss what it offered.",
        "Book a bench seat, with its address",
    ),
    "link-scheme": Why(
        "http and https",
        "What is sent over http can be read and changed on the way. Nearly every place answers over https too.",
        "https://name.example",
    ),
}
