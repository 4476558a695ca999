"""How items of the library are offered to readers: picture files, player addresses, cuts for lists."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache
from typing import TYPE_CHECKING

from mobbet.core.canonical import digest
from mobbet.core.document.html import Playing, Rendition
from mobbet.core.facts import House, Item, PictureFile
from mobbet.core.search_results import can_be_drawn

if TYPE_CHECKING:
    from mobbet.publish.cards import Card

USUAL_WIDTH = 800
BETTER = ("image/avif", "image/webp")
"""Formats that are offered before the original's family, the best first."""

Link = Callable[[str], str]


def rendition(item: Item, sizes: str, link: Link, use: str = "whole") -> Rendition | None:
    """The files of a picture for one use; the whole picture where its cut is not made yet; None without any."""
    found = item.of(use) or item.of("whole")
    if not found:
        return None
    types = list(dict.fromkeys(file.type for file in found))
    family = next((type for type in types if type not in BETTER), None) or types[-1]
    better = [type for type in BETTER if type in types and type != family]
    usual = _usual([file for file in found if file.type == family])
    largest = max(found, key=lambda file: file.width)
    is_drawing = family == "image/svg+xml"
    return Rendition(
        link(usual.path), largest.width, largest.height,
        "" if is_drawing else _srcset(item, use, family, link), "" if is_drawing else sizes,
        tuple((type, _srcset(item, use, type, link)) for type in better),
        item.tiny, colour=item.colour,
    )  # fmt: skip


def _usual(files: list[PictureFile]) -> PictureFile:
    files = sorted(files, key=lambda file: file.width)
    return next((file for file in files if file.width >= USUAL_WIDTH), files[-1])


def _srcset(item: Item, use: str, type: str, link: Link) -> str:
    files = item.of(use, type) or item.of("whole", type)
    return ", ".join(f"{link(file.path)} {file.width}w" for file in files)


def playing(item: Item, link: Link) -> Playing | None:
    """A sound, a video or a file; None while nothing of it can be played."""
    files = item.of(item.kind)
    if not files:
        return None
    poster, captions, wave = (_first(item, use) for use in ("whole", "captions", "wave"))
    return Playing(
        item.name, link(files[0].path), files[0].type, item.bytes, item.seconds, files[0].width, files[0].height,
        link(_usual(list(item.of("whole", "image/webp"))).path) if poster else "", link(captions.path) if captions else "",
        link(wave.path) if wave else "", item.transcript,
    )  # fmt: skip


def _first(item: Item, use: str) -> PictureFile | None:
    return next(iter(item.of(use)), None)


@dataclass(frozen=True)
class Shared:
    """What a share card shows: the path of a picture, and its size in pixels."""

    path: str
    width: int
    height: int


CARD_WIDTH, CARD_HEIGHT = 1200, 630


@lru_cache(maxsize=1024)
def card_path(post_id: int, title: str, name: str) -> str:
    """The address of a drawn share card, by what it shows, so that it can be kept for ever."""
    return f"/media/card-{post_id}-{digest([title, name])[:16]}.png"


def shared(card: Card, house: House) -> Shared | None:
    """The picture of a post's share card: its own, or else the card drawn for it; None where the fonts lack its letters."""
    file = share_picture(card.picture)
    if file:
        return Shared(file.path, file.width, file.height)
    if card.picture or not can_be_drawn(card.title + house.name):
        return None
    return Shared(card_path(card.id, card.title, house.name), CARD_WIDTH, CARD_HEIGHT)


def share_picture(item: Item | None) -> PictureFile | None:
    """The picture for share cards: the cut made for them, or else a file in a format that every service reads."""
    if item is None:
        return None
    plain = [file for file in item.of("whole") if file.type in ("image/jpeg", "image/png")]
    return _first(item, "share") or (_usual(plain) if plain else None)
