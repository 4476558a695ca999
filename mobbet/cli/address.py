"""`mobbet address`: the addresses of posts, and where old ones lead."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from pathlib import Path

from mobbet.cli.options import Subcommands, takes_blog, takes_data, takes_json
from mobbet.cli.shared import at_work, published, report
from mobbet.core.errors import BadInput
from mobbet.core.numbers import counted

EPILOG = """`resolve` prints `{"address", "answer", "status", "path", "post"}`. A pattern of addresses is made of `{year} {month}
{day} {category} {category-path} {slug}`."""


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_data(command)
    takes_json(command)
    takes_blog(command)
    add = Subcommands(command, "pattern|list|add|import|resolve")
    add("pattern", pattern, "show the pattern of addresses, or change it").add_argument(
        "pattern", nargs="?", default=None, metavar="PATTERN"
    )
    add("list", list_addresses, "list every address and where it leads")
    added = add("add", add_address, "let an address of a previous site lead on")
    added.add_argument("old", metavar="OLD")
    added.add_argument("new", metavar="NEW")
    add("import", import_file, "the same for a CSV file with two columns, old and new").add_argument(
        "file", metavar="FILE.csv"
    )
    add("resolve", resolve, "tell what readers get at an address").add_argument("address", metavar="ADDRESS")


def pattern(options: Namespace) -> None:
    from mobbet.actions import patterns
    from mobbet.actions.work import changing

    workshop, person, blog = at_work(options)
    if options.pattern is None:
        tried = patterns.try_pattern(workshop, blog, blog.pattern)
        report(
            options,
            {"pattern": blog.pattern, "example": tried.path, "title": tried.title},
            f"{blog.pattern}, such as {tried.path}",
        )
        return
    with changing(workshop, person) as unit:
        moved = patterns.set_pattern(workshop, person, blog.slug, options.pattern)
    made = published(unit.published(blog))
    tried = patterns.try_pattern(workshop, blog, options.pattern)
    words = f"{counted(moved, 'post')} moved; each old address redirects. Edition {made['edition']}."
    report(options, {"pattern": tried.pattern, "example": tried.path, "moved": moved, **made}, words)


def list_addresses(options: Namespace) -> None:
    from mobbet.actions import addresses
    from mobbet.core.permalinks import short_path
    from mobbet.store import addresses as address_store

    workshop, _, blog = at_work(options)
    rows = []
    for row in address_store.every(workshop.db, blog.id):
        answer = addresses.resolve(workshop, blog, row.path)
        rows.append(
            {
                "path": row.path,
                "kind": row.kind,
                "answer": answer.kind,
                "leads_to": answer.path if answer.kind == addresses.REDIRECT else None,
                "by_hand": bool(row.by_hand),
                "hits": row.hits,
            }
        )
        if row.kind == "post" and answer.kind == addresses.PAGE:
            short = short_path(row.owner)
            rows.append(
                {
                    "path": short,
                    "kind": "short",
                    "answer": addresses.REDIRECT,
                    "leads_to": row.path,
                    "by_hand": False,
                    "hits": address_store.hits_of(workshop.db, blog.id, short),
                }
            )
    report(
        options,
        {"addresses": rows},
        "\n".join(
            f"{row['hits']:>6}  {row['path']}{' → ' + str(row['leads_to']) if row['leads_to'] else ''}"
            for row in rows
        ),
    )


def add_address(options: Namespace) -> None:
    from mobbet.actions import old_addresses
    from mobbet.actions.work import changing

    workshop, person, blog = at_work(options)
    with changing(workshop, person) as unit:
        target = old_addresses.add(workshop, person, blog.slug, options.old, options.new)
    report(
        options,
        {"old": options.old, "leads_to": target, **published(unit.published(blog))},
        f"{options.old} leads to {target} now.",
    )


def import_file(options: Namespace) -> int:
    from mobbet.actions import old_addresses
    from mobbet.actions.work import changing

    workshop, person, blog = at_work(options)
    source = Path(options.file)
    try:
        text = source.read_text("utf-8-sig")
    except UnicodeDecodeError:
        raise BadInput(f"“{source}” is not in UTF-8; save it as CSV in UTF-8.", "file") from None
    with changing(workshop, person) as unit:
        done = old_addresses.bring_in(workshop, person, blog.slug, text)
    refused = [{"line": line, "reason": why} for line, why in done.refused]
    lines = [
        f"{done.added} addresses redirect now.",
        *(f"Line {one['line']}: {one['reason']}" for one in refused),
    ]
    report(
        options,
        {"added": done.added, "refused": refused, **published(unit.published(blog))},
        "\n".join(lines),
    )
    return 1 if refused and not done.added else 0


def resolve(options: Namespace) -> None:
    from mobbet.actions import addresses

    workshop, _, blog = at_work(options)
    asked = options.address
    if asked.startswith(blog.home):
        asked = "/" + asked[len(blog.home) :]
    asked = asked.removeprefix(f"/b/{blog.slug}") or "/"
    answer = addresses.resolve(workshop, blog, asked)
    status = {addresses.PAGE: 200, addresses.REDIRECT: 301, addresses.GONE: 410, addresses.NOTHING: 404}[
        answer.kind
    ]
    words = {
        200: f"{answer.path} is a page.",
        301: f"It leads to {answer.path}.",
        410: "What stood there has come down.",
        404: "Nothing ever stood there.",
    }[status]
    report(
        options,
        {
            "address": options.address,
            "answer": answer.kind,
            "status": status,
            "path": answer.path or None,
            "post": answer.post,
        },
        words,
    )
