"""Runs a command of the command line."""

from __future__ import annotations

import sys

from mobbet.cli.parser import chosen, parser
from mobbet.core.errors import MobbetError


def main(arguments: list[str] | None = None) -> int:
    """The exit code: 0 when it is done, 1 when it was refused, 2 for a usage error."""
    words = sys.argv[1:] if arguments is None else arguments
    options = parser(chosen(words)).parse_args(words)
    try:
        return options.run(options) or 0
    except MobbetError as error:
        print(f"mobbet: {error}", file=sys.stderr)
        return 1
    except (BrokenPipeError, KeyboardInterrupt):
        return 0 if options.command in ("demo", "serve") else 1
    except OSError as error:
        print(
            f"mobbet: {error.filename or 'a file'}: {error.strerror or error}; check its name and rights.",
            file=sys.stderr,
        )
        return 1


if __name__ == "__main__":
    sys.exit(main())
