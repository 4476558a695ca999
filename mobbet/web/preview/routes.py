"""The preview: the site with the post as it would be, in every light, and the post as other programs show it."""

from __future__ import annotations

import re
from dataclasses import replace
from html import escape
from typing import Any
from xml.etree import ElementTree

from fastapi import APIRouter
from pydantic import BaseModel, Field
from starlette.responses import Response

from mobbet.actions import books, letter_preview, moments, placing, preview_readers, readers, subscribers
from mobbet.actions.access import editable_post
from mobbet.actions.letters import announcement
from mobbet.actions.preview import Written, as_it_would_be, with_it_placed
from mobbet.actions.workshop import Workshop
from mobbet.core.audience import EVERYONE, GROUP
from mobbet.core.document import schema
from mobbet.core.errors import BadDocument, BadInput, MobbetError
from mobbet.core.screen_dates import time_in_words
from mobbet.core.timing import instant_of_wall
from mobbet.core.when import read_when
from mobbet.publish.feeds import ATOM
from mobbet.publish.pages.kinds import render
from mobbet.publish.renderer import Renderer
from mobbet.store import placements
from mobbet.store import readers as reader_store
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.posts import Post
from mobbet.store.snapshot import SiteSnapshot
from mobbet.web.preview import addresses as to_preview
from mobbet.web.preview.contexts import PreviewAs, PreviewPage, Word
from mobbet.web.preview.settings import COLOURS, COMPARED, KINDS, LIGHTS, TYPES, read_view
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.contexts import Choice
from mobbet.web.shell.fields import Text
from mobbet.web.shell.rendering import html_of, looked_response, page
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.security import LETTER_POLICY, SITE_POLICY
from mobbet.web.shell.session import Here, Me
from mobbet.web.write.docket import docket_of
from mobbet.web.write.docket_appearance import shown_of

router = APIRouter()
PREVIEW_HEADERS = {"Content-Security-Policy": SITE_POLICY, "Cache-Control": "no-store"}
STYLE = re.compile(r"/assets/[\w-]+\.css")
FRAMED, LETTERS = ("page", "list", "print"), ("mail", "mail-text")
TOLD = {"sent": "It is on its way."}


class Sheet(BaseModel):
    """The sheet's text as it stands while it is written."""

    title: str = Field(default="", max_length=5000)
    subtitle: str = Field(default="", max_length=5000)
    document: dict[str, Any]


NOT_OUT = {"": "nothing, for it is not out"}


@router.get(to_preview.preview.route)
def preview(
    here: Here, me: Me, post_id: int, kind: str = "page", reader: str = "", light: str = "daylight", type: str = "ordinary",
    colours: str = "usual", compare: str = "", at: str = "", said: str = "", told: str = "",
) -> Response:  # fmt: skip
    return _preview(
        here, me, post_id, kind, reader, light, type, colours, compare, at, said, told=TOLD.get(told, "")
    )


def _preview(
    here: Workshop, me: Person, post_id: int, kind: str, reader: str = "", light: str = "daylight", type: str = "ordinary",
    colours: str = "usual", compare: str = "", at: str = "", said: str = "", status: int = 200, refused: str = "", **more: str,
) -> Response:  # fmt: skip
    post, blog = editable_post(here, me, post_id)
    at, instant, problem = _moment(here, blog, said, at)
    kinds = preview_readers.choices(here, me, blog, post)
    reader = reader if reader in kinds else post.visibility if post.visibility in kinds else [*kinds][-1]
    kind = kind if kind in KINDS else "page"
    view = read_view(f"{reader},{light},{type},{'print' if kind == 'print' else 'screen'},{at}")
    looking = preview_readers.reader_as(here, me, blog, view.reader, post)
    seen = with_it_placed(here, me, post, blog, None, looking, instant, "/")
    out = _out_now(here, post)
    compare = compare if compare in COMPARED and out and kind in FRAMED else ""
    path = "/" if kind == "list" else seen.path
    frame, has_ruler = _frame(here, post, blog, kind, to_preview.preview_site(post.id, path, str(view)))
    if kind in LETTERS and subscribers.is_open(blog):
        more = {"email": me.email, **more, "letter": letter_preview.of_post(here, me, post.id).subject}
    actions = docket_of(here, post, blog, me=me).actions
    colour = colours if colours in COLOURS else "usual"
    context = PreviewPage(
        bar=bar_for(here, me, blog, "write"),
        post_id=post.id,
        title=post.title or "No title yet",
        kind=_word("kind", "Change what is shown", KINDS, kind),
        reader=_word("reader", "Change who looks", kinds, reader),
        light=_word("light", "Change the light", LIGHTS, view.light),
        type=_word("type", "Change the type", TYPES, view.type),
        colours=_word("colours", "Change how colours are seen", COLOURS, colour),
        compared=_word("compare", "Change what it is compared with", COMPARED if out else NOT_OUT, compare),
        moment=time_in_words(seen.moment, blog.zone, here.clock()),
        said=said if problem else "",
        kept=[
            ("kind", kind), ("reader", reader), ("light", view.light), ("type", view.type), ("colours", colours), ("compare", compare), ("at", at),
        ],
        frame=frame,
        formats=[Choice(name, words) for name, words in books.formats().items() if name != "atom"],
        out=to_preview.preview_site(post.id, "/" if kind == "list" else out, str(replace(view, at="now")))
        if compare
        else "",
        colour=colour,
        compare=compare,
        has_ruler=has_ruler,
        problem=refused
        or problem
        or seen.problem
        or ("" if seen.looked.is_there else _not_for(here, post, blog, kinds[reader])),
        main_action=actions.main_action,
        place=actions.place,
        can_place=actions.can_place,
        **more,
    )  # fmt: skip
    return page(context, status)


