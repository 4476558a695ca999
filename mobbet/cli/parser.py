"""The table of commands, and the parser made from it."""

from __future__ import annotations

from argparse import ArgumentParser
from collections.abc import Sequence
from importlib import import_module
from keyword import iskeyword

from mobbet import __version__

COMMANDS = {
    "demo": "make the demo data if there is none, then serve",
    "serve": "serve the application and the published sites",
    "init": "make the first person and blog in an empty data folder",
    "person": "the people of this server: invite, add, suspend, give roles and passwords",
    "record": "who did what, when and from where, as lines of JSON",
    "blog": "the blogs of this server",
    "post": "make, change, place and list posts",
    "copy": "make a reading copy of a draft, a private link, and print its address",
    "notes": "the notes that people left on a post",
    "category": "the tree of categories",
    "tag": "the tags",
    "address": "the addresses of posts, and where old ones lead",
    "build": "publish what is due now, or write the site as files",
    "slots": "the repeating times kept free for posts, and the queue that fills them",
    "footprint": "tell which addresses placing a post would add, change, remove and redirect (a dry run)",
    "where": "tell where a reader finds a post, and why not elsewhere",
    "look": "how a site looks: show, try, check and give a look to readers",
    "menu": "the menu and the foot of the site's pages",
    "promo": "the rules by which saved blocks stand below posts",
    "editions": "list, show, compare and put back editions of the site",
    "target": "the places outside to which the site is sent: a folder, an object store, another machine",
    "letter": "the letters to subscribers: look at them, send what is due, count what came back",
    "subscriber": "those who get a blog's letters: list, add, end, lists in and out",
    "group": "the groups of readers, and who is invited to them",
    "search": 'find posts by words, "exact words", -without, tag:, in:, by:, is:, before: and after:',
    "reads": "tell what is read, and count the pages of access logs",
    "timetable": "tell what goes out and comes down, and which slots are free",
    "comment": "the comments of readers",
    "proof": "read a text, or a post, as a careful editor would",
    "bring-in": "make drafts of text files, word-processor files and archives",
    "import": "bring in a blog that was exported, or the posts of an older site: feeds, Markdown, HTML pages, tables",
    "sync": "keep the posts of a blog in step with a folder of Markdown files",
    "export": "write a whole blog as a folder or a zip file, which can be imported again",
    "revisions": "list, compare, name and put back the revisions of a post",
    "library": "add, find, show and remove pictures, sound, video and files",
    "work": "do the work that takes time, until standard input ends; the server starts this by itself",
    "convert": "turn a text from one format into another",
    "fill": "add made-up posts for measuring",
    "backup": "make a backup while the server works, check it, list the copies of a place",
    "transfers": "work through the exports and imports that were asked for on the screen; the server starts this by itself",
    "restore": "make a data folder of a backup",
    "check": "check the integrity of database, media and pages",
    "bench": "measure the figures of BENCHMARKS.md",
}
"""{command: what it is for}, in the order of the help. Its module is `mobbet.cli.` and `module_of` its name."""


def module_of(name: str) -> str:
    """The module of a command; a word that Python has for itself gets a line below."""
    return f"{name}_" if iskeyword(name) else name.replace("-", "_")


def chosen(words: Sequence[str]) -> list[str]:
    """The command that some arguments name, as a list of one; [] for none."""
    return [word for word in words[:1] if word in COMMANDS]


def parser(commands: Sequence[str] = tuple(COMMANDS)) -> ArgumentParser:
    """The parser with the arguments of these commands; the others have only their line of help, and their modules are not imported."""
    top = ArgumentParser(prog="mobbet", description="Write, file, schedule, preview and publish posts.")
    top.add_argument("--version", action="version", version=f"mobbet {__version__}")
    group = top.add_subparsers(dest="command", required=True, metavar="COMMAND")
    for name, help in COMMANDS.items():
        command = group.add_parser(name, help=help, description=help)
        if name in commands:
            import_module(f"mobbet.cli.{module_of(name)}").add_arguments(command)
    return top
