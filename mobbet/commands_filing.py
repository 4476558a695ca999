"""The commands of categories, tags and addresses. Each change publishes what follows from it."""

from __future__ import annotations

from argparse import Namespace
from collections.abc import Callable
from pathlib import Path
from typing import Any

from mobbet.actions import (
    addresses,
    categories,
    category_tree,
    filing_counts,
    old_addresses,
    patterns,
    placing,
    tags,
)
from mobbet.actions.categories import Done
from mobbet.actions.permalinks import category_subjects
from mobbet.actions.workshop import Workshop
from mobbet.commands import at_work, report
from mobbet.core.errors import BadInput
from mobbet.core.filing import path_in_words, tree
from mobbet.core.permalinks import short_path
from mobbet.store import addresses as address_store
from mobbet.store import filing
from mobbet.store.blogs import Blog


def _published(workshop: Workshop, blog: Blog) -> dict[str, Any]:
    made = placing.publish(workshop, blog)
    return {"edition": made.edition, "written": made.written, "removed": made.removed, "seconds": made.seconds}


def _change(options: Namespace, change: Callable[[Workshop, Any, Blog], Done]) -> None:
    """Makes a change of the filing, publishes it and reports both."""
    workshop, person, blog = at_work(options)
    done = change(workshop, person, blog)
    made = _published(workshop, blog)
    words = f"{done.words} Edition {made['edition']}: {made['written']} pages written, {made['removed']} removed."
    report(options, {"done": done.words, "id": done.subject, **made}, words)


def category_list(options: Namespace) -> None:
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


def category_add(options: Namespace) -> None:
    _change(options, lambda workshop, person, blog: categories.add(workshop, person, blog.slug, options.path))


def category_rename(options: Namespace) -> None:
    _change(options, lambda workshop, person, blog: categories.rename(workshop, person, blog.slug, categories.find(workshop, blog, options.path), options.name))


def category_move(options: Namespace) -> None:
    def move(workshop: Workshop, person: Any, blog: Blog) -> Done:
        parent = None if options.parent.strip() in ("", "-", "/") else categories.find(workshop, blog, options.parent)
        return category_tree.move(workshop, person, blog.slug, categories.find(workshop, blog, options.path), parent)

    _change(options, move)


def category_merge(options: Namespace) -> None:
    def merge(workshop: Workshop, person: Any, blog: Blog) -> Done:
        return category_tree.merge(workshop, person, blog.slug, categories.find(workshop, blog, options.path), categories.find(workshop, blog, options.into))

    _change(options, merge)


def category_remove(options: Namespace) -> None:
    def remove(workshop: Workshop, person: Any, blog: Blog) -> Done:
        return category_tree.remove(workshop, person, blog.slug, categories.find(workshop, blog, options.path), categories.find(workshop, blog, options.to))

    _change(options, remove)


def category_split(options: Namespace) -> None:
    _change(options, lambda workshop, person, blog: category_tree.split(workshop, person, blog.slug, categories.find(workshop, blog, options.path), options.tag))


def category_catch_all(options: Namespace) -> None:
    def name(workshop: Workshop, person: Any, blog: Blog) -> Done:
        number = categories.find(workshop, blog, options.path)
        categories.set_catch_all(workshop, person, blog.slug, number)
        return Done(f"Posts without a category fall under “{options.path}” from now on.", 0, number)

    _change(options, name)


def tag_list(options: Namespace) -> None:
    workshop, _, blog = at_work(options)
    rows = [{"id": tag.id, "name": tag.name, "slug": tag.slug, "address": f"/tag/{tag.slug}/", "posts": tag.posts} for tag in filing.tag_counts(workshop.db, blog.id)]
    report(options, {"tags": rows}, "\n".join(f"{row['posts']:>6}  {row['name']}" for row in rows))


def tag_rename(options: Namespace) -> None:
    _change(options, lambda workshop, person, blog: tags.rename(workshop, person, blog.slug, tags.find(workshop, blog, options.tag), options.name))


def tag_merge(options: Namespace) -> None:
    _change(options, lambda workshop, person, blog: tags.merge(workshop, person, blog.slug, tags.find(workshop, blog, options.tag), tags.find(workshop, blog, options.into)))


