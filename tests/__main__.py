"""Runs the whole suite and ends with `N passed, N failed, N skipped`."""

from __future__ import annotations

import sys
import unittest
from pathlib import Path


def main() -> int:
    root = Path(__file__).parent
    loader = unittest.TestLoader()
    wanted = sys.argv[1:]
    suite = loader.loadTestsFromNames(wanted) if wanted else loader.discover(str(root), top_level_dir=str(root.parent))
    result = unittest.TextTestRunner(verbosity=1).run(suite)
    failed = len({id(test) for test, _ in (*result.failures, *result.errors)}) + len(result.unexpectedSuccesses)
    skipped = len(result.skipped)
    for _, reason in result.skipped:
        print(f"skipped: {reason}")
    print(f"{max(0, result.testsRun - failed - skipped)} passed, {failed} failed, {skipped} skipped")
    return 0 if result.testsRun and result.wasSuccessful() else 1


if __name__ == "__main__":
    sys.exit(main())
