"""Where the posts of an older site lie: a feed, a table, a folder of Markdown or of HTML pages; and the pictures beside them."""

from __future__ import annotations

import os
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from pathlib import Path
from urllib.parse import unquote

from mobbet.actions import export_posts
from mobbet.actions.crawling import crawl
from mobbet.actions.export_sources import open_tree
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput, MobbetError
from mobbet.core.importing.feeds import read_feed
from mobbet.core.importing.front_matter import read_markdown_file
from mobbet.core.importing.html_pages import read_page
from mobbet.core.importing.item import Item, NotRead, Reply
from mobbet.core.importing.opml import read_opml
from mobbet.core.importing.tables import read_table
from mobbet.core.web_addresses import join_address, split_address

FEEDS, FOLDERS = ("atom", "rss", "jsonfeed"), ("markdown", "html")
KINDS = (*FEEDS, *FOLDERS, "csv", "opml")
ENDINGS = {"markdown": (".md", ".markdown", ".mdown"), "html": (".html", ".htm", ".xhtml")}
LARGEST, LARGEST_PAGE, LARGEST_PICTURE = 100_000_000, 5_000_000, 50_000_000
MOST_FEED_PAGES, MOST_FILES = 1000, 200_000
SECONDS = 20.0
MOST_FAILURES = 3
"""After so many failures a host is asked for no more pictures."""
Bring = Callable[[Item, str], bytes | None]
"""Answers with the bytes of a picture of a post by its `src`; None where there is none."""


@dataclass(frozen=True)
class Source:
    """The posts of a source, in its order, and what brings their pictures."""

    items: Iterator[Item | NotRead | Reply]
    bring: Bring


def open_source(workshop: Workshop, kind: str, name: str, meant: Mapping[str, str] = {}) -> Source:  # noqa: B006
    """A source by its kind, and a path or an address; `meant` says what fields are that Mobbet does not know. Raises BadInput for what cannot be read at all."""
    if kind not in KINDS:
        raise BadInput(f"“{kind[:40]}” is no kind of source; choose one of {', '.join(KINDS)}.", "from")
    web = _Web(workshop)
    if kind in FEEDS:
        return Source(_feed(workshop, name), web.bring)
    path = Path(name)
    if kind == "html" and name.startswith(("http://", "https://")):
        return Source(crawl(workshop, name), web.bring)
    if "://" in name:
        raise BadInput(
            f"“{name[:80]}” is an address; name a folder or a file of this machine for {kind}.", "source"
        )
    if kind == "opml":
        return Source(
            iter(
                [workshop.services.heavy(read_opml, _bytes(path), path.name, seconds=30.0, what="The list")]
            ),
            web.bring,
        )
    if kind == "csv":
        text = _bytes(path).decode("utf-8", errors="replace")
        return Source(
            iter(workshop.services.heavy(read_table, text, seconds=120.0, what="The table")), web.bring
        )
    if not path.is_dir():
        raise BadInput(f"“{name[:80]}” is no folder; name the one that the {kind} files are in.", "source")
    return Source(_folder(workshop, kind, path.resolve(), meant), _beside(path.resolve(), web.bring))


def _feed(workshop: Workshop, name: str) -> Iterator[Item | NotRead | Reply]:
    """The entries of a feed and of the older pages that it leads to, each page once."""
    address, seen = name, set[str]()
    while address and address not in seen and len(seen) < MOST_FEED_PAGES:
        seen.add(address)
        is_web = address.startswith(("http://", "https://"))
        data = workshop.services.fetch(address, LARGEST).body if is_web else _bytes(Path(address))
        feed = workshop.services.heavy(
            read_feed, data, address if is_web else "", seconds=60.0, what="The feed"
        )
        yield from feed.items
        address = feed.older if is_web and feed.older.startswith(("http://", "https://")) else ""


def open_export(name: str) -> Source:
    """The posts of an export, by the path of its folder or zip file, for a blog that has posts of its own. Raises BadInput."""
    tree = open_tree(Path(name))
    return Source(export_posts.items(tree), lambda item, src: export_posts.bring(tree, src))


