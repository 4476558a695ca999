"""What a file really is, whatever its name says, and whether two formats hide in one."""

from __future__ import annotations

import re
import zipfile
from pathlib import Path
from typing import BinaryIO

from mobbet.core.errors import BadInput
from mobbet.core.media.kinds import ALL_WORDS, BY_ENDING, BY_TYPE, FILE, PICTURE, FileType, ending_of

HEAD = 4096
_SCRIPTS = re.compile(rb"<script|<\?php|<!doctype html|#!/(?:usr/)?bin/", re.IGNORECASE)
_BRANDS = {
    b"heic": "image/heic", b"heix": "image/heic", b"hevc": "image/heic", b"heim": "image/heic", b"heis": "image/heic", b"mif1": "image/heic",
    b"msf1": "image/heic", b"avif": "image/avif", b"avis": "image/avif", b"qt  ": "video/quicktime", b"M4A ": "audio/mp4", b"M4B ": "audio/mp4",
}  # fmt: skip
_STARTS: tuple[tuple[bytes, str], ...] = (
    (b"\xff\xd8\xff", "image/jpeg"),
    (b"\x89PNG\r\n\x1a\n", "image/png"),
    (b"GIF87a", "image/gif"),
    (b"GIF89a", "image/gif"),
    (b"\x1aE\xdf\xa3", "video/webm"),
    (b"OggS", "audio/ogg"),
    (b"fLaC", "audio/flac"),
    (b"ID3", "audio/mpeg"),
    (b"%PDF-", "application/pdf"),
    (b"PK\x03\x04", "application/zip"),
)
_SOUND_ALONE = {
    ("video/webm", "weba"): "audio/webm",
    ("video/mp4", "m4a"): "audio/mp4",
    ("video/mp4", "m4b"): "audio/mp4",
}
"""Containers of films that hold a sound alone, as browsers record it: told by the ending. Whatever else is in them, readers get the sound."""
MOST_UNPACKED = 1_000_000_000
MOST_RATIO = 200
MOST_MEMBERS = 10_000


def sniff(path: Path, name: str) -> FileType:
    """The row of the table that fits the file's bytes. Raises BadInput for what the library does not keep."""
    with path.open("rb") as file:
        head = file.read(HEAD)
        found = _type_of(head, name)
        if found is None:
            raise BadInput(f"“{name}” is nothing the library keeps; choose {ALL_WORDS}.", "file")
        row = BY_TYPE[found]
        if row.kind == PICTURE and row.type != "image/svg+xml":
            _refuse_doubles(file, path, name, row)
    if found == "application/zip":
        return _archive(path, name)
    return row


def _type_of(head: bytes, name: str) -> str | None:
    for start, type in _STARTS:
        if head.startswith(start):
            return _SOUND_ALONE.get((type, ending_of(name)), type)
    if head[:4] == b"RIFF":
        return {b"WEBP": "image/webp", b"WAVE": "audio/wav"}.get(head[8:12])
    if head[4:8] == b"ftyp":
        return _SOUND_ALONE.get((_brand(head), ending_of(name)), _brand(head))
    if len(head) > 1 and head[0] == 0xFF and head[1] & 0xE6 == 0xE2:  # a frame of MPEG audio, layer III
        return "audio/mpeg"
    if b"\x00" in head:
        return (
            "video/quicktime"
            if head[4:8] in (b"moov", b"mdat", b"wide", b"free") and ending_of(name) == "mov"
            else None
        )
    return _text_type(head, name)


def _brand(head: bytes) -> str:
    """The type that an ISO base media file names: its brand, or a compatible one."""
    size = int.from_bytes(head[:4], "big")
    brands = [head[8:12], *(head[at : at + 4] for at in range(16, min(size, len(head)), 4))]
    known = [_BRANDS[brand] for brand in brands if brand in _BRANDS]
    if brands[0] in (b"mif1", b"msf1") and "image/avif" in known:
        return "image/avif"
    return known[0] if known and (brands[0] in _BRANDS or known[0].startswith("image/")) else "video/mp4"


def _text_type(head: bytes, name: str) -> str | None:
    """SVG by what it begins with; other texts by their ending."""
    start = head.lstrip(b"\xef\xbb\xbf \t\r\n")
    if re.match(
        rb"(<\?xml[^>]*>\s*)?(<!--.*?-->\s*)*(<!DOCTYPE\s+svg[^>]*(\[.*?\])?\s*>\s*)?(<!--.*?-->\s*)*<([\w-]+:)?svg[\s>]",
        start,
        re.DOTALL | re.IGNORECASE,
    ):
        return "image/svg+xml"
    claimed = BY_ENDING.get(ending_of(name))
    if (
        claimed is None
        or claimed.kind != FILE
        or claimed.type.startswith("application/")
        and claimed.type != "application/gpx+xml"
    ):
        return None
    return None if _SCRIPTS.search(head) else claimed.type


def _refuse_doubles(file: BinaryIO, path: Path, name: str, row: FileType) -> None:
    """Raises BadInput for a picture in which an archive, a script or a page hides."""
    hidden = ""
    if zipfile.is_zipfile(path):
        hidden = "a ZIP archive"
    else:
        file.seek(0)
        before = b""
        while chunk := file.read(1 << 20):
            found = _SCRIPTS.search(before + chunk)
            if found or b"%PDF-1." in before + chunk:
                hidden = "a page or a script" if found else "a PDF"
                break
            before = chunk[-20:]
    if hidden:
        raise BadInput(
            f"“{name}” is {row.words} and holds {hidden} as well; export the picture again and try once more.",
            "file",
        )


def _archive(path: Path, name: str) -> FileType:
    """The type of a ZIP file by what it holds. Raises BadInput for a damaged one, and for one that unpacks to too much."""
    try:
        with zipfile.ZipFile(path) as archive:
            infos = archive.infolist()
            kind = (
                archive.read("mimetype")[:100].decode("ascii", "replace")
                if infos and infos[0].filename == "mimetype" and infos[0].file_size < 100
                else ""
            )
    except (zipfile.BadZipFile, OSError, ValueError, NotImplementedError, RuntimeError, EOFError):
        raise BadInput(f"“{name}” is no sound ZIP file; pack it again.", "file") from None
    unpacked, packed = sum(info.file_size for info in infos), max(1, path.stat().st_size)
    if (
        unpacked > MOST_UNPACKED
        or len(infos) > MOST_MEMBERS
        or (unpacked > 50_000_000 and unpacked > MOST_RATIO * packed)
    ):
        raise BadInput(
            f"“{name}” unpacks to {unpacked / 1_000_000:,.0f} MB in {len(infos):,} files, as archives do that are made to do harm; pack less into it.",
            "file",
        )
    if kind in BY_TYPE:
        return BY_TYPE[kind]
    names = {info.filename for info in infos}
    for part, ending in (
        ("word/document.xml", "docx"),
        ("xl/workbook.xml", "xlsx"),
        ("ppt/presentation.xml", "pptx"),
    ):
        if part in names:
            return BY_ENDING[ending]
    return BY_TYPE["application/zip"]
