"""Share cards: what a shared link of a post without a picture shows, drawn with the site's fonts (1200 by 630 pixels, PNG)."""

from __future__ import annotations

import io
from functools import lru_cache

from PIL import Image, ImageDraw, ImageFont

from mobbet.core.search_results import text_width
from mobbet.publish.design import FOLDER

WIDTH, HEIGHT = 1200, 630
EDGE = 84
SIZES = (84, 72, 62, 54, 46)
MOST_LINES = 5
COLOURS = {"bench": ((251, 249, 244), (36, 33, 28), (138, 59, 18)), "ferry": ((245, 249, 250), (22, 36, 43), (18, 86, 111))}
"""Paper, ink and accent of each look, as in `page.css`."""
BOLDER = 1.1
"""How much wider the bold letters of titles are than the measured ones."""


def draw(title: str, name: str, design: str) -> bytes:
    """The title in as large letters as fit, over the blog's name and a line in its accent."""
    paper, ink, accent = COLOURS.get(design, COLOURS["bench"])
    size, lines = _set(title)
    image = Image.new("RGB", (WIDTH, HEIGHT), paper)
    pen = ImageDraw.Draw(image)
    pen.rectangle((0, 0, 18, HEIGHT), fill=accent)
    top = (HEIGHT - 90 - len(lines) * size * 1.2) / 2
    for at, line in enumerate(lines):
        pen.text((EDGE, top + at * size * 1.2), line, fill=ink, font=_font("text.woff2", size, 700))
    pen.line((EDGE, HEIGHT - 118, EDGE + 120, HEIGHT - 118), fill=accent, width=5)
    pen.text((EDGE, HEIGHT - 92), _fitted(name, 34), fill=accent, font=_font("plain.woff2", 34, 600))
    out = io.BytesIO()
    image.quantize(24, Image.Quantize.FASTOCTREE).save(out, "PNG", compress_level=6)
    return out.getvalue()


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
        if text_width(longer, size) * BOLDER > WIDTH - 2 * EDGE and lines[-1]:
            lines.append(word)
        else:
            lines[-1] = longer
    return [_fitted(line, size) for line in lines]


def _fitted(line: str, size: int) -> str:
    """A line cut where it would leave the card."""
    whole = line
    while line and text_width(line + "…", size) * BOLDER > WIDTH - 2 * EDGE:
        line = line[:-1]
    return line if line == whole else line.rstrip() + "…"


@lru_cache(maxsize=16)
def _font(name: str, size: int, weight: int) -> ImageFont.FreeTypeFont:
    font = ImageFont.truetype(FOLDER / name, size)
    axes = font.get_variation_axes()
    font.set_variation_by_axes([weight if b"eight" in axis["name"] else axis["default"] for axis in axes])
    return font
