"""A page ready to send: its bytes in each encoding, headers, and ranges."""

from __future__ import annotations

import gzip
import re
from dataclasses import dataclass, field
from functools import cached_property
from pathlib import Path

import brotli

from mobbet.core.audience import EVERYONE
from mobbet.store.editions import PageRow
from mobbet.web.shell.security import COMMON, OWN, SHARED, shown_headers

FOR_EVER = b"public, max-age=31536000, immutable"
ASK_AGAIN = b"public, max-age=0, must-revalidate"
KEEP_PRIVATE = b"private, no-store"
PACKED = ("text/", "application/", "image/svg")
SMALLEST = 860
"""In bytes: what fits into one packet of the network gains nothing by being packed."""

Headers = list[tuple[bytes, bytes]]


@dataclass(frozen=True)
class Body:
    """A page ready to be sent: its row, and its bytes by content encoding; or the file to send it from."""

    row: PageRow
    etag: bytes
    encodings: dict[bytes, bytes]
    file: Path | None = None
    length: int = 0
    ready: dict[bytes, tuple[Headers, bytes]] = field(default_factory=dict)

    @cached_property
    def is_counted(self) -> bool:
        return self.row.type.startswith("text/html")

    @property
    def size(self) -> int:
        return sum(len(body) for body in self.encodings.values()) + 500


def keep_headers(body: Body, encoding: bytes) -> Headers:
    """What tells how a page may be kept."""
    row = body.row
    etag = body.etag if not encoding else body.etag[:-1] + b"-" + encoding + b'"'
    keep = (
        KEEP_PRIVATE
        if row.audience != EVERYONE
        else FOR_EVER
        if row.path.startswith(("/assets/", "/media/"))
        else ASK_AGAIN
    )
    return [
        (b"etag", etag),
        (b"cache-control", keep),
        (b"vary", b"accept-encoding"),
        *COMMON,
        SHARED if row.audience == EVERYONE else OWN,
    ]


def type_headers(body: Body) -> Headers:
    page = body.encodings.get(b"", b"") if body.is_counted else b""
    return shown_headers(body.row.type, body.row.is_download, page=page)


def whole_answer(body: Body, accepted: bytes) -> tuple[Headers, bytes]:
    """The headers of a page, its length last, and its bytes in the best encoding that is accepted."""
    encoding = best_encoding(accepted, body.encodings)
    sent = body.encodings[encoding]
    answer = [
        *keep_headers(body, encoding),
        *type_headers(body),
        *([(b"content-encoding", encoding)] if encoding else []),
    ]
    return [*answer, (b"content-length", str(len(sent)).encode())], sent


def packed(type: str, body: bytes, quality: int = 5) -> dict[bytes, bytes]:
    """The brotli and gzip forms of a text, made once and kept with it; none for what is small, or compressed already."""
    if not type.startswith(PACKED) or len(body) < SMALLEST:
        return {}
    return {b"br": brotli.compress(body, quality=quality), b"gzip": gzip.compress(body, 6, mtime=0)}


def part_of(asked: bytes, length: int) -> tuple[int, int] | tuple[()] | None:
    """(first, last) byte of one range; () when it lies outside, None when it is not understood (RFC 9110, 14.2)."""
    match = re.fullmatch(rb"bytes=(\d{0,18})-(\d{0,18})", asked.replace(b" ", b""))
    if not match or match.groups() == (b"", b""):
        return None
    start, end = match.groups()
    if not start:
        return (max(0, length - int(end)), length - 1) if int(end) else ()
    first, last = int(start), min(int(end), length - 1) if end else length - 1
    if first >= length:
        return ()
    return (first, last) if first <= last else None


_REFUSED = re.compile(rb";\s*q\s*=\s*0(?:\.0*)?\s*$", re.IGNORECASE)
"""A weight of nothing (RFC 9110, 12.4.2)."""


def best_encoding(accepted: bytes, encodings: dict[bytes, bytes]) -> bytes:
    offered = {part.split(b";")[0].strip() for part in accepted.split(b",") if not _REFUSED.search(part)}
    return next((name for name in (b"br", b"gzip") if name in offered and name in encodings), b"")


def is_same(wanted: bytes, etag: bytes) -> bool:
    """Weak comparison; the encoding's ending of an etag does not matter."""
    return wanted.strip() == b"*" or etag[:-1] in wanted
