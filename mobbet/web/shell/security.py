"""The headers of every answer, and who may ask for a change."""

from __future__ import annotations

import re
from urllib.parse import urlsplit

APP_POLICY = (
    "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' blob:; font-src 'self'; connect-src 'self'; manifest-src 'self'; "
    "media-src 'self' blob:; frame-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'"
)
SITE_POLICY = (
    "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self'; font-src 'self'; media-src 'self'; connect-src 'self'; manifest-src 'self'; "
    "frame-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'self'"
)
ALONE_POLICY = "default-src 'none'; sandbox"
"""For what is a file by itself: it loads nothing and runs nothing, wherever it is opened."""
DRAWING_POLICY = "default-src 'none'; style-src 'unsafe-inline'; sandbox"
"""For a drawing that Mobbet cleaned; its own styles are shown."""


_FRAME = re.compile(rb'<a class="facade" href="[^"<>]*" data-frame="(https://[a-z0-9.-]+)/')
"""A frame that a page of a site may show. No text of a post can look like it, since its `<` is a reference."""


_FORM = re.compile(rb'<form class="ask subscribe" method="post" action="(https?://[a-z0-9.:-]+)/')
"""A form for readers that another host answers for."""


def policy_of(page: bytes, policy: str = SITE_POLICY) -> str:
    """The policy of a page of a site: it may load frames of the hosts whose videos it shows, send its forms to where they are answered, and nothing else."""
    for source, pattern in (("frame-src 'self'", _FRAME), ("form-action 'self'", _FORM)):
        hosts = dict.fromkeys(pattern.findall(page))
        policy = policy.replace(source, " ".join([source, *(host.decode() for host in hosts)]))
    return policy


def shown_headers(
    type: str, is_download: bool, policy: str = SITE_POLICY, page: bytes = b""
) -> list[tuple[bytes, bytes]]:
    """The headers that tell a browser what a body is and what it may do.

    `page` are the bytes of a page of a site, for the frames it shows. A file as somebody brought it in is offered for saving, never shown, and so is every type that could run something.
    """
    if is_download:
        return [
            (b"content-type", b"application/octet-stream"),
            (b"content-disposition", b"attachment"),
            (b"content-security-policy", ALONE_POLICY.encode()),
        ]
    policy = DRAWING_POLICY if type.startswith("image/svg") else policy_of(page, policy)
    return [(b"content-type", type.encode()), (b"content-security-policy", policy.encode())]


LETTER_POLICY = "default-src 'none'; img-src 'self'; style-src 'unsafe-inline'; base-uri 'none'; form-action 'none'; frame-ancestors 'self'"
"""For a letter as it is looked at: its styles stand in its elements, as mail programs need it; nothing runs."""
SAFE_METHODS = frozenset({"GET", "HEAD", "OPTIONS"})
Headers = dict[bytes, bytes]
MAY_RECORD = {"permissions-policy": "camera=(), geolocation=(), microphone=(self), payment=(), usb=()"}
"""On the pages on which sound is recorded, when somebody asks for it."""
COMMON = [
    (b"x-content-type-options", b"nosniff"),
    (b"referrer-policy", b"same-origin"),
    (b"cross-origin-opener-policy", b"same-origin"),
    (b"permissions-policy", b"camera=(), geolocation=(), microphone=(), payment=(), usb=()"),
]
"""On every answer, whatever it is."""
OWN = (b"cross-origin-resource-policy", b"same-origin")
SHARED = (b"cross-origin-resource-policy", b"cross-origin")
"""What is Mobbet's own, or for some readers only, is loaded by its own pages alone; what everyone may read also by feed readers on the web."""
HSTS = (b"strict-transport-security", b"max-age=31536000")
"""Behind https, for a year (RFC 6797)."""
PLAIN_POLICY = (b"content-security-policy", b"default-src 'none'; frame-ancestors 'none'")
"""For answers that are a sentence, or nothing."""


def is_same_origin(headers: Headers, scheme: str) -> bool:
    """True when a request that changes something comes from a page of this very server (RFC 6454, 4).

    Browsers name the origin on every such request; one without is taken for a foreign page's. A page that came over http is not
    the same as the server that stands behind https.
    """
    origin, host, site = (
        headers.get(name, b"").decode("latin-1") for name in (b"origin", b"host", b"sec-fetch-site")
    )
    if site not in ("", "same-origin", "none"):
        return False
    if not origin:
        return site == "same-origin"
    try:
        parts = urlsplit(origin)
        return (
            parts.scheme in ("https", scheme)
            and not (parts.path or parts.query or parts.username)
            and _bare(parts.netloc, parts.scheme) == _bare(host, parts.scheme)
        )
    except ValueError:
        return False


def _bare(netloc: str, scheme: str) -> str:
    """A host with its port where it is not the usual one. Raises ValueError for what is none."""
    parts = urlsplit(f"//{netloc}")
    port = parts.port
    return f"{parts.hostname or ''}:{port or (443 if scheme == 'https' else 80)}"


def with_headers(
    headers: list[tuple[bytes, bytes]], more: list[tuple[bytes, bytes]]
) -> list[tuple[bytes, bytes]]:
    """The headers, with those of `more` that are not among them."""
    present = {name.lower() for name, _ in headers}
    return [*headers, *((name, value) for name, value in more if name not in present)]
