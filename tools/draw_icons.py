"""Draws the icons of the installed application, after its `icon.svg`, and writes them beside the scripts."""

from __future__ import annotations

from pathlib import Path

from PIL import Image, ImageDraw

TARGET = Path(__file__).parent.parent / "mobbet" / "web" / "shell" / "static"
LINE = ((7, 24), (7, 9), (16, 19), (25, 9), (25, 24))
"""The letter, on a square of 32."""
PLUM, MARKER, FINER = "#5b2a5e", "#ffe58a", 4


def icon(size: int, part: float) -> Image.Image:
    """The letter on plum; it takes that part of the square, less where a device cuts the icon to a shape of its own."""
    whole = size * FINER
    image = Image.new("RGB", (whole, whole), PLUM)
    pen, scale, edge = ImageDraw.Draw(image), whole * part / 32, whole * (1 - part) / 2
    points = [(edge + x * scale, edge + y * scale) for x, y in LINE]
    pen.line(points, MARKER, round(4 * scale), joint="curve")
    return image.resize((size, size), Image.Resampling.LANCZOS)


if __name__ == "__main__":
    for name, size, part in (("app-192", 192, 1.0), ("app-512", 512, 1.0), ("app-cut-512", 512, 0.72)):
        icon(size, part).save(TARGET / f"{name}.png", optimize=True)
