"""What `mobbet serve` runs: published sites at once, the application as soon as a thread has loaded it."""

from __future__ import annotations

import asyncio
import gc
import logging
import signal
import threading
from collections.abc import Callable
from concurrent.futures import Future
from typing import TYPE_CHECKING

from starlette.types import ASGIApp, Receive, Scope, Send

from mobbet.actions.workshop import Workshop
from mobbet.web.public.site import Site
from mobbet.web.public.tally import Tally
from mobbet.web.shell.door import Door
from mobbet.web.shell.service import Service

if TYPE_CHECKING:  # loading it takes a second, which nobody waits for who asks for a site
    from fastapi import FastAPI

log = logging.getLogger("mobbet.serving")


def create_server(
    workshop: Workshop,
    exact_time: Callable[[], float],
    worker: Callable[[], Service],
    build: Callable[[Workshop], FastAPI] | None = None,
) -> Door:
    """All of Mobbet as one ASGI app with its background tasks. `worker` makes the service that keeps the worker process running;
    `build` makes the application with its routes, by default as `web.shell.app` does."""
    tally = Tally(workshop)

    def load() -> tuple[ASGIApp, list[Service]]:
        from mobbet.web.shell.app import application, warm_up
        from mobbet.web.shell.background import background_tasks

        app = (build or application)(workshop)
        return app, [*background_tasks(workshop, tally, exact_time), worker(), WarmUp(lambda: warm_up(app))]

    return Door(workshop, Deferred(load), Site(workshop, tally))


class Deferred:
    """An ASGI app that is loaded in a thread when the server starts; requests wait for it. Its services run until the server stops."""

    def __init__(self, load: Callable[[], tuple[ASGIApp, list[Service]]]) -> None:
        self._load = load
        self._loaded: Future[ASGIApp] = Future()
        self._services: list[Service] = []
        self._is_stopping = False
        self._lock = threading.Lock()  # while a service is started, or all are stopped

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] == "lifespan":
            await self._live(receive, send)
            return
        # shielded: the end of one request, which a browser may break off, must not end the loading for all
        app = await asyncio.shield(asyncio.wrap_future(self._loaded))
        await app(scope, receive, send)

    async def _live(self, receive: Receive, send: Send) -> None:
        await receive()
        threading.Thread(target=self._start, name="loading", daemon=True).start()
        await send({"type": "lifespan.startup.complete"})
        await receive()
        await asyncio.to_thread(self._stop)
        await send({"type": "lifespan.shutdown.complete"})

    def _start(self) -> None:
        try:
            app, services = self._load()
            self._loaded.set_result(app)
            for service in services:
                with self._lock:
                    if self._is_stopping:
                        return
                    service.start()
                    self._services.append(service)
        except Exception as error:
            log.exception("the application cannot be loaded or started; the server stops")
            if not self._loaded.done():
                self._loaded.set_exception(error)
            signal.raise_signal(signal.SIGTERM)

    def _stop(self) -> None:
        """Stops what was started. A server that is stopped while it loads does not wait for that."""
        with self._lock:
            self._is_stopping = True
            for service in self._services:
                service.stop()


class WarmUp:
    """Does once what would otherwise hold up the first request for a screen."""

    def __init__(self, run: Callable[[], None]) -> None:
        self._run = run

    def start(self) -> None:
        threading.Thread(target=self._warm_up, name="warm-up", daemon=True).start()

    def _warm_up(self) -> None:
        self._run()
        gc.collect()
        gc.freeze()  # what is loaded stays; walking it at every collection takes a tenth of a second

    def stop(self) -> None:
        pass
