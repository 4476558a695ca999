"""Made-up hosts of video and sound, which answer as oEmbed does and work without a network."""

from __future__ import annotations

from mobbet.core.embeds import Found
from mobbet.core.errors import BadInput
from mobbet.services.contracts import EmbedFacts, OfferedVideo
from mobbet.services.stand_ins.drawing import draw

_REEL, _QUAY = "https://reel.example/watch/", "https://quay-sound.example/listen/"
_ROWS = (
    ("boat", _REEL, "caulking-a-skiff", "Caulking a skiff, start to finish", "Colm Tarrant", 734), ("boat", _REEL, "launching-day", "Launching day at Port Alder", "Edda Rusk", 212),
    ("boat", _REEL, "sail-patch", "A patch for an old sail", "Marit Loew", 405), ("lamp", _REEL, "lamp-rewire", "Rewiring a lamp, filmed close", "Bento Salgado", 518),
    ("lamp", _REEL, "flex-and-grommet", "Flex, grommet, cord grip", "Bento Salgado", 267), ("clock", _REEL, "clock-bath", "A clock in its bath", "Yusuf Arden", 331),
    ("clock", _REEL, "escapement-slow", "An escapement at one tenth speed", "Yusuf Arden", 64), ("clock", _REEL, "winding", "How far to wind it", "Edda Rusk", 145),
    ("gull", _REEL, "gulls-count", "Counting gulls from the ferry", "Marit Loew", 388), ("rope", _REEL, "eye-splice", "An eye splice in eight tucks", "Colm Tarrant", 449),
    ("rope", _REEL, "whipping", "Whipping a rope’s end", "Colm Tarrant", 198), ("window", _REEL, "sash-cord", "A new sash cord without breaking glass", "Edda Rusk", 603),
    ("gull", _QUAY, "harbour-at-five", "The harbour at five in the morning", "Marit Loew", 920), ("boat", _QUAY, "engine-cold-start", "An engine started cold", "Yusuf Arden", 48),
    ("clock", _QUAY, "nine-clocks", "Nine clocks, not together", "Edda Rusk", 277), ("window", _QUAY, "rain-on-glass", "Rain on the sail loft’s window", "Bento Salgado", 1180),
)  # fmt: skip
BY_ADDRESS = {
    f"{start}{slug}": (subject, title, by, seconds) for subject, start, slug, title, by, seconds in _ROWS
}


class MadeUpHosts:
    """Sixteen videos and sounds of two hosts."""

    def search(self, words: str) -> list[OfferedVideo]:
        wanted = words.casefold().split()
        rows = (
            OfferedVideo(address, title, by, seconds)
            for address, (subject, title, by, seconds) in BY_ADDRESS.items()
            if all(word in f"{title} {by} {subject}".casefold() for word in wanted)
        )
        return list(rows)

    def tell(self, found: Found) -> EmbedFacts:
        row = BY_ADDRESS.get(found.address)
        if row is None:
            raise BadInput(
                f"{found.provider.name} has nothing at “{found.address}”; check the address.", "address"
            )
        subject, title, by, seconds = row
        return EmbedFacts(title, by, 640, 360, draw(subject, seconds, 1280, 720))
