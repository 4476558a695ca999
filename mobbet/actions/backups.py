"""Makes backups, checks them by restoring them, and restores them."""

from __future__ import annotations

import base64
import fcntl
import os
import shutil
import tempfile
import time
from collections.abc import Callable, Iterator
from contextlib import closing, contextmanager, suppress
from dataclasses import dataclass
from hashlib import file_digest
from pathlib import Path

from mobbet import __version__
from mobbet.actions import consistency
from mobbet.actions.backup_files import BackupFiles, parts_of
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.backups import Copy, Files, kept
from mobbet.core.errors import Broken, MobbetError, NotFound, Refused
from mobbet.core.places_outside import Allowed, Credentials, Place, check_apart
from mobbet.core.timing import iso
from mobbet.publish.targets.host import Host
from mobbet.publish.targets.opening import open_host
from mobbet.services.backup_sealing import Encrypted, Plain
from mobbet.store import backups, blogs, editions, media, static_search
from mobbet.store.database import Database
from mobbet.store.shelf import Shelf

LISTING = ".mobbet-backups.json"
DATABASE = "mobbet.db"
WORKING = ".backup-"
"""The prefix of a temporary folder, within the data folder, in which a backup is put together or checked."""
LEFT_BY_A_RESTORE = {"media", "pages", f"{DATABASE}.incoming", "sealing.key"}
"""What may lie in a data folder that a restore did not finish."""
OpenFolder = Callable[[Path], Workshop]


@dataclass(frozen=True)
class Made:
    """A copy that was made: what it holds, the bytes that were sent for it, and the seconds it took."""

    copy: Copy
    sent: int
    seconds: float


@dataclass(frozen=True)
class Checked:
    """What came of restoring a copy: the seconds it took, and what is not as it must be; '' for a sound one."""

    seconds: float
    problem: str


def make(workshop: Workshop, files: BackupFiles) -> Made:
    """Makes a consistent copy while others write: the database first, then the files that it names, which never change.

    Raises Broken where a file is missing or the place does not take it. `alone` keeps two backups of one folder apart.
    """
    began = time.monotonic()
    with folder_here(workshop.settings.data) as folder:
        snapshot = folder / DATABASE
        at = workshop.clock()  # before the copy: whatever was saved until then is in it
        workshop.db.copy_to(snapshot)
        there = files.objects()
        with snapshot.open("rb") as opened:
            digest = file_digest(opened, "sha256").hexdigest()
        size, parts = snapshot.stat().st_size, parts_of(snapshot)
        sent = files.put(parts, there)
        with closing(Database(snapshot)) as db:
            holds = tuple((blog.slug, blog.name, backups.post_count(db, blog.id)) for blog in blogs.every(db))
            shelves: dict[str, Files] = {}
            for shelf, sizes in (("media", _media(db)), ("pages", _pages(workshop, db))):
                shelves[shelf], more = files.put_files(getattr(workshop, shelf), sizes, there)
                sent += more
        key = _sealing_key(workshop) if files.is_encrypted else ""
        copy = Copy(at, __version__, size, digest, tuple(digest for digest, _ in parts), shelves, holds, key)
        files.add(copy)
    return Made(copy, sent, round(time.monotonic() - began, 2))


