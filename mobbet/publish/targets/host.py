"""What a place outside can do, whatever kind it is."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Protocol

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

    def names(self, below: str) -> set[str]:
        """The names of all files in a folder there and below it; none where there is no such folder."""
        ...

    def read(self, name: str) -> bytes | None:
        """The bytes of a file there, from any thread; None where there is none."""
        ...

    def fingerprints(self) -> dict[str, str]:
        """{name: fingerprint} of every file that lies there."""
        ...

    def fingerprint(self, body: bytes) -> str:
        """The fingerprint that such a file would have there."""
        ...

    def finish(self, names: Iterable[str]) -> None:
        """Writes down which files there are ours, where the place needs it."""
        ...

    def settle(self) -> None:
        """Returns when what was put there survives a power cut there, as far as the place lets one know."""
        ...

    def close(self) -> None: ...
