"""The settings of a preview: reader, moment, light, type, and screen or paper."""

from __future__ import annotations

from dataclasses import dataclass, replace

LIGHTS = {"daylight": "daylight", "dark": "the dark"}
TYPES = {"ordinary": "ordinary type", "large": "large type"}
COLOURS = {
    "usual": "as they are",
    "red": "without red cones",
    "green": "without green cones",
    "blue": "without blue cones",
    "none": "without colour",
}
KINDS = {
    "page": "the page",
    "list": "the front page",
    "search": "a search result",
    "card": "a shared link",
    "feed": "a feed reader",
    "mail": "a letter",
    "mail-text": "the letter’s text",
    "print": "paper",
}
COMPARED = {"": "nothing", "side": "what is out, side by side", "over": "what is out, one over the other"}
LARGE = "160%"


@dataclass(frozen=True)
class View:
    """`reader` as the command line names it, with groups by number; `at` is a wall time, or '' for when the post goes out."""

    reader: str = "everyone"
    light: str = "daylight"
    type: str = "ordinary"
    media: str = "screen"
    at: str = ""

    def __str__(self) -> str:
        return ",".join((self.reader, self.light, self.type, self.media, self.at))

    def styled(self, source: str) -> str:
        """A style sheet of the site as this view has it: the reader's light and paper do not depend on this machine."""
        source = source.replace(
            "@media (prefers-color-scheme: dark)", "@media all" if self.light == "dark" else "@media not all"
        )
        source = source.replace(
            "color-scheme: light dark", f"color-scheme: {'dark' if self.light == 'dark' else 'light'}"
        )
        if self.media == "print":
            source = source.replace("@media print", "@media all")
        return source + (f"\n:root {{ font-size: {LARGE}; }}\n" if self.type == "large" else "")


def read_view(text: str) -> View:
    """A view from an address; what is not understood is as usual."""
    parts = [*text.split(","), "", "", "", "", ""]
    view = View(parts[0] or "everyone")
    if parts[1] in LIGHTS:
        view = replace(view, light=parts[1])
    if parts[2] in TYPES:
        view = replace(view, type=parts[2])
    if parts[3] in ("screen", "print"):
        view = replace(view, media=parts[3])
    return replace(view, at=parts[4])
