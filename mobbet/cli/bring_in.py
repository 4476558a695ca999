"""`mobbet bring-in`: makes drafts of text files, word-processor files and archives."""

from __future__ import annotations

import sys
from argparse import ArgumentParser, Namespace
from pathlib import Path
from typing import TYPE_CHECKING

from mobbet.cli.options import takes_blog, takes_data, takes_json
from mobbet.cli.shared import at_work, report

if TYPE_CHECKING:
    from mobbet.actions import import_pictures, imports


EPILOG = """`--json` prints `{"posts": [{"id", "file", "title", "words", "pictures", "notes"}], "refused": [{"file", "reason"}]}`."""


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_data(command)
    takes_json(command)
    takes_blog(command)
    command.add_argument(
        "files", nargs="+", metavar="FILE", help=".docx, .odt, .md, .html, .txt, or a .zip of folders"
    )
    command.set_defaults(run=run)


def run(options: Namespace) -> int:
    """Makes a draft of every file; 1 when none came."""
    from mobbet.actions import imports

    workshop, person, blog = at_work(options)
    results: list[imports.ImportedPost | imports.NotBrought] = []
    for at, name in enumerate(options.files, 1):
        if sys.stderr.isatty():
            print(f"mobbet: {at} of {len(options.files)}: {name}", file=sys.stderr)
        path = Path(name)
        try:
            data = path.read_bytes()
        except OSError as error:
            results.append(
                imports.NotBrought(
                    name, f"“{name}” cannot be read ({error.strerror}); check its name and rights."
                )
            )
            continue
        results += imports.bring_in(workshop, person, blog.slug, path.name, data, _beside(path.parent))
    facts = imports.report(results)
    lines = [
        f"Post {post['id']}: {post['title']} ({post['words']} words, {post['pictures']} pictures). {' '.join(post['notes'])}".rstrip()
        for post in facts["posts"]
    ]
    lines += [f"Refused: {one['file']}: {one['reason']}" for one in facts["refused"]]
    report(options, facts, "\n".join(lines))
    return 1 if facts["refused"] and not facts["posts"] else 0


def _beside(folder: Path) -> import_pictures.Beside:
    """The files in the text's own folder, or below it."""

    def read(src: str) -> bytes | None:
        file = (folder / src).resolve()
        return file.read_bytes() if file.is_relative_to(folder.resolve()) and file.is_file() else None

    return read
