"""The screen on which a blog leaves as a file, and older sites come in."""

from __future__ import annotations

from typing import Annotated, Any

from fastapi import APIRouter, File, Form, UploadFile
from starlette.responses import FileResponse, Response

from mobbet.actions import books, transfers, webhooks
from mobbet.actions.access import owned_blog
from mobbet.actions.importing import COMMENT, NEW, REFUSED, THERE
from mobbet.actions.transfers import EXPORT, IMPORT
from mobbet.actions.workshop import Workshop
from mobbet.core.document.html_media import size_words
from mobbet.core.errors import MobbetError, NotFound
from mobbet.core.exporting.tables import CHOICES
from mobbet.core.numbers import counted
from mobbet.core.screen_dates import ago_in_words
from mobbet.core.webhooks import EVENTS
from mobbet.store import transfers as store
from mobbet.store import webhooks as hook_store
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.transfers import DONE, FAILED, GOES, LOOKED, STOPPED, WAITS, Transfer
from mobbet.store.webhooks import Sending, Webhook
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.contexts import Choice
from mobbet.web.shell.fields import AnyForm, Text, Texts
from mobbet.web.shell.rendering import page
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.session import Here, Me
from mobbet.web.site import addresses as to_site
from mobbet.web.site.transfer_contexts import (
    FieldLine,
    FoundLine,
    HookRow,
    InAndOutPage,
    SendingLine,
    TransferRow,
)

router = APIRouter()
KINDS = {
    "rss": "a feed (RSS or Atom)",
    "jsonfeed": "a JSON feed",
    "html": "pages of a site",
    "markdown": "Markdown files",
    "csv": "a table of posts (CSV)",
    "opml": "a list of blogs (OPML), as a draft with links",
}
"""What comes in, in words; a feed of either kind is read by what it is."""
MEANINGS = {
    "": "leave it out", "title": "the title", "published": "the date", "categories": "categories", "tags": "tags", "author": "the author",
    "excerpt": "the excerpt", "addresses": "an old address", "slug": "the end of the address",
}  # fmt: skip
WHAT = {NEW: "new", THERE: "there already", REFUSED: "does not come"}
MOST_ROWS, MOST_LINES = 12, 100


@router.get(to_site.in_and_out.route)
def in_and_out(here: Here, me: Me, slug: str, told: str = "") -> Response:
    words = {
        "undone": "What was imported is set aside; what you wrote on since stays.",
        "stopped": "It stops after the posts it is at.",
        "told-no-more": "It is told nothing more.",
        "again": "It is sent once more.",
    }
    return _page(here, me, owned_blog(here, me, slug), told=words.get(told, ""))


@router.post(to_site.export_begin.route)
def begin_export(here: Here, me: Me, slug: str, what: Texts = []) -> Response:  # noqa: B006
    blog = owned_blog(here, me, slug)
    try:
        transfers.ask_export(here, me, slug, frozenset(what) & CHOICES.keys())
    except MobbetError as error:
        return _page(here, me, blog, 422, problem=str(error))
    return see_other(to_site.in_and_out(slug))


@router.post(to_site.import_begin.route)
def begin_import(
    here: Here, me: Me, slug: str, file: Annotated[UploadFile | None, File()] = None, kind: Text = "", address: Text = "", subjects: Text = "categories"
) -> Response:  # fmt: skip
    """Has a source looked at; nothing is imported yet."""
    blog = owned_blog(here, me, slug)
    brought = file if file is not None and file.filename else None
    try:
        transfers.ask_import(
            here,
            me,
            slug,
            kind,
            address,
            (brought.filename or "") if brought else "",
            brought.file if brought else None,
            subjects,
        )
    except MobbetError as error:
        return _page(
            here,
            me,
            blog,
            422,
            problem=str(error),
            typed={"kind": kind, "address": address, "subjects": subjects},
        )
    return see_other(to_site.in_and_out(slug))


