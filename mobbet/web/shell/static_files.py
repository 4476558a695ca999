"""The application's own scripts, styles and fonts, by name; their addresses follow from their content."""

from __future__ import annotations

import hashlib
from functools import cache

from mobbet.core.errors import NotFound
from mobbet.publish.design import FOLDER as DESIGN
from mobbet.web.shell.screens import folders

TYPES = {
    ".css": "text/css; charset=utf-8",
    ".js": "text/javascript; charset=utf-8",
    ".woff2": "font/woff2",
    ".svg": "image/svg+xml",
}


@cache
def file_named(name: str) -> tuple[bytes, str]:
    """(bytes, hash) of a static file; the fonts and the text's style are those of the public site."""
    if "/" in name or name.startswith("."):
        raise NotFound(f"There is no file “{name}”.")
    path = next((folder / name for folder in (*folders("static"), DESIGN) if (folder / name).is_file()), None)
    if path is None or path.suffix not in TYPES:
        raise NotFound(f"There is no file “{name}”.")
    body = path.read_bytes()
    return body, hashlib.sha256(body).hexdigest()[:12]


def address_of(name: str) -> str:
    return f"/static/{file_named(name)[1]}/{name}"
