"""The command line. Commands that report take `--json` and print one JSON object; messages go to stderr."""

from __future__ import annotations

import argparse
import sys
from collections.abc import Callable
from pathlib import Path

from mobbet import (
    commands,
    commands_comments,
    commands_desk,
    commands_filing,
    commands_going,
    commands_library,
    commands_people,
    commands_proof,
    commands_targets,
    commands_writing,
)
from mobbet.actions import blogs as blog_roles
from mobbet.core.errors import MobbetError


def main(arguments: list[str] | None = None) -> int:
    """Runs a command. Answers 0 when it is done, 1 when it was refused, 2 for words it does not know."""
    options = parser().parse_args(arguments)
    try:
        return options.run(options) or 0
    except MobbetError as error:
        print(f"mobbet: {error}", file=sys.stderr)
        return 1
    except (BrokenPipeError, KeyboardInterrupt):
        return 0 if options.command in ("demo", "serve") else 1
    except OSError as error:
        print(f"mobbet: {error.filename or 'a file'}: {error.strerror or error}; check its name and rights.", file=sys.stderr)
        return 1


def parser() -> argparse.ArgumentParser:
    top = argparse.ArgumentParser(prog="mobbet", description="Write, file, schedule, preview and publish posts.")
    add = _Adder(top.add_subparsers(dest="command", required=True, metavar="COMMAND"))

    demo = add("demo", commands.demo, "make the demo data if there is none, then serve")
    demo.add_argument("--data", type=Path, default=Path("var/demo"), metavar="DIR")
    demo.add_argument("--host", default="127.0.0.1", metavar="H")
    demo.add_argument("--port", type=int, default=8000, metavar="N")
    demo.add_argument("--no-serve", action="store_true", help="only make the data")

    serve = add("serve", commands.serve, "serve the application and the published sites", data=True)
    serve.add_argument("--host", default="127.0.0.1", metavar="H")
    serve.add_argument("--port", type=int, default=8000, metavar="N")

    init = add("init", commands.init, "make the first person and blog in an empty data folder", data=True, reports=True)
    for name, help in (
        ("blog", "the blog's name"), ("address", "its address, such as mending-bench"), ("zone", "its time zone, such as Europe/Lisbon"),
        ("email", "the owner's e-mail address"),
    ):  # fmt: skip
        init.add_argument(f"--{name}", required=True, help=help)
    init.add_argument("--password-file", required=True, type=Path, metavar="F", help="a file with the password on its first line")
    init.add_argument("--name", default="", help="the owner's name (the part of the e-mail address before the @)")
    init.add_argument("--home", default="", help="the site's public address (http://127.0.0.1:8000/b/ADDRESS/)")

    _people_commands(add)

    post = add("post", None, "make, change, place and list posts", data=True, reports=True)
    post.add_argument("--blog", default=None, metavar="SLUG")
    _post_commands(post)

    _filing_groups(add)

    build = add("build", commands.build, "publish what is due now, or write the site as files", data=True, reports=True)
    build.add_argument("--blog", default=None, metavar="SLUG")
    build.add_argument("--full", action="store_true", help="render every page anew")
    build.add_argument("--out", type=Path, default=None, metavar="DIR", help="write the public site as files; changes nothing in the data folder")
    build.add_argument("--at", default=None, metavar="INSTANT", help="with --out: the site as it stands then")

    _going_commands(add)
    _desk_commands(add)
    _comment_commands(add)
    _proof_command(add)

    bring = add("bring-in", commands_writing.bring_in, "make drafts of text files, word-processor files and archives", data=True, reports=True)
    bring.add_argument("--blog", default=None, metavar="SLUG")
    bring.add_argument("files", nargs="+", metavar="FILE", help=".docx, .odt, .md, .html, .txt, or a .zip of folders")

    _more_commands(add)
    return top


