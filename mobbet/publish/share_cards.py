"""Share cards: what a shared link of a post without a picture shows, drawn with the site's fonts (1200 by 630 pixels, PNG)."""

from __future__ import annotations

import io
from functools import lru_cache

from PIL import Image, ImageDraw, ImageFont

from mobbet.core.look.colours import Colour
from mobbet.core.look.palette import Palette
from mobbet.core.search_results import text_width
from mobbet.publish.design import FOLDER

WIDTH, HEIGHT = 1200, 630
EDGE = 84
SIZES = (84, 72, 62, 54, 46)
MOST_LINES = 5
INKS, ACCENTS = 10, 5
"""So many steps from paper to ink, and to the accent: sixteen colours in all, two pixels a byte."""
BELOW = 130
"""The height of the part that is drawn in the accent."""
BOLDER = 1.1
"""How much wider the bold letters of titles are than the measured ones."""


def draw(title: str, name: str, palette: Palette) -> bytes:
    """The title in as large letters as fit, over the blog's name and a line in its accent.

    What is drawn is how much ink and how much accent stand where; a palette gives it its colours, which takes a third of the time
    of finding few colours in a picture of many.
    """
    size, lines = _set(title)
    card = Image.new("L", (WIDTH, HEIGHT), 0)
    pen = ImageDraw.Draw(card)
    top = (HEIGHT - 90 - len(lines) * size * 1.2) / 2
    for at, line in enumerate(lines):
        pen.text((EDGE, top + at * size * 1.2), line, fill=255, font=_font("literata.woff2", size, 700))
    below = Image.new("L", (WIDTH, BELOW), 0)
    pen = ImageDraw.Draw(below)
    pen.line((EDGE, BELOW - 118, EDGE + 120, BELOW - 118), fill=255, width=5)
    pen.text((EDGE, BELOW - 92), _fitted(name, 34), fill=255, font=_font("hyperlegible.woff2", 34, 600))
    card = card.point(_steps(INKS, 0))
    card.paste(below.point(_steps(ACCENTS, INKS)), (0, HEIGHT - BELOW))
    card.paste(INKS + ACCENTS, (0, 0, 19, HEIGHT))
    card.putpalette(_palette(*(palette.colour(part) for part in ("paper", "ink", "accent"))))
    out = io.BytesIO()
    card.save(out, "PNG", compress_level=3)
    return out.getvalue()


def _steps(most: int, after: int) -> list[int]:
    """The place in the palette of each strength from 0 to 255 of a colour that has so many steps, after those of others; 0 is paper."""
    return [step and after + step for step in (round(strength * most / 255) for strength in range(256))]


def _palette(paper: Colour, ink: Colour, accent: Colour) -> list[int]:
    """Paper, then ink and accent from their faintest to their full step."""
    steps = [(ink, step / INKS) for step in range(INKS + 1)] + [
        (accent, step / ACCENTS) for step in range(1, ACCENTS + 1)
    ]
    return [
        round(ground + (full - ground) * share)
        for colour, share in steps
        for ground, full in zip(paper, colour, strict=True)
    ]


def _set(title: str) -> tuple[int, list[str]]:
    """The largest size at which a title stands in few enough lines, and those lines."""
    for size in SIZES:
        lines = _lines(title, size)
        if len(lines) * size * 1.2 <= HEIGHT - 230:
            return size, lines
    return SIZES[-1], [*lines[: MOST_LINES - 1], _fitted(" ".join(lines[MOST_LINES - 1 :]), SIZES[-1])]


def _lines(title: str, size: int) -> list[str]:
    lines = [""]
    for word in title.split():
        longer = f"{lines[-1]} {word}".strip()
        if lines[-1] and not _fits(longer, size):
            lines.append(word)
        else:
            lines[-1] = longer
    return [_fitted(line, size) for line in lines]


def _fits(line: str, size: int) -> bool:
    return text_width(line, size) * BOLDER <= WIDTH - 2 * EDGE


def _fitted(line: str, size: int) -> str:
    """A line, cut if it would leave the card."""
    if _fits(line, size):
        return line
    while line and not _fits(line + "…", size):
        line = line[:-1]
    return line.rstrip() + "…"


@lru_cache(maxsize=16)
def _font(name: str, size: int, weight: int) -> ImageFont.FreeTypeFont:
    font = ImageFont.truetype(FOLDER / "fonts" / name, size)
    axes = font.get_variation_axes()
    font.set_variation_by_axes(
        [float(weight if b"eight" in (axis["name"] or b"") else axis["default"] or 0) for axis in axes]
    )
    return font
