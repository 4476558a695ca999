"""The application's own scripts, styles and fonts, addressed by their content and kept for a year."""

from __future__ import annotations

import hashlib
import json
from functools import cache
from pathlib import Path

from fastapi import APIRouter
from starlette.responses import Response

from mobbet.core.errors import NotFound
from mobbet.publish.design import FOLDER as DESIGN
from mobbet.web.library import addresses as to_library
from mobbet.web.shell import addresses as to_shell
from mobbet.web.shell.screens import folders
from mobbet.web.write import addresses as to_write

TYPES = {
    ".css": "text/css; charset=utf-8",
    ".js": "text/javascript; charset=utf-8",
    ".woff2": "font/woff2",
    ".svg": "image/svg+xml",
}
router = APIRouter()


@cache
def _file(name: str) -> tuple[bytes, str]:
    """(bytes, hash) of a static file; the fonts and the text's style are those of the public site."""
    if "/" in name or name.startswith("."):
        raise NotFound(f"There is no file “{name}”.")
    path = next((folder / name for folder in (*folders("static"), DESIGN) if (folder / name).is_file()), None)
    if path is None or path.suffix not in TYPES:
        raise NotFound(f"There is no file “{name}”.")
    body = path.read_bytes()
    return body, hashlib.sha256(body).hexdigest()[:12]


def address_of(name: str) -> str:
    return f"/static/{_file(name)[1]}/{name}"


@router.get(to_shell.static_file.route)
def static_file(digest: str, name: str) -> Response:
    body, _ = _file(name)
    headers = {
        "Cache-Control": "public, max-age=31536000, immutable",
        "Cross-Origin-Resource-Policy": "cross-origin",
    }  # frames in a sandbox have an origin of their own
    return Response(body, media_type=TYPES[Path(name).suffix], headers=headers)


@router.get(to_shell.service_worker.route)
def offline() -> Response:
    """The service worker; it stands at the root so that it may look after every page."""
    addresses = {
        "room": to_write.write.stem,
        "kept": [to_shell.static_file.stem, to_library.picture.stem],
        "signOut": to_shell.sign_out(),
    }
    return Response(
        f"const TO = {json.dumps(addresses)};\n".encode() + _file("offline.js")[0],
        media_type=TYPES[".js"],
        headers={"Cache-Control": "no-cache"},
    )


@router.get(to_shell.favicon.route)
def favicon() -> Response:
    return Response(
        _file("icon.svg")[0], media_type="image/svg+xml", headers={"Cache-Control": "public, max-age=86400"}
    )
