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


def failing(look: Look) -> list[Checked]:
    """The pairs that cannot be read."""
    return [one for one in checked(look) if not one.holds]
