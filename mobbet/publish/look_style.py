"""The style sheet of a look: what its value says, as custom properties of CSS and as the rules of the parts that it chose."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import lru_cache

from mobbet.core.document.palette import NAMES
from mobbet.core.facts import Item, PictureFile
from mobbet.core.look.colours import Colour
from mobbet.core.look.letters import EAST_ASIAN, FAMILIES, RANGES, Family
from mobbet.core.look.look import Look, Picture
from mobbet.core.look.over_picture import HEIGHTS, VEILS, WORDS
from mobbet.core.look.own import own_palettes, read_own
from mobbet.core.look.palette import Palette, words_on
from mobbet.publish.design import FOLDER, font_file, path_of, small

STYLE_PATH = "/look.css"
"""At an address of its own, which pages keep when the look changes: a change of colours rewrites this file and no page."""
LIST_SCALE = 0.945
"""The size of the text of lists, as a share of that of a post."""
EDGES = 3.0
"""In rem: what stands at both sides of a post's column."""
LINES = {"none": "0px", "thin": "1px", "strong": "2px"}


def style_of(look: Look, items: Callable[[int], Item | None] = lambda number: None) -> bytes:
    """The style sheet. What follows from the values comes first, then the parts and the pictures, of which `items` knows the files; no rule names
    a host or is written in a page."""
    shown = [rule for number in look.pictures if items(number) for rule in _pictures(look, items)]
    return _style(look) if not shown else small("\n".join((_style(look).decode(), *dict.fromkeys(shown))))


@lru_cache(maxsize=64)
def _style(look: Look) -> bytes:
    return small("\n".join((*_faces(look), _root(look), _dark(look), _east_asian(), *_parts(look))))


def _pictures(look: Look, items: Callable[[int], Item | None]) -> Iterator[str]:
    """The rules that show the pictures of a look, small ones in narrow windows."""
    if look.top.mark and (file := _file(items, look.top.mark, MARK_WIDTH)):
        yield f".site-name::before {{ background-image: url(.{file.path}); }}"
        yield _part("top-mark")
    if look.top.picture and (file := _file(items, look.top.picture, WIDEST)):
        words = look.top.words
        values = {
            "over": _rgb(WORDS[words]),
            "veil": _rgb(VEILS[words], look.top.veil),
            "under": _rgb(VEILS[words]),
            "high": f"{HEIGHTS[look.top.height] / 16:g}rem",
            "at": f"{look.top.picture.x}% {look.top.picture.y}%",
            "header": f"url(.{file.path})",
        }
        yield f".site-head {{ {_properties(values)} }}"
        yield _part("top-picture")
        small_file = _file(items, look.top.picture, NARROW)
        if small_file and small_file != file:
            yield f"@media (max-width: 46rem) {{ .site-head {{ --header: url(.{small_file.path}); }} }}"
    behind = look.page.picture if look.page.ground in ("picture", "pattern") else None
    if behind and (file := _file(items, behind, WIDEST if look.page.ground == "picture" else NARROW)):
        yield f":root {{ --behind: url(.{file.path}); --behind-at: {behind.x}% {behind.y}%; }}"
        yield _part(f"ground-{look.page.ground}")


WIDEST, NARROW, MARK_WIDTH = 1600, 800, 160
"""In pixels: how wide the file of a picture is taken, if there is one so wide."""


def _file(items: Callable[[int], Item | None], picture: Picture, width: int) -> PictureFile | None:
    """The file of a picture that is as wide as wanted, or else the widest."""
    item = items(picture.item)
    files = item.of("whole", "image/webp") or item.of("whole") if item else ()
    return next((file for file in files if file.width >= width), files[-1] if files else None)


def _rgb(colour: Colour, share: int = 100) -> str:
    return f"rgb({colour.red} {colour.green} {colour.blue}{f' / {share}%' if share < 100 else ''})"


def _part(name: str) -> str:
    return (FOLDER / "parts" / f"{name}.css").read_text()


def own_path(post_id: int) -> str:
    """Where the style sheet of a post on a background of its own stands."""
    return f"/look-of-{post_id}.css"


def has_own_colours(own_look: str) -> bool:
    return bool(own_look) and read_own(own_look).has_colours


def own_style(look: Look, own_look: str) -> bytes:
    """The style sheet of a post with an own look (`core/look/own.py`); nothing where it has the colours of the site."""
    own = read_own(own_look)
    if not own.has_colours:
        return b""
    light, dark = own_palettes(look, own)
    scheme = "dark" if light.is_dark else "light dark" if dark != light else "light"
    rules = [f":root {{ color-scheme: {scheme}; {_colours(light)} }}", "body { background: var(--paper); }"]
    if light.is_dark or dark != light:
        rules.append(f"@media (prefers-color-scheme: dark) {{ :root {{ {_colours(dark)} }} }}")
    return small("\n".join(rules))


