"""A folder on another machine, by SFTP: `sftp://USER@HOST:PORT/PATH?key=FILE&known-hosts=FILE`."""

from __future__ import annotations

import asyncio
import hashlib
import posixpath
import threading
from collections.abc import Callable, Coroutine, Iterable
from typing import Any
from urllib.parse import parse_qs, urlsplit

import asyncssh

from mobbet.core.errors import Broken
from mobbet.publish.targets.host import File, password_of

AT_ONCE = 8
PATIENCE = 20
"""Seconds after which a machine that does not answer is given up."""
SENDING = ".sending"
"""How a file's name ends while it is on its way."""


class Sftp:
    """A connection to a machine; its host key must be among those that are known."""

    def __init__(self, address: str) -> None:
        parts = urlsplit(address)
        asked = {name: values[0] for name, values in parse_qs(parts.query).items()}
        self._host, self._folder = parts.hostname or "", parts.path or "."
        self._loop = asyncio.new_event_loop()  # in a thread of its own: whoever sends may be in a loop already
        self._thread = threading.Thread(target=self._loop.run_forever, name="sftp", daemon=True)
        self._thread.start()
        self._made: set[str] = set()
        known = {"known_hosts": asked["known-hosts"]} if "known-hosts" in asked else {}
        keys = {"client_keys": [asked["key"]]} if "key" in asked else {}
        try:
            self._connection = self._wait(
                asyncssh.connect(
                    parts.hostname, parts.port or 22, username=parts.username, password=password_of(address), connect_timeout=PATIENCE,
                    login_timeout=PATIENCE, keepalive_interval=10, **known, **keys,
                )
            )  # fmt: skip
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
            while folder != self._folder and await self._client.isdir(folder) and set(await self._client.listdir(folder)) <= {".", ".."}:
                await self._client.rmdir(folder)
                self._made.discard(folder)
                folder = posixpath.dirname(folder)

    def fingerprints(self) -> dict[str, str]:
        return self._wait(self._look(self._folder))

    async def _look(self, folder: str) -> dict[str, str]:
        found: dict[str, str] = {}
        if not await self._client.isdir(folder):
            return found
        async for entry in self._client.scandir(folder):
            name = str(entry.filename)
            path = posixpath.join(folder, name)
            if name in (".", "..") or name.endswith(SENDING):
                continue
            if entry.attrs.type == asyncssh.FILEXFER_TYPE_DIRECTORY:
                found.update(await self._look(path))
            else:
                async with self._client.open(path, "rb") as there:
                    found[posixpath.relpath(path, self._folder)] = self.fingerprint(await there.read())
        return found

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
        except (OSError, asyncssh.Error, asyncio.TimeoutError) as error:
            raise Broken(f"{self._host} did not take it ({error or 'it does not answer'}).") from None


async def _done(work: Coroutine[Any, Any, Any]) -> Any:
    """What awaits it, as a coroutine; the client's own are of several kinds."""
    return await work
