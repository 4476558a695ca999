"""Caches compiled templates beside their sources, as Python does with modules."""

from __future__ import annotations

from contextlib import suppress
from pathlib import Path

from jinja2.bccache import Bucket, FileSystemBytecodeCache


class BesideTemplates(FileSystemBytecodeCache):
    """The cache of a folder of templates; where the folder cannot be written to, each process compiles for itself."""

    def __init__(self, templates: Path) -> None:
        folder = templates / "__pycache__"
        with suppress(OSError):
            folder.mkdir(exist_ok=True)
        super().__init__(str(folder))

    def load_bytecode(self, bucket: Bucket) -> None:
        with suppress(OSError):
            super().load_bytecode(bucket)

    def dump_bytecode(self, bucket: Bucket) -> None:
        with suppress(OSError):
            super().dump_bytecode(bucket)
