"""The demo's pictures, drawn by these functions: flat shapes on paper colours, 1600 by 1000 pixels."""

from __future__ import annotations

import io
import math
from collections.abc import Callable

from PIL import Image, ImageDraw

SIZE = (1600, 1000)
PALE, SAND, TEAL, RUST, INK, LIGHT, CREAM, SAGE = (
    "#dfe7e4",
    "#b7a489",
    "#2f4a52",
    "#b3461e",
    "#24211c",
    "#f4e3a0",
    "#fffaf0",
    "#d9e2d3",
)
TAN, SEA, DEEP, SKY, GREY = "#eadfcb", "#7d9fab", "#476b7a", "#e6eef0", "#8d9490"

Draw = ImageDraw.ImageDraw


def _lamp(d: Draw) -> None:
    d.rectangle((0, 790, 1600, 1000), fill=SAND)
    d.polygon([(905, 440), (1040, 790), (560, 790), (760, 370)], fill=LIGHT)
    d.line([(800, 745), (650, 470), (930, 215)], fill=TEAL, width=34, joint="curve")
    d.ellipse((615, 435, 685, 505), fill=TEAL)
    d.rounded_rectangle((560, 742, 1040, 802), 26, fill=TEAL)
    d.polygon([(860, 120), (1080, 265), (985, 435), (715, 235)], fill=RUST)
    d.line([(1040, 780), (1200, 760), (1330, 835), (1600, 820)], fill=INK, width=18, joint="curve")


def _clock(d: Draw) -> None:
    d.ellipse((450, 150, 1150, 850), fill=CREAM, outline=INK, width=36)
    for hour in range(12):
        angle = math.radians(hour * 30)
        x, y = 800 + 285 * math.sin(angle), 500 - 285 * math.cos(angle)
        d.ellipse((x - 10, y - 10, x + 10, y + 10), fill=INK)
    d.line([(800, 500), (800, 285)], fill=INK, width=26)
    d.line([(800, 500), (945, 585)], fill=INK, width=32)
    d.ellipse((770, 470, 830, 530), fill=RUST)


def _zip(d: Draw) -> None:
    d.rectangle((520, 0, 1080, 1000), fill="#c6d2bf")
    for y in range(0, 470, 46):
        spread = (470 - y) * 0.42
        d.rectangle((790 - spread - 52, y, 790 - spread, y + 24), fill=INK)
        d.rectangle((810 + spread, y + 22, 862 + spread, y + 46), fill=INK)
    for y in range(560, 1000, 46):
        d.rectangle((762, y, 806, y + 24), fill=INK)
        d.rectangle((794, y + 22, 838, y + 46), fill=INK)
    d.rounded_rectangle((700, 440, 900, 620), 34, fill=RUST)
    d.rounded_rectangle((768, 590, 832, 860), 26, fill="#8a3b12")
    d.ellipse((782, 790, 818, 840), fill=SAGE)


def _radio(d: Draw) -> None:
    d.rectangle((0, 800, 1600, 1000), fill=SAND)
    d.rounded_rectangle((330, 270, 1270, 820), 60, fill="#7a4a2b")
    d.rounded_rectangle((390, 330, 860, 760), 24, fill=TAN)
    for x in range(420, 850, 36):
        d.line([(x, 340), (x, 750)], fill="#c9b48e", width=12)
    d.ellipse((915, 340, 1215, 640), fill=CREAM, outline=INK, width=16)
    for step in range(13):
        angle = math.radians(-120 + step * 20)
        d.line(
            [
                (1065 + 112 * math.sin(angle), 490 - 112 * math.cos(angle)),
                (1065 + 132 * math.sin(angle), 490 - 132 * math.cos(angle)),
            ],
            fill=INK,
            width=6,
        )
    d.line([(1065, 490), (1130, 400)], fill=RUST, width=14)
    for x in (960, 1090):
        d.ellipse((x, 680, x + 84, 764), fill=INK)


def _toaster(d: Draw) -> None:
    d.rectangle((0, 820, 1600, 1000), fill=SAND)
    d.rounded_rectangle((660, 90, 960, 380), 60, fill="#c98d4e", outline="#8a5a2a", width=18)
    d.rounded_rectangle((380, 430, 1240, 840), 90, fill="#b9c3c2", outline=TEAL, width=18)
    d.rectangle((560, 440, 1060, 470), fill=INK)
    d.rounded_rectangle((1216, 560, 1330, 620), 20, fill=INK)
    for x in (500, 1050):
        d.rectangle((x, 836, x + 80, 866), fill=INK)
    for x in (540, 1040):
        d.line([(x, 330), (x + (40 if x < 800 else -40), 250)], fill=RUST, width=12)


