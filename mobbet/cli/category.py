"""`mobbet category`: the tree of categories."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from typing import TYPE_CHECKING, Any

from mobbet.cli.options import Subcommands, takes_blog, takes_data, takes_json
from mobbet.cli.shared import at_work, change, report

if TYPE_CHECKING:
    from mobbet.actions.categories import FilingChange
    from mobbet.actions.workshop import Workshop
    from mobbet.store.blogs import Blog


EPILOG = """A category's path is written `A > B`. A change publishes what follows from it and prints `{"done", "id", "edition",
"written", "removed", "seconds"}`; `list` prints `{"categories": [{"id", "path", "name", "slug", "address", "posts",
"with_subcategories", "to_come", "catch_all"}]}`."""


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_data(command)
    takes_json(command)
    takes_blog(command)
    add = Subcommands(command, "list|add|rename|move|merge|split|remove|catch-all")
    add("list", list_categories, "list the tree with its counts")
    for name, run, help, more in (
        ("add", add_category, "make a category; a path is written A > B", ()),
        ("rename", rename, "give a category another name", (("name", "NAME", "the new name"),)),
        (
            "move",
            move,
            "put a category below another one",
            (("parent", "PARENT", "the path of the new parent; - is the top"),),
        ),
        ("merge", merge, "make one category of two", (("into", "INTO", "the path of the one that stays"),)),
        ("split", split, "move the posts with a tag into a subcategory", (("tag", "TAG", "the tag"),)),
        ("catch-all", set_catch_all, "name the category for posts without any", ()),
    ):
        one = add(name, run, help)
        one.add_argument("path", metavar="PATH")
        for word, shown, about in more:
            one.add_argument(word, metavar=shown, help=about)
    removed = add("remove", remove, "remove a category; its posts go to another one")
    removed.add_argument("path", metavar="PATH")
    removed.add_argument("--to", required=True, metavar="PATH", help="where its posts go")


def list_categories(options: Namespace) -> None:
    from mobbet.actions import filing_counts
    from mobbet.actions.permalinks import category_subjects
    from mobbet.core.filing import path_in_words, tree

    workshop, _, blog = at_work(options)
    subjects = category_subjects(workshop, blog)
    counts = filing_counts.counts(workshop, blog, subjects)
    rows = [
        {
            "id": subject.id, "path": path_in_words(subjects, subject.id), "name": subject.name, "slug": subject.slug, "address": f"/{subject.slug}/",
            "posts": counts[subject.id].own, "with_subcategories": counts[subject.id].whole, "to_come": counts[subject.id].to_come,
            "catch_all": subject.id == blog.catch_all,
        }
        for _, subject in tree(subjects.values())
    ]  # fmt: skip
    report(options, {"categories": rows}, "\n".join(f"{row['posts']:>6}  {row['path']}" for row in rows))


def add_category(options: Namespace) -> None:
    from mobbet.actions import categories

    change(options, lambda workshop, person, blog: categories.add(workshop, person, blog.slug, options.path))


def rename(options: Namespace) -> None:
    from mobbet.actions import categories

    change(
        options,
        lambda workshop, person, blog: categories.rename(
            workshop, person, blog.slug, categories.find(workshop, blog, options.path), options.name
        ),
    )


def move(options: Namespace) -> None:
    from mobbet.actions import categories, category_tree

    def move(workshop: Workshop, person: Any, blog: Blog) -> FilingChange:
        parent = (
            None
            if options.parent.strip() in ("", "-", "/")
            else categories.find(workshop, blog, options.parent)
        )
        return category_tree.move(
            workshop, person, blog.slug, categories.find(workshop, blog, options.path), parent
        )

    change(options, move)


def merge(options: Namespace) -> None:
    from mobbet.actions import categories, category_tree

    def merge(workshop: Workshop, person: Any, blog: Blog) -> FilingChange:
        return category_tree.merge(
            workshop,
            person,
            blog.slug,
            categories.find(workshop, blog, options.path),
            categories.find(workshop, blog, options.into),
        )

    change(options, merge)


def remove(options: Namespace) -> None:
    from mobbet.actions import categories, category_tree

    def remove(workshop: Workshop, person: Any, blog: Blog) -> FilingChange:
        return category_tree.remove(
            workshop,
            person,
            blog.slug,
            categories.find(workshop, blog, options.path),
            categories.find(workshop, blog, options.to),
        )

    change(options, remove)


def split(options: Namespace) -> None:
    from mobbet.actions import categories, category_tree

    change(
        options,
        lambda workshop, person, blog: category_tree.split(
            workshop, person, blog.slug, categories.find(workshop, blog, options.path), options.tag
        ),
    )


def set_catch_all(options: Namespace) -> None:
    from mobbet.actions import categories
    from mobbet.actions.categories import FilingChange

    def name(workshop: Workshop, person: Any, blog: Blog) -> FilingChange:
        number = categories.find(workshop, blog, options.path)
        categories.set_catch_all(workshop, person, blog.slug, number)
        return FilingChange(f"Posts without a category fall under “{options.path}” from now on.", 0, number)

    change(options, name)