def count_of(kind: str, name: str) -> int:
    """How many posts a source has at most; 0 where only reading it tells."""
    return len(_files(kind, Path(name))) if kind in FOLDERS and Path(name).is_dir() else 0


def _files(kind: str, folder: Path) -> list[Path]:
    """The files of a kind in a folder, in order, and one more than there may be at most; hidden ones are none."""
    found: list[Path] = []
    for where, folders, names in os.walk(folder, followlinks=False):
        folders[:] = sorted(name for name in folders if not name.startswith("."))
        for name in sorted(names):
            if not name.startswith(".") and Path(name).suffix.lower() in ENDINGS[kind]:
                found.append(Path(where, name))
                if len(found) > MOST_FILES:
                    return found
    return sorted(found)


def _folder(
    workshop: Workshop, kind: str, folder: Path, meant: Mapping[str, str]
) -> Iterator[Item | NotRead]:
    """The files of a folder and of those in it, by name; nothing that a link leads to outside it."""
    files = _files(kind, folder)
    for number, file in enumerate(files):
        path = file.relative_to(folder).as_posix()
        if number >= MOST_FILES:
            yield NotRead(path, f"a folder may have {MOST_FILES:,} files; bring the rest in by itself")
            return
        try:
            if not file.resolve().is_relative_to(folder):
                yield NotRead(path, "it leads out of the folder")
            elif not file.is_file() or file.stat().st_size > LARGEST_PAGE:
                yield NotRead(path, f"it is larger than {LARGEST_PAGE // 1_000_000} MB")
            elif kind == "html":
                yield workshop.services.heavy(
                    read_page, file.read_bytes(), path, seconds=SECONDS, what="The page"
                )
            else:
                text = file.read_bytes().decode("utf-8", errors="replace")
                yield workshop.services.heavy(
                    read_markdown_file, text, path, dict(meant), seconds=SECONDS, what="The file"
                )
        except MobbetError as error:
            yield NotRead(path, str(error))
        except OSError as error:
            yield NotRead(path, f"it cannot be read ({error.strerror})")


def _bytes(file: Path) -> bytes:
    try:
        if file.stat().st_size > LARGEST:
            raise BadInput(f"{file} is larger than {LARGEST // 1_000_000} MB; divide it.", "source")
        return file.read_bytes()
    except OSError as error:
        raise BadInput(
            f"{file} cannot be read ({error.strerror}); check its name and rights.", "source"
        ) from None


def _beside(folder: Path, elsewhere: Bring) -> Bring:
    """Pictures of a folder: beside the text, or from the folder's top where the address begins with a slash."""

    def bring(item: Item, src: str) -> bytes | None:
        parts = split_address(src)
        if parts.scheme in ("http", "https") or parts.netloc:
            return elsewhere(item, src)
        path = unquote(parts.path)
        below = Path(path.lstrip("/")) if path.startswith("/") else Path(item.base).parent / path
        try:
            file = (folder / below).resolve()
            if not file.is_relative_to(folder) or not file.is_file() or file.stat().st_size > LARGEST_PICTURE:
                return None
            return file.read_bytes()
        except (OSError, ValueError):  # a name that no file can have
            return None

    return bring


class _Web:
    """Brings pictures from public addresses; a host that fails often is left alone."""

    def __init__(self, workshop: Workshop) -> None:
        self._workshop = workshop
        self._failures: dict[str, int] = {}

    def bring(self, item: Item, src: str) -> bytes | None:
        address = join_address(item.base, src)
        host = split_address(address).netloc
        if not address.startswith(("http://", "https://")) or self._failures.get(host, 0) >= MOST_FAILURES:
            return None
        try:
            body: bytes = self._workshop.services.fetch(address, LARGEST_PICTURE).body
        except MobbetError:
            self._failures[host] = self._failures.get(host, 0) + 1
            return None
        self._failures.pop(host, None)
        return body
