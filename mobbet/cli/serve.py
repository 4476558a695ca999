"""`mobbet serve`: serves the application and the published sites of a data folder."""

from __future__ import annotations

import gc
import sys
from argparse import ArgumentParser, Namespace

from mobbet.cli.options import takes_address, takes_data

SWITCHING = 0.001
"""In seconds: for how long a thread that computes holds the interpreter while the one that answers requests waits for it."""


def add_arguments(command: ArgumentParser) -> None:
    takes_data(command)
    takes_address(command)
    command.set_defaults(run=serve)


def serve(options: Namespace) -> None:
    print(f"Mobbet at http://{options.host}:{options.port}/", flush=True)
    start(options)


def start(options: Namespace, demo_account: tuple[str, str] | None = None) -> None:
    import uvicorn

    from mobbet import wiring
    from mobbet.actions import first_run
    from mobbet.settings import from_environment
    from mobbet.web.app import create_app
    from mobbet.web.limits import CONNECTIONS
    from mobbet.web.protocol import LimitedProtocol
    from mobbet.worker import Keeper


    workshop = wiring.open_folder(options.data, settings=from_environment(options.data, demo_account))
    app = create_app(workshop, wiring.exact_time, Keeper(options.data))
    word = first_run.word(workshop)
    if word:
        print(f"\n  Nobody is here yet. Open the address, and type this word to begin: {word}\n", flush=True)
    gc.collect()
    sys.setswitchinterval(SWITCHING)
    gc.freeze()  # what is loaded stays; walking it anew at every collection takes a tenth of a second
    LimitedProtocol.unlimited = frozenset(str(one.network_address) for one in workshop.settings.proxies if one.num_addresses == 1)
    uvicorn.run(
        app, host=options.host, port=options.port, http=LimitedProtocol, ws="none", log_level="warning", timeout_graceful_shutdown=3, server_header=False,
        proxy_headers=False, limit_concurrency=CONNECTIONS, timeout_keep_alive=5,
    )  # fmt: skip
