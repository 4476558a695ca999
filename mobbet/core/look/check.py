"""Whether a look can be read: every pair of colours that can meet on a page, with its contrast and the nearest colour that holds."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from mobbet.core.look.colours import contrast, nearest, read_colour
from mobbet.core.look.look import Look
from mobbet.core.look.palette import pairs

LIGHT, DARK = "light", "dark"


@dataclass(frozen=True)
class Checked:
    """One pair, measured. `name` is the colour of the palette `mode` that would be changed, '' for one that follows from others; `nearest`
    has the contrast that is needed and is the foreground itself where it holds, None where no colour does."""

    where: str
    mode: str
    name: str
    foreground: str
    background: str
    ratio: float
    needed: float
    nearest: str | None

    @property
    def holds(self) -> bool:
        return self.ratio >= self.needed


@lru_cache(maxsize=32)
def checked(look: Look) -> tuple[Checked, ...]:
    """Every pair of a look, in the light and in the dark; once where both are the same."""
    modes = {LIGHT: look.light} | ({DARK: look.in_dark} if look.in_dark != look.light else {})
    return tuple(
        _measured(pair.where, mode, pair.name, pair.foreground, pair.background, pair.needed)
        for mode, palette in modes.items()
        for pair in pairs(palette)
    )


def _measured(where: str, mode: str, name: str, foreground: str, background: str, needed: float) -> Checked:
    colour, ground = read_colour(foreground), read_colour(background)
    found = nearest(colour, (ground,), needed)
    ratio = contrast(colour, ground)
    return Checked(
        f"{where}, in the {mode}", mode, name, foreground, background, ratio, needed, found and found.hex
    )


@dataclass(frozen=True)
class Remedy:
    """A colour of a palette that cannot be read on all its grounds: its pairs that fail, and the nearest colour that can, None where none can."""

    mode: str
    name: str
    failing: tuple[Checked, ...]
    nearest: str | None


def remedies(look: Look) -> list[Remedy]:
    """For each colour with pairs that fail, the nearest one with which all of its pairs hold."""
    found: dict[tuple[str, str], list[Checked]] = {}
    for one in checked(look):
        if one.name and not one.holds:
            found.setdefault((one.mode, one.name), []).append(one)
    return [_remedy(look, mode, name, tuple(wrong)) for (mode, name), wrong in found.items()]


def _remedy(look: Look, mode: str, name: str, wrong: tuple[Checked, ...]) -> Remedy:
    own = [one for one in checked(look) if (one.mode, one.name) == (mode, name)]
    grounds = tuple(dict.fromkeys(read_colour(one.background) for one in own))
    best = nearest(read_colour(own[0].foreground), grounds, max(one.needed for one in own))
    return Remedy(mode, name, wrong, best.hex if best else wrong[0].nearest)


def failing(look: Look) -> list[Checked]:
    """The pairs that cannot be read."""
    return [one for one in checked(look) if not one.holds]
