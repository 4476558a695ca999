"""The files of backups at a place: content-addressed objects, and one file for each copy.

`mobbet-backup.json` says whose they are, `copies/20261201T160000Z` is a copy, `objects/ab/ab…` what copies share.
"""

from __future__ import annotations

import json
import zlib
from collections.abc import Callable, Iterable, Iterator
from concurrent.futures import ThreadPoolExecutor
from functools import partial
from hashlib import sha256
from pathlib import Path

from mobbet.core.backups import Copy, Files, instant_of, name_of, read_copy
from mobbet.core.errors import Broken, Refused
from mobbet.publish.targets.host import File, Host
from mobbet.services.backup_sealing import Sealing
from mobbet.store.shelf import Shelf

MARK = "mobbet-backup.json"
PART = 8 * 1024 * 1024
"""The most bytes of a file in one object."""
DATABASE_PART = 1024 * 1024
"""Smaller, so that little of the database travels when little of it changed."""
FILES_IN_A_LIST = 4096
"""Where a shelf has more files, there is a list for each of the first two digits of their hashes."""
AT_ONCE = 8
TRIED = 32 * 1024
TYPE = "application/octet-stream"


class BackupFiles:
    """What lies at a place. Raises Refused where it holds backups under another key, Broken where it does not answer."""

    def __init__(self, host: Host, sealing: Sealing) -> None:
        self._host, self._sealing = host, sealing
        mark = host.read(MARK)
        if mark is None:
            return
        try:
            there = json.loads(mark)["key"]
        except (ValueError, KeyError, TypeError):
            raise Broken(f"{MARK} at this place is damaged; name another place.") from None
        if there != sealing.fingerprint:
            raise Refused(
                "The backups there are encrypted; give their key."
                if not sealing.fingerprint
                else "The backups there are encrypted with another key; give that one."
                if there
                else "The backups there are not encrypted; leave the key out, or name another place."
            )

    @property
    def is_encrypted(self) -> bool:
        return bool(self._sealing.fingerprint)

    def begin(self) -> None:
        """Marks the place as one of backups."""
        if self._host.read(MARK) is None:
            self._send([(MARK, json.dumps({"format": 1, "key": self._sealing.fingerprint}).encode())])

    def copies(self) -> list[int]:
        """The instants of the copies there, the oldest first."""
        names = (name.rpartition("/")[2] for name in self._host.names("copies"))
        return sorted(instant for name in names if (instant := instant_of(name)) is not None)

    def copy(self, instant: int) -> Copy:
        """Raises Broken for one that cannot be read."""
        name = _copy_at(instant)
        body = self._host.read(name)
        if body is None:
            raise Broken(f"{name} is not in the backup any more.")
        return read_copy(self._sealing.open(name, body))

    def add(self, copy: Copy) -> None:
        """Writes a copy, once all that it names is there and safe."""
        self.begin()
        self._host.settle()
        name = _copy_at(copy.at)
        self._send([(name, self._sealing.seal(name, copy.written()))])
        self._host.settle()

    def objects(self) -> set[str]:
        """The names of all objects there."""
        return {name.rpartition("/")[2] for name in self._host.names("objects")}

    def put(self, bodies: Iterable[tuple[str, Callable[[], bytes]]], there: set[str]) -> int:
        """Sends the bodies, by content hash, that are not there; answers the bytes that went, and adds the names to `there`."""
        sent = 0
        files = []

        def read(name: str, body: Callable[[], bytes]) -> bytes:
            nonlocal sent
            sealed = self._sealing.seal(name, _compressed(body()))
            sent += len(sealed)
            return sealed

        for digest, body in bodies:
            name = self._sealing.name(digest)
            if name not in there:
                there.add(name)
                files.append(File(_object_at(name), TYPE, "", "", partial(read, name, body)))
        self._host.put(files, lambda file: None)
        return sent

    def get(self, digest: str) -> bytes:
        """The body with that content hash. Raises Broken where it is missing or damaged."""
        name = self._sealing.name(digest)
        sealed = self._host.read(_object_at(name))
        if sealed is None:
            raise Broken(f"{name} is missing in the backup; restore another copy.")
        return _decompressed(self._sealing.open(name, sealed))

    def get_all(self, digests: Iterable[str]) -> Iterator[bytes]:
        """The bodies in that order, several on their way at once."""
        with ThreadPoolExecutor(AT_ONCE) as pool:
            digests = list(digests)
            for at in range(0, len(digests), AT_ONCE):
                yield from pool.map(self.get, digests[at : at + AT_ONCE])

    def put_files(self, shelf: Shelf, sizes: dict[str, int], there: set[str]) -> tuple[Files, int]:
        """Sends the files of a shelf, and the lists that name them; what a copy says of them, and the bytes that went."""
        parts = (part for digest in sorted(sizes) for part in _parts(shelf, digest, sizes[digest]))
        sent = self.put(parts, there)
        lists = [
            "".join(f"{digest} {sizes[digest]}\n" for digest in digests).encode()
            for digests in _divided(sorted(sizes))
        ]
        named = [(sha256(body).hexdigest(), body) for body in lists]
        sent += self.put(((digest, partial(bytes, body)) for digest, body in named), there)
        return Files(len(sizes), sum(sizes.values()), tuple(digest for digest, _ in named)), sent

    def sizes(self, files: Files) -> dict[str, int]:
        """{hash: bytes} of the files that a copy has of a shelf."""
        lines = (line.split() for body in self.get_all(files.lists) for line in body.decode().splitlines())
        return {digest: int(size) for digest, size in lines}

    def restore_files(self, files: Files, shelf: Shelf) -> None:
        """Lays the files of a copy down on a shelf. Raises Broken where one is not what its hash says."""
        sizes = self.sizes(files)
        small = [digest for digest, size in sizes.items() if size <= PART and not shelf.has(digest)]
        new: list[Path] = []
        for digest, body in zip(small, self.get_all(small), strict=True):
            new += _laid(shelf.put(body), digest)
        for digest, size in sizes.items():
            if size > PART and not shelf.has(digest):
                with shelf.incoming() as incoming:
                    with incoming.open("wb") as out:
                        out.writelines(self.get_all(_part_names(digest, size)))
                    new += _laid(shelf.take(incoming), digest)
        shelf.sync(new)

    def remove_copies(self, instants: Iterable[int]) -> None:
        """Removes copies, and then every object that no copy names any more; none while a copy is damaged, since it is not known what it names."""
        gone = list(instants)
        if not gone:
            return
        self._host.remove([_copy_at(one) for one in gone])
        try:
            used = {
                self._sealing.name(digest)
                for one in self.copies()
                for digest in self._named_by(self.copy(one))
            }
        except Broken:
            return
        self._host.remove([_object_at(name) for name in sorted(self.objects() - used)])

    def remove_damaged(self) -> int:
        """Removes the objects that are not what they were, so that the next backup sends them again; how many."""
        damaged = [name for name in sorted(self.objects()) if self._is_damaged(name)]
        self._host.remove([_object_at(name) for name in damaged])
        return len(damaged)

    def _is_damaged(self, name: str) -> bool:
        sealed = self._host.read(_object_at(name))
        try:
            self._sealing.open(name, sealed or b"")
        except Broken:
            return True
        return False

    def _named_by(self, copy: Copy) -> Iterator[str]:
        yield from copy.database_parts
        for files in copy.files.values():
            yield from files.lists
            for digest, size in self.sizes(files).items():
                yield from _part_names(digest, size)

    def _send(self, bodies: Iterable[tuple[str, bytes]]) -> None:
        self._host.put(
            [File(name, TYPE, "", "", partial(bytes, body)) for name, body in bodies], lambda file: None
        )


