"""`mobbet footprint`: what placing a post would change; changes nothing."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from typing import TYPE_CHECKING

from mobbet.cli.options import takes_blog, takes_data, takes_json
from mobbet.cli.shared import at_work, folder_of, post_at_work, read_source, report

if TYPE_CHECKING:
    from mobbet.actions import footprints
    from mobbet.actions.workshop import Workshop
    from mobbet.store.blogs import Blog
    from mobbet.store.people import Person


EPILOG = """`--json` prints `{"add", "alter", "remove", "redirects": [{"from", "to"}]}` as of the moment at which the post goes out."""


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_data(command)
    takes_json(command)
    takes_blog(command)
    command.add_argument("what", metavar="ID|FILE")
    command.set_defaults(run=footprint)


def footprint(options: Namespace) -> None:
    """What placing a post would change when it goes out; or making and placing one from a file."""
    from mobbet.actions import footprints

    if options.what.isdecimal():
        options.id = int(options.what)
        workshop, person, blog = post_at_work(options)
        effect = footprints.effect_of_placing(workshop, person, blog, options.id)
    else:
        workshop, person, blog = at_work(options)
        effect = _effect_of_file(workshop, person, blog, options.what)
    facts = footprints.sorted_out(effect.pages)
    lines = [f"{name:<9} {path}" for name in ("add", "alter", "remove") for path in facts[name]] + [
        f"redirect  {one['from']} to {one['to']}" for one in facts["redirects"]
    ]
    report(options, facts, "\n".join(lines) or "No page of the site would change.")


def _effect_of_file(workshop: Workshop, person: Person, blog: Blog, name: str) -> footprints.Effect:
    """The footprint of a file's post; pictures that came with it are taken off the shelf again."""
    from mobbet.actions import files, footprints
    from mobbet.store import media

    shelved: set[str] = set()
    before = {hash for hash, _ in media.hashes(workshop.db)}

    def make() -> int:
        brought = files.new_post(workshop, person, blog.slug, read_source(name), folder_of(name))
        shelved.update(hash for hash, _ in media.hashes(workshop.db))
        return brought.post.id

    try:
        return footprints.effect_of_new(workshop, person, blog, make)
    finally:
        for hash in shelved - before - {hash for hash, _ in media.hashes(workshop.db)}:
            workshop.media.path(hash).unlink(missing_ok=True)
