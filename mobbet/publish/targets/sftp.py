"""A folder on another machine, by SFTP: `sftp://USER@HOST:PORT/PATH`, with the password or key and the host key that its owner gave."""

from __future__ import annotations

import asyncio
import hashlib
import posixpath
import threading
from collections.abc import Callable, Coroutine, Iterable
from typing import Any

import asyncssh

from mobbet.core.errors import Broken, Refused
from mobbet.core.places_outside import Allowed, Credentials, Place
from mobbet.publish.targets.host import File
from mobbet.services.connecting import machine, shell

AT_ONCE = 8
PATIENCE = 20
"""Seconds after which a machine that does not answer is given up."""
SENDING = ".sending"
"""How a file's name ends while it is on its way."""


class Sftp:
    """A connection to a machine; its host key must be among those that are known."""

    def __init__(self, place: Place, allowed: Allowed, credentials: Credentials) -> None:
        """Raises Refused without a way to sign in or to know the machine, BadInput for one inside the network that the operator did not name."""
        options = {
            "username": place.user,
            "known_hosts": _known(place, allowed, credentials),
            "host_key_alias": place.host,
            **_proof(place, allowed, credentials),
        }
        address = machine(place.host, place.port, place.host in allowed.machines)
        self._host, self._folder = place.host, place.path
        self._loop = (
            asyncio.new_event_loop()
        )  # in a thread of its own: whoever sends may be in a loop already
        self._thread = threading.Thread(target=self._loop.run_forever, name="sftp", daemon=True)
        self._thread.start()
        self._made: set[str] = set()
        try:
            self._connection = self._wait(
                shell(
                    address,
                    place.port,
                    connect_timeout=PATIENCE,
                    login_timeout=PATIENCE,
                    keepalive_interval=10,
                    **options,
                )
            )
            self._client = self._wait(self._connection.start_sftp_client())
        except Broken:
            self._end()
            raise

    def put(self, files: Iterable[File], done: Callable[[File], None]) -> None:
        self._wait(self._put_all(list(files), done))

    async def _put_all(self, files: list[File], done: Callable[[File], None]) -> None:
        gate = asyncio.Semaphore(AT_ONCE)

        async def one(file: File) -> None:
            async with gate:
                await self._put(file)
            done(file)

        work = [asyncio.ensure_future(one(file)) for file in files]
        try:
            await asyncio.gather(*work)
        finally:
            for task in work:
                task.cancel()
            await asyncio.gather(*work, return_exceptions=True)

    async def _put(self, file: File) -> None:
        path = posixpath.join(self._folder, file.name)
        folder = posixpath.dirname(path)
        if folder not in self._made:
            await self._client.makedirs(folder, exist_ok=True)
            self._made.add(folder)
        async with self._client.open(path + SENDING, "wb") as there:
            await there.write(file.read())
        await self._client.posix_rename(path + SENDING, path)

    def remove(self, names: Iterable[str]) -> None:
        self._wait(self._remove_all(list(names)))

    async def _remove_all(self, names: list[str]) -> None:
        for name in names:
            path = posixpath.join(self._folder, name)
            if await self._client.exists(path):
                await self._client.remove(path)
            folder = posixpath.dirname(path)
            while (
                folder != self._folder
                and await self._client.isdir(folder)
                and set(await self._client.listdir(folder)) <= {".", ".."}
            ):
                await self._client.rmdir(folder)
                self._made.discard(folder)
                folder = posixpath.dirname(folder)

    def fingerprints(self) -> dict[str, str]:
        found: dict[str, str] = self._wait(self._prints())
        return found

    async def _prints(self) -> dict[str, str]:
        return {name: self.fingerprint(await self._read(name)) for name in await self._names(self._folder)}

    def names(self, below: str) -> set[str]:
        return set(self._wait(self._names(posixpath.join(self._folder, below))))

    async def _names(self, folder: str) -> list[str]:
        found: list[str] = []
        if not await self._client.isdir(folder):
            return found
        async for entry in self._client.scandir(folder):
            name = str(entry.filename)
            path = posixpath.join(folder, name)
            if name in (".", "..") or name.endswith(SENDING):
                continue
            if entry.attrs.type == asyncssh.FILEXFER_TYPE_DIRECTORY:
                found += await self._names(path)
            else:
                found.append(posixpath.relpath(path, self._folder))
        return found

    async def _read(self, name: str) -> bytes:
        async with self._client.open(posixpath.join(self._folder, name), "rb") as there:
            body: bytes = await there.read()
            return body

    def read(self, name: str) -> bytes | None:
        async def read() -> bytes | None:
            try:
                return await self._read(name)
            except asyncssh.SFTPNoSuchFile:
                return None

        found: bytes | None = self._wait(read())
        return found

    def settle(self) -> None:
        pass

    def fingerprint(self, body: bytes) -> str:
        return hashlib.sha256(body).hexdigest()

    def finish(self, names: Iterable[str]) -> None:
        pass

    def close(self) -> None:
        self._connection.close()
        try:
            self._wait(self._connection.wait_closed())
        finally:
            self._end()

    def _end(self) -> None:
        self._loop.call_soon_threadsafe(self._loop.stop)
        self._thread.join(PATIENCE)
        self._loop.close()

    def _wait(self, work: Coroutine[Any, Any, Any]) -> Any:
        try:
            return asyncio.run_coroutine_threadsafe(_done(work), self._loop).result()
        except (TimeoutError, OSError, asyncssh.Error) as error:
            raise Broken(f"{self._host} did not take it ({_why(error)}).") from None


