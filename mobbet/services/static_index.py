"""Makes the index by which readers search where a site stands as files, with Pagefind."""

from __future__ import annotations

import asyncio
import tempfile
from collections.abc import Iterable
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from mobbet.core.errors import Broken
from mobbet.services.contracts import IndexedPage

SECONDS = 600
_LEFT_OUT = ("-ui.", "-highlight.", "playground")
"""In the names of what comes along for pages that are not ours."""


def make_index(pages: Iterable[IndexedPage], language: str) -> dict[str, bytes]:
    """{name: bytes} of the index of some pages, all in one part, whatever their languages. Raises Broken."""
    try:
        with ThreadPoolExecutor(1) as pool:  # since the thread that asks may run a loop of its own
            return pool.submit(lambda: asyncio.run(_in_time(pages, language))).result()
    except (OSError, TimeoutError, RuntimeError, AssertionError) as error:
        raise Broken(
            f"The index for readers’ search could not be made: {str(error)[:200] or 'it took too long'}."
        ) from error


async def _in_time(pages: Iterable[IndexedPage], language: str) -> dict[str, bytes]:
    return await asyncio.wait_for(_make(pages, language), SECONDS)


async def _make(pages: Iterable[IndexedPage], language: str) -> dict[str, bytes]:
    from pagefind.index import PagefindIndex

    with tempfile.TemporaryDirectory(prefix="mobbet-index-") as folder:
        async with PagefindIndex(
            config={"output_path": folder}
        ) as index:  # which is written there as it ends
            for page in pages:
                await index.add_custom_record(
                    url=page.path,
                    content=page.text,
                    language=language,
                    meta={"title": page.title},
                    filters={kind: list(names) for kind, names in page.subjects.items() if names},
                )
        files = sorted(path for path in Path(folder).rglob("*") if path.is_file())
        found = {path.relative_to(folder).as_posix(): path for path in files}
        return {
            name: path.read_bytes()
            for name, path in found.items()
            if not any(part in name for part in _LEFT_OUT)
        }