def _people_commands(add: _Adder) -> None:
    person = add("person", None, "the people of this server: add, suspend, give roles and passwords", data=True, reports=True)
    within = _Adder(person.add_subparsers(dest="what", required=True, metavar="list|add|role|suspend|password"))
    within("list", commands_people.person_list, "list everybody with their roles")
    added = within("add", commands_people.person_add, "add somebody to a blog")
    added.add_argument("email", metavar="EMAIL")
    for name, shown, choices, help in (
        ("name", "NAME", None, "as it stands below their posts"), ("blog", "SLUG", None, "the blog's address"), ("role", "ROLE", blog_roles.ROLES, "owner, editor or writer"),
    ):  # fmt: skip
        added.add_argument(f"--{name}", required=True, metavar=shown, choices=choices, help=help)
    role = within("role", commands_people.person_role, "give somebody another role on a blog, or none")
    role.add_argument("email", metavar="EMAIL")
    role.add_argument("role", metavar="ROLE", choices=(*blog_roles.ROLES, blog_roles.NO_ROLE), help="owner, editor, writer or none")
    role.add_argument("--blog", required=True, metavar="SLUG")
    suspended = within("suspend", commands_people.person_suspend, "sign somebody out everywhere and let them in no more")
    suspended.add_argument("email", metavar="EMAIL")
    suspended.add_argument("--lift", action="store_true", help="let them in again")
    password = within("password", commands_people.person_password, "set somebody's password")
    password.add_argument("email", metavar="EMAIL")
    for command, is_needed in ((added, False), (password, True)):
        command.add_argument("--password-file", required=is_needed, type=Path, default=None, metavar="F", help="a file with the password on its first line")
    blog = add("blog", None, "the blogs of this server", data=True, reports=True)
    within = _Adder(blog.add_subparsers(dest="what", required=True, metavar="list|add"))
    within("list", commands_people.blog_list, "list the blogs with their owners")
    made = within("add", commands_people.blog_add, "make another blog")
    made.add_argument("name", metavar="NAME")
    made.add_argument("--address", required=True, metavar="SLUG", help="such as mending-bench")
    made.add_argument("--owner", required=True, metavar="EMAIL")
    made.add_argument("--zone", default="", metavar="ZONE", help="its time zone (that of the first blog)")
    made.add_argument("--home", default="", metavar="URL", help="the site's public address (http://127.0.0.1:8000/b/SLUG/)")


def _more_commands(add: _Adder) -> None:
    past = add("revisions", commands_writing.look_back, "list, compare, name and put back the revisions of a post", data=True, reports=True)
    past.add_argument("words", nargs="+", metavar="ID | compare ID A B | restore ID A | name ID A NAME")

    shelf = add("library", None, "add, find, show and remove pictures, sound, video and files", data=True, reports=True)
    shelf.add_argument("--blog", default=None, metavar="SLUG")
    _library_commands(shelf)

    add("work", commands_library.work, "do the work that takes time, until standard input ends; the server starts this by itself", data=True)

    convert = add("convert", commands.convert, "turn a text from one format into another")
    convert.add_argument("--from", dest="source", required=True, choices=sorted(commands.READERS))
    convert.add_argument("--to", dest="target", required=True, choices=sorted(commands.WRITERS))
    convert.add_argument("file", nargs="?", default="-", metavar="FILE")

    fill = add("fill", commands.fill, "add made-up posts for measuring", data=True, reports=True)
    fill.add_argument("--posts", type=int, required=True, metavar="N")
    fill.add_argument("--seed", type=int, default=1, metavar="S")

    add("check", commands.check, "check the integrity of database, media and pages", data=True, reports=True)

    bench = add("bench", commands.bench, "measure the figures of BENCHMARKS.md", reports=True)
    bench.add_argument("--posts", type=int, default=10_000, metavar="N")


def _going_commands(add: _Adder) -> None:
    slots = add("slots", None, "the repeating times kept free for posts, and the queue that fills them", data=True, reports=True)
    slots.add_argument("--blog", default=None, metavar="SLUG")
    within = _Adder(slots.add_subparsers(dest="what", required=True, metavar="list|add|fill"))
    listed = within("list", commands_going.slots_list, "list the slots of a time with the posts that fill them (a year from now)")
    listed.add_argument("--from", dest="first", default=None, metavar="DATE")
    listed.add_argument("--until", default=None, metavar="DATE")
    made = within("add", commands_going.slots_add, "keep a repeating time free")
    made.add_argument("rule", metavar="RRULE", help="an RFC 5545 recurrence, such as FREQ=WEEKLY;BYDAY=TU")
    made.add_argument("--at", default="09:00", metavar="HH:MM", help="the time of day (09:00)")
    made.add_argument("--from", dest="first", default=None, metavar="DATE", help="the day from which it counts (today)")
    made.add_argument("--except", dest="excepted", default=None, metavar="DATE,…", help="days on which it is left out")
    within("fill", commands_going.slots_fill, "put posts in the queue, and the queue in the slots").add_argument("posts", nargs="*", type=int, metavar="ID")

    for name, run, help in (
        ("footprint", commands_going.footprint, "tell which addresses placing a post would add, alter, remove and lead on; changes nothing"),
        ("where", commands_going.where, "tell where a reader finds a post, and why not elsewhere"),
        ("editions", commands_going.editions_do, "list, show, compare and put back editions of the site"),
        ("target", commands_targets.target_do, "the places outside to which the site is sent: a folder, an object store, another machine"),
        ("group", commands_going.group_do, "the groups of readers, and who is invited to them"),
    ):
        command = add(name, run, help, data=True, reports=True)
        command.add_argument("--blog", default=None, metavar="SLUG")
        if name == "footprint":
            command.add_argument("what", metavar="ID|FILE")
        elif name == "where":
            command.add_argument("id", type=int, metavar="ID")
            command.add_argument("--as", dest="reader", default="everyone", metavar="READER", help="everyone, signed-in, group:NAME or owner")
            command.add_argument("--at", default=None, metavar="INSTANT")
        else:
            command.add_argument("words", nargs="+", metavar=_WORDS[name])
            if name == "target":
                command.add_argument("--credentials-file", type=Path, default=None, metavar="F", help="with add: a JSON file with what the place asks for")