def sheet_style(look: Look, address_of: Callable[[str], str]) -> bytes:
    """The letters of a look for the writing surface of the application; `address_of` names a file of letters."""
    letters = look.letters
    families = {"letters": FAMILIES[letters.text], "headings": FAMILIES[letters.headings or letters.text]}
    own = _properties({name: family.stack for name, family in families.items()})
    size = f"font-size: {letters.size / 16:.4g}rem; line-height: {letters.leading / 100:g};"
    rules = f".page {{ {own} max-width: {column(look) + EDGES:.4g}rem; }}\n.page .text {{ {size} }}"
    return small("\n".join((*_faces(look, address_of), _east_asian(), rules)))


def _faces(look: Look, address_of: Callable[[str], str] = lambda name: f".{path_of(name)}") -> list[str]:
    """`@font-face` of each file of the families chosen."""
    chosen = dict.fromkeys(
        FAMILIES[name]
        for name in (look.letters.text, look.letters.headings or look.letters.text, look.letters.plain)
    )
    return [
        f"@font-face {{ font-family: {family.stack.partition(',')[0]}; src: url({address_of(font_file(family.file, part, is_italic))})"
        f' format("woff2"); font-weight: 400 700;{" font-style: italic;" if is_italic else ""} font-display: swap; unicode-range: {RANGES[part]}; }}'
        for family in chosen
        for part in (family.parts if family.file else ())
        for is_italic in (False, True)
    ]


def _root(look: Look) -> str:
    letters, page = look.letters, look.page
    families = {
        "letters": FAMILIES[letters.text],
        "headings": FAMILIES[letters.headings or letters.text],
        "plain": FAMILIES[letters.plain],
    }
    size = letters.size / 16
    lengths = {
        "size": f"{size * LIST_SCALE:.4g}rem",
        "text-size": f"{size:.4g}rem",
        "leading": f"{letters.leading / 100:g}",
        "column": f"{column(look):.4g}rem",
        "width": f"{page.width}rem",
        "corners": f"{page.corners}px",
        "hairline": LINES[page.lines],
    }
    ground = "" if page.ground != "tint" else "\nbody { background: var(--tint); }"
    return (
        f":root {{ color-scheme: {_scheme(look)}; {_colours(look.light)} {_properties(lengths)} }}\n"
        f":root, [lang] {{ {_properties({name: family.stack for name, family in families.items()})} }}\n"
        f"h1, h2, h3, .site-name {{ font-family: var(--headings); }}{ground}"
    )


def _scheme(look: Look) -> str:
    """What the browser draws its own controls in."""
    if look.in_dark == look.light:
        return "dark" if look.light.is_dark else "light"
    return "light dark"


def column(look: Look) -> float:
    """How wide the column of a post is, in rem, with its edges: so wide that a line has as many letters as the look says."""
    letters = look.letters
    return letters.measure * FAMILIES[letters.text].average * letters.size / 16 + EDGES


def _dark(look: Look) -> str:
    if look.in_dark == look.light:
        return ""
    return f"@media (prefers-color-scheme: dark) {{ :root {{ {_colours(look.in_dark)} }} }}"


def _colours(palette: Palette) -> str:
    words = words_on(palette)
    return _properties(
        {
            **palette.model_dump(),
            **{f"tint-{name}": words.tints[name] for name in NAMES},
            **{f"marker-{name}": words.markers[name] for name in NAMES},
        }
    )


def _properties(values: dict[str, str]) -> str:
    return " ".join(f"--{name}: {value};" for name, value in values.items())


def _east_asian() -> str:
    """The device's fonts for the languages of East Asia; those of Japan where a text has another language."""
    rules = [_east_of(":root", *EAST_ASIAN["ja"])]
    rules += [_east_of(f":lang({language})", *stacks) for language, stacks in EAST_ASIAN.items()]
    return "\n".join(rules)


def _east_of(selector: str, serif: str, sans: str) -> str:
    return f"{selector} {{ --east-serif: {serif}; --east-sans: {sans}; }}"


def _parts(look: Look) -> list[str]:
    """The rules of what the look chose, but for the usual choices, which page.css has."""
    chosen = {
        "top-middle": look.top.at == "middle",
        "top-large": look.top.size == "large",
        "menu-below": look.top.menu == "below",
        "top-search": look.top.search == "field",
        f"front-{look.front.shows}": look.front.shows != "newest-large",
        f"post-{look.post.columns}": look.post.columns != "one",
        f"pictures-{look.post.pictures}": look.post.pictures != "text",
    }
    return [_part(name) for name, is_chosen in chosen.items() if is_chosen]


def preloaded(look: Look) -> list[str]:
    """The names of the two files of letters that a page needs first."""
    families: tuple[Family, ...] = (FAMILIES[look.letters.text], FAMILIES[look.letters.plain])
    return list(dict.fromkeys(font_file(family.file) for family in families if family.file))
