"""`mobbet sync`: keeps the posts of a blog in step with a folder of Markdown files."""

from __future__ import annotations

import os
import sys
import time
from argparse import ArgumentParser, Namespace
from contextlib import closing
from pathlib import Path
from typing import TYPE_CHECKING

from mobbet.cli.options import takes_blog, takes_data, takes_json
from mobbet.cli.shared import at_work, report

if TYPE_CHECKING:
    from mobbet.actions.syncing import Step

EPILOG = """A change on either side comes over. Where both were changed, the file’s text becomes a revision of the post. A file that is removed sets its post
aside, and a post that is set aside moves its file to the folder set-aside. `--json` prints `{"steps": [{"what", "path", "post", "note"}]}`."""
PAUSE = 2.0


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_data(command)
    takes_json(command)
    takes_blog(command)
    command.add_argument("folder", type=Path, help="the folder, which may be under version control")
    command.add_argument(
        "--watch", action="store_true", help="go on until it is ended, and look every two seconds"
    )
    command.set_defaults(run=run)


def run(options: Namespace) -> int:
    from mobbet.actions.syncing import REFUSED, sync

    workshop, person, blog = at_work(options)
    with closing(workshop.services.heavy):
        steps = sync(workshop, person, blog, options.folder)
        _tell(options, steps)
        state = None
        while options.watch:
            time.sleep(PAUSE)
            now = (_seen(options.folder), workshop.db.version())
            if now != state:
                steps = sync(workshop, person, blog, options.folder)
                if steps:
                    _tell(options, steps)
                state = (_seen(options.folder), workshop.db.version())
    return 1 if any(one.what == REFUSED for one in steps) else 0


def _seen(folder: Path) -> int:
    """A value that changes whenever a file of the folder does."""
    found = []
    for where, folders, names in os.walk(folder):
        folders[:] = [name for name in folders if not name.startswith(".")]
        for name in names:
            if name.endswith((".md", ".markdown")):
                try:
                    status = (Path(where) / name).stat()
                except OSError:
                    continue
                found.append((where, name, status.st_mtime_ns, status.st_size))
    return hash(tuple(sorted(found)))


def _tell(options: Namespace, steps: list[Step]) -> None:
    facts = {"steps": [one.__dict__ for one in steps]}
    report(
        options,
        facts,
        "\n".join(f"{one.path} {one.what}. {one.note}".rstrip() for one in steps)
        or "Both sides are the same.",
    )
    sys.stdout.flush()