def parts_of(file: Path) -> list[tuple[str, Callable[[], bytes]]]:
    """The parts of a database by content hash, each read when it is sent."""

    def read(at: int) -> bytes:
        with file.open("rb") as opened:
            opened.seek(at)
            return opened.read(DATABASE_PART)

    return [
        (sha256(read(at)).hexdigest(), partial(read, at))
        for at in range(0, file.stat().st_size, DATABASE_PART)
    ]


def _copy_at(instant: int) -> str:
    return f"copies/{name_of(instant)}"


def _object_at(name: str) -> str:
    return f"objects/{name[:2]}/{name}"


def _part_names(digest: str, size: int) -> list[str]:
    """The content hashes of the objects of a file: its own, or one for each part, which follow from its own, so that a large file is not read again."""
    if size <= PART:
        return [digest]
    return [sha256(f"{digest}:{at}".encode()).hexdigest() for at in range(0, size, PART)]


def _parts(shelf: Shelf, digest: str, size: int) -> Iterator[tuple[str, Callable[[], bytes]]]:
    for index, name in enumerate(_part_names(digest, size)):
        yield name, partial(shelf.part, digest, index * PART, PART)


def _divided(digests: list[str]) -> list[list[str]]:
    if len(digests) <= FILES_IN_A_LIST:
        return [digests]
    groups: dict[str, list[str]] = {}
    for digest in digests:
        groups.setdefault(digest[:2], []).append(digest)
    return list(groups.values())


def _laid(laid: tuple[str, list[Path]], digest: str) -> list[Path]:
    found, new = laid
    if found != digest:
        raise Broken(f"The file {digest} in the backup is damaged; restore another copy.")
    return new


def _compressed(body: bytes) -> bytes:
    """A body with the letter that says whether it is compressed; what would not become much smaller is not."""
    if len(zlib.compress(body[:TRIED], 1)) < len(body[:TRIED]) * 0.9:
        return b"z" + zlib.compress(body, 6)
    return b"p" + body


def _decompressed(body: bytes) -> bytes:
    return zlib.decompress(body[1:]) if body[:1] == b"z" else body[1:]
