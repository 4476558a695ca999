"""Unpacks a zip file that somebody brought, within limits and within one folder."""

from __future__ import annotations

import zipfile
from pathlib import Path

from mobbet.actions.export_sources import is_inside
from mobbet.core.errors import BadInput

MOST_FILES, LARGEST, LARGEST_FILE, MOST_GROWTH = 250_000, 20_000_000_000, 500_000_000, 1000


def unpack(archive: Path, folder: Path) -> None:
    """Writes the files of an archive into a new folder; links and what would lie outside are refused. Raises BadInput."""
    try:
        with zipfile.ZipFile(archive) as packed:
            entries = [entry for entry in packed.infolist() if not entry.is_dir()]
            _check(entries)
            for entry in entries:
                _write(packed, entry, folder / entry.filename)
    except (zipfile.BadZipFile, OSError, NotImplementedError, RuntimeError, EOFError, ValueError) as error:
        raise BadInput(
            f"The zip file cannot be unpacked ({str(error)[:80]}); pack the folder again.", "file"
        ) from None


def _check(entries: list[zipfile.ZipInfo]) -> None:
    if len(entries) > MOST_FILES:
        raise BadInput(f"The zip file has {len(entries):,} files; {MOST_FILES:,} is the most.", "file")
    if sum(entry.file_size for entry in entries) > LARGEST:
        raise BadInput(
            f"The files of the zip file have more than {LARGEST // 1_000_000_000} GB; divide it.", "file"
        )
    for entry in entries:
        is_link = (entry.external_attr >> 16) & 0o170000 == 0o120000
        if is_link or not is_inside(entry.filename):
            raise BadInput(f"“{entry.filename[:80]}” leads out of the zip file; take it out.", "file")
        if entry.file_size > LARGEST_FILE or entry.file_size > MOST_GROWTH * max(entry.compress_size, 1024):
            raise BadInput(
                f"“{entry.filename[:80]}” is {entry.file_size:,} bytes packed in {entry.compress_size:,}; take it out.",
                "file",
            )


def _write(packed: zipfile.ZipFile, entry: zipfile.ZipInfo, file: Path) -> None:
    file.parent.mkdir(parents=True, exist_ok=True)
    left = entry.file_size
    with packed.open(entry) as source, file.open("wb") as out:
        while part := source.read(min(left + 1, 1 << 20)):
            left -= len(part)
            if left < 0:
                raise BadInput(f"“{entry.filename[:80]}” is larger than it says; take it out.", "file")
            out.write(part)