@router.post(to_site.transfer_change.route)
def change(form: AnyForm, here: Here, me: Me, slug: str, number: int, what: str) -> Response:
    """`go-on`, `stop` or `undo`."""
    blog = owned_blog(here, me, slug)
    try:
        if what == "go-on":
            names = {
                name.removeprefix("field:"): str(value)
                for name, value in form.items()
                if name.startswith("field:")
            }
            transfers.go_on(here, me, slug, number, names)
        elif what == "stop":
            transfers.stop(here, me, slug, number)
        elif what == "undo":
            transfers.undo(here, me, slug, number)
        else:
            raise NotFound("There is nothing of that name to do here.")
    except MobbetError as error:
        return _page(here, me, blog, 404 if isinstance(error, NotFound) else 422, problem=str(error))
    return see_other(to_site.in_and_out(slug, {"undo": "undone", "stop": "stopped"}.get(what, "")))


@router.post(to_site.hook_add.route)
def add_hook(here: Here, me: Me, slug: str, address: Text = "", told_of: Texts = []) -> Response:  # noqa: B006
    """Has an address told what happens on the blog."""
    blog = owned_blog(here, me, slug)
    try:
        secret = webhooks.add(here, me, slug, address, tuple(told_of))
    except MobbetError as error:
        return _page(here, me, blog, 422, problem=str(error), typed={"hook": address})
    return _page(here, me, blog, secret=secret)


@router.post(to_site.hook_change.route)
def change_hook(
    here: Here, me: Me, slug: str, number: int, what: str, sending: Annotated[int, Form()] = 0
) -> Response:
    """`remove`, or `again` for a message."""
    blog = owned_blog(here, me, slug)
    try:
        if what == "remove":
            webhooks.remove(here, me, slug, number)
        elif what == "again":
            webhooks.send_again(here, me, slug, number, sending)
        else:
            raise NotFound("There is nothing of that name to do here.")
    except MobbetError as error:
        return _page(here, me, blog, 404 if isinstance(error, NotFound) else 422, problem=str(error))
    return see_other(to_site.in_and_out(slug, "told-no-more" if what == "remove" else "again"))


def _hook(here: Workshop, blog: Blog, hook: Webhook) -> HookRow:
    sent = hook_store.newest(here.db, hook.id, 20)
    lines = [SendingLine(one.id, _sending(here, blog, one), one.state == "failed") for one in sent]
    told = "; ".join(EVENTS[event] for event in hook.events if event in EVENTS)
    return HookRow(
        hook.id, hook.address, told, hook.ended, lines[0].words if lines else "Nothing was sent yet.", lines
    )


def _sending(here: Workshop, blog: Blog, one: Sending) -> str:
    words = f"{EVENTS.get(one.event, one.event)}, {ago_in_words(one.made_at, blog.zone, here.clock())}: "
    if one.state == "waiting":
        return words + (f"{one.answer}; it is tried again" if one.tries else "it is sent in a moment")
    return words + ("taken" if one.state == "sent" else f"not taken ({one.answer})")


@router.get(to_site.transfer_file.route)
def file_of(here: Here, me: Me, slug: str, number: int) -> Response:
    """The zip file of an export."""
    archive = transfers.archive_of(here, transfers.of_owner(here, me, slug, number))
    if not archive.is_file():
        raise NotFound("The zip file is not kept any more; export the blog again.")
    return FileResponse(
        archive,
        media_type="application/zip",
        filename=f"{slug}.zip",
        headers={"cache-control": "private, no-store"},
    )


def _page(here: Workshop, me: Person, blog: Blog, status: int = 200, **more: Any) -> Response:
    rows = store.of_blog(here.db, blog.id, 60)
    typed = more.get("typed", {})
    return page(
        InAndOutPage(
            bar_for(here, me, blog, "site"),
            [_row(here, blog, one) for one in rows if one.kind == EXPORT][:MOST_ROWS],
            [_row(here, blog, one) for one in rows if one.kind == IMPORT][:MOST_ROWS],
            [Choice(name, words) for name, words in CHOICES.items()],
            [Choice(kind, words, kind == typed.get("kind", "rss")) for kind, words in KINDS.items()],
            any(one.is_open for one in rows),
            [Choice(value, words) for value, words in books.choices(here, me, blog.slug)],
            [Choice(name, words) for name, words in books.formats().items()],
            [_hook(here, blog, one) for one in hook_store.of_blog(here.db, blog.id)],
            [Choice(event, words, True) for event, words in EVENTS.items()],
            **more,
        ),
        status,
    )