def _sock(d: Draw) -> None:
    d.rounded_rectangle((580, 0, 900, 560), 40, fill=DEEP)
    d.ellipse((560, 350, 960, 760), fill=DEEP)
    d.rounded_rectangle((760, 470, 1260, 760), 140, fill=DEEP)
    d.ellipse((620, 500, 840, 720), fill=LIGHT)
    for step in range(9):
        d.line([(610 + step * 28, 500), (610 + step * 28, 720)], fill=RUST, width=8)
    for step in range(5):
        d.line([(600, 520 + step * 32), (850, 520 + step * 32)], fill="#8a3b12", width=8)
    d.line([(850, 648), (1010, 560), (1180, 250)], fill=RUST, width=6)
    d.line([(1120, 360), (1240, 130)], fill=GREY, width=14)


def _glue(d: Draw) -> None:
    d.rectangle((0, 780, 1600, 1000), fill=SAND)
    for index, (color, height) in enumerate(
        (("#f3efe2", 430), (RUST, 340), ("#d8b23f", 400), (TEAL, 260), (GREY, 470))
    ):
        x = 190 + index * 260
        d.rounded_rectangle((x, 800 - height, x + 180, 800), 26, fill=color)
        d.rectangle((x + 62, 730 - height, x + 118, 806 - height), fill=INK)
        d.rectangle((x + 24, 800 - height + 110, x + 156, 800 - height + 200), fill=CREAM)


def _flex(d: Draw) -> None:
    d.line([(0, 520), (620, 500)], fill="#3b3b3a", width=190)
    d.line([(600, 455), (930, 380)], fill="#7a4a2b", width=84)
    d.line([(600, 545), (930, 640)], fill="#3d6ea5", width=84)
    for sign, y in ((-1, 375), (1, 645)):
        for step in range(8):
            d.line(
                [(925, y - 26 + step * 7), (1360, y + sign * 60 - 90 + step * 26)], fill="#c7793a", width=9
            )


def _bench(d: Draw) -> None:
    d.rectangle((0, 640, 1600, 720), fill="#8b6b45")
    for x in (160, 1380):
        d.rectangle((x, 720, x + 70, 1000), fill="#6d5334")
    d.rounded_rectangle((180, 440, 560, 640), 24, fill="#7a4a2b")
    d.ellipse((420, 480, 530, 590), fill=CREAM)
    d.rounded_rectangle((1130, 520, 1360, 640), 14, fill=GREY)
    for x in range(1150, 1350, 40):
        d.ellipse((x, 486, x + 34, 520), fill=INK)
    d.polygon([(760, 330), (690, 640), (1010, 640), (900, 330)], fill=LIGHT)
    d.polygon([(720, 210), (940, 210), (990, 340), (670, 340)], fill=RUST)
    d.line([(830, 0), (830, 215)], fill=INK, width=12)


def _fuse(d: Draw) -> None:
    for index, color in enumerate((CREAM, "#d3ddd8", TAN, RUST, "#c9b48e")):
        x = 150 + index * 275
        d.rounded_rectangle((x, 310, x + 170, 690), 40, fill=color, outline=INK, width=10)
        d.rectangle((x, 300, x + 170, 400), fill=GREY)
        d.rectangle((x, 600, x + 170, 700), fill=GREY)
        d.line([(x + 85, 400), (x + 70 + (index % 2) * 30, 500), (x + 85, 600)], fill=INK, width=6)


def _gears(d: Draw) -> None:
    d.rectangle((110, 80, 1490, 920), fill=CREAM)
    for x, y, radius, teeth in (
        (420, 360, 190, 18),
        (810, 560, 240, 24),
        (1190, 340, 150, 14),
        (1230, 720, 100, 10),
        (370, 730, 110, 12),
    ):
        for tooth in range(teeth):
            angle = 2 * math.pi * tooth / teeth
            d.ellipse(
                (
                    x + radius * math.cos(angle) - 24,
                    y + radius * math.sin(angle) - 24,
                    x + radius * math.cos(angle) + 24,
                    y + radius * math.sin(angle) + 24,
                ),
                fill="#b08d3c",
            )
        d.ellipse((x - radius, y - radius, x + radius, y + radius), fill="#c7a552")
        d.ellipse((x - radius * 0.62, y - radius * 0.62, x + radius * 0.62, y + radius * 0.62), fill=CREAM)
        d.line([(x - radius * 0.7, y), (x + radius * 0.7, y)], fill="#c7a552", width=26)
        d.line([(x, y - radius * 0.7), (x, y + radius * 0.7)], fill="#c7a552", width=26)
        d.ellipse((x - 22, y - 22, x + 22, y + 22), fill=INK)


