"""`mobbet demo`: makes the demo data if there is none, then serves it."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from pathlib import Path

from mobbet.cli.options import takes_address
from mobbet.cli.serve import start


def add_arguments(command: ArgumentParser) -> None:
    command.add_argument("--data", type=Path, default=Path("var/demo"), metavar="DIR")
    takes_address(command)
    command.add_argument("--no-serve", action="store_true", help="only make the data")
    command.set_defaults(run=demo)


def demo(options: Namespace) -> None:
    from mobbet import wiring
    from mobbet.demo.make import ACCOUNT, make_demo

    if not (options.data / wiring.DATABASE).is_file():
        print(f"making the demo data in {options.data} ...", flush=True)
        make_demo(options.data, wiring.system_clock(), f"http://127.0.0.1:{options.port}")
    if options.no_serve:
        return
    print(
        f"\n  Mobbet's demo: http://{options.host}:{options.port}/\n  Sign in as {ACCOUNT[0]} with the password {ACCOUNT[1]}\n",
        flush=True,
    )
    start(options, ACCOUNT)