def _desk_commands(add: _Adder) -> None:
    search = add("search", commands_desk.search, "find posts by words, \"exact words\", -without, tag:, in:, by:, is:, before: and after:", data=True, reports=True)
    search.add_argument("--blog", default=None, metavar="SLUG")
    search.add_argument("query", metavar="QUERY")
    search.add_argument("--limit", type=int, default=50, metavar="N")
    timetable = add("timetable", commands_desk.timetable, "tell what goes out and comes down, and which slots are free", data=True, reports=True)
    timetable.add_argument("--blog", default=None, metavar="SLUG")
    timetable.add_argument("--ics", action="store_true", help="as iCalendar")


def _comment_commands(add: _Adder) -> None:
    group = add("comment", None, "the comments of readers", data=True, reports=True)
    group.add_argument("--blog", default=None, metavar="SLUG")
    within = _Adder(group.add_subparsers(dest="what", required=True, metavar="list|show|refuse|take-back|remove|rule"))
    listed = within("list", commands_comments.comment_list, "list the newest comments that wait, or of another state")
    listed.add_argument("--state", default="waits", metavar="STATE", help="waits, shown or refused")
    listed.add_argument("--limit", type=int, default=50, metavar="N")
    for name, run, help in (
        ("show", commands_comments.comment_settle, "let readers see comments"), ("refuse", commands_comments.comment_settle, "show comments to nobody"),
        ("take-back", commands_comments.comment_settle, "let comments wait again"), ("remove", commands_comments.comment_remove, "remove comments for good"),
    ):  # fmt: skip
        within(name, run, help).add_argument("ids", nargs="+", type=int, metavar="ID")
    rule = within("rule", commands_comments.comment_rule, "tell who may comment, or change it")
    rule.add_argument("who", nargs="?", default=None, choices=("nobody", "signed-in", "anyone"), metavar="WHO", help="nobody, signed-in or anyone")
    rule.add_argument("--waiting", default="all", choices=("all", "strangers", "none"), metavar="WHOSE", help="whose comments wait: all, strangers or none")


def _proof_command(add: _Adder) -> None:
    proof = add("proof", commands_proof.proof, "read a text, or a post, as a careful editor would", reports=True)
    proof.add_argument("--data", type=Path, default=None, metavar="DIR", help="the data folder, for the blog's rules and its other posts")
    proof.add_argument("--blog", default=None, metavar="SLUG")
    proof.add_argument("--post", type=int, default=None, metavar="ID")
    proof.add_argument("file", nargs="?", default=None, metavar="FILE", help="Markdown with front matter; - is standard input")


_WORDS = {
    "editions": "list | show N | compare A B | put-back N",
    "group": "list | add NAME | invite NAME ADDRESS… | remove NAME",
    "target": "add folder:PATH|s3://…|sftp://… | list | remove N | send [N] | check [N]",
}


class _Adder:
    """Adds a command, and the options that several of them share."""

    def __init__(self, group: argparse._SubParsersAction) -> None:
        self._group = group

    def __call__(
        self, name: str, run: Callable | None, help: str, data: bool = False, reports: bool = False
    ) -> argparse.ArgumentParser:
        command = self._group.add_parser(name, help=help, description=help)
        if run:
            command.set_defaults(run=run)
        if data:
            command.add_argument("--data", type=Path, required=True, metavar="DIR", help="the data folder")
        if reports:
            command.add_argument("--json", action="store_true", help="print one JSON object")
        return command


