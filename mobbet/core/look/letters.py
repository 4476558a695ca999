"""The families of letters that a look can choose from: open fonts that ship with Mobbet, and those of the reader's own device."""

from __future__ import annotations

from dataclasses import dataclass

LATIN = "U+0000-00FF,U+0131,U+0152-0153,U+02BB-02BC,U+02C6,U+02DA,U+02DC,U+0304,U+0308,U+0329,U+2000-206F,U+20AC,U+2122,U+2191,U+2193,U+2212,U+2215,U+FEFF,U+FFFD"
MORE_LATIN = "U+0100-02BA,U+02BD-02C5,U+02C7-02CC,U+02CE-02D7,U+02DD-02FF,U+0304,U+0308,U+0329,U+1D00-1DBF,U+1E00-1E9F,U+1EF2-1EFF,U+2020,U+20A0-20AB,U+20AD-20C0,U+2113,U+2C60-2C7F,U+A720-A7FF"
GREEK = "U+0370-0377,U+037A-037F,U+0384-038A,U+038C,U+038E-03A1,U+03A3-03FF"
CYRILLIC = "U+0301,U+0400-045F,U+0490-0491,U+04B0-04B1,U+2116"
RANGES = {"": LATIN, "ext": MORE_LATIN, "greek": GREEK, "cyrillic": CYRILLIC}
"""{part of a family that is a file of its own: the characters in it}, as `unicode-range` of CSS spells them."""

SERIF_REST = '"Noto Naskh Arabic", "Geeza Pro", "Noto Serif Hebrew", "Times New Roman", "Noto Serif Devanagari", "Noto Serif Thai", Georgia, serif'
SANS_REST = '"Noto Sans Arabic", "Segoe UI", "Noto Sans Hebrew", "Noto Sans Devanagari", "Noto Sans Thai", system-ui, sans-serif'
EAST_ASIAN = {
    "ja": (
        '"Hiragino Mincho ProN", "Yu Mincho", "Noto Serif CJK JP", "Noto Serif JP"',
        '"Hiragino Sans", "Yu Gothic", "Noto Sans CJK JP", "Noto Sans JP"',
    ),
    "zh": (
        '"Songti SC", SimSun, "Noto Serif CJK SC", "Noto Serif SC"',
        '"PingFang SC", "Microsoft YaHei", "Noto Sans CJK SC", "Noto Sans SC"',
    ),
    "zh-Hant": (
        '"Songti TC", PMingLiU, "Noto Serif CJK TC", "Noto Serif TC"',
        '"PingFang TC", "Microsoft JhengHei", "Noto Sans CJK TC", "Noto Sans TC"',
    ),
    "ko": (
        '"AppleMyungjo", Batang, "Noto Serif CJK KR", "Noto Serif KR"',
        '"Apple SD Gothic Neo", "Malgun Gothic", "Noto Sans CJK KR", "Noto Sans KR"',
    ),
}
"""{language: the device's fonts for it, with serifs and without}: one Han character is drawn otherwise in each."""


@dataclass(frozen=True)
class Family:
    """A family of letters. `file` begins the names of its files (`publish/design/fonts/`), '' for one of the reader's own device;
    `parts` are those of `RANGES` that it has, each upright and in italics."""

    name: str
    has_serifs: bool
    file: str = ""
    parts: tuple[str, ...] = ("",)
    own: str = ""
    """The families of the device that are tried first, as CSS lists them; for those without files."""

    average: float = 0.45
    """How wide a letter of a text is on average, in parts of the size."""

    @property
    def stack(self) -> str:
        """The value of `font-family`; a style sheet gives `--east-serif` and `--east-sans` by the language of the text."""
        rest, more = (SERIF_REST, "var(--east-serif)") if self.has_serifs else (SANS_REST, "var(--east-sans)")
        return f"{self.own or _quoted(self.name)}, {more}, {rest}"


def _quoted(name: str) -> str:
    return f'"{name}"' if " " in name else name


_ALL = ("", "ext", "greek", "cyrillic")
FAMILIES = {
    "literata": Family("Literata", True, "literata", _ALL, average=0.455),
    "source-serif": Family("Source Serif 4", True, "source-serif", _ALL, average=0.457),
    "vollkorn": Family("Vollkorn", True, "vollkorn", _ALL, average=0.417),
    "alegreya": Family("Alegreya", True, "alegreya", _ALL, average=0.392),
    "inter": Family("Inter", False, "inter", _ALL, average=0.458),
    "hyperlegible": Family("Atkinson Hyperlegible Next", False, "hyperlegible", ("", "ext"), average=0.428),
    "device-serif": Family(
        "the reader’s own, with serifs", True, own='ui-serif, "Iowan Old Style", Charter, Cambria'
    ),
    "device-sans": Family("the reader’s own, without serifs", False, own="system-ui", average=0.5),
}
"""{name in a look: family}."""
