"""Leaves of the shipped fonts the weights and features that styles use, which makes them a third smaller. Needs fonttools and brotli; run after a font was exchanged."""

from __future__ import annotations

import io
from pathlib import Path

from fontTools import subset
from fontTools.ttLib import TTFont
from fontTools.varLib import instancer

DESIGN = Path(__file__).parent.parent / "mobbet" / "publish" / "design" / "fonts"
WEIGHTS = (400, 700)
FEATURES = ("kern", "liga", "mark", "mkmk", "ccmp", "locl", "rvrn", "tnum")


def _reloaded(font: TTFont) -> TTFont:
    """The font as it is read from its file: tables that were not looked at yet are consistent then."""
    file = io.BytesIO()
    font.flavor = None
    font.save(file)
    file.seek(0)
    return TTFont(file)


def main() -> None:
    for path in sorted(DESIGN.glob("*.woff2")):
        font = _reloaded(instancer.instantiateVariableFont(TTFont(path), {"wght": WEIGHTS}))
        options = subset.Options(layout_features=list(FEATURES), hinting=False, flavor="woff2")
        chosen = subset.Subsetter(options)
        chosen.populate(unicodes=font.getBestCmap())
        chosen.subset(font)
        subset.save_font(font, str(path), options)


if __name__ == "__main__":
    main()
