"""`mobbet menu`: the entries of a blog's menu and foot."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from dataclasses import asdict, replace
from typing import TYPE_CHECKING, Any

from mobbet.cli.options import Subcommands, takes_blog, takes_data, takes_json
from mobbet.cli.shared import at_work, report
from mobbet.core.errors import BadInput

if TYPE_CHECKING:
    from mobbet.actions.menus import Change
    from mobbet.core.menu import Menu

EPILOG = """A target is the address or the title of a page, post, category or tag, `tag:NAME`, `series:NAME`, one of `newest`, `subjects`, `archive`, `search` and
`feed`, or a whole address such as `https://tools.example/`. Places count from 1; `3.1` is the first entry below the third. Readers
get each change at once. What is not out, or not for everyone, is left out of the menu until it is.
With `--front`, the sections of the front page: `chosen`, `categories`, `most_read`, `authors`, `pages`, `category:SLUG`, `tag:NAME` and `blocks:NAME`; `show 2 TITLE`
adds a post, page or person to what the second one shows."""


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_data(command)
    takes_json(command)
    takes_blog(command)
    command.add_argument("--foot", action="store_true", help="the foot of the pages instead of the menu")
    command.add_argument(
        "--front", action="store_true", help="the sections of the front page instead of the menu"
    )
    add = Subcommands(command, "list|add|move|remove|show", flags=("--foot", "--front"))
    add("list", show, "list the entries with their places")
    new = add("add", add_entry, "add an entry")
    new.add_argument("target")
    new.add_argument("--words", default="", help="its words, instead of the target’s own")
    new.add_argument("--at", default=None, metavar="N", help="its place; at the end without one")
    moved = add("move", move, "move an entry to another place")
    moved.add_argument("place", metavar="N")
    moved.add_argument("to", metavar="M")
    add("remove", remove, "take an entry out, with what stands below it").add_argument("place", metavar="N")
    shown = add("show", show_more, "have a section of the front page show one more post, page or person")
    shown.add_argument("place", metavar="N")
    shown.add_argument("title")


def _where(options: Namespace) -> str:
    return "foot" if options.foot else "menu"


def _place(text: str) -> tuple[int, ...]:
    parts = text.split(".")
    if len(parts) > 2 or not all(part.isascii() and part.isdecimal() and 0 < len(part) < 5 for part in parts):
        raise BadInput(
            f"“{text}” is no place in a menu; write it like 2, or 3.1 for the first below the third."
        )
    if any(int(part) == 0 for part in parts):
        raise BadInput(f"“{text}” is no place in a menu; places count from 1.")
    return tuple(int(part) - 1 for part in parts)


def show(options: Namespace) -> None:
    from mobbet.actions import menus

    workshop, _, blog = at_work(options)
    _report(options, menus.given(workshop, blog))


def _report(options: Namespace, menu: Menu, **more: Any) -> None:
    from mobbet.core.menu import places

    if options.front:
        sections = [{"at": str(at), **asdict(section)} for at, section in enumerate(menu.sections, 1)]
        text = [
            f"{one['at']:>5}  {one['kind']:<12} {' '.join(map(str, one['of'])):<20} {one['words']}".rstrip()
            for one in sections
        ]
        report(options, {"front": sections, **more}, "\n".join(text))
        return
    rows = [
        {
            "at": ".".join(str(at + 1) for at in place),
            "target": entry.to,
            "words": entry.words or None,
            "on_phone": entry.on_phone,
            "parts": entry.parts,
        }
        for place, entry in places(menu, _where(options))
    ]
    lines = [f"{row['at']:>5}  {row['target']:<30} {row['words'] or ''}".rstrip() for row in rows]
    report(options, {_where(options): rows, **more}, "\n".join(lines))


def add_entry(options: Namespace) -> None:
    from mobbet.actions import front_sections, menus
    from mobbet.core.front import read_heading

    workshop, _, blog = at_work(options)
    if options.front:
        section = front_sections.read_section(workshop, blog, options.target)
        section = replace(section, words=read_heading(options.words))
        at = _place(options.at)[0] if options.at else None
        _give(options, front_sections.adding(section, at))
        return
    target = menus.read_target(workshop, blog, options.target)
    place = _place(options.at) if options.at else None
    _give(options, menus.adding(_where(options), target, options.words, place))


def move(options: Namespace) -> None:
    from mobbet.actions import front_sections, menus

    place, to = _place(options.place), _place(options.to)
    if options.front:
        _give(options, front_sections.moving(place[0], to[0]))
        return
    _give(options, menus.moving(_where(options), place, to))


def remove(options: Namespace) -> None:
    from mobbet.actions import front_sections, menus

    place = _place(options.place)
    _give(
        options,
        front_sections.removing(place[0]) if options.front else menus.removing(_where(options), place),
    )


def show_more(options: Namespace) -> None:
    from mobbet.actions import front_sections

    if not options.front:
        raise BadInput("Only sections of the front page show what is chosen; write --front before show.")
    workshop, _, blog = at_work(options)
    _give(options, front_sections.showing(workshop, blog, _place(options.place)[0], options.title))


def _give(options: Namespace, change: Change) -> None:
    from mobbet.actions import menus

    workshop, person, blog = at_work(options)
    published = menus.give_change(workshop, person, blog.slug, change)
    menu = menus.given(workshop, blog)
    _report(options, menu, edition=published.edition, written=published.written)
