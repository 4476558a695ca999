"""`mobbet slots`: the repeating times kept free for posts, and the queue that fills them."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from typing import TYPE_CHECKING, Any

from mobbet.cli.options import Subcommands, takes_blog, takes_data, takes_json
from mobbet.cli.shared import at_work, report

if TYPE_CHECKING:
    from mobbet.actions import slots


EPILOG = """Slots are RFC 5545 recurrences in the blog's wall time. `fill 7 9` puts posts 7 and 9 at the end of the queue, and the
queue in the slots; `list --json` prints `{"rules": [{"id", "rule", "at", "from", "except", "words"}], "slots": [{"wall",
"instant", "post", "title", "queued"}]}`."""


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_data(command)
    takes_json(command)
    takes_blog(command)
    add = Subcommands(command, "list|add|fill")
    listed = add(
        "list", list_slots, "list the slots of a time with the posts that fill them (a year from now)"
    )
    listed.add_argument("--from", dest="first", default=None, metavar="DATE")
    listed.add_argument("--until", default=None, metavar="DATE")
    made = add("add", add_slot, "keep a repeating time free")
    made.add_argument("rule", metavar="RRULE", help="an RFC 5545 recurrence, such as FREQ=WEEKLY;BYDAY=TU")
    made.add_argument("--at", default="09:00", metavar="HH:MM", help="the time of day (09:00)")
    made.add_argument(
        "--from", dest="first", default=None, metavar="DATE", help="the day from which it counts (today)"
    )
    made.add_argument(
        "--except", dest="excepted", default=None, metavar="DATE,…", help="days on which it is left out"
    )
    add("fill", fill, "put posts in the queue, and the queue in the slots").add_argument(
        "posts", nargs="*", type=int, metavar="ID"
    )


def list_slots(options: Namespace) -> None:
    from mobbet.actions import slots
    from mobbet.core.slots import in_words
    from mobbet.core.timing import read_end, read_instant
    from mobbet.store import slots as slot_store

    workshop, _, blog = at_work(options)
    now = workshop.clock()
    first = read_instant(options.first, blog.zone, "--from") if options.first else now
    last = read_end(options.until, blog.zone, "--until") if options.until else first + slots.SPAN
    turns = slots.turns(workshop, blog, first - 1, last)
    rules = [
        {
            "id": slot.id,
            "rule": slot.rule,
            "at": slot.time,
            "from": slot.starts,
            "except": list(slot.excepted),
            "words": in_words(slot),
        }
        for slot in slot_store.of_blog(workshop.db, blog.id)
    ]
    facts = {"rules": rules, "slots": [_turn(turn) for turn in turns]}
    lines = [
        f"{turn.wall.replace('T', ' ')}  {f'{turn.post_id:>6} {turn.title}' if turn.post_id else '     - free'}"
        for turn in turns
    ]
    report(options, facts, "\n".join(lines) or "There are no slots in this time.")


def _turn(turn: slots.Turn) -> dict[str, Any]:
    from mobbet.core.timing import iso

    return {
        "wall": turn.wall,
        "instant": iso(turn.instant),
        "post": turn.post_id,
        "title": turn.title or None,
        "queued": turn.is_queued,
    }


def add_slot(options: Namespace) -> None:
    from mobbet.actions import slots
    from mobbet.core.slots import in_words

    workshop, person, blog = at_work(options)
    slot = slots.add_slot(
        workshop, person, blog, options.rule, options.at, options.first or "", options.excepted or ""
    )
    report(
        options,
        {"id": slot.id, "rule": slot.rule, "at": slot.time, "words": in_words(slot)},
        f"Kept free: {in_words(slot)}.",
    )


def fill(options: Namespace) -> None:
    """Brings the queue up to date with the slots, after adding the posts that are named to its end."""
    from mobbet.actions import slots
    from mobbet.actions.work import changing

    workshop, person, blog = at_work(options)
    with changing(workshop, person, "the queue was filled"):
        for post_id in options.posts:
            slots.put_in_queue(workshop, person, post_id)
        turns = [turn for turn in slots.fill_ahead(workshop, blog) if turn.post_id]
    lines = [f"{turn.wall.replace('T', ' ')}  {turn.post_id:>6} {turn.title}" for turn in turns]
    report(options, {"slots": [_turn(turn) for turn in turns]}, "\n".join(lines) or "No post is in a slot.")
