"""Serves the application's own scripts, styles and fonts, which browsers keep for a year."""

from __future__ import annotations

import json

from fastapi import APIRouter, Request
from starlette.responses import Response

from mobbet.web.desk import addresses as to_desk
from mobbet.web.device import addresses as to_device
from mobbet.web.library import addresses as to_library
from mobbet.web.public.bodies import best_encoding
from mobbet.web.shell import addresses as to_shell
from mobbet.web.shell.static_files import TYPES, address_of, compressed_file, file_named
from mobbet.web.write import addresses as to_write

router = APIRouter()
POLICIES = {"saver.js": "default-src 'none'; connect-src 'self'"}
"""The policies of files that load something by themselves: a worker has the policy it comes with, and not that of its page."""
SHARED = ["image/*", "audio/*", "video/*", "text/*", ".md", ".pdf"]
"""What the share sheet of a device may send."""


@router.get(to_shell.static_file.route)
def staticfile_named(request: Request, digest: str, name: str) -> Response:
    file = compressed_file(name)
    encoding = best_encoding(request.headers.get("accept-encoding", "").encode("latin-1"), file.encodings)
    headers = {
        "Cache-Control": "public, max-age=31536000, immutable",
        "Cross-Origin-Resource-Policy": "cross-origin",  # frames in a sandbox have an origin of their own
        "Vary": "Accept-Encoding",
        **({"Content-Encoding": encoding.decode()} if encoding else {}),
    }
    if not name.endswith(
        ".svg"
    ):  # neither loads anything by itself; the screen's own policy would be longer than they are
        headers["Content-Security-Policy"] = POLICIES.get(name, "default-src 'none'")
    return Response(file.encodings.get(encoding, file.body), media_type=file.type, headers=headers)


@router.get(to_shell.manifest.route)
def manifest() -> Response:
    """What a device must know to install the application (W3C Web Application Manifest), and what its share sheet may send."""
    icons = [
        {"src": address_of(f"{name}.png"), "sizes": f"{size}x{size}", "type": "image/png", "purpose": purpose}
        for name, size, purpose in (
            ("app-192", 192, "any"),
            ("app-512", 512, "any"),
            ("app-cut-512", 512, "maskable"),
        )
    ]
    shared = {"title": "title", "text": "text", "url": "url", "files": [{"name": "files", "accept": SHARED}]}
    found = {
        "name": "Mobbet", "short_name": "Mobbet", "description": "Write, file, schedule and publish the posts of your blog.",
        "id": "/", "start_url": "/", "scope": "/", "display": "standalone", "background_color": "#e7ebe6", "theme_color": "#43204a", "icons": icons,
        "shortcuts": [{"name": "New post", "url": to_device.device(begin="yes")}],
        "share_target": {"action": to_device.device_share(), "method": "POST", "enctype": "multipart/form-data", "params": shared},
    }  # fmt: skip
    return Response(
        json.dumps(found),
        media_type="application/manifest+json",
        headers={"Cache-Control": "public, max-age=3600"},
    )


@router.get(to_shell.service_worker.route)
def offline() -> Response:
    """The service worker; it stands at the root so that it may look after every page."""
    addresses = {
        "room": to_write.write.stem,
        "desk": to_desk.desk.stem,
        "device": to_device.device(),
        "screens": [
            to_desk.desk.stem,
            to_write.write.stem,
            to_library.item.stem,
            to_device.device(),
            to_shell.account(),
        ],
        "ready": to_device.device_ready(),
        "signIn": to_shell.sign_in(),
        "sending": {
            "steps": to_device.device_steps(),
            "library": to_library.library("SLUG"),
            "room": to_write.write.stem,
        },
        "kept": [to_shell.static_file.stem, to_library.picture.stem],
        "share": to_device.device_share(),
        "icon": address_of("app-192.png"),
        "signOut": to_shell.sign_out(),
    }
    return Response(
        f"const TO = {json.dumps(addresses)};\n".encode() + file_named("worker.js")[0],
        media_type=TYPES[".js"],
        headers={"Cache-Control": "no-cache"},
    )


@router.get(to_shell.favicon.route)
def favicon() -> Response:
    return Response(
        file_named("icon.svg")[0],
        media_type="image/svg+xml",
        headers={"Cache-Control": "public, max-age=86400"},
    )
