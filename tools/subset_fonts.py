"""Reduces the shipped fonts to the weights, features and kerning that styles use. Needs fonttools and brotli; run after a font was exchanged."""

from __future__ import annotations

import io
from pathlib import Path

from fontTools import subset
from fontTools.ttLib import TTFont
from fontTools.varLib import instancer

DESIGN = Path(__file__).parent.parent / "mobbet" / "publish" / "design" / "fonts"
WEIGHTS = (400, 700)
FEATURES = ("kern", "liga", "mark", "mkmk", "ccmp", "locl", "rvrn", "tnum")
LEAST_KERNING = 5  # thousandths of the letters' size; less is not seen
VERTICAL = ("vhea", "vmtx")


def _reloaded(font: TTFont) -> TTFont:
    """The font as it is read from its file: tables that were not looked at yet are consistent then."""
    file = io.BytesIO()
    font.flavor = None
    font.save(file)
    file.seek(0)
    return TTFont(file)


def _simplify_kerning(font: TTFont) -> None:
    """Kerns every weight as the regular one, and leaves out what nobody sees: a sixth of a font is kerning otherwise."""
    lookups = font["GPOS"].table.LookupList.Lookup if "GPOS" in font else ()
    tables = [getattr(table, "ExtSubTable", table) for lookup in lookups for table in lookup.SubTable]
    for table in (table for table in tables if type(table).__name__ == "PairPos"):
        table.ValueFormat1 &= 0x0F  # the bits above are those of the differences by weight
        table.ValueFormat2 &= 0x0F
        if table.Format == 1:
            pairs = [pair for group in table.PairSet for pair in group.PairValueRecord]
        else:
            pairs = [pair for row in table.Class1Record for pair in row.Class2Record]
        for value in filter(None, (value for pair in pairs for value in (pair.Value1, pair.Value2))):
            for name in [name for name in vars(value) if name.endswith("Device")]:
                delattr(value, name)
            if abs(getattr(value, "XAdvance", 0)) < LEAST_KERNING * font["head"].unitsPerEm / 1000:
                value.XAdvance = 0
        if table.Format == 1:
            for group in table.PairSet:
                group.PairValueRecord = [pair for pair in group.PairValueRecord if pair.Value1.XAdvance]
                group.PairValueCount = len(group.PairValueRecord)


def main() -> None:
    for path in sorted(DESIGN.glob("*.woff2")):
        font = _reloaded(instancer.instantiateVariableFont(TTFont(path), {"wght": WEIGHTS}))
        _simplify_kerning(font)
        options = subset.Options(layout_features=list(FEATURES), hinting=False, flavor="woff2")
        options.drop_tables += VERTICAL
        chosen = subset.Subsetter(options)
        chosen.populate(unicodes=font.getBestCmap())
        chosen.subset(font)
        subset.save_font(font, str(path), options)


if __name__ == "__main__":
    main()