def _row(here: Workshop, blog: Blog, one: Transfer) -> TransferRow:
    now, report = here.clock(), one.report
    ended = ago_in_words(one.ended_at, blog.zone, now) if one.ended_at else ""
    share = min(99, 100 * one.done // one.total) if one.total and one.state == GOES else None
    if one.kind == EXPORT:
        archive = transfers.archive_of(here, one)
        is_there = one.state == DONE and archive.is_file()
        size = f", {size_words(report['bytes'])} in {counted(report['files'], 'file')}" if is_there else ""
        state = {
            WAITS: "It begins in a moment.",
            GOES: _going(here, one),
            DONE: f"Made {ended}{size}.",
            STOPPED: f"Stopped {ended}.",
            FAILED: "",
        }[one.state]
        words = ", ".join(CHOICES[name] for name in one.settings.get("choices", ()) if name in CHOICES)
        title = "The blog as a zip file" + (f", with {words}" if words else "")
        return TransferRow(
            one.id,
            title,
            state,
            one.problem,
            share,
            one.is_open,
            to_site.transfer_file(blog.slug, one.id) if is_there else "",
        )
    counts = report.get("counts", {})
    state = {
        WAITS: "It begins in a moment.", GOES: ("Looking: " if one.is_dry else "Importing: ") + _going(here, one), LOOKED: "Looked at; nothing is imported yet.",
        DONE: f"Imported {ended}." if not report.get("undone") else f"Imported {ended}, and taken away again.", STOPPED: f"Stopped {ended}.", FAILED: "",
    }[one.state]  # fmt: skip
    go_on = {LOOKED: "Import it", STOPPED: "Look again" if one.is_dry else "Go on", FAILED: "Try again"}.get(
        one.state, ""
    )
    return TransferRow(
        one.id, f"{KINDS.get(one.settings.get('kind', ''), 'posts')}: {one.source}", state, one.problem, share, one.is_open, "", go_on,
        bool(report.get("run")) and not one.is_open and not report.get("undone"), _sums(counts, bool(one.is_dry)),
        [_line(post) for post in report.get("posts", [])[:MOST_LINES]], _fields(one) if one.state in (LOOKED, STOPPED) else [],
    )  # fmt: skip


def _going(here: Workshop, one: Transfer) -> str:
    """How far a transfer is, and how long it takes still, by how long it took so far."""
    if not one.total:
        return f"{counted(one.done, 'post')} so far." if one.done else "It has begun."
    words = f"{one.done:,} of {counted(one.total, 'post')}."
    seconds = here.clock() - (one.begun_at or here.clock())
    if one.done < 20 or seconds < 3:
        return words
    left = round(seconds / one.done * (one.total - one.done))
    return (
        f"{words} About {counted(max(1, round(left / 60)), 'minute')} left."
        if left >= 50
        else f"{words} Less than a minute left."
    )


def _sums(counts: dict[str, int], is_dry: bool) -> str:
    if not sum(counts.values()):
        return ""
    new = f"{counted(counts[NEW], 'post')} {'would come' if is_dry else 'came'}"
    there = (
        f", {counts[THERE]:,} {'was' if counts[THERE] == 1 else 'were'} there already"
        if counts[THERE]
        else ""
    )
    refused = (
        f", {counts[REFUSED]:,} {'does' if counts[REFUSED] == 1 else 'do'} not come"
        if counts[REFUSED]
        else ""
    )
    comments = f", with {counted(counts[COMMENT], 'comment')}" if counts.get(COMMENT) else ""
    return f"{new}{there}{refused}{comments}."


def _line(post: dict[str, Any]) -> FoundLine:
    when = post["date"][:10] if post["date"] else "no date"
    return FoundLine(
        WHAT[post["what"]],
        post["title"] or post["key"],
        when,
        [*post["notes"], *(f"{address} will lead to it" for address in post.get("addresses", ()))],
        post["post"] if post["what"] == NEW else 0,
    )


def _fields(one: Transfer) -> list[FieldLine]:
    chosen = one.settings.get("names", {})
    found = {**{name: [] for name in chosen}, **one.report.get("fields", {})}
    return [
        FieldLine(
            name,
            ", ".join(examples),
            [Choice(value, words, value == chosen.get(name, "")) for value, words in MEANINGS.items()],
        )
        for name, examples in list(found.items())[:30]
    ]
