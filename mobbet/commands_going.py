"""Commands about going out: slots, footprints, where a post is found, editions, groups of readers."""

from __future__ import annotations

from argparse import Namespace
from typing import Any

from mobbet.actions import (
    editions,
    effects,
    files,
    looking,
    placing,
    readers,
    slots,
    whereabouts,
)
from mobbet.actions.workshop import Workshop
from mobbet.commands import at_work, folder_of, post_at_work, read_source, report
from mobbet.core.errors import NotFound
from mobbet.core.slots import in_words
from mobbet.core.timing import iso, read_instant
from mobbet.publish.editions import Altered
from mobbet.store import media
from mobbet.store import posts as post_store
from mobbet.store import readers as reader_store
from mobbet.store import slots as slot_store
from mobbet.store.blogs import Blog
from mobbet.store.people import Person


def slots_list(options: Namespace) -> None:
    workshop, _, blog = at_work(options)
    now = workshop.clock()
    first = read_instant(options.first, blog.zone, "--from") if options.first else now
    last = read_instant(options.until, blog.zone, "--until") if options.until else first + slots.SPAN
    turns = slots.turns(workshop, blog, first - 1, last)
    rules = [
        {"id": slot.id, "rule": slot.rule, "at": slot.time, "from": slot.starts, "except": list(slot.excepted), "words": in_words(slot)}
        for slot in slot_store.of_blog(workshop.db, blog.id)
    ]
    facts = {"rules": rules, "slots": [_turn(turn) for turn in turns]}
    lines = [f"{turn.wall.replace('T', ' ')}  {f'{turn.post_id:>6} {turn.title}' if turn.post_id else '     - free'}" for turn in turns]
    report(options, facts, "\n".join(lines) or "There are no slots in this time.")


def _turn(turn: slots.Turn) -> dict[str, Any]:
    return {"wall": turn.wall, "instant": iso(turn.instant), "post": turn.post_id, "title": turn.title or None, "queued": turn.is_queued}


def slots_add(options: Namespace) -> None:
    workshop, person, blog = at_work(options)
    slot = slots.add_slot(workshop, person, blog, options.rule, options.at, options.first or "", options.excepted or "")
    placing.publish(workshop, blog, person=person, why="the timetable changed")
    report(options, {"id": slot.id, "rule": slot.rule, "at": slot.time, "words": in_words(slot)}, f"Kept free: {in_words(slot)}.")


def slots_fill(options: Namespace) -> None:
    """Brings the queue up to date with the slots, after adding the posts that are named to its end."""
    workshop, person, blog = at_work(options)
    with workshop.db.transaction():
        for post_id in options.posts:
            slots.put_in_queue(workshop, person, post_id)
        turns = [turn for turn in slots.fill_ahead(workshop, blog) if turn.post_id]
    placing.publish(workshop, blog, person=person, why="the queue was filled")
    lines = [f"{turn.wall.replace('T', ' ')}  {turn.post_id:>6} {turn.title}" for turn in turns]
    report(options, {"slots": [_turn(turn) for turn in turns]}, "\n".join(lines) or "No post is in a slot.")


def footprint(options: Namespace) -> None:
    """What placing a post would change when it goes out; or making and placing one from a file."""
    if options.what.isdecimal():
        options.id = int(options.what)
        workshop, person, blog = post_at_work(options)
        effect = effects.effect_of_placing(workshop, person, blog, options.id)
    else:
        workshop, person, blog = at_work(options)
        effect = _effect_of_file(workshop, person, blog, options.what)
    facts = sorted_out(effect.pages)
    lines = [f"{name:<9} {path}" for name in ("add", "alter", "remove") for path in facts[name]] + [f"redirect  {one['from']} to {one['to']}" for one in facts["redirects"]]
    report(options, facts, "\n".join(lines) or "No page of the site would change.")


def _effect_of_file(workshop: Workshop, person: Person, blog: Blog, name: str) -> effects.Effect:
    """The footprint of a file's post; pictures that came with it are taken off the shelf again."""
    shelved: set[str] = set()
    before = {hash for hash, _ in media.hashes(workshop.db)}

    def make() -> int:
        brought = files.new_post(workshop, person, blog.slug, read_source(name), folder_of(name))
        shelved.update(hash for hash, _ in media.hashes(workshop.db))
        return brought.post.id

    try:
        return effects.effect_of_new(workshop, person, blog, make)
    finally:
        for hash in shelved - before - {hash for hash, _ in media.hashes(workshop.db)}:
            workshop.media.path(hash).unlink(missing_ok=True)


