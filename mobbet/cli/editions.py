"""`mobbet editions`: lists, shows, compares and puts back editions of the site."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from typing import TYPE_CHECKING, Any

from mobbet.cli.options import takes_blog, takes_data, takes_json
from mobbet.cli.shared import at_work, report, sorted_out
from mobbet.core.errors import NotFound

if TYPE_CHECKING:
    from mobbet.actions import editions
    from mobbet.store.blogs import Blog


EPILOG = """`list --json` prints `{"editions": [{"edition", "instant", "made", "why", "by", "written", "removed", "pages",
"puts_back"}]}`, `show` and `compare` what differs, as a footprint does."""


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_data(command)
    takes_json(command)
    takes_blog(command)
    command.add_argument("words", nargs="+", metavar="list | show N | compare A B | put-back N")
    command.set_defaults(run=run)


def run(options: Namespace) -> None:
    """`list`, `show N`, `compare A B`, `put-back N`."""
    from mobbet.actions import editions
    from mobbet.core.timing import iso

    workshop, person, blog = at_work(options)
    what, *numbers = options.words
    if what == "list" and not numbers:
        told = editions.listed(workshop, blog, 1000)
        facts = {"editions": [_edition(one, blog) for one in told]}
        report(
            options,
            facts,
            "\n".join(
                f"{one.edition.number:>6}  {iso(one.edition.instant)}  {one.edition.written:>6} written  {one.edition.why or '-'}{f' ({one.by})' if one.by else ''}"
                for one in told
            ),
        )
        return
    wanted = {"show": 1, "compare": 2, "put-back": 1}.get(what)
    if wanted != len(numbers) or not all(number.isdecimal() for number in numbers):
        raise NotFound(
            f"“{' '.join(options.words)}” is not understood; write list, show N, compare A B or put-back N."
        )
    chosen = [int(number) for number in numbers]
    if what == "put-back":
        coming = editions.coming_back(workshop, person, blog, chosen[0])
        published = editions.put_back(workshop, person, blog, chosen[0])
        report(
            options,
            {
                "edition": published.edition,
                "written": published.written,
                "removed": published.removed,
                "pages": published.pages,
                "withheld": coming.withheld,
            },
            f"Edition {chosen[0]} is back, as edition {published.edition}."
            + (
                f" {coming.withheld:,} of its pages stay as they were, for posts restricted since."
                if coming.withheld
                else ""
            ),
        )
        return
    for number in chosen:
        editions.edition(workshop, blog, number)
    first, second = (chosen[0] - 1, chosen[0]) if what == "show" else chosen
    facts = sorted_out(editions.compared(workshop, blog, first, second))
    if what == "show":
        facts = {**_edition(editions.listed(workshop, blog, 1, chosen[0] + 1)[0], blog), **facts}
    report(
        options,
        facts,
        "\n".join(f"{name:<7} {path}" for name in ("add", "alter", "remove") for path in facts[name])
        or "No page differs.",
    )


def _edition(told: editions.ListedEdition, blog: Blog) -> dict[str, Any]:
    from mobbet.core.timing import iso

    one = told.edition
    return {
        "edition": one.number, "instant": iso(one.instant), "made": iso(one.made_at), "why": one.why, "by": told.by or None,
        "written": one.written, "removed": one.removed, "pages": one.pages, "puts_back": one.puts_back,
    }  # fmt: skip
