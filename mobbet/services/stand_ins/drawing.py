"""Drawings for the stand-ins: simple things from a harbour town."""

from __future__ import annotations

import io
import random

from PIL import Image, ImageDraw

PALETTES = (
    ("#dfe7e4", "#b7a58a", "#2f4a55", "#b4441f"), ("#e9dfcd", "#8a9a86", "#24211c", "#a8741a"), ("#d6e2ea", "#6f8794", "#16242b", "#c2603a"),
    ("#ece6da", "#9a7f66", "#3a2a44", "#5b7f5e"), ("#e3e8dc", "#7b8f73", "#22382c", "#b98b2f"),
)  # fmt: skip


def draw(subject: str, seed: int, width: int = 1600, height: int = 1067) -> bytes:
    """A JPEG of a subject (`boat`, `lamp`, `clock`, `gull`, `rope`, `window`) in colours that follow from the seed."""
    chance = random.Random(f"{subject}{seed}")
    sky, ground, dark, bright = chance.choice(PALETTES)
    image = Image.new("RGB", (width, height), sky)
    pen = ImageDraw.Draw(image)
    level = height * chance.uniform(0.58, 0.74)
    pen.rectangle((0, level, width, height), fill=ground)
    x, unit = width * chance.uniform(0.3, 0.7), height * chance.uniform(0.16, 0.24)
    _SUBJECTS[subject](pen, x, level, unit, dark, bright, sky)
    out = io.BytesIO()
    image.save(out, "JPEG", quality=86)
    return out.getvalue()


def _boat(
    pen: ImageDraw.ImageDraw, x: float, y: float, unit: float, dark: str, bright: str, sky: str
) -> None:
    pen.polygon(
        [
            (x - 1.5 * unit, y - 0.3 * unit),
            (x + 1.5 * unit, y - 0.3 * unit),
            (x + 1.1 * unit, y + 0.4 * unit),
            (x - 1.1 * unit, y + 0.4 * unit),
        ],
        fill=dark,
    )
    pen.line([(x, y - 0.3 * unit), (x, y - 2.6 * unit)], fill=dark, width=max(2, int(unit / 12)))
    pen.polygon(
        [
            (x + 0.1 * unit, y - 2.5 * unit),
            (x + 1.3 * unit, y - 0.5 * unit),
            (x + 0.1 * unit, y - 0.5 * unit),
        ],
        fill=bright,
    )


def _lamp(
    pen: ImageDraw.ImageDraw, x: float, y: float, unit: float, dark: str, bright: str, sky: str
) -> None:
    wide = max(3, int(unit / 7))
    pen.rounded_rectangle((x - unit, y - 0.2 * unit, x + unit, y + 0.15 * unit), 10, fill=dark)
    pen.line(
        [(x, y - 0.2 * unit), (x - 0.9 * unit, y - 1.5 * unit), (x + 0.5 * unit, y - 2.4 * unit)],
        fill=dark,
        width=wide,
        joint="curve",
    )
    pen.polygon(
        [
            (x + 0.2 * unit, y - 2.9 * unit),
            (x + 1.5 * unit, y - 2.0 * unit),
            (x + 0.7 * unit, y - 1.4 * unit),
            (x - 0.1 * unit, y - 2.2 * unit),
        ],
        fill=bright,
    )


def _clock(
    pen: ImageDraw.ImageDraw, x: float, y: float, unit: float, dark: str, bright: str, sky: str
) -> None:
    middle, wide = y - 1.4 * unit, max(3, int(unit / 10))
    pen.ellipse(
        (x - 1.3 * unit, middle - 1.3 * unit, x + 1.3 * unit, middle + 1.3 * unit),
        fill="#fffdf6",
        outline=dark,
        width=wide,
    )
    pen.line(
        [(x, middle - 0.9 * unit), (x, middle), (x + 0.6 * unit, middle + 0.3 * unit)],
        fill=bright,
        width=wide,
    )


def _gull(
    pen: ImageDraw.ImageDraw, x: float, y: float, unit: float, dark: str, bright: str, sky: str
) -> None:
    for step, size in ((0, 1.0), (1.9, 0.7), (-1.7, 0.55)):
        left, top, span = x + step * unit, y - (2.3 - 0.3 * step) * unit, size * unit
        pen.arc(
            (left - span, top - span / 2, left, top + span / 2),
            200,
            340,
            fill=dark,
            width=max(3, int(unit / 11)),
        )
        pen.arc(
            (left, top - span / 2, left + span, top + span / 2),
            200,
            340,
            fill=dark,
            width=max(3, int(unit / 11)),
        )


def _rope(
    pen: ImageDraw.ImageDraw, x: float, y: float, unit: float, dark: str, bright: str, sky: str
) -> None:
    for turn in range(6):
        size = (1.5 - 0.2 * turn) * unit
        pen.ellipse(
            (x - size, y - 0.2 * unit - size / 2, x + size, y - 0.2 * unit + size / 2),
            outline=bright if turn % 2 else dark,
            width=max(4, int(unit / 8)),
        )


def _window(
    pen: ImageDraw.ImageDraw, x: float, y: float, unit: float, dark: str, bright: str, sky: str
) -> None:
    pen.rectangle(
        (x - 1.3 * unit, y - 2.9 * unit, x + 1.3 * unit, y - 0.3 * unit),
        fill=bright,
        outline=dark,
        width=max(4, int(unit / 8)),
    )
    pen.line([(x, y - 2.9 * unit), (x, y - 0.3 * unit)], fill=dark, width=max(3, int(unit / 12)))
    pen.line(
        [(x - 1.3 * unit, y - 1.6 * unit), (x + 1.3 * unit, y - 1.6 * unit)],
        fill=dark,
        width=max(3, int(unit / 12)),
    )


_SUBJECTS = {"boat": _boat, "lamp": _lamp, "clock": _clock, "gull": _gull, "rope": _rope, "window": _window}
