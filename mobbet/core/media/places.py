"""Where a picture stands on a page, and how wide it is there: what `sizes` tells a browser."""

from __future__ import annotations

SIZES = ("small", "half", "full", "wide")
PLACES = ("left", "centre", "right")
FRAMES = ("plain", "lined", "lifted")
SPACES = ("none", "usual", "more")
LAYOUTS = ("rows", "grid", "slides")

TEXT_REM, WIDE_REM, EDGE_REM, BREAK_REM = 40.0, 60.0, 1.15, 43.0
"""The measure of the text, of a wide picture, the edge of a narrow page, and the width below which a page is
narrow, as page.css and text.css have them; 1 rem is 16 px."""
SHARE = {"small": 1 / 3, "half": 1 / 2, "full": 1.0, "wide": 1.0}
NARROW_SHARE = {"small": 1 / 2, "half": 1.0, "full": 1.0, "wide": 1.0}


def sizes(size: str, share: float = 1.0, is_stacked: bool = False) -> str:
    """The `sizes` of a picture of that size that has a share of its line (beside text, in a gallery's row).

    On a narrow page what is stacked takes the whole line; in a row it keeps its share.
    """
    line, from_rem = (WIDE_REM, WIDE_REM + 3) if size == "wide" else (TEXT_REM, BREAK_REM)
    narrow = NARROW_SHARE[size] * (1.0 if is_stacked else share)
    return f"(min-width: {from_rem:g}rem) {SHARE[size] * share * line:.4g}rem, calc({narrow * 100:.4g}vw - {narrow * 2 * EDGE_REM:.4g}rem)"


def width_in_pixels(size: str, share: float = 1.0) -> int:
    """How wide a picture is at the most, in pixels of a plain screen."""
    line = WIDE_REM if size == "wide" else TEXT_REM
    return round(16 * line * SHARE[size] * share)


def fit_words(size: str, width: int, share: float = 1.0) -> str:
    """What is wrong with a picture's width for its place, with the numbers; '' when it fits.

    Too small is less than the place on a plain screen; far too large is more than ten times it.
    """
    place = width_in_pixels(size, share)
    if width < place:
        return f"{width:,} px wide, too small for a place of {place:,} px"
    if width > 10 * place:
        return f"{width:,} px wide, far more than its place of {place:,} px needs"
    return ""