def sorted_out(pages: list[Altered]) -> dict[str, Any]:
    """The addresses of a footprint: those added, altered and removed, and those that lead on."""
    facts: dict[str, Any] = {"add": [], "alter": [], "remove": [], "redirects": []}
    for page in pages:
        if page.leads_to is not None:
            if page.what != "removed":
                facts["redirects"].append({"from": page.path, "to": page.leads_to})
            continue
        facts[{"added": "add", "altered": "alter", "removed": "remove"}[page.what]].append(page.path)
        if page.was:
            facts["remove"].append(page.was)
    return facts


def where(options: Namespace) -> None:
    workshop, _, blog = post_at_work(options)
    reader = looking.reader_for_operator(workshop, blog, options.reader)
    instant = read_instant(options.at, blog.zone, "--at") if options.at else None
    found = whereabouts.whereabouts(workshop, post_store.by_id(workshop.db, options.id), blog, reader, instant)
    pages = list(dict.fromkeys(one.path for one in found if one.path and (one.is_there or "/page/" in one.path)))
    facts = {"visible": found[0].is_there, "reasons": [one.words for one in found if not one.is_there], "pages": pages}
    report(options, facts, "\n".join(f"{'+' if one.is_there else '-'} {one.words}" for one in found))


def editions_do(options: Namespace) -> None:
    """`list`, `show N`, `compare A B`, `put-back N`."""
    workshop, person, blog = at_work(options)
    what, *numbers = options.words
    if what == "list" and not numbers:
        told = editions.listed(workshop, blog, 1000)
        facts = {"editions": [_edition(one, blog) for one in told]}
        report(options, facts, "\n".join(f"{one.edition.number:>6}  {iso(one.edition.instant)}  {one.edition.written:>6} written  {one.edition.why or '-'}{f' ({one.by})' if one.by else ''}" for one in told))
        return
    wanted = {"show": 1, "compare": 2, "put-back": 1}.get(what)
    if wanted != len(numbers) or not all(number.isdecimal() for number in numbers):
        raise NotFound(f"“{' '.join(options.words)}” is not understood; write list, show N, compare A B or put-back N.")
    chosen = [int(number) for number in numbers]
    if what == "put-back":
        published = editions.put_back(workshop, person, blog, chosen[0])
        report(options, {"edition": published.edition, "written": published.written, "removed": published.removed, "pages": published.pages}, f"Edition {chosen[0]} is back, as edition {published.edition}.")
        return
    for number in chosen:
        editions.edition(workshop, blog, number)
    first, second = (chosen[0] - 1, chosen[0]) if what == "show" else chosen
    facts = sorted_out(editions.compared(workshop, blog, first, second))
    if what == "show":
        facts = {**_edition(editions.listed(workshop, blog, 1, chosen[0] + 1)[0], blog), **facts}
    report(options, facts, "\n".join(f"{name:<7} {path}" for name in ("add", "alter", "remove") for path in facts[name]) or "No page differs.")


def _edition(told: editions.Told, blog: Blog) -> dict[str, Any]:
    one = told.edition
    return {
        "edition": one.number, "instant": iso(one.instant), "made": iso(one.made_at), "why": one.why, "by": told.by or None,
        "written": one.written, "removed": one.removed, "pages": one.pages, "puts_back": one.puts_back,
    }  # fmt: skip


def group_do(options: Namespace) -> None:
    """`list`, `add NAME`, `invite NAME ADDRESS…`, `remove NAME`."""
    workshop, person, blog = at_work(options)
    what, *words = options.words
    if what == "add" and len(words) == 1:
        readers.make_group(workshop, person, blog, words[0])
    elif what == "invite" and len(words) > 1:
        readers.add_readers(workshop, person, blog, readers.group_by_name(workshop, blog, words[0]).id, "\n".join(words[1:]))
    elif what == "remove" and len(words) == 1:
        readers.remove_group(workshop, person, blog, readers.group_by_name(workshop, blog, words[0]).id)
    elif what != "list" or words:
        raise NotFound(f"“{' '.join(options.words)}” is not understood; write list, add NAME, invite NAME ADDRESS or remove NAME.")
    sizes = reader_store.sizes(workshop.db, blog.id)
    groups = reader_store.groups(workshop.db, blog.id)
    facts = {"groups": [{"name": one.name, "readers": sizes.get(one.id, 0), "feed": f"{blog.home}~/feed/{one.feed_key}.atom"} for one in groups]}
    report(options, facts, "\n".join(f"{sizes.get(one.id, 0):>5}  {one.name}" for one in groups) or "There are no groups yet.")
