"""`python -m tests [NAME…]` runs the suite, or the named modules, classes and tests."""

import sys

from tests.suite import main

if __name__ == "__main__":
    sys.exit(main())