async def _done(work: Coroutine[Any, Any, Any]) -> Any:
    """What awaits it, as a coroutine; the client's own are of several kinds."""
    return await work


def _why(error: Exception) -> str:
    """The reason without anything that the machine sent."""
    known = {
        asyncssh.PermissionDenied: "it does not let this person in",
        asyncssh.HostKeyNotVerifiable: "its host key is another one",
        TimeoutError: "it does not answer",
    }
    return next((words for kind, words in known.items() if isinstance(error, kind)), type(error).__name__)


def _known(place: Place, allowed: Allowed, credentials: Credentials) -> asyncssh.SSHKnownHosts:
    """The host keys that a machine may have: the one its owner gave, or those of a list in the operator's folder."""
    if credentials.host_key:
        return asyncssh.import_known_hosts(f"{place.host} {credentials.host_key}\n")
    name = place.known_hosts or "known_hosts"
    text = _file_of(allowed, name)
    if text is None:
        raise Refused(
            f"The host key of {place.host} is not known; paste its public key, as ssh-keyscan prints it."
        )
    return asyncssh.import_known_hosts(text)


def _proof(place: Place, allowed: Allowed, credentials: Credentials) -> dict[str, Any]:
    """What lets Mobbet in: a key of the operator's folder, or the private key or the password that its owner gave."""
    text = _file_of(allowed, place.key) if place.key else credentials.secret
    if not text:
        raise Refused(
            f"{place.host} asks for a password or a private key; type one."
            if not place.key
            else f"There is no key “{place.key}” in the operator’s folder of keys."
        )
    if "PRIVATE KEY" not in text[:100]:
        return {"password": text.strip(), "client_keys": None}
    try:
        return {"client_keys": [asyncssh.import_private_key(text)]}
    except (asyncssh.KeyImportError, ValueError):
        raise Refused("The private key cannot be read; paste it whole, without a passphrase on it.") from None


def _file_of(allowed: Allowed, name: str) -> str | None:
    """The text of a file of the operator's folder; None where there is none."""
    if allowed.keys is None:
        return None
    try:
        return (allowed.keys / name).read_text()
    except (OSError, UnicodeDecodeError):
        return None
