"""`python -m mobbet` is the same as the `mobbet` command."""

import sys

from mobbet.cli import main

sys.exit(main())
