"""`mobbet serve`: serves the application and the published sites of a data folder."""

from __future__ import annotations

import sys
from argparse import ArgumentParser, Namespace
from pathlib import Path
from typing import TYPE_CHECKING

from mobbet.cli.options import refuse_taken, takes_address, takes_data

if TYPE_CHECKING:
    from mobbet.worker import Keeper

SWITCHING = 0.001
"""In seconds: for how long a thread that computes holds the interpreter while the one that answers requests waits for it."""


def add_arguments(command: ArgumentParser) -> None:
    takes_data(command)
    takes_address(command)
    command.set_defaults(run=serve)


def serve(options: Namespace) -> None:
    refuse_taken(options.host, options.port)
    print(f"Mobbet at http://{options.host}:{options.port}/", flush=True)
    start(options)


def start(options: Namespace, demo_account: tuple[str, str] | None = None) -> None:
    import uvicorn

    from mobbet import wiring
    from mobbet.actions import first_run
    from mobbet.settings import from_environment
    from mobbet.web.shell.limits import CONNECTIONS
    from mobbet.web.shell.protocol import LimitedProtocol
    from mobbet.web.shell.serving import create_server

    workshop = wiring.open_folder(options.data, settings=from_environment(options.data, demo_account))
    app = create_server(workshop, wiring.exact_time, lambda: _worker(options.data))
    word = first_run.word(workshop)
    if word:
        print(
            f"\n  Nobody is here yet. Begin at http://{options.host}:{options.port}/begin?word={word}",
            flush=True,
        )
        print(f"  or open the address, and type this word: {word}\n", flush=True)
    sys.setswitchinterval(SWITCHING)
    LimitedProtocol.unlimited = frozenset(
        str(one.network_address) for one in workshop.settings.proxies if one.num_addresses == 1
    )
    uvicorn.run(
        app, host=options.host, port=options.port, http=LimitedProtocol, ws="none", log_level="warning", timeout_graceful_shutdown=3, server_header=False,
        proxy_headers=False, limit_concurrency=CONNECTIONS, timeout_keep_alive=5,
    )  # fmt: skip


def _worker(data: Path) -> Keeper:
    from mobbet.worker import Keeper

    return Keeper(data)