def tag_remove(options: Namespace) -> None:
    _change(options, lambda workshop, person, blog: tags.remove(workshop, person, blog.slug, tags.find(workshop, blog, options.tag)))


def tag_doubles(options: Namespace) -> None:
    workshop, _, blog = at_work(options)
    rows = [
        {"tag": one.tag.name, "into": one.into.name, "why": one.words, "posts": [one.tag.posts, one.into.posts]}
        for one in tags.near_doubles(workshop, blog, 100_000)
    ]
    report(options, {"doubles": rows}, "\n".join(f"“{row['tag']}” beside “{row['into']}”: {row['why']}" for row in rows) or "No tag doubles another one.")


def address_pattern(options: Namespace) -> None:
    workshop, person, blog = at_work(options)
    if options.pattern is None:
        tried = patterns.try_pattern(workshop, blog, blog.pattern)
        report(options, {"pattern": blog.pattern, "example": tried.path, "title": tried.title}, f"{blog.pattern}, such as {tried.path}")
        return
    moved = patterns.set_pattern(workshop, person, blog.slug, options.pattern)
    made = _published(workshop, blog)
    tried = patterns.try_pattern(workshop, blog, options.pattern)
    words = f"{moved} posts moved; each old address leads on. Edition {made['edition']}."
    report(options, {"pattern": tried.pattern, "example": tried.path, "moved": moved, **made}, words)


def address_list(options: Namespace) -> None:
    workshop, _, blog = at_work(options)
    rows = []
    for row in address_store.every(workshop.db, blog.id):
        answer = addresses.resolve(workshop, blog, row.path)
        rows.append({"path": row.path, "kind": row.kind, "answer": answer.kind, "leads_to": answer.path if answer.kind == addresses.LEADS_ON else None, "by_hand": bool(row.by_hand), "hits": row.hits})
        if row.kind == "post" and answer.kind == addresses.PAGE:
            short = short_path(row.owner)
            rows.append({"path": short, "kind": "short", "answer": addresses.LEADS_ON, "leads_to": row.path, "by_hand": False, "hits": address_store.hits_of(workshop.db, blog.id, short)})
    report(options, {"addresses": rows}, "\n".join(f"{row['hits']:>6}  {row['path']}{' → ' + row['leads_to'] if row['leads_to'] else ''}" for row in rows))


def address_add(options: Namespace) -> None:
    workshop, person, blog = at_work(options)
    target = old_addresses.add(workshop, person, blog.slug, options.old, options.new)
    report(options, {"old": options.old, "leads_to": target, **_published(workshop, blog)}, f"{options.old} leads to {target} now.")


def address_import(options: Namespace) -> int:
    workshop, person, blog = at_work(options)
    source = Path(options.file)
    try:
        text = source.read_text("utf-8-sig")
    except UnicodeDecodeError:
        raise BadInput(f"“{source}” is not in UTF-8; save it as CSV in UTF-8.", "file") from None
    done = old_addresses.bring_in(workshop, person, blog.slug, text)
    refused = [{"line": line, "reason": why} for line, why in done.refused]
    lines = [f"{done.added} addresses lead on now.", *(f"Line {one['line']}: {one['reason']}" for one in refused)]
    report(options, {"added": done.added, "refused": refused, **_published(workshop, blog)}, "\n".join(lines))
    return 1 if refused and not done.added else 0


def address_resolve(options: Namespace) -> None:
    workshop, _, blog = at_work(options)
    asked = options.address
    if asked.startswith(blog.home):
        asked = "/" + asked[len(blog.home) :]
    asked = asked.removeprefix(f"/b/{blog.slug}") or "/"
    answer = addresses.resolve(workshop, blog, asked)
    status = {addresses.PAGE: 200, addresses.LEADS_ON: 301, addresses.GONE: 410, addresses.NOTHING: 404}[answer.kind]
    words = {200: f"{answer.path} is a page.", 301: f"It leads to {answer.path}.", 410: "What stood there has come down.", 404: "Nothing ever stood there."}[status]
    report(options, {"address": options.address, "answer": answer.kind, "status": status, "path": answer.path or None, "post": answer.post}, words)
