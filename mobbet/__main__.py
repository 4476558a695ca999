"""`python -m mobbet` is the same as the `mobbet` command."""

import sys

from mobbet.cli.__main__ import main

sys.exit(main())