def _post_commands(post: argparse.ArgumentParser) -> None:
    add = _Adder(post.add_subparsers(dest="what", required=True, metavar="new|update|place|withdraw|show|list"))
    new = add("new", commands.post_new, "make a post from a Markdown file with front matter")
    new.add_argument("file", metavar="FILE", help="- is standard input")
    update = add("update", commands.post_update, "replace a post's text and the settings that the file names")
    update.add_argument("id", type=int)
    update.add_argument("file", metavar="FILE")
    place = add("place", commands.post_place, "publish a post now, or give it a time to go out")
    place.add_argument("id", type=int)
    place.add_argument("--at", default=None, metavar="TIME", help="such as 2026-11-26T09:00 or thu 9, in the blog’s zone")
    for name, run, help in (
        ("withdraw", commands.post_withdraw, "take a post off the site or out of the timetable"),
        ("show", commands.post_show, "tell about one post"),
    ):
        add(name, run, help).add_argument("id", type=int)
    add("list", commands.post_list, "list the posts")


def _filing_groups(add: _Adder) -> None:
    for name, help, make in (
        ("category", "the tree of categories", _category_commands), ("tag", "the tags", _tag_commands), ("address", "the addresses of posts, and where old ones lead", _address_commands),
    ):  # fmt: skip
        group = add(name, None, help, data=True, reports=True)
        group.add_argument("--blog", default=None, metavar="SLUG")
        make(group)


def _category_commands(group: argparse.ArgumentParser) -> None:
    add = _Adder(group.add_subparsers(dest="what", required=True, metavar="list|add|rename|move|merge|split|remove|catch-all"))
    add("list", commands_filing.category_list, "list the tree with its counts")
    for name, run, help, more in (
        ("add", commands_filing.category_add, "make a category; a path is written A > B", ()),
        ("rename", commands_filing.category_rename, "give a category another name", (("name", "NAME", "the new name"),)),
        ("move", commands_filing.category_move, "put a category below another one", (("parent", "PARENT", "the path of the new parent; - is the top"),)),
        ("merge", commands_filing.category_merge, "make one category of two", (("into", "INTO", "the path of the one that stays"),)),
        ("split", commands_filing.category_split, "move the posts with a tag into a subcategory", (("tag", "TAG", "the tag"),)),
        ("catch-all", commands_filing.category_catch_all, "name the category for posts without any", ()),
    ):
        command = add(name, run, help)
        command.add_argument("path", metavar="PATH")
        for word, shown, about in more:
            command.add_argument(word, metavar=shown, help=about)
    remove = add("remove", commands_filing.category_remove, "remove a category; its posts go to another one")
    remove.add_argument("path", metavar="PATH")
    remove.add_argument("--to", required=True, metavar="PATH", help="where its posts go")


def _tag_commands(group: argparse.ArgumentParser) -> None:
    add = _Adder(group.add_subparsers(dest="what", required=True, metavar="list|rename|merge|remove|doubles"))
    add("list", commands_filing.tag_list, "list the tags with how many posts have them")
    add("doubles", commands_filing.tag_doubles, "list tags that mean one thing")
    rename = add("rename", commands_filing.tag_rename, "give a tag another name")
    merge = add("merge", commands_filing.tag_merge, "make one tag of two")
    remove = add("remove", commands_filing.tag_remove, "take a tag off every post")
    for command in (rename, merge, remove):
        command.add_argument("tag", metavar="TAG")
    rename.add_argument("name", metavar="NAME")
    merge.add_argument("into", metavar="INTO")


def _address_commands(group: argparse.ArgumentParser) -> None:
    add = _Adder(group.add_subparsers(dest="what", required=True, metavar="pattern|list|add|import|resolve"))
    add("pattern", commands_filing.address_pattern, "show the pattern of addresses, or change it").add_argument("pattern", nargs="?", default=None, metavar="PATTERN")
    add("list", commands_filing.address_list, "list every address and where it leads")
    more = add("add", commands_filing.address_add, "let an address of a previous site lead on")
    more.add_argument("old", metavar="OLD")
    more.add_argument("new", metavar="NEW")
    add("import", commands_filing.address_import, "the same for a CSV file with two columns, old and new").add_argument("file", metavar="FILE.csv")
    add("resolve", commands_filing.address_resolve, "tell what readers get at an address").add_argument("address", metavar="ADDRESS")


def _library_commands(shelf: argparse.ArgumentParser) -> None:
    add = _Adder(shelf.add_subparsers(dest="what", required=True, metavar="add|list|show|remove"))
    add("add", commands_library.add, "keep files, and wait until everything is made of them").add_argument("files", nargs="+", metavar="FILE")
    add("list", commands_library.find, "list the items that fit some words").add_argument("words", nargs="*", metavar="WORDS")
    for name, run, help in (("show", commands_library.show, "tell about one item"), ("remove", commands_library.remove, "set an item aside")):
        add(name, run, help).add_argument("id", type=int)
