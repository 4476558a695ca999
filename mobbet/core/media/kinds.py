"""The kinds of files a library keeps: their endings, their types, and how large they may be."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import PurePosixPath

from mobbet.core.errors import BadInput

PICTURE, SOUND, VIDEO, FILE = "picture", "sound", "video", "file"


@dataclass(frozen=True)
class FileType:
    """One row: the MIME type a file is kept under, its kind, the name people call it, its endings."""

    type: str
    kind: str
    words: str
    endings: tuple[str, ...]


TYPES: tuple[FileType, ...] = (
    FileType("image/jpeg", PICTURE, "JPEG", ("jpg", "jpeg", "jpe", "jfif")),
    FileType("image/png", PICTURE, "PNG", ("png",)),
    FileType("image/webp", PICTURE, "WebP", ("webp",)),
    FileType("image/avif", PICTURE, "AVIF", ("avif",)),
    FileType("image/gif", PICTURE, "GIF", ("gif",)),
    FileType("image/heic", PICTURE, "HEIC", ("heic", "heif", "hif")),
    FileType("image/svg+xml", PICTURE, "SVG", ("svg",)),
    FileType("audio/mpeg", SOUND, "MP3", ("mp3",)),
    FileType("audio/mp4", SOUND, "M4A", ("m4a", "m4b")),
    FileType("audio/webm", SOUND, "WebM sound", ("weba",)),
    FileType("audio/ogg", SOUND, "Ogg", ("ogg", "oga", "opus")),
    FileType("audio/wav", SOUND, "WAV", ("wav",)),
    FileType("audio/flac", SOUND, "FLAC", ("flac",)),
    FileType("video/mp4", VIDEO, "MP4", ("mp4", "m4v")),
    FileType("video/webm", VIDEO, "WebM", ("webm",)),
    FileType("video/quicktime", VIDEO, "MOV", ("mov", "qt")),
    FileType("application/pdf", FILE, "PDF", ("pdf",)),
    FileType("application/zip", FILE, "ZIP", ("zip",)),
    FileType("application/epub+zip", FILE, "EPUB", ("epub",)),
    FileType(
        "application/vnd.openxmlformats-officedocument.wordprocessingml.document", FILE, "DOCX", ("docx",)
    ),
    FileType("application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", FILE, "XLSX", ("xlsx",)),
    FileType(
        "application/vnd.openxmlformats-officedocument.presentationml.presentation", FILE, "PPTX", ("pptx",)
    ),
    FileType("application/vnd.oasis.opendocument.text", FILE, "ODT", ("odt",)),
    FileType("application/vnd.oasis.opendocument.spreadsheet", FILE, "ODS", ("ods",)),
    FileType("application/vnd.oasis.opendocument.presentation", FILE, "ODP", ("odp",)),
    FileType("text/plain", FILE, "text", ("txt", "text", "md", "srt", "vtt")),
    FileType("text/csv", FILE, "CSV", ("csv", "tsv")),
    FileType("text/calendar", FILE, "iCalendar", ("ics",)),
    FileType("application/gpx+xml", FILE, "GPX", ("gpx",)),
)
BY_TYPE = {row.type: row for row in TYPES}
BY_ENDING = {ending: row for row in TYPES for ending in row.endings}
ENDING = {row.type: row.endings[0] for row in TYPES} | {"text/vtt": "vtt"}
"""The ending of a public copy's address, by its type."""

ALL_WORDS = "a picture (JPEG, PNG, WebP, AVIF, GIF, HEIC, SVG), a sound (MP3, M4A, Ogg, Opus, WAV, FLAC), a video (MP4, WebM, MOV), or a PDF, office file, text or ZIP"


@dataclass(frozen=True)
class Limits:
    """How large a file may be: pictures in megabytes and megapixels, everything else in megabytes."""

    picture_megabytes: int = 50
    megapixels: int = 50
    file_megabytes: int = 500

    def bytes_of(self, kind: str) -> int:
        return (self.picture_megabytes if kind == PICTURE else self.file_megabytes) * 1_000_000

    @property
    def words(self) -> str:
        return f"Pictures up to {self.picture_megabytes} MB and {self.megapixels} megapixels; sound, video and other files up to {self.file_megabytes} MB."


def clean_name(name: str) -> str:
    """A file's own name, without its folder and unprintable letters, at most 120 letters."""
    bare = name.replace("\\", "/").rsplit("/", 1)[-1]
    bare = "".join(letter for letter in bare if letter.isprintable()).strip(" .")
    if len(bare) > 120:
        stem, dot, ending = bare.rpartition(".")
        bare = (stem[: 119 - len(ending)] + dot + ending) if dot and len(ending) < 10 else bare[:120]
    return bare or "file"


def ending_of(name: str) -> str:
    return PurePosixPath(name).suffix[1:].lower()


def refuse_size(name: str, size: int, kind: str, limits: Limits) -> None:
    """Raises BadInput when a file of that many bytes is larger than its kind may be."""
    if size > limits.bytes_of(kind):
        raise BadInput(
            f"“{name}” has {size / 1_000_000:,.0f} MB, more than {limits.bytes_of(kind) // 1_000_000} MB; make it smaller and try again.",
            "file",
        )
    if size == 0:
        raise BadInput(f"“{name}” is empty; check the file and try again.", "file")


def refuse_pixels(name: str, width: int, height: int, limits: Limits) -> None:
    """Raises BadInput when a picture has more pixels than it may have."""
    if width * height > limits.megapixels * 1_000_000:
        megapixels = width * height / 1_000_000
        raise BadInput(
            f"“{name}” has {width:,} × {height:,} pixels ({megapixels:,.0f} megapixels), more than {limits.megapixels}; make it smaller and try again.",
            "file",
        )


def refuse_ending(name: str, row: FileType) -> None:
    """Raises BadInput when a name ends as if the file were of another type."""
    ending = ending_of(name)
    claimed = BY_ENDING.get(ending)
    if claimed is None or claimed is row or {claimed.type, row.type} in _ALIKE:
        return
    raise BadInput(
        f"“{name}” ends in .{ending} but is {_article(row.words)} {row.words} file; rename it to .{row.endings[0]} and try again.",
        "file",
    )


_ALIKE = ({"video/mp4", "video/quicktime"}, {"video/mp4", "audio/mp4"}, {"text/plain", "text/csv"})
"""Types whose files are so alike that either ending is right."""


def _article(words: str) -> str:
    return "an" if words[0] in "AEFHILMNORSX" and words.isupper() or words[0] in "AEIOUaeio" else "a"


def with_ending(name: str, row: FileType) -> str:
    """The name with an ending that fits the type."""
    claimed = BY_ENDING.get(ending_of(name))
    if claimed is row:
        return name
    stem = name.rpartition(".")[0] if claimed or len(ending_of(name)) in (3, 4) else name
    return f"{stem or name}.{row.endings[0]}"
