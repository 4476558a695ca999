"""Encrypted pages for static hosts, which open with a password in the browser."""

from __future__ import annotations

import base64
import re
from collections.abc import Callable
from dataclasses import dataclass
from posixpath import normpath

from mobbet.core import sealing
from mobbet.core.keys import PageKey
from mobbet.publish.renderer import Renderer
from mobbet.publish.values import Page

_SOURCES = re.compile(r'<source\b[^>]*>|\s(?:srcset|sizes)="[^"]*"')
_SRC = re.compile(r'(\s(?:src|poster)=")([^":]*/media/[^"]+)(")')


@dataclass(frozen=True)
class Sealed:
    """What such a page shows: the ciphertext as base64, the salt and the rounds of the key."""

    body: str
    salt: str
    rounds: int


def sealed_page(
    renderer: Renderer,
    path: str,
    body: bytes,
    key: str,
    salt: str,
    picture: Callable[[str], tuple[str, bytes] | None],
) -> bytes:
    """The page of a post, sealed. Its pictures go in with it, since a static host would give them to everyone.

    `picture` answers with (type, bytes) of the file at a path below the blog's.
    """
    whole = _with_pictures(body.decode(), path, picture)
    sealed = Sealed(base64.b64encode(sealing.seal(key, whole.encode())).decode(), salt, sealing.ROUNDS)
    return renderer.template(Page(PageKey("sealed/"), path, "sealed", None, sealed)).body


def _with_pictures(text: str, path: str, picture: Callable[[str], tuple[str, bytes] | None]) -> str:
    def put_in(match: re.Match[str]) -> str:
        found = picture(normpath(path + match[2]))
        if found is None:
            return f"{match[1]}data:,{match[3]}"
        return f"{match[1]}data:{found[0]};base64,{base64.b64encode(found[1]).decode()}{match[3]}"

    return _SRC.sub(put_in, _SOURCES.sub("", text))
