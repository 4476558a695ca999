"""Writes `mobbet/core/widths.py`: how wide each letter of the shipped fonts is. Needs fonttools; run after a font has changed."""

from __future__ import annotations

from pathlib import Path

from fontTools.ttLib import TTFont

ROOT = Path(__file__).parent.parent
FONTS = {
    "PLAIN": ("hyperlegible.woff2", "hyperlegible-ext.woff2"),
    "TEXT": ("literata.woff2", "literata-ext.woff2"),
}
HEAD = '''"""How wide letters are in the shipped fonts, in thousandths of the font's size; made by tools/measure_fonts.py."""

# ruff: noqa: E501
'''


def main() -> None:
    parts = [HEAD]
    for name, files in FONTS.items():
        widths: dict[int, list[str]] = {}
        for file in files:
            font = TTFont(ROOT / "mobbet" / "publish" / "design" / "fonts" / file)
            unit, advances = font["head"].unitsPerEm, font["hmtx"]
            for code, glyph in sorted(font.getBestCmap().items()):
                if chr(code).isprintable():
                    widths.setdefault(round(advances[glyph][0] * 1000 / unit), []).append(chr(code))
        rows = "".join(
            f"    {width}: {''.join(dict.fromkeys(letters))!r},\n"
            for width, letters in sorted(widths.items())
        )
        parts.append(f"{name} = {{\n{rows}}}\n")
    (ROOT / "mobbet" / "core" / "widths.py").write_text("\n".join(parts))


if __name__ == "__main__":
    main()