def _frame(here: Workshop, post: Post, blog: Blog, kind: str, site: str) -> tuple[str, bool]:
    """(the address of what is shown, whether its width can be changed)."""
    if kind == "mail" and subscribers.is_open(blog):
        return to_preview.preview_letter(post.id), True
    return (site, True) if kind in FRAMED else (to_preview.preview_as(post.id, kind), False)


def _moment(here: Workshop, blog: Blog, said: str, at: str) -> tuple[str, int | None, str]:
    """(the wall time that is looked at, its instant, what is wrong with what was typed)."""
    try:
        at = read_when(said, here.clock(), blog.zone, "said") if said.strip() else at
        return at, instant_of_wall(at, blog.zone) if at else None, ""
    except BadInput as error:
        return "", None, str(error)


def _not_for(here: Workshop, post: Post, blog: Blog, reader: str) -> str:
    """Why a reader gets no page, in a sentence."""
    return f"{reader.capitalize()} may not read it: it is for {readers.visibility_words(here, blog, post.visibility)}."


def _word(name: str, label: str, choices: dict[str, str], chosen: str) -> Word:
    return Word(
        name,
        label,
        choices.get(chosen, ""),
        [Choice(value, words, value == chosen) for value, words in choices.items()],
    )


def _out_now(here: Workshop, post: Post) -> str:
    """The path of what is out of a post now; '' for one that is not out."""
    current, _ = placing.waiting_update(placements.of_post(here.db, post.id), here.clock())
    return current.path if current else ""


@router.get(to_preview.preview_page.route)
def preview_site(here: Here, me: Me, post_id: int, path: str) -> Response:
    """Any page of the blog's site, with the post as it would be."""
    return preview_view(here, me, post_id, "", path)


@router.get(to_preview.preview_seen.route)
def preview_view(here: Here, me: Me, post_id: int, view: str, path: str) -> Response:
    """The same, for a reader, at a moment and in a light; at `now` it is the site as it is out."""
    post, blog = editable_post(here, me, post_id)
    chosen = read_view(view)
    root = to_preview.preview_site(post.id, "", view)
    if STYLE.fullmatch(path):
        found = moments.look(here, blog, path, here.clock())
        if not found.is_there:
            return Response(status_code=404, headers=PREVIEW_HEADERS)
        return Response(chosen.styled(found.body.decode()), media_type=found.type, headers=PREVIEW_HEADERS)
    reader = preview_readers.reader_as(here, me, blog, chosen.reader, post)
    if chosen.at == "now":
        found = moments.look(here, blog, path, here.clock(), reader, f"{root}/")
    else:
        instant = instant_of_wall(chosen.at, blog.zone) if chosen.at else None
        found = with_it_placed(here, me, post, blog, path, reader, instant, f"{root}/").looked
    if found.leads_to:
        return Response(
            status_code=307,
            headers={"Location": found.leads_to if "://" in found.leads_to else root + found.leads_to},
        )
    return looked_response(found)


@router.post(to_preview.preview_live.route)
def live(here: Here, me: Me, post_id: int, sheet: Sheet) -> Response:
    """The post's page from the text as it is written, before it is saved."""
    post, blog = editable_post(here, me, post_id)
    try:
        written = Written(
            " ".join(sheet.title.split()), " ".join(sheet.subtitle.split()), schema.check(sheet.document)
        )
    except BadDocument:
        return Response(status_code=422)
    snapshot = SiteSnapshot(here.db, blog.id, here.clock())
    rendered = render(Renderer(snapshot.house, snapshot.item), as_it_would_be(here, post, blog, written).page)
    return Response(rendered.body, media_type=rendered.type, headers=PREVIEW_HEADERS)


