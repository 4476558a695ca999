"""The files of the public site's design: style sheet, fonts and icon, addressed by their content."""

from __future__ import annotations

import hashlib
import re
from dataclasses import dataclass
from functools import cache
from pathlib import Path

FOLDER = Path(__file__).parent
LOOKS = {"bench": "Warm paper, rust accent", "ferry": "Pale sea, blue accent"}
"""The looks a blog may have; each is a set of colours in `page.css`."""


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


def _style(fonts: dict[str, Asset]) -> Asset:
    """The style sheet: fonts, page and text, with the fonts' addresses by content."""
    source = "\n".join(
        (FOLDER / name).read_text()
        for name in ("fonts.css", "page.css", "palette.css", "palette-dark.css", "text.css")
    )
    source = re.sub(
        r"url\(([\w-]+\.woff2)\)",
        lambda match: f"url({fonts[match.group(1)].path.rsplit('/', 1)[1]})",
        source,
    )
    return _asset("site.css", "text/css; charset=utf-8", _small(source))


def _small(source: str) -> bytes:
    """A style sheet without its comments and the white space that says nothing."""
    bare = re.sub(r"/\*.*?\*/", "", source, flags=re.DOTALL)
    return re.sub(r"\n\s*", "\n", bare).strip().encode()


@cache
def assets() -> tuple[Asset, ...]:
    """Every file of the design."""
    fonts = {
        path.name: _asset(path.name, "font/woff2", path.read_bytes())
        for path in sorted(FOLDER.glob("*.woff2"))
    }
    icon = _asset("icon.svg", "image/svg+xml", (FOLDER / "icon.svg").read_bytes())
    media = _asset("media.css", "text/css; charset=utf-8", _small((FOLDER / "media.css").read_text()))
    script = _asset("site.js", "text/javascript; charset=utf-8", (FOLDER / "site.js").read_bytes())
    opening = _asset("open.js", "text/javascript; charset=utf-8", (FOLDER / "open.js").read_bytes())
    return (_style(fonts), media, icon, script, opening, *fonts.values())


def path_of(name: str) -> str:
    """The address of a file of the design, below the blog's."""
    return next(asset.path for asset in assets() if asset.name == name)
