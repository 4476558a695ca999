"""A made-up collection of pictures, which works without a network."""

from __future__ import annotations

import io

from PIL import Image

from mobbet.core.errors import BadInput
from mobbet.services.contracts import Fetched, Offered
from mobbet.services.stand_ins.drawing import draw

_PEOPLE = ("Marit Loew", "Bento Salgado", "Edda Rusk", "Yusuf Arden", "Colm Tarrant")
_ROWS = (
    ("boat", "Small boat under one sail"), ("boat", "Ferry skiff at low water"), ("boat", "Boat drawn up for the winter"), ("boat", "Two-masted model on a bench"),
    ("boat", "Evening boat off the mole"), ("lamp", "Work lamp on a plank"), ("lamp", "Red desk lamp, unlit"), ("lamp", "Lamp with a bent arm"),
    ("lamp", "Bench lamp and shadow"), ("lamp", "Lamp waiting for a new flex"), ("clock", "Kitchen clock at ten past"), ("clock", "Station clock without numerals"),
    ("clock", "Clock face, cleaned"), ("clock", "Stopped clock on a sill"), ("clock", "Workshop clock, five to"), ("gull", "Three gulls over the harbour"),
    ("gull", "Gulls before rain"), ("gull", "Birds in an empty sky"), ("gull", "Gulls following a trawler"), ("gull", "Morning gulls"),
    ("rope", "Coiled rope on the quay"), ("rope", "Old mooring line"), ("rope", "Rope and iron ring"), ("rope", "New rope, tarred"), ("rope", "Coil seen from above"),
    ("window", "Lit window in November"), ("window", "Window of the sail loft"), ("window", "Four panes, one cracked"), ("window", "Window with a yellow blind"),
    ("window", "Net store, closed"),
)  # fmt: skip
_LICENCES = ("cc-by", "cc0", "cc-by-sa", "public-domain", "cc-by-nc")
SIZE = (1600, 1067)


class HarbourPictures:
    """Thirty drawings with credits and licences, all made up."""

    name = "Harbour Pictures (made up)"

    def __init__(self) -> None:
        self._all = {
            str(number): Offered(
                str(number), title, _PEOPLE[number % len(_PEOPLE)], _LICENCES[number % len(_LICENCES)],
                f"https://harbour-pictures.example/{number}", *SIZE, f"{subject}",
            )
            for number, (subject, title) in enumerate(_ROWS, 1)
        }  # fmt: skip

    def search(self, words: str) -> list[Offered]:
        wanted = words.casefold().split()
        return [
            one
            for one in self._all.values()
            if all(word.rstrip("s") in f"{one.title} {one.credit} {one.thumb}".casefold() for word in wanted)
        ]

    def find(self, id: str) -> Offered | None:
        return self._all.get(id)

    def take(self, id: str) -> Fetched:
        one = self._known(id)
        return Fetched(
            one.page, f"{one.title.replace(',', '').replace(' ', '-').lower()}.jpg", draw(one.thumb, int(id))
        )

    def small(self, id: str) -> bytes:
        one = self._known(id)
        out = io.BytesIO()
        Image.open(io.BytesIO(draw(one.thumb, int(id), 480, 320))).save(out, "JPEG", quality=82)
        return out.getvalue()

    def _known(self, id: str) -> Offered:
        one = self._all.get(id)
        if one is None:
            raise BadInput("This picture is no longer offered; search again.", "id")
        return one
