"""`mobbet bench`: measures the figures of BENCHMARKS.md, in a checkout."""

from __future__ import annotations

import sys
from argparse import ArgumentParser, Namespace
from pathlib import Path

from mobbet.cli.options import takes_json
from mobbet.cli.shared import report
from mobbet.core.errors import Refused

CHECKOUT = Path(__file__).parents[2]


def add_arguments(command: ArgumentParser) -> None:
    takes_json(command)
    command.add_argument("--posts", type=int, default=10_000, metavar="N")
    command.set_defaults(run=bench)


def bench(options: Namespace) -> None:
    if not (CHECKOUT / "bench" / "figures.py").is_file():
        raise Refused(
            "The measurements are not part of the installed package; run mobbet bench in a checkout of Mobbet."
        )
    sys.path.insert(0, str(CHECKOUT))
    from bench.figures import measure

    figures = measure(options.posts)
    report(options, figures, "\n".join(f"{name:<58} {value}" for name, value in figures.items()))
