"""`mobbet demo`: makes the demo data if there is none, then serves it."""

from __future__ import annotations

import sys
import time
from argparse import ArgumentParser, Namespace
from pathlib import Path

from mobbet.cli.options import refuse_taken, takes_address
from mobbet.cli.serve import start


def add_arguments(command: ArgumentParser) -> None:
    command.add_argument("--data", type=Path, default=Path("var/demo"), metavar="DIR")
    takes_address(command)
    command.add_argument("--no-serve", action="store_true", help="only make the data")
    command.set_defaults(run=demo)


def demo(options: Namespace) -> None:
    from mobbet import wiring
    from mobbet.demo.make import ACCOUNT, make_demo

    if not options.no_serve:
        refuse_taken(options.host, options.port)
    if not (options.data / wiring.DATABASE).is_file():
        print(f"making the demo data in {options.data}", flush=True)
        begun = time.monotonic()
        make_demo(
            options.data,
            wiring.system_clock(),
            f"http://127.0.0.1:{options.port}",
            tell=_progress,
            with_copies=options.no_serve,
        )
        print(f"  made in {time.monotonic() - begun:.0f} s", flush=True)
    if options.no_serve:
        return
    print(
        f"\n  Mobbet's demo: http://{options.host}:{options.port}/\n  Sign in as {ACCOUNT[0]} with the password {ACCOUNT[1]}\n",
        flush=True,
    )
    start(options, ACCOUNT)


def _progress(what: str, done: int, of: int) -> None:
    """A line for each stage on a terminal, which counts; elsewhere one line when a stage is done."""
    if sys.stdout.isatty():
        print(f"\r  {what}: {done} of {of} ", end="\n" if done == of else "", flush=True)
    elif done == of:
        print(f"  {what}: {of}", flush=True)
