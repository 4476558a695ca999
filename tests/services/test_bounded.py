import os
import resource
import time
import unittest
from contextlib import ExitStack
from unittest import mock

from mobbet.core.document.raw import clean_html
from mobbet.core.document.reading import PASTED, read_markdown, read_source
from mobbet.core.errors import BadDocument, TooMuch
from mobbet.services import bounded as bounded_module
from mobbet.services.bounded import Bounded


def sleeps(seconds: float) -> str:
    time.sleep(seconds)
    return "done"


def divmod_of(one: int, other: int) -> tuple[int, int]:
    return divmod(one, other)


def takes(megabytes: int) -> int:
    return len(bytes(megabytes * 1_000_000))


class BoundedTests(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.bounded = Bounded(1)
        cls.addClassCleanup(cls.bounded.close)

    def test_it_answers_and_raises_what_the_function_does(self) -> None:
        self.assertEqual(
            self.bounded(read_markdown, "# Lamp", seconds=30, what="x")["content"][0]["type"], "heading"
        )
        with self.assertRaises(BadDocument) as caught:
            self.bounded(read_markdown, "~~~ mobbet:nothing\n~~~", seconds=30, what="x")
        self.assertIn("line 1", str(caught.exception))
        self.assertTrue(caught.exception.reason)

    def test_what_takes_too_long_is_ended_and_the_next_call_goes_on(self) -> None:
        with self.assertRaisesRegex(TooMuch, "This takes more than 0.2 seconds"):
            self.bounded(sleeps, 20, seconds=0.2, what="This")
        self.assertEqual(self.bounded(sleeps, 0, seconds=30, what="This"), "done")

    def test_what_takes_too_much_memory_is_refused(self) -> None:
        with self.assertRaises(TooMuch):
            self.bounded(takes, 3000, seconds=30, what="This")
        self.assertEqual(self.bounded(takes, 1, seconds=30, what="This"), 1_000_000)

    def test_it_answers_where_more_than_a_thousand_files_are_open(self) -> None:
        soft, hard = resource.getrlimit(resource.RLIMIT_NOFILE)
        resource.setrlimit(resource.RLIMIT_NOFILE, (min(4096, hard), hard))
        self.addCleanup(resource.setrlimit, resource.RLIMIT_NOFILE, (soft, hard))
        bounded = Bounded(1)
        self.addCleanup(bounded.close)
        with ExitStack() as files:
            for _ in range(1100):
                files.enter_context(open(os.devnull))
            self.assertEqual(bounded(divmod_of, 7, 2, seconds=30, what="This"), (3, 1))

    def test_a_fault_of_the_function_is_told_as_one(self) -> None:
        with self.assertRaisesRegex(RuntimeError, "ZeroDivisionError"):
            self.bounded(divmod_of, 1, 0, seconds=30, what="This")
        self.assertEqual(self.bounded(sleeps, 0, seconds=30, what="This"), "done")

    def test_a_process_that_does_not_start_is_told_and_gives_its_place_back(self) -> None:
        bounded = Bounded(1)
        self.addCleanup(bounded.close)
        with (
            mock.patch.object(bounded_module, "STARTING", 0.0),
            self.assertRaisesRegex(TooMuch, "too much to do"),
        ):
            bounded(sleeps, 0, seconds=30, what="This")
        self.assertEqual(bounded(sleeps, 0, seconds=30, what="This"), "done")

    def test_hostile_texts_end_in_time(self) -> None:
        for function, *args in (
            (clean_html, "<a" * 30_000), (clean_html, "<div>" * 20_000), (read_markdown, "> " * 40_000), (read_markdown, "[" * 60_000), (read_markdown, "*a_ " * 40_000), (read_source, PASTED, "<b>" * 60_000), (read_markdown, "![a](" * 30_000),
        ):  # fmt: skip
            with self.subTest(f"{function.__name__} {str(args[-1])[:12]}"):
                began = time.monotonic()
                try:
                    self.bounded(function, *args, seconds=4, what="This")
                except (TooMuch, BadDocument):
                    pass
                self.assertIsNotNone(self.bounded(sleeps, 0, seconds=30, what="This"))
                self.assertGreater(30, time.monotonic() - began)
