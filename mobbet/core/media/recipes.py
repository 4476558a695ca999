"""Editing without loss: a recipe says how a picture is made of its original, and which cut each use gets.

Steps in order: mirror, turn, straighten, crop. Rectangles are fractions (left, top, width, height) of the
picture they are taken from: the crop of the straightened picture, cuts of the cropped one.
"""

from __future__ import annotations

import json
import math
from dataclasses import asdict, dataclass, field
from typing import Any

from mobbet.core.errors import BadInput

Rectangle = tuple[float, float, float, float]

WHOLE: Rectangle = (0.0, 0.0, 1.0, 1.0)
SHAPES = {"free": None, "1:1": 1.0, "4:3": 4 / 3, "3:2": 1.5, "16:9": 16 / 9}
"""Shapes of a crop, width over height."""
LEAST_PART = 0.02
MOST_STRAIGHTENING = 20.0


@dataclass(frozen=True)
class Use:
    """What a cut is for: its shape (width over height) and the widths it is made in, in pixels."""

    words: str
    shape: float
    widths: tuple[int, ...]


USES: dict[str, Use] = {
    "lead": Use("Lead of a post, 16:9", 16 / 9, (480, 800, 1200, 1600)),
    "thumb": Use("Small picture in lists, 4:3", 4 / 3, (240, 480)),
    "share": Use("Share card, 1200 × 630", 1200 / 630, (1200,)),
    "square": Use("Square", 1.0, (480,)),
}


@dataclass(frozen=True)
class Recipe:
    """How a picture is made of its original. `straighten` is in degrees, clockwise; `focus` a point of the crop."""

    turn: int = 0
    mirror: bool = False
    straighten: float = 0.0
    crop: Rectangle = WHOLE
    focus: tuple[float, float] = (0.5, 0.5)
    cuts: dict[str, Rectangle] = field(default_factory=dict)

    @property
    def is_plain(self) -> bool:
        return (self.turn, self.mirror, self.straighten, self.crop) == (0, False, 0.0, WHOLE)

    def kept(self) -> str:
        return json.dumps(asdict(self))


def load(kept: str) -> Recipe:
    """A recipe as it was kept."""
    return read(json.loads(kept)) if kept else Recipe()


def read(given: Any) -> Recipe:
    """A recipe from data that came from outside. Raises BadInput, naming what cannot be."""
    if not isinstance(given, dict):
        raise BadInput("The settings of the picture could not be read; open it again.", "recipe")
    turn = given.get("turn", 0)
    if turn not in (0, 90, 180, 270) or isinstance(turn, bool):
        raise BadInput(f"A picture cannot be turned by “{turn}”; choose 0, 90, 180 or 270 degrees.", "turn")
    straighten = _number(given.get("straighten", 0), "straighten", -MOST_STRAIGHTENING, MOST_STRAIGHTENING)
    focus = given.get("focus", (0.5, 0.5))
    if not isinstance(focus, (list, tuple)) or len(focus) != 2:
        raise BadInput("The focal point needs two numbers, from the left and from the top.", "focus")
    cuts = given.get("cuts", {})
    if not isinstance(cuts, dict) or set(cuts) - set(USES):
        raise BadInput("There is no such use of a picture; open it again.", "cuts")
    return Recipe(
        turn=turn, mirror=bool(given.get("mirror", False)), straighten=round(straighten, 2),
        crop=rectangle(given.get("crop", WHOLE), "crop"),
        focus=(_number(focus[0], "focus", 0, 1), _number(focus[1], "focus", 0, 1)),
        cuts={use: rectangle(value, use) for use, value in cuts.items()},
    )  # fmt: skip


def rectangle(value: Any, name: str) -> Rectangle:
    """Four fractions inside the picture. Raises BadInput for one that is outside or too small."""
    if not isinstance(value, (list, tuple)) or len(value) != 4:
        raise BadInput(f"“{name}” needs four numbers: left, top, width and height.", name)
    left, top, width, height = (_number(part, name, 0, 1) for part in value)
    if width < LEAST_PART or height < LEAST_PART:
        raise BadInput(f"“{name}” is smaller than a fiftieth of the picture; take more of it.", name)
    if left + width > 1.0001 or top + height > 1.0001:
        raise BadInput(f"“{name}” reaches beyond the picture; move it inside.", name)
    return (round(left, 5), round(top, 5), round(min(width, 1 - left), 5), round(min(height, 1 - top), 5))


def _number(value: Any, name: str, least: float, most: float) -> float:
    if (
        isinstance(value, bool)
        or not isinstance(value, (int, float))
        or not math.isfinite(value)
        or not least - 1e-6 <= value <= most + 1e-6
    ):
        raise BadInput(
            f"“{value}” cannot be a part of “{name}”; give a number from {least:g} to {most:g}.", name
        )
    return min(most, max(least, float(value)))


def turned_size(width: int, height: int, recipe: Recipe) -> tuple[int, int]:
    """The size of a picture after turning, in pixels."""
    return (height, width) if recipe.turn in (90, 270) else (width, height)


def straightened_part(width: int, height: int, degrees: float) -> float:
    """The share of both sides that is left when a rotated picture loses its empty corners."""
    angle = math.radians(abs(degrees))
    if angle == 0:
        return 1.0
    cosine, sine = math.cos(angle), math.sin(angle)
    return min(width / (width * cosine + height * sine), height / (width * sine + height * cosine))


def cropped_size(width: int, height: int, recipe: Recipe) -> tuple[int, int]:
    """The size of what the recipe makes of an original of that (upright) size, in pixels."""
    turned = turned_size(width, height, recipe)
    part = straightened_part(*turned, recipe.straighten)
    _, _, across, down = recipe.crop
    return max(1, round(turned[0] * part * across)), max(1, round(turned[1] * part * down))


def cut(use: str, width: int, height: int, recipe: Recipe) -> Rectangle:
    """The part of the cropped picture (its size in pixels) that a use shows: the largest of the use's shape.

    It lies as near to the focal point as the picture's edges allow, or where a person put it.
    """
    shape = USES[use].shape
    own = recipe.cuts.get(use)
    if own:
        return _shaped(own, width, height, shape)
    if width / height > shape:
        part_width, part_height = shape * height / width, 1.0
    else:
        part_width, part_height = 1.0, width / shape / height
    left = min(max(0.0, recipe.focus[0] - part_width / 2), 1 - part_width)
    top = min(max(0.0, recipe.focus[1] - part_height / 2), 1 - part_height)
    return (left, top, part_width, part_height)


def _shaped(part: Rectangle, width: int, height: int, shape: float) -> Rectangle:
    """A rectangle of the shape, as wide as the given one where that fits, around the same middle."""
    wanted = min(part[2], shape * height / width)
    tall = wanted * width / shape / height
    middle_x, middle_y = part[0] + part[2] / 2, part[1] + part[3] / 2
    left = min(max(0.0, middle_x - wanted / 2), 1 - wanted)
    return (left, min(max(0.0, middle_y - tall / 2), max(0.0, 1 - tall)), wanted, min(1.0, tall))


def pixels(part: Rectangle, width: int, height: int) -> tuple[int, int, int, int]:
    """(left, top, right, bottom) of a part in whole pixels, at least one wide and high."""
    left, top = round(part[0] * width), round(part[1] * height)
    left, top = min(left, width - 1), min(top, height - 1)
    return (
        left,
        top,
        min(width, max(left + 1, round((part[0] + part[2]) * width))),
        min(height, max(top + 1, round((part[1] + part[3]) * height))),
    )
