"""`mobbet tag`: the tags."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace

from mobbet.cli.options import Subcommands, takes_blog, takes_data, takes_json
from mobbet.cli.shared import at_work, change, report
from mobbet.core.values import existing

EPILOG = """A change publishes what follows from it and prints `{"done", "id", "edition", "written", "removed", "seconds"}`."""


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_data(command)
    takes_json(command)
    takes_blog(command)
    add = Subcommands(command, "list|rename|merge|remove|doubles")
    add("list", list_tags, "list the tags with how many posts have them")
    add("doubles", list_doubles, "list tags that mean one thing")
    renamed = add("rename", rename, "give a tag another name")
    merged = add("merge", merge, "make one tag of two")
    removed = add("remove", remove, "take a tag off every post")
    for one in (renamed, merged, removed):
        one.add_argument("tag", metavar="TAG")
    renamed.add_argument("name", metavar="NAME")
    merged.add_argument("into", metavar="INTO")


def list_tags(options: Namespace) -> None:
    from mobbet.store import filing

    workshop, _, blog = at_work(options)
    rows = [
        {"id": tag.id, "name": tag.name, "slug": tag.slug, "address": f"/tag/{tag.slug}/", "posts": tag.posts}
        for tag in filing.tag_counts(workshop.db, blog.id)
    ]
    report(options, {"tags": rows}, "\n".join(f"{row['posts']:>6}  {row['name']}" for row in rows))


def rename(options: Namespace) -> None:
    from mobbet.actions import tags

    change(
        options,
        lambda workshop, person, blog: tags.rename(
            workshop, person, blog.slug, tags.find(workshop, blog, options.tag), options.name
        ),
    )


def merge(options: Namespace) -> None:
    from mobbet.actions import tags

    change(
        options,
        lambda workshop, person, blog: tags.merge(
            workshop,
            person,
            blog.slug,
            tags.find(workshop, blog, options.tag),
            tags.find(workshop, blog, options.into),
        ),
    )


def remove(options: Namespace) -> None:
    from mobbet.actions import tags

    change(
        options,
        lambda workshop, person, blog: tags.remove(
            workshop, person, blog.slug, tags.find(workshop, blog, options.tag)
        ),
    )


def list_doubles(options: Namespace) -> None:
    from mobbet.actions import tags

    workshop, _, blog = at_work(options)
    rows = [
        {
            "tag": one.tag.name,
            "into": existing(one.into).name,
            "why": one.words,
            "posts": [one.tag.posts, existing(one.into).posts],
        }
        for one in tags.near_doubles(workshop, blog, 100_000)
    ]
    report(
        options,
        {"doubles": rows},
        "\n".join(f"“{row['tag']}” beside “{row['into']}”: {row['why']}" for row in rows)
        or "No tag doubles another one.",
    )
