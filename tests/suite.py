"""Runs the whole suite, a process for each core and two more, and ends with `N passed, N failed, N skipped`.

No test can hold the suite up: each has `LONGEST_TEST` seconds, and what has not ended after `LONGEST_SUITE` is named
as failed.
"""

from __future__ import annotations

import os
import shutil
import signal
import sys
import tempfile
import time
import unittest
from collections.abc import Iterator
from concurrent.futures import Future, ProcessPoolExecutor, as_completed
from dataclasses import dataclass
from multiprocessing import get_context
from pathlib import Path

ROOT = Path(__file__).parent
LONGEST_TEST = 400  # seconds, for one test or the set-up of its class
LONGEST_SUITE = 4200  # seconds
TOLD_AFTER = 20  # seconds: classes that take longer are named


@dataclass(frozen=True)
class Outcome:
    """What one test class came to: how many ran and failed, what failed, and why others were left out."""

    name: str
    ran: int
    failed: int
    told: tuple[str, ...]
    skipped: tuple[str, ...]
    seconds: float = 0


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


class TimedResult(unittest.TestResult):
    """Raises `TimeoutError` inside a test that has run for `LONGEST_TEST`, and again where its clean-up hangs."""

    def startTest(self, test: unittest.TestCase) -> None:
        restart_timer()
        super().startTest(test)

    def stopTest(self, test: unittest.TestCase) -> None:
        super().stopTest(test)
        restart_timer()


def restart_timer() -> None:
    signal.setitimer(signal.ITIMER_REAL, LONGEST_TEST, 30)


def _stop(*_: object) -> None:
    raise TimeoutError(f"It has run for more than {LONGEST_TEST} seconds.")


def run(name: str) -> Outcome:
    result, start = TimedResult(), time.monotonic()
    signal.signal(signal.SIGALRM, _stop)
    restart_timer()
    try:
        unittest.defaultTestLoader.loadTestsFromName(name).run(result)
    finally:
        signal.setitimer(signal.ITIMER_REAL, 0)
    wrong = [*result.failures, *result.errors]
    failed = len({id(test) for test, _ in wrong}) + len(result.unexpectedSuccesses)
    told = tuple(f"{test}\n{trace}" for test, trace in wrong)
    return Outcome(
        name,
        max(result.testsRun, failed),
        failed,
        told,
        tuple(f"{test}: {reason}" for test, reason in result.skipped),
        time.monotonic() - start,
    )


MEANWHILE = ("tests.web.shell.test_rights", "tests.core.test_patterns", "tests.publish", "tests.test_cli")


def _turn(name: str) -> tuple[int, str]:
    return 0 if name.startswith(MEANWHILE) else 1 if name.startswith("tests.browser") else 2, name


def _quick_folder() -> str | None:
    """A folder in memory where there is room for the data of all tests, which otherwise wait for the disk at every commit."""
    memory = Path("/dev/shm")
    has_room = memory.is_dir() and os.access(memory, os.W_OK) and shutil.disk_usage(memory).free > 4e9
    return str(memory) if has_room else None


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
    shared = tempfile.mkdtemp(prefix="mobbet-suite-", dir=_quick_folder())
    os.environ["MOBBET_TEST_FOLDER"] = os.environ["TMPDIR"] = shared
    outcomes = []
    for outcome in run_with_retries(names):
        outcomes.append(outcome)
        if outcome.seconds > TOLD_AFTER:
            print(f"{outcome.name} took {outcome.seconds:.0f} s for {outcome.ran}", flush=True)
        for told in outcome.told:
            print(f"FAILED {told}", flush=True)
    shutil.rmtree(shared, ignore_errors=True)
    for outcome in outcomes:
        for reason in outcome.skipped:
            print(f"skipped {reason}")
    ran, failed, skipped = (
        sum(counts)
        for counts in zip(
            (0, 0, 0), *((one.ran, one.failed, len(one.skipped)) for one in outcomes), strict=True
        )
    )
    print(f"{max(0, ran - failed - skipped)} passed, {failed} failed, {skipped} skipped", flush=True)
    return 0 if ran and not failed else 1


def outcome_of(name: str, future: Future[Outcome]) -> Outcome:
    try:
        return future.result()
    except Exception as error:  # its process was killed, or time ran out outside a test
        return Outcome(name, 1, 1, (f"{name}: {error!r}",), ())


def run_all(names: list[str], workers: int) -> Iterator[Outcome]:
    """Yields outcomes as classes end; those that have not ended in time are failures."""
    pool = ProcessPoolExecutor(workers, get_context("spawn"))
    if any(name.startswith("tests.browser") for name in names):
        pool.submit(make_shared_data)
    waiting: dict[Future[Outcome], str] = {pool.submit(run, name): name for name in names}
    processes = list(pool._processes.values())
    try:
        for future in as_completed(waiting, timeout=LONGEST_SUITE):
            yield outcome_of(waiting.pop(future), future)
    except TimeoutError:
        for name in waiting.values():
            yield Outcome(name, 1, 1, (f"{name}: it had not ended after {LONGEST_SUITE} seconds",), ())
    finally:
        # Nothing is waited for: a browser that does not close would hold up the end.
        pool.shutdown(wait=False, cancel_futures=True)
        for process in processes:
            process.kill()


def run_with_retries(names: list[str]) -> Iterator[Outcome]:
    """Runs all classes, then retries browser classes with a failure that timed out, one at a time."""
    slow = []
    for outcome in run_all(
        names, (os.cpu_count() or 1) + 2
    ):  # more than cores, since browsers are waited for
        if outcome.name.startswith("tests.browser") and any(map(_timed_out, outcome.told)):
            tests = ", ".join(told.split(" ")[0] for told in outcome.told)
            print(f"{outcome.name} timed out in {tests}; it is run again", flush=True)
            slow.append(outcome.name)
        else:
            yield outcome
    if slow:
        yield from run_all(slow, 1)


def _timed_out(told: str) -> bool:
    """Whether a failure is a timeout: of an `expect` of the browser, of this suite, or of a request."""
    return any(words in told for words in ("TimeoutError", "Timeout ", "with timeout "))
