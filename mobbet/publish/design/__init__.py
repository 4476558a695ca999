"""The files of the public site's design: style sheet, fonts and icon, addressed by their content."""

from __future__ import annotations

import hashlib
import re
from dataclasses import dataclass
from functools import cache
from pathlib import Path

FOLDER = Path(__file__).parent


@dataclass(frozen=True)
class Asset:
    """One file: its plain name, its address below the blog's, its type and its bytes."""

    name: str
    path: str
    type: str
    body: bytes
    hash: str


def _asset(name: str, type: str, body: bytes) -> Asset:
    digest = hashlib.sha256(body).hexdigest()
    stem, ending = name.rsplit(".", 1)
    return Asset(name, f"/assets/{stem}-{digest[:12]}.{ending}", type, body, digest)


def _style() -> Asset:
    """The style sheet of every look: page and text."""
    source = "\n".join((FOLDER / name).read_text() for name in ("page.css", "text.css"))
    return _asset("site.css", "text/css; charset=utf-8", small(source))


def small(source: str) -> bytes:
    """A style sheet without its comments and the white space that says nothing."""
    bare = re.sub(r"/\*.*?\*/", "", source, flags=re.DOTALL)
    return re.sub(r"\n\s*", "\n", bare).strip().encode()


def font_file(family: str, part: str = "", is_italic: bool = False) -> str:
    """The name of a file of letters: of one part of a family, upright or in italics."""
    return f"{'-'.join(filter(None, (family, part, 'italic' if is_italic else '')))}.woff2"


@cache
def assets() -> tuple[Asset, ...]:
    """Every file of the design."""
    fonts = [
        _asset(path.name, "font/woff2", path.read_bytes())
        for path in sorted((FOLDER / "fonts").glob("*.woff2"))
    ]
    icon = _asset("icon.svg", "image/svg+xml", (FOLDER / "icon.svg").read_bytes())
    styles = [
        _asset(name, "text/css; charset=utf-8", small((FOLDER / name).read_text()))
        for name in ("media.css", "sections.css")
    ]
    script = _asset("site.js", "text/javascript; charset=utf-8", (FOLDER / "site.js").read_bytes())
    opening = _asset("open.js", "text/javascript; charset=utf-8", (FOLDER / "open.js").read_bytes())
    finding = _asset("search.js", "text/javascript; charset=utf-8", (FOLDER / "search.js").read_bytes())
    there = _asset(
        "search-there.js", "text/javascript; charset=utf-8", (FOLDER / "search-there.js").read_bytes()
    )
    sharing = _asset("share.js", "text/javascript; charset=utf-8", (FOLDER / "share.js").read_bytes())
    working = _asset("work.js", "text/javascript; charset=utf-8", (FOLDER / "work.js").read_bytes())
    return (_style(), *styles, icon, script, opening, finding, there, sharing, working, *fonts)


def path_of(name: str) -> str:
    """The address of a file of the design, below the blog's."""
    return next(asset.path for asset in assets() if asset.name == name)
