"""What a place outside can do, whatever kind it is; and the address that names one."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Protocol
from urllib.parse import unquote, urlsplit, urlunsplit

from mobbet.core.errors import BadInput

FOR_EVER = "public, max-age=31536000, immutable"
A_MINUTE = "public, max-age=60"
"""How long a browser or a network of caches may hold a page at a place that cannot tell them of a new one."""


@dataclass(frozen=True)
class File:
    """A file to be sent: its name there, its MIME type, how long it may be kept, and where it leads ('' for nowhere);
    `is_list` says that it leads to other pages.

    `read` gives its bytes, so that only those on their way are in memory.
    """

    name: str
    type: str
    keep: str
    leads_to: str
    read: Callable[[], bytes]
    is_list: bool = False


class Host(Protocol):
    """A place that holds files by name. Each file is there whole or not at all. Raises Broken when it does not answer."""

    def put(self, files: Iterable[File], done: Callable[[File], None]) -> None:
        """Sends files, several at once where it can; `done` is told of each that has arrived."""
        ...

    def remove(self, names: Iterable[str]) -> None: ...

    def fingerprints(self) -> dict[str, str]:
        """{name: fingerprint} of every file that lies there."""
        ...

    def fingerprint(self, body: bytes) -> str:
        """The fingerprint that such a file would have there."""
        ...

    def finish(self, names: Iterable[str]) -> None:
        """Writes down which files there are ours, where the place needs it."""
        ...

    def close(self) -> None: ...


def read_address(text: str) -> str:
    """The address of a place in its one spelling: `folder:PATH`, `s3://BUCKET/PREFIX`, `sftp://USER@HOST/PATH`. Raises BadInput."""
    address = text.strip()
    kind, colon, rest = address.partition(":")
    if kind == "folder" and rest.startswith("/"):
        return f"folder:{rest.rstrip('/') or '/'}"
    parts = urlsplit(address) if colon else None
    if parts and parts.scheme in ("s3", "sftp") and parts.hostname and (parts.scheme == "s3" or parts.username):
        return urlunsplit(parts._replace(path=parts.path.rstrip("/")))
    raise BadInput(
        f"“{address[:80]}” is no place to send to; write it like folder:/srv/site, s3://bucket/prefix or sftp://user@host.example/path.", "address"
    )


def shown(address: str) -> str:
    """An address without the password in it."""
    parts = urlsplit(address)
    return address.replace(f":{parts.password}@", ":…@") if parts.password else address


def password_of(address: str) -> str | None:
    password = urlsplit(address).password
    return unquote(password) if password else None


def open_host(address: str) -> Host:
    """The place at an address. Raises Broken when it cannot be reached."""
    kind = address.partition(":")[0]
    if kind == "folder":
        from mobbet.publish.targets.folder import Folder

        return Folder(address.partition(":")[2])
    if kind == "s3":  # imported only when needed: its client takes half a second to load
        from mobbet.publish.targets.objects import ObjectStore

        return ObjectStore(address)
    from mobbet.publish.targets.sftp import Sftp

    return Sftp(address)