@router.get(to_preview.preview_as.route)
def preview_as(here: Here, me: Me, post_id: int, kind: str) -> Response:
    """The post as a search result, a shared link, an entry of a feed reader, or a letter."""
    post, blog = editable_post(here, me, post_id)
    if kind not in KINDS or kind in FRAMED:
        raise BadInput(f"“{kind}” is nothing a post is shown as; choose search, card, feed or mail.")
    shown = _AS[kind](here, me, post, blog)
    return Response(html_of(shown), media_type="text/html; charset=utf-8", headers=PREVIEW_HEADERS)


def _as_search(here: Workshop, me: Person, post: Post, blog: Blog) -> PreviewAs:
    return PreviewAs("search", post.title, html_of(shown_of(here, post, blog).sample), "", "", "", "")


def _as_card(here: Workshop, me: Person, post: Post, blog: Blog) -> PreviewAs:
    shown = shown_of(here, post, blog)
    return PreviewAs(
        "card",
        shown.sample.title.shown,
        escape(shown.sample.own_description or shown.teaser_html),
        shown.sample.address,
        shown.card,
        "",
        blog.name,
    )


def _as_feed(here: Workshop, me: Person, post: Post, blog: Blog) -> PreviewAs:
    """The entry of the blog's Atom feed, or of the group's private one, with its pictures where this server has them."""
    reader = preview_readers.reader_as(
        here, me, blog, post.visibility if post.visibility.startswith(GROUP) else EVERYONE, post
    )
    seen = with_it_placed(here, me, post, blog, "/feed.atom", reader, None, "/")
    entry = _entry(seen.looked.body, f"{blog.home}#post-{post.id}")
    if entry is None:
        note = (
            seen.problem
            or "The feed does not have it: it is not for everyone, or twenty newer posts stand before it."
        )
        return PreviewAs("feed", post.title, "", "", "", note, "")
    html = entry.findtext(f"{{{ATOM}}}content", "").replace(
        f'"{blog.home}', f'"{to_preview.preview_site(post.id)}'
    )
    by = f"{entry.findtext(f'{{{ATOM}}}author/{{{ATOM}}}name', '')}, {entry.findtext(f'{{{ATOM}}}published', '')[:10]}"
    return PreviewAs("feed", entry.findtext(f"{{{ATOM}}}title", ""), html, blog.name, "", "", by)


def _entry(feed: bytes, number: str) -> ElementTree.Element | None:
    try:
        root = ElementTree.fromstring(feed)
    except ElementTree.ParseError:
        return None
    return next(
        (entry for entry in root.iter(f"{{{ATOM}}}entry") if entry.findtext(f"{{{ATOM}}}id") == number), None
    )


def _as_mail(here: Workshop, me: Person, post: Post, blog: Blog) -> PreviewAs:
    """The text of the letter to subscribers; where there are none, the letter that a group gets about a post for it."""
    if subscribers.is_open(blog):
        letter = letter_preview.of_post(here, me, post.id)
        return PreviewAs(
            "mail-text", letter.subject, escape(letter.text), "", "", "", here.settings.mail_from or blog.name
        )
    group = (
        reader_store.group(here.db, int(post.visibility.removeprefix(GROUP)))
        if post.visibility.startswith(GROUP)
        else None
    )
    name = group.name if group else "its readers"
    note = (
        ""
        if group and readers.is_written_to(here, post.visibility)
        else "No letter goes out: letters are for the posts of a group that Readers says is written to. It would read so:"
    )
    shown = as_it_would_be(here, post, blog)
    subject, text = announcement(blog.name, name, shown.page.context.card, blog.home + shown.page.path[1:])
    return PreviewAs("mail", subject, escape(text), "", "", note, here.settings.mail_from or blog.name)


_AS = {"search": _as_search, "card": _as_card, "feed": _as_feed, "mail": _as_mail, "mail-text": _as_mail}


@router.get(to_preview.preview_letter.route)
def preview_letter(here: Here, me: Me, post_id: int) -> Response:
    """The letter about a post as a mail program shows it, with its pictures where this server has them."""
    post, blog = editable_post(here, me, post_id)
    letter = letter_preview.of_post(here, me, post.id)
    html = letter.html.replace(f'"{blog.home}media/', f'"{to_preview.preview_site(post.id, "/media/")}')
    headers = {"Content-Security-Policy": LETTER_POLICY, "Cache-Control": "no-store"}
    return Response(html, media_type="text/html; charset=utf-8", headers=headers)


@router.post(to_preview.preview_letter_send.route)
def send_letter(here: Here, me: Me, post_id: int, email: Text = "") -> Response:
    """Sends the letter to one address, to be looked at."""
    try:
        letter_preview.send_to(here, me, post_id, email)
    except MobbetError as error:
        return _preview(here, me, post_id, "mail", status=422, refused=str(error), email=email)
    return see_other(to_preview.preview(post_id, kind="mail", told="sent"))
