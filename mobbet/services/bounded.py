"""Runs a function over untrusted input in a process of its own, with limits of time and memory.

What takes a parser long, or a lot of memory, takes it from nobody else: the process is ended and the input refused. Run as
`python -m mobbet.services.bounded` this module is the process itself: it reads calls from its standard input and writes answers
to its standard output, both as pickles with their length before them.
"""

from __future__ import annotations

import os
import pickle
import resource
import select
import struct
import subprocess
import sys
import threading
import time
import traceback
from collections.abc import Callable
from contextlib import suppress
from importlib import import_module
from typing import Any, BinaryIO, cast

from mobbet.core.errors import MobbetError, TooMuch
from mobbet.core.values import existing

PROCESSES = 2
MEMORY = 1_500_000_000
"""In bytes of addresses, which are more than the memory in use."""
NICER = 5
STARTING = 30.0
WAITING = 15.0
"""In seconds: how long a process may take to start, and how long a call waits for one that is free."""
_LENGTH = struct.Struct(">Q")


class Bounded:
    """Calls functions of modules (never lambdas) in processes that are started when they are first needed."""

    def __init__(self, processes: int = PROCESSES) -> None:
        self._free = threading.Semaphore(processes)
        self._idle: list[_Process] = []
        self._lock = threading.Lock()

    def __call__(self, function: Callable[..., Any], *args: Any, seconds: float, what: str) -> Any:
        """What the function answers or raises. Raises TooMuch, saying `what`, where it takes longer, or more memory, than it may; RuntimeError, with the trace, for a fault of the function."""
        if not self._free.acquire(timeout=WAITING):
            raise TooMuch("Too many people bring something in just now; try again in a minute.")
        try:
            process = self._take()
            try:
                answer = process.call(function, args, seconds)
            except TimeoutError:
                process.end()
                raise TooMuch(
                    f"{what} takes more than {seconds:g} seconds to read; make it smaller, or bring it in in parts."
                ) from None
            except (EOFError, OSError, MemoryError):
                process.end()
                raise TooMuch(
                    f"{what} takes more memory to read than there is for it; make it smaller, or bring it in in parts."
                ) from None
            with self._lock:
                self._idle.append(process)
        finally:
            self._free.release()
        kind, value = answer
        if kind == "raised":
            raise _made_again(*value)
        if kind == "failed":
            raise RuntimeError(value)
        return value

    def close(self) -> None:
        with self._lock:
            while self._idle:
                self._idle.pop().end()

    def _take(self) -> _Process:
        with self._lock:
            while self._idle:
                process = self._idle.pop()
                if process.is_alive():
                    return process
        process = _Process()
        try:
            process.wait_until_ready()
        except (TimeoutError, EOFError):
            process.end()
            raise TooMuch("This machine has too much to do just now; try again in a minute.") from None
        return process


class _Process:
    def __init__(self) -> None:
        environment = {**os.environ, "PYTHONPATH": os.pathsep.join(filter(None, sys.path))}
        self._process = subprocess.Popen(
            [sys.executable, "-m", __name__],
            stdin=subprocess.PIPE,
            stdout=subprocess.PIPE,
            stderr=subprocess.DEVNULL,
            env=environment,
        )

    def wait_until_ready(self) -> None:
        """Raises TimeoutError, and EOFError where it does not start."""
        self._read(STARTING)

    def is_alive(self) -> bool:
        return self._process.poll() is None

    def call(self, function: Callable[..., Any], args: tuple, seconds: float) -> tuple[str, Any]:
        _write(cast(BinaryIO, self._process.stdin), (function.__module__, function.__qualname__, args))
        return self._read(seconds)

    def _read(self, seconds: float) -> Any:
        """The next answer. Raises TimeoutError, and EOFError where the process ended."""
        until, descriptor = time.monotonic() + seconds, existing(self._process.stdout).fileno()
        waiter = select.poll()  # not `select.select`, which refuses descriptors from 1024 on
        waiter.register(descriptor, select.POLLIN)
        data = bytearray()
        wanted = _LENGTH.size
        while len(data) < wanted:
            if not waiter.poll(1000 * max(0.0, until - time.monotonic())):
                raise TimeoutError
            chunk = os.read(descriptor, min(1 << 20, wanted - len(data)))
            if not chunk:
                raise EOFError
            data += chunk
            if len(data) == wanted == _LENGTH.size:
                wanted += _LENGTH.unpack(data)[0]
        return pickle.loads(data[_LENGTH.size :])  # noqa: S301  our own process wrote it

    def end(self) -> None:
        with suppress(OSError):
            self._process.kill()
        self._process.wait()
        for pipe in (self._process.stdin, self._process.stdout):
            with suppress(OSError):
                existing(pipe).close()


def _write(pipe: BinaryIO, value: Any) -> None:
    data = pickle.dumps(value, pickle.HIGHEST_PROTOCOL)
    pipe.write(_LENGTH.pack(len(data)) + data)
    pipe.flush()


def _made_again(kind: type[MobbetError], message: str, facts: dict[str, Any]) -> MobbetError:
    error = kind.__new__(kind)
    error.args = (message,)
    error.__dict__.update(facts)
    return error


def main() -> None:
    """Answers calls until standard input ends."""
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY, MEMORY))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    os.nice(NICER)
    incoming, outgoing = sys.stdin.buffer, sys.stdout.buffer
    sys.stdout = sys.stderr
    _write(outgoing, "ready")
    while head := incoming.read(_LENGTH.size):
        module, name, args = pickle.loads(incoming.read(_LENGTH.unpack(head)[0]))  # noqa: S301  the server wrote it
        try:
            answer = ("answered", getattr(import_module(module), name)(*args))
        except MobbetError as error:
            answer = ("raised", (type(error), str(error), error.__dict__))
        except (MemoryError, RecursionError):
            raise  # ends the process
        except Exception:
            answer = ("failed", traceback.format_exc())
        _write(outgoing, answer)


if __name__ == "__main__":
    main()
