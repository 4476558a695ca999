"""The colours that words, markers and callouts of a text can have, by name. A look moves them as far as its grounds need (`core/look/palette.py`)."""

from __future__ import annotations

from dataclasses import dataclass

NAMES = ("plum", "clay", "amber", "moss", "sea", "slate")
LEAST_CONTRAST = 4.5
"""WCAG 2.2, success criterion 1.4.3, for text of any size."""


@dataclass(frozen=True)
class Paper:
    """The colours of a look on one ground, light or dark, as #rrggbb: text, ground, and by name tints and markers."""

    ink: str
    ground: str
    tints: dict[str, str]
    markers: dict[str, str]


LIGHT_WORDS = (
    {
        "plum": "#6d2f72",
        "clay": "#97361c",
        "amber": "#7a5200",
        "moss": "#2f6643",
        "sea": "#0f5f78",
        "slate": "#4a5a60",
    },
    {
        "plum": "#f0dff1",
        "clay": "#fbe0d6",
        "amber": "#ffe9a8",
        "moss": "#dcefe0",
        "sea": "#d5ecf4",
        "slate": "#e3e9ea",
    },
)
DARK_WORDS = (
    {
        "plum": "#dfa8e3",
        "clay": "#f0a58f",
        "amber": "#e6bd5c",
        "moss": "#8fcda2",
        "sea": "#84c9e0",
        "slate": "#b3c0c4",
    },
    {
        "plum": "#40213f",
        "clay": "#46241a",
        "amber": "#3d3110",
        "moss": "#1d3a27",
        "sea": "#143542",
        "slate": "#2c3537",
    },
)
"""(tints, markers) as they are where nothing needs another colour, on a light and on a dark ground."""


def style(paper: Paper) -> str:
    """The palette as custom properties of CSS."""
    parts = [f"--tint-{name}: {paper.tints[name]}; --marker-{name}: {paper.markers[name]};" for name in NAMES]
    return " ".join(parts)


def contrast(one: str, other: str) -> float:
    """The contrast ratio of two colours #rrggbb, from 1 to 21 (WCAG 2.2, relative luminance)."""
    lighter, darker = sorted((_luminance(one), _luminance(other)), reverse=True)
    return (lighter + 0.05) / (darker + 0.05)


def tints_on(papers: tuple[Paper, ...], marker: str | None = None) -> tuple[str, ...]:
    """The tints that can be read on every paper of a look, upon a marker or the bare ground."""
    return tuple(
        name
        for name in NAMES
        if all(
            contrast(paper.tints[name], paper.markers[marker] if marker else paper.ground) >= LEAST_CONTRAST
            for paper in papers
        )
    )


def markers_under(papers: tuple[Paper, ...], tint: str | None = None) -> tuple[str, ...]:
    """The markers on which a tint, or the plain ink, can be read on every paper of a look."""
    return tuple(
        name
        for name in NAMES
        if all(
            contrast(paper.tints[tint] if tint else paper.ink, paper.markers[name]) >= LEAST_CONTRAST
            for paper in papers
        )
    )


def _luminance(colour: str) -> float:
    parts = (int(colour[index : index + 2], 16) / 255 for index in (1, 3, 5))
    red, green, blue = (
        part / 12.92 if part <= 0.04045 else ((part + 0.055) / 1.055) ** 2.4 for part in parts
    )
    return 0.2126 * red + 0.7152 * green + 0.0722 * blue
