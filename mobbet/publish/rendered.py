"""The result of rendering a page."""

from __future__ import annotations

from typing import NamedTuple


class Rendered(NamedTuple):
    """A page's bytes and MIME type; a page whose bytes lie on the media shelf has their hash instead.

    A download is a file as somebody brought it in.
    """

    type: str
    body: bytes = b""
    media_hash: str = ""
    is_download: bool = False
