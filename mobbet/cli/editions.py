"""`mobbet editions`: lists, shows, compares and puts back editions of the site."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from typing import TYPE_CHECKING, Any

from mobbet.cli.options import takes_blog, takes_data, takes_json
from mobbet.cli.shared import at_work, published, report
from mobbet.core.errors import NotFound

if TYPE_CHECKING:
    from mobbet.actions import editions
    from mobbet.actions.workshop import Workshop
    from mobbet.store.blogs import Blog
    from mobbet.store.people import Person


EPILOG = """`list --json` prints `{"editions": [{"edition", "instant", "made", "why", "by", "written", "removed", "pages",
"puts_back"}]}`, `show` and `compare` what differs, as a footprint does. After `put-back N` the site stays so:
what falls due waits, and the desk asks (with `wait` it does not), until a post is published or withdrawn, or `go-on` publishes what is written."""


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_data(command)
    takes_json(command)
    takes_blog(command)
    command.add_argument(
        "words", nargs="+", metavar="list | show N | compare A B | put-back N [wait] | go-on"
    )
    command.set_defaults(run=run)


def run(options: Namespace) -> None:
    """`list`, `show N`, `compare A B`, `put-back N`, `go-on`."""
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
    if what == "go-on" and not numbers:
        published_on = editions.go_on(workshop, person, blog)
        report(options, published(published_on), f"{published_on.changed.in_words} The timetable goes on.")
        return
    way = "waits" if what == "put-back" and numbers[1:] == ["wait"] else "asks"
    if way == "waits":
        numbers = numbers[:1]
    wanted = {"show": 1, "compare": 2, "put-back": 1}.get(what)
    if wanted != len(numbers) or not all(number.isdecimal() for number in numbers):
        raise NotFound(
            f"“{' '.join(options.words)}” is not understood; write list, show N, compare A B, put-back N, put-back N wait or go-on."
        )
    chosen = [int(number) for number in numbers]
    if what == "put-back":
        _put_back(options, workshop, person, blog, chosen[0], way)
        return
    for number in chosen:
        editions.edition(workshop, blog, number)
    first, second = (chosen[0] - 1, chosen[0]) if what == "show" else chosen
    from mobbet.actions.footprints import sorted_out

    facts = sorted_out(editions.compared(workshop, blog, first, second))
    if what == "show":
        facts = {**_edition(editions.listed(workshop, blog, 1, chosen[0] + 1)[0], blog), **facts}
    report(
        options,
        facts,
        "\n".join(f"{name:<7} {path}" for name in ("add", "alter", "remove") for path in facts[name])
        or "No page differs.",
    )


def _put_back(
    options: Namespace, workshop: Workshop, person: Person, blog: Blog, number: int, way: str
) -> None:
    from mobbet.actions import editions

    coming = editions.coming_back(workshop, person, blog, number)
    back = editions.put_back(workshop, person, blog, number, way)
    report(
        options,
        {
            "edition": back.edition,
            "written": back.written,
            "removed": back.removed,
            "pages": back.pages,
            "withheld": sum(coming.withheld),
        },
        f"Edition {number} is back, as edition {back.edition}; nothing goes out by itself until `mobbet editions go-on`."
        + (
            f" {coming.withheld.in_short} stay as they were, for posts restricted since."
            if any(coming.withheld)
            else ""
        ),
    )


def _edition(told: editions.ListedEdition, blog: Blog) -> dict[str, Any]:
    from mobbet.core.timing import iso

    one = told.edition
    return {
        "edition": one.number, "instant": iso(one.instant), "made": iso(one.made_at), "why": one.why, "by": told.by or None,
        "written": one.written, "removed": one.removed, "pages": one.pages, "puts_back": one.puts_back,
    }  # fmt: skip
