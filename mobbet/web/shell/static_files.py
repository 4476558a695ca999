"""The application's own scripts, styles and fonts, by name; their addresses follow from their content."""

from __future__ import annotations

import hashlib
import re
from dataclasses import dataclass, replace
from functools import cache
from pathlib import Path

from mobbet.core.errors import NotFound
from mobbet.publish.design import FOLDER as DESIGN
from mobbet.web.public.bodies import packed
from mobbet.web.shell.screens import folders

BEST = 11
"""How well brotli packs what ships."""

TYPES = {
    ".css": "text/css; charset=utf-8",
    ".js": "text/javascript; charset=utf-8",
    ".woff2": "font/woff2",
    ".svg": "image/svg+xml",
    ".png": "image/png",
}


_NAMED = re.compile(rb"""from ?"\./([\w.-]+\.js)"|import\(?"\./([\w.-]+\.js)"|url\(([\w.-]+)\)""")
"""What a script or a style sheet loads from beside itself."""


TINTS = "tints.css"
"""The site's tints and markers as the application shows them, in the light and in the dark."""
JOINED = {
    "shell.css": ("bulma.css", "mobbet.css"),
    "room.css": ("palette.css", TINTS, "text.css", "media.css", "past.css", "sheet.css", "phone.css"),
}
"""Style sheets that a screen always loads together, as one file."""


def tints() -> str:
    """Every tint and marker as `light-dark()`, of the site's two palettes."""
    light, dark = (
        dict(re.findall(r"(?<![\w-])(--[\w-]{1,40}): (#\w{3,8})", file_named(name)[0].decode()))
        for name in ("palette.css", "palette-dark.css")
    )
    both = " ".join(f"{name}: light-dark({light[name]}, {dark[name]});" for name in light)
    return f"@supports (color: light-dark(red, red)) {{ :root {{ {both} }} }}"


@dataclass(frozen=True)
class StaticFile:
    """A file that ships: its bytes, their packed forms by content encoding, and the hash that its address has."""

    body: bytes
    type: str
    encodings: dict[bytes, bytes]
    digest: str


_ready: dict[str, StaticFile] = {}
"""By name."""


@cache
def compress_all() -> None:
    """Packs every script and style as small as it gets, which takes seconds; until then they go as they are packed at first."""
    shipped = {
        path.name
        for folder in (*folders("static"), DESIGN)
        for path in folder.iterdir()
        if path.suffix in (".js", ".css")
    }
    for name in sorted({*shipped, *JOINED}):
        file = compressed_file(name)
        _ready[name] = replace(file, encodings=packed(file.type, file.body, BEST))


def compressed_file(name: str) -> StaticFile:
    """A static file ready to send. Its hash covers what it loads from beside itself, since that is asked for below its own address."""
    if name not in _ready:
        body, _ = file_named(name)
        type = TYPES[Path(name).suffix]
        _ready[name] = StaticFile(body, type, packed(type, body), _digest_of(name))
    return _ready[name]


@cache
def with_parts(*names: str) -> list[str]:
    """The addresses of files and of all that they load from beside themselves, for a browser that keeps them."""
    return [f"/static/{compressed_file(name).digest}/{part}" for name in names for part in _parts_of(name)]


def _digest_of(name: str) -> str:
    """The hash of a file and, in the order of their names, of all that it names, however far."""
    seen = _parts_of(name)
    whole = hashlib.sha256()
    for one in sorted(seen):
        whole.update(f"{one}\n".encode() + seen[one])
    return whole.hexdigest()[:12]


def _parts_of(name: str) -> dict[str, bytes]:
    """{name: bytes} of a file and of all that it names, however far."""
    seen: dict[str, bytes] = {}
    waiting = [name]
    while waiting:
        one = waiting.pop()
        if one in seen:
            continue
        seen[one] = file_named(one)[0]
        if one.endswith((".js", ".css")):
            waiting += [next(filter(None, found)).decode() for found in _NAMED.findall(seen[one])]
    return seen


@cache
def file_named(name: str) -> tuple[bytes, str]:
    """(bytes, hash) of a static file; the fonts and the text's style are those of the public site."""
    if "/" in name or name.startswith("."):
        raise NotFound(f"There is no file “{name}”.")
    if name in JOINED:
        return _with_hash(b"\n".join(file_named(part)[0] for part in JOINED[name]))
    if name == TINTS:
        return _with_hash(tints().encode())
    path = next(
        (
            folder / name
            for folder in (*folders("static"), DESIGN, DESIGN / "fonts")
            if (folder / name).is_file()
        ),
        None,
    )
    if path is None or path.suffix not in TYPES:
        raise NotFound(f"There is no file “{name}”.")
    body = path.read_bytes()
    return _with_hash(_COMMENT.sub(b"", body) if name.endswith(".css") else body)


_COMMENT = re.compile(rb"\n? *(?!/\* sources)/\*[^*]{0,2000}\*/")
"""A comment of a style sheet, which no browser needs."""


def _with_hash(body: bytes) -> tuple[bytes, str]:
    return body, hashlib.sha256(body).hexdigest()[:12]


def address_of(name: str) -> str:
    return f"/static/{compressed_file(name).digest}/{name}"
