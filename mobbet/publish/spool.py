"""A buffer for rows until the edition is committed: small ones in memory, large ones in a temporary file."""

from __future__ import annotations

import pickle
import shutil
import tempfile
import weakref
from collections.abc import Iterator
from pathlib import Path
from typing import Any, BinaryIO

from mobbet.core.errors import Broken

IN_MEMORY = 1_000_000
"""So many bytes wait in memory."""


class Spool:
    """Rows in the order in which they were added. `folder` is where the file is made, once there are many."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        self._file = tempfile.SpooledTemporaryFile(IN_MEMORY, dir=str(folder))
        weakref.finalize(self, self._file.close)  # an edition that lost the race is never read

    def add(self, rows: list[Any]) -> None:
        """Raises Broken on a full disk."""
        try:
            pickle.dump(rows, self._file)
        except OSError as error:
            raise self._broken(error) from None

    def take(self, source: BinaryIO) -> None:
        """Adds everything that another one gave. Raises Broken on a full disk."""
        try:
            shutil.copyfileobj(source, self._file)
        except OSError as error:
            raise self._broken(error) from None

    def give(self, target: BinaryIO) -> None:
        """Writes everything, for another one to take."""
        self._file.seek(0)
        shutil.copyfileobj(self._file, target)

    def __iter__(self) -> Iterator[Any]:
        """Every row; can be iterated again."""
        self._file.seek(0)
        while True:
            try:
                rows = pickle.load(self._file)
            except EOFError:
                return
            yield from rows

    def _broken(self, error: OSError) -> Broken:
        return Broken(
            f"{self._folder} cannot be written ({error.strerror}); free some space or check its rights."
        )
