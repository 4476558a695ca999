"""Runs the whole suite, a process for each core and two more, and ends with `N passed, N failed, N skipped`."""

from __future__ import annotations

import os
import shutil
import sys
import tempfile
import unittest
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor, as_completed
from dataclasses import dataclass
from multiprocessing import get_context
from pathlib import Path

ROOT = Path(__file__).parent


@dataclass(frozen=True)
class Outcome:
    """What one test class came to: how many ran and failed, what failed, and why others were left out."""

    name: str
    ran: int
    failed: int
    told: tuple[str, ...]
    skipped: tuple[str, ...]


def class_names(suite: unittest.TestSuite) -> Iterator[str]:
    for test in suite:
        if isinstance(test, unittest.TestSuite):
            yield from class_names(test)
        else:
            yield (
                test.id()
                if type(test).__name__ == "_FailedTest"
                else f"{type(test).__module__}.{type(test).__qualname__}"
            )


def run(name: str) -> Outcome:
    result = unittest.TestResult()
    unittest.defaultTestLoader.loadTestsFromName(name).run(result)
    wrong = [*result.failures, *result.errors]
    failed = len({id(test) for test, _ in wrong}) + len(result.unexpectedSuccesses)
    told = tuple(f"{test}\n{trace}" for test, trace in wrong)
    return Outcome(
        name,
        max(result.testsRun, failed),
        failed,
        told,
        tuple(f"{test}: {reason}" for test, reason in result.skipped),
    )


MEANWHILE = ("tests.web.shell.test_rights", "tests.core.test_patterns", "tests.publish", "tests.test_cli")


def _turn(name: str) -> tuple[int, str]:
    return 0 if name.startswith(MEANWHILE) else 1 if name.startswith("tests.browser") else 2, name


def make_shared_data() -> None:
    from tests.browser.browsing import shared_demo

    shared_demo()


def main() -> int:
    wanted = sys.argv[1:]
    loader = unittest.defaultTestLoader
    suite = (
        loader.loadTestsFromNames(wanted)
        if wanted
        else loader.discover(str(ROOT), top_level_dir=str(ROOT.parent))
    )
    # Those in a browser take longest, so they begin first; while one process makes the data they share, the others do what needs none.
    broken = [f"FAILED {error}" for error in loader.errors]
    print(*broken, sep="\n", end="\n" if broken else "")
    names = sorted(dict.fromkeys(class_names(suite)), key=_turn)
    shared = tempfile.mkdtemp(prefix="mobbet-suite-")
    os.environ["MOBBET_TEST_FOLDER"] = shared
    with ProcessPoolExecutor(
        (os.cpu_count() or 1) + 2, get_context("spawn")
    ) as pool:  # two more than cores, since browsers are waited for
        if any(name.startswith("tests.browser") for name in names):
            pool.submit(make_shared_data)
        outcomes = [future.result() for future in as_completed(pool.submit(run, name) for name in names)]
    shutil.rmtree(shared, ignore_errors=True)
    for outcome in outcomes:
        for told in outcome.told:
            print(f"FAILED {told}")
        for reason in outcome.skipped:
            print(f"skipped {reason}")
    ran, failed, skipped = (
        sum(counts)
        for counts in zip(
            (0, 0, 0), *((one.ran, one.failed, len(one.skipped)) for one in outcomes), strict=True
        )
    )
    print(f"{max(0, ran - failed - skipped)} passed, {failed} failed, {skipped} skipped")
    return 0 if ran and not failed else 1