def restore(files: BackupFiles, instant: int | None, data: Path, key_file: Path) -> Copy:
    """Lays a copy down as a data folder: the newest one, or the newest until an instant. The database comes last, so that a
    restore that broke off can be run again.

    Raises Refused for a folder with other files, NotFound where there is no such copy, Broken for a damaged one.
    """
    _check_empty(data)
    instants = [one for one in files.copies() if instant is None or one <= instant]
    if not instants:
        raise NotFound(
            f"There is no copy until {iso(instant)}; mobbet backup --list tells which there are."
            if instant is not None
            else "There is no copy in this place."
        )
    copy = files.copy(instants[-1])
    data.mkdir(mode=0o700, parents=True, exist_ok=True)
    for shelf, of_it in copy.files.items():
        files.restore_files(of_it, Shelf(data / shelf))
    incoming = data / f"{DATABASE}.incoming"
    with incoming.open("wb") as out:
        out.writelines(files.get_all(copy.database_parts))
        out.flush()
        os.fsync(out.fileno())
    with incoming.open("rb") as opened:
        if file_digest(opened, "sha256").hexdigest() != copy.database_hash:
            raise Broken("The database in the backup is damaged; restore another copy.")
    if copy.sealing_key and not key_file.exists():
        key_file.parent.mkdir(parents=True, exist_ok=True)
        descriptor = os.open(key_file, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
        with os.fdopen(descriptor, "wb") as key:
            key.write(base64.b64decode(copy.sealing_key))
    os.replace(incoming, data / DATABASE)
    return copy


def after_restoring(workshop: Workshop) -> int:
    """Ends what may have happened since the copy was made, so that nothing goes out twice; how many letters were ended."""
    with changing(workshop):
        return backups.let_nothing_go_twice(workshop.db)


def check(workshop: Workshop, files: BackupFiles, instant: int, open_folder: OpenFolder) -> Checked:
    """Restores a copy into an empty place and checks all of it. Damaged objects are removed there, so that the next backup sends them again."""
    began = time.monotonic()
    try:
        with folder_here(workshop.settings.data) as folder:
            data = folder / "data"
            restore(files, instant, data, data / "sealing.key")
            seconds = time.monotonic() - began
            restored = open_folder(data)
            with closing(restored.db):
                problems = consistency.problems(restored)
    except MobbetError as error:
        with suppress(Broken):
            files.remove_damaged()
        return Checked(round(time.monotonic() - began, 2), str(error))
    return Checked(round(seconds, 2), " ".join(problems[:3]))


def remove_old(workshop: Workshop, files: BackupFiles, good: int | None) -> list[int]:
    """Removes the copies that the rule does not keep, but never the newest good one; the instants of those that went."""
    instants = files.copies()
    stay = kept(instants, workshop.clock()) | ({good} if good is not None else set())
    gone = [one for one in instants if one not in stay]
    files.remove_copies(gone)
    return gone


def open_place(
    place: Place, allowed: Allowed, credentials: Credentials, key: bytes | None, data: Path
) -> Opened:
    """A place that was judged. Raises NotAllowed for one in the data folder, Broken or Refused where it cannot be used."""
    check_apart(place, data)
    host = open_host(place, allowed, credentials, LISTING)
    try:
        return Opened(BackupFiles(host, Encrypted(key) if key else Plain()), host)
    except MobbetError:
        host.close()
        raise


@dataclass(frozen=True)
class Opened:
    """A place in use; as a context manager it closes the connection."""

    files: BackupFiles
    host: Host

    def __enter__(self) -> BackupFiles:
        return self.files

    def __exit__(self, *_: object) -> None:
        with suppress(Broken):
            self.host.close()


def _media(db: Database) -> dict[str, int]:
    return dict(media.hashes(db))


def _pages(workshop: Workshop, db: Database) -> dict[str, int]:
    """{hash: bytes} of the files of all editions, and of the indexes for readers' search, that lie on the shelf of pages."""
    named = {digest for shelf, digest in editions.hashes(db) if shelf == "pages"}
    return {digest: workshop.pages.size(digest) for digest in named | set(static_search.hashes(db))}


def _sealing_key(workshop: Workshop) -> str:
    file = workshop.settings.sealing_key
    return base64.b64encode(file.read_bytes()).decode() if file.exists() else ""


def _check_empty(data: Path) -> None:
    """Raises Refused where a folder holds anything but what a restore that broke off has left."""
    strange = {file.name for file in data.iterdir()} - LEFT_BY_A_RESTORE if data.is_dir() else set()
    if data.exists() and not data.is_dir():
        raise Refused(f"{data} is a file; name a new folder.")
    if strange:
        raise Refused(f"{data} is not empty ({sorted(strange)[0]}); name a new folder.")


@contextmanager
def alone(data: Path) -> Iterator[None]:
    """One backup at a time; the system takes the lock away from a process that dies."""
    with (data / "backup.lock").open("w") as file:
        try:
            fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            raise Refused("A backup is being made just now; try again when it is done.") from None
        yield


@contextmanager
def folder_here(data: Path) -> Iterator[Path]:
    """A folder of the data folder for a while; those that were left by processes that died are removed."""
    for left in data.glob(f"{WORKING}*"):
        shutil.rmtree(left, ignore_errors=True)
    with tempfile.TemporaryDirectory(dir=data, prefix=WORKING) as folder:
        yield Path(folder)
