import asyncio
import threading
import unittest
from concurrent.futures import ThreadPoolExecutor
from typing import Any
from unittest import mock

from mobbet.web.shell import serving
from mobbet.web.shell.serving import Deferred


class Served:
    """A service that notes when it runs."""

    def __init__(self) -> None:
        self.noted: list[str] = []

    def start(self) -> None:
        self.noted.append("start")

    def stop(self) -> None:
        self.noted.append("stop")


async def answering(scope: dict, receive: Any, send: Any) -> None:
    await send({"type": "http.response.start", "status": 204})


class DeferredTests(unittest.TestCase):
    def run_server(self, deferred: Deferred, during: Any) -> list[str]:
        """What the server is sent from its start to its end, with `during` between."""

        async def live() -> list[str]:
            sent: list[str] = []
            messages: asyncio.Queue[dict] = asyncio.Queue()

            async def send(message: dict) -> None:
                sent.append(message["type"])

            messages.put_nowait({"type": "lifespan.startup"})
            running = asyncio.create_task(deferred({"type": "lifespan"}, messages.get, send))
            while not sent:
                await asyncio.sleep(0.001)
            await during()
            messages.put_nowait({"type": "lifespan.shutdown"})
            await running
            return sent

        with ThreadPoolExecutor(1) as thread:  # another test of this process may have a loop of its own
            return thread.submit(asyncio.run, live()).result()

    def test_the_server_is_up_before_the_application_is_loaded_and_requests_wait_for_it(self) -> None:
        service, may_load = Served(), threading.Event()

        def load() -> tuple[Any, list[Any]]:
            may_load.wait(5)
            return answering, [service]

        async def ask() -> None:
            status = []

            async def send(message: dict) -> None:
                status.append(message["status"])

            request = asyncio.create_task(deferred({"type": "http"}, None, send))
            await asyncio.sleep(0.01)
            self.assertEqual(status, [])
            may_load.set()
            await request
            self.assertEqual(status, [204])
            while not service.noted:
                await asyncio.sleep(0.001)

        deferred = Deferred(load)
        self.assertEqual(
            self.run_server(deferred, ask), ["lifespan.startup.complete", "lifespan.shutdown.complete"]
        )
        self.assertEqual(service.noted, ["start", "stop"])

    def test_a_request_that_is_broken_off_while_it_loads_stops_nothing(self) -> None:
        service, may_load = Served(), threading.Event()

        def load() -> tuple[Any, list[Any]]:
            may_load.wait(5)
            return answering, [service]

        deferred = Deferred(load)

        async def break_off() -> None:
            waiting = asyncio.create_task(deferred({"type": "http"}, None, None))
            await asyncio.sleep(0.01)
            waiting.cancel()
            await asyncio.sleep(0.01)
            may_load.set()
            answers = []

            async def send(message: dict) -> None:
                answers.append(message["status"])

            await deferred({"type": "http"}, None, send)
            self.assertEqual(answers, [204])
            while service.noted != ["start"]:
                await asyncio.sleep(0.001)

        with mock.patch.object(serving.signal, "raise_signal") as stopped:
            self.run_server(deferred, break_off)
        stopped.assert_not_called()

    def test_a_server_that_is_stopped_while_it_loads_does_not_wait(self) -> None:
        service, never = Served(), threading.Event()
        self.addCleanup(never.set)

        def load() -> tuple[Any, list[Any]]:
            never.wait(5)
            return answering, [service]

        async def nothing() -> None:
            pass

        self.run_server(Deferred(load), nothing)
        self.assertEqual(service.noted, [])

    def test_a_server_whose_application_cannot_be_loaded_stops(self) -> None:
        async def wait() -> None:
            while not stop.called:
                await asyncio.sleep(0.001)

        with mock.patch.object(serving.signal, "raise_signal") as stop, self.assertLogs("mobbet.serving"):
            self.run_server(Deferred(mock.Mock(side_effect=ImportError("a module is missing"))), wait)

    def test_a_server_stops_when_a_background_task_cannot_start(self) -> None:
        first, broken = Served(), mock.Mock(start=mock.Mock(side_effect=OSError("no room")))

        async def wait() -> None:
            while not stop.called:
                await asyncio.sleep(0.001)

        with mock.patch.object(serving.signal, "raise_signal") as stop, self.assertLogs("mobbet.serving"):
            self.run_server(Deferred(lambda: (answering, [first, broken])), wait)
        self.assertEqual((first.noted, broken.stop.called), (["start", "stop"], False))