def _spanner(d: Draw) -> None:
    for y, color in ((330, "#9a5a34"), (670, GREY)):
        d.rectangle((380, y - 46, 1220, y + 46), fill=color)
        for x in (340, 1260):
            d.ellipse((x - 130, y - 130, x + 130, y + 130), fill=color)
        d.polygon([(190, y - 60), (350, y - 60), (350, y + 60), (190, y + 60)], fill=TAN)
        d.polygon([(1410, y - 60), (1250, y - 60), (1250, y + 60), (1410, y + 60)], fill=TAN)
    for step in range(40):
        x, y = 300 + (step * 173) % 1000, 295 + (step * 71) % 75
        d.ellipse((x, y, x + 16, y + 16), fill="#7a3d1c")


def _bobbin(d: Draw) -> None:
    d.rectangle((430, 250, 1010, 310), fill=GREY)
    d.rectangle((430, 690, 1010, 750), fill=GREY)
    d.rectangle((500, 310, 940, 690), fill=RUST)
    for y in range(330, 690, 40):
        d.line([(500, y), (940, y + 24)], fill="#8a3b12", width=9)
    d.line([(940, 330), (1180, 260), (1330, 470)], fill=RUST, width=9, joint="curve")
    d.line([(1330, 430), (1330, 860)], fill=TEAL, width=16)
    d.ellipse((690, 250, 750, 310), fill=INK)


def _waves(d: Draw, top: int, color: str) -> None:
    d.rectangle((0, top, 1600, 1000), fill=color)
    for row in range(4):
        for x in range(-100 + row * 60, 1700, 210):
            d.arc((x, top + 50 + row * 95, x + 150, top + 110 + row * 95), 200, 340, fill=SKY, width=8)


def _ferry(d: Draw) -> None:
    _waves(d, 620, SEA)
    d.polygon([(360, 540), (1290, 540), (1190, 690), (450, 690)], fill=TEAL)
    d.rectangle((520, 400, 1090, 545), fill=CREAM)
    d.rectangle((620, 300, 900, 405), fill=CREAM)
    d.rectangle((940, 220, 1030, 405), fill=RUST)
    for x in range(560, 1060, 90):
        d.rectangle((x, 440, x + 56, 490), fill=DEEP)


def _gull(d: Draw, x: float, y: float, size: float) -> None:
    d.line(
        [(x - size, y - size * 0.4), (x, y), (x + size, y - size * 0.4)],
        fill=INK,
        width=max(4, int(size * 0.22)),
        joint="curve",
    )


def _birds(d: Draw) -> None:
    _waves(d, 560, DEEP)
    for step in range(46):
        _gull(d, (step * 347) % 1560 + 20, 330 + (step * 97) % 300, 18 + step % 4 * 9)


def _terns(d: Draw) -> None:
    _waves(d, 730, SEA)
    d.line([(0, 420), (800, 500), (1600, 430)], fill="#8b6b45", width=22, joint="curve")
    for step in range(9):
        x = 150 + step * 165
        y = 415 + 62 * math.sin(math.pi * x / 1600)
        d.ellipse((x - 46, y - 84, x + 46, y - 12), fill=CREAM)
        d.ellipse((x + 12, y - 124, x + 66, y - 70), fill=INK)
        d.polygon([(x + 60, y - 102), (x + 104, y - 92), (x + 60, y - 84)], fill=RUST)


def _seal(d: Draw) -> None:
    _waves(d, 430, GREY)
    d.ellipse((620, 250, 980, 620), fill="#4a4f50")
    d.rectangle((560, 560, 1040, 700), fill=GREY)
    for x in (715, 855):
        d.ellipse((x, 370, x + 46, 416), fill=INK)
    d.ellipse((770, 450, 830, 492), fill=INK)


def _geese(d: Draw) -> None:
    _waves(d, 800, DEEP)
    for step in range(9):
        _gull(d, 800 + step * 78, 260 + step * 38, 36)
        if step:
            _gull(d, 800 - step * 78, 260 + step * 46, 36)


DRAWINGS: dict[str, tuple[str, Callable[[Draw], None]]] = {
    "lamp": (PALE, _lamp), "clock": (TAN, _clock), "zip": (SAGE, _zip), "radio": (PALE, _radio), "toaster": ("#f0e4d0", _toaster),
    "sock": (SAGE, _sock), "glue": ("#e9e4da", _glue), "flex": (PALE, _flex), "bench": (TAN, _bench), "fuse": (PALE, _fuse),
    "gears": (SAND, _gears), "spanner": (TAN, _spanner), "bobbin": (SAGE, _bobbin), "ferry": (SKY, _ferry), "birds": (SKY, _birds), "terns": ("#eef3f2", _terns),
    "seal": ("#dde3e3", _seal), "geese": ("#f2e9da", _geese),
}  # fmt: skip


def draw(name: str) -> bytes:
    """The drawing of that name as PNG."""
    ground, shapes = DRAWINGS[name]
    image = Image.new("RGB", SIZE, ground)
    shapes(ImageDraw.Draw(image))
    out = io.BytesIO()
    image.save(out, "PNG")
    return out.getvalue()
