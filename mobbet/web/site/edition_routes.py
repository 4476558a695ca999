"""Editions of the site, the places outside it is sent to, and the site at any moment."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter
from starlette.responses import Response

from mobbet.actions import blogs as blog_actions
from mobbet.actions import editions, moments, preview_readers, static_search, targets
from mobbet.actions.access import blog_for, owned_blog
from mobbet.actions.permalinks import category_subjects
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput, MobbetError, Refused
from mobbet.core.numbers import counted
from mobbet.core.places_outside import Credentials, shown
from mobbet.core.rights import Action
from mobbet.core.screen_dates import ago_in_words, time_in_words
from mobbet.core.static_search import EVERY
from mobbet.core.timing import FOREVER, instant_of_wall, wall
from mobbet.core.when import read_when
from mobbet.publish.page_count import PageCount
from mobbet.store import editions as edition_store
from mobbet.store import placements
from mobbet.store import static_search as static_index
from mobbet.store import targets as target_store
from mobbet.store.blogs import Blog
from mobbet.store.holds import ASKS
from mobbet.store.people import Person
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.contexts import Choice
from mobbet.web.shell.fields import Text
from mobbet.web.shell.footprints import in_words
from mobbet.web.shell.rendering import looked_response, page
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.session import Here, Me
from mobbet.web.site import addresses as to_site
from mobbet.web.site.contexts import (
    EditionRow,
    EditionsPage,
    HeldPart,
    MomentPage,
    PageChange,
    TargetRow,
    TargetsPage,
)
from mobbet.web.site.place_kinds import kinds_of_places

router = APIRouter()
ON_PAGE = 40
MOST_CHANGES = 200
MOST_NAMED = 3
TOLD = {
    "back": "That edition is what readers get again.",
    "on": "Readers get what is written now, and the timetable goes on.",
    "added": "The site goes there from now on.",
    "removed": "Nothing is sent there any more; what lies there stays.",
    "again": "It is tried again now.",
    "credentials": "It took the new credentials; they are kept sealed.",
    "seals": "That is how it is from now on.",
}


@router.get(to_site.editions.route)
def list_editions(
    here: Here, me: Me, slug: str, before: int = 0, number: int = 0, with_: int = 0, told: str = ""
) -> Response:
    return _editions(here, me, owned_blog(here, me, slug), before, number, with_, told=TOLD.get(told, ""))


def _editions(
    here: Workshop,
    me: Person,
    blog: Blog,
    before: int,
    number: int,
    other: int,
    status: int = 200,
    **more: Any,
) -> Response:
    found = editions.listed(here, blog, ON_PAGE + 1, before or None)
    rows = [_edition_row(here, blog, one) for one in found[:ON_PAGE]]
    chosen, pair, pages = None, None, []
    if number:
        editions.edition(here, blog, number)
        if other:
            editions.edition(here, blog, other)
        chosen = _edition_row(here, blog, editions.listed(here, blog, 1, number + 1)[0])
        pair = (other, number) if other else None
        pages = editions.compared(here, blog, other or number - 1, number)
    context = EditionsPage(
        bar_for(here, me, blog, "site"), rows, to_site.editions(blog.slug, before=rows[-1].number) if len(found) > ON_PAGE else "", chosen, pair,
        in_words(pages, category_subjects(here, blog)) if pages else None,
        [PageChange(one.what, one.path, f"leads to {one.leads_to}" if one.leads_to else f"was {one.was}" if one.was else "", "" if one.what == "removed" or one.leads_to else to_site.edition_site(blog.slug, number, one.path)) for one in pages[:MOST_CHANGES]],
        to_site.edition_site(blog.slug, number, "/") if number else "",
        _held(here, me, blog),
        _coming_back(here, me, blog, number) if chosen and not chosen.is_current else "",
        **more,
    )  # fmt: skip
    return page(context, status)


def _coming_back(here: Workshop, me: Person, blog: Blog, number: int) -> str:
    """Which pages an edition would bring back, which not, and because of which posts."""
    coming = editions.coming_back(here, me, blog, number)
    comes = f"What comes back: {coming.count.in_short}."
    if not coming.titles:
        return comes
    named = ", ".join(f"“{title}”" for title in coming.titles[:MOST_NAMED])
    others = len(coming.titles) - MOST_NAMED
    whose = f"{named} and {others:,} more" if others > 0 else named
    return f"{comes} What stays as it is: {coming.withheld.in_short}, because of {whose}: not everybody who could read that then may read it now, or a comment was taken off since."


def _held(here: Workshop, me: Person, blog: Blog) -> HeldPart | None:
    held = editions.held(here, me, blog)
    if held is None:
        return None
    way = (
        "the timetable asks on the desk before anything goes out"
        if held.hold.way == ASKS
        else "nothing goes out by itself"
    )
    since = time_in_words(held.hold.since, blog.zone, here.clock())
    words = f"Readers get edition {held.hold.edition}, put back {since}; {way}. Publishing or withdrawing a post brings all that is written with it."
    if not held.due:
        return HeldPart(words, "Nothing was due since.")
    named = ", ".join(f"“{title}”" for title in held.due[:MOST_NAMED])
    more = f" and {len(held.due) - MOST_NAMED} more" if len(held.due) > MOST_NAMED else ""
    return HeldPart(words, f"Due since then: {named}{more}.")


def _edition_row(here: Workshop, blog: Blog, told: editions.ListedEdition) -> EditionRow:
    one, now = told.edition, here.clock()
    late = one.made_at - one.instant
    when = ago_in_words(one.made_at, blog.zone, now) + (
        f", {late // 60} min late" if one.why and not one.person_id and late > 120 else ""
    )
    count = PageCount(one.written + one.removed - one.files - one.addresses, one.files, one.addresses)
    why = one.why or (
        "the first"
        if one.number == 1
        else "Mobbet itself changed"
        if one.written == one.pages
        else "brought up to date"
    )
    return EditionRow(
        one.number,
        when,
        why,
        told.by or ("the timetable" if one.why and not one.puts_back else ""),
        count.in_short,
        one.number == edition_store.current_number(here.db, blog.id),
    )


@router.post(to_site.go_on.route)
def go_on(here: Here, me: Me, slug: str) -> Response:
    """Publishes all that is written and due, after an edition was put back."""
    blog = owned_blog(here, me, slug)
    try:
        editions.go_on(here, me, blog)
    except Refused as error:
        return _editions(here, me, blog, 0, 0, 0, 422, problem=str(error))
    return see_other(to_site.editions(slug, told="on"))


@router.post(to_site.put_back.route)
def put_back(here: Here, me: Me, slug: str, number: int, way: Text = ASKS) -> Response:
    blog = owned_blog(here, me, slug)
    try:
        editions.put_back(here, me, blog, number, way)
    except Refused as error:
        return _editions(here, me, blog, 0, 0, 0, 422, problem=str(error))
    return see_other(to_site.editions(slug, told="back"))


@router.get(to_site.edition_site.route)
def edition_site(here: Here, me: Me, slug: str, number: int, path: str) -> Response:
    """Any page of the site as it stood in an edition."""
    blog = blog_for(here, me, slug, Action.LOOK_AHEAD)
    return _looked(
        moments.look_in_edition(here, blog, path, number, preview_readers.reader_of(here, blog, me)),
        to_site.edition_site(slug, number, ""),
    )


def _looked(found: moments.Answer, root: str) -> Response:
    if found.leads_to:
        return Response(
            status_code=307,
            headers={"Location": found.leads_to if "://" in found.leads_to else root + found.leads_to},
        )
    return looked_response(found)


@router.get(to_site.targets.route)
def list_targets(here: Here, me: Me, slug: str, told: str = "") -> Response:
    return _targets(here, me, owned_blog(here, me, slug), told=TOLD.get(told, ""))


def _targets(
    here: Workshop, me: Person, blog: Blog, status: int = 200, found: list[str] | None = None, **more: Any
) -> Response:
    number, now = edition_store.current_number(here.db, blog.id), here.clock()
    rows = [_target_row(here, blog, one, number, now) for one in target_store.of_blog(here.db, blog.id)]
    return page(
        TargetsPage(
            bar_for(here, me, blog, "site"),
            rows,
            kinds_of_places(here, "my-blog", "a folder on this machine, for a web server of its own"),
            bool(here.settings.allowed.stores),
            bool(blog.seals),
            EVERY[blog.static_search],
            [
                Choice(value, words[:1].upper() + words[1:], value == blog.static_search)
                for value, words in EVERY.items()
            ],
            _index_words(here, blog),
            any(row.is_behind and not row.problem for row in rows),
            found or [],
            **more,
        ),
        status,
    )


def _index_words(here: Workshop, blog: Blog) -> str:
    """What the index of readers' search came to; '' where there is none."""
    made = static_index.made(here.db, blog.id)
    if made is None:
        return ""
    when, count = ago_in_words(made.made_at, blog.zone, here.clock()), len(made.posts)
    return f"It was made {when} of {count:,} post{'s' if count != 1 else ''}: {made.bytes // 1000:,} kB, in {made.milliseconds / 1000:.1f} s."


def _target_row(here: Workshop, blog: Blog, target: target_store.Target, number: int, now: int) -> TargetRow:
    is_behind = target.edition < number
    if target.problem and is_behind:
        state = f"behind; tried {target.tries} time{'s' if target.tries != 1 else ''}, next {time_in_words(max(target.next_try, now), blog.zone, now)}"
    elif is_behind:
        state = (
            f"being sent: {target.done:,} of {counted(target.wanted, 'file')}"
            if target.wanted
            else "waits to be sent"
        )
    else:
        state = (
            f"has the newest edition, {number}, since {ago_in_words(target.sent_at or now, blog.zone, now)}"
        )
    checked = (
        f"checked {ago_in_words(target.checked_at, blog.zone, now)}" if target.checked_at else "never checked"
    )
    return TargetRow(
        target.id,
        target.address.partition(":")[0],
        shown(target.address),
        state,
        is_behind,
        target.problem if is_behind else "",
        checked,
        target_store.count_files(here.db, target.id),
        target.done,
        target.wanted,
    )


@router.post(to_site.targets.route)
def add_target(
    here: Here,
    me: Me,
    slug: str,
    address: Text = "",
    access: Text = "",
    secret: Text = "",
    host_key: Text = "",
) -> Response:
    blog = owned_blog(here, me, slug)
    try:
        targets.add(here, me, blog, address, Credentials(access, secret, host_key))
    except MobbetError as error:
        return _targets(
            here,
            me,
            blog,
            422,
            problem=str(error),
            typed={"address": address, "access": access, "host_key": host_key},
        )
    return see_other(to_site.targets(slug, told="added"))


@router.post(to_site.seals.route)
def set_seals(here: Here, me: Me, slug: str, seals: Text = "") -> Response:
    blog_actions.set_seals(here, me, slug, bool(seals))
    return see_other(to_site.targets(slug, told="seals"))


@router.post(to_site.search_there.route)
def set_search_there(here: Here, me: Me, slug: str, every: Text = "") -> Response:
    """How often places outside get a new index for readers' search."""
    static_search.set_rule(here, me, slug, every)
    return see_other(to_site.targets(slug, told="seals"))


@router.post(to_site.target_change.route)
def change_target(
    here: Here,
    me: Me,
    slug: str,
    number: int,
    what: str,
    access: Text = "",
    secret: Text = "",
    host_key: Text = "",
) -> Response:
    """`remove`, `again` (try now), `check`, or `credentials` (give others)."""
    blog = owned_blog(here, me, slug)
    target = targets.target_of(here, blog, number)
    if what == "remove":
        targets.remove(here, me, blog, number)
        return see_other(to_site.targets(slug, told="removed"))
    if what == "again":
        targets.try_again(here, me, target)
        return see_other(to_site.targets(slug, told="again"))
    if what == "credentials":
        try:
            targets.renew_credentials(here, me, target, Credentials(access, secret, host_key))
        except MobbetError as error:
            return _targets(here, me, blog, 422, problem=str(error))
        return see_other(to_site.targets(slug, told="credentials"))
    if what != "check":
        raise BadInput(
            f"“{what[:40]}” cannot be done with a place; choose remove, again, check or credentials."
        )
    try:
        checked = targets.check(here, me, blog, target)
    except MobbetError as error:
        return _targets(here, me, blog, 422, problem=str(error))
    found = [
        f"{words}: {', '.join(names[:5])}{f' and {len(names) - 5} more' if len(names) > 5 else ''}."
        for words, names in (
            ("Missing there, sent again", checked.missing),
            ("Altered there, sent again", checked.altered),
            ("Left there from before, removed now", checked.left),
            ("There, but not ours", checked.strange),
        )
        if names
    ]
    return _targets(
        here,
        me,
        blog,
        found=found,
        told=f"{counted(checked.files, 'file')} compared{'; all are as they should be' if not (checked.missing or checked.altered or checked.left) else ''}.",
    )


@router.get(to_site.moment.route)
def moment(
    here: Here, me: Me, slug: str, at: str = "", said: str = "", reader: str = "everyone", path: str = "/"
) -> Response:
    """The whole site as it will stand on a date, to walk through by clicking."""
    blog = blog_for(here, me, slug, Action.LOOK_AHEAD)
    now, problem = here.clock(), ""
    chosen = at or wall(now, blog.zone)
    try:
        if said.strip():
            chosen = read_when(said, now, blog.zone, "said")
        instant = instant_of_wall(chosen, blog.zone)
    except BadInput as error:
        chosen, instant, problem = wall(now, blog.zone), now, str(error)
    kinds = preview_readers.choices(here, me, blog)
    reader = reader if reader in kinds else "everyone"
    start = path if path.startswith("/") and not path.startswith("//") else "/"
    words = time_in_words(instant, blog.zone, now)
    readers = [Choice(value, name, value == reader) for value, name in kinds.items()]
    frame = to_site.moment_site(slug, chosen, reader, start)
    return page(
        MomentPage(
            bar_for(here, me, blog, "timetable"),
            words,
            chosen,
            kinds[reader],
            readers,
            frame,
            _steps(here, blog, instant, reader, start),
            problem,
            said if problem else "",
        )
    )


def _steps(here: Workshop, blog: Blog, instant: int, reader: str, path: str) -> list[tuple[str, str]]:
    """The change before that moment, and the one after it."""
    found = []
    before = placements.moments_between(here.db, blog.id, 0, instant - 1, 1, for_readers=True)
    after = placements.next_change(here.db, blog.id, instant, for_readers=True)
    for words, other in (
        ("The change before", before[0] if before else None),
        ("The next change", after if after and after < FOREVER else None),
    ):
        if other:
            found.append(
                (
                    f"{words}: {time_in_words(other, blog.zone, here.clock())}",
                    to_site.moment(blog.slug, at=wall(other, blog.zone), reader=reader, path=path),
                )
            )
    return found


@router.get(to_site.moment_site.route)
def moment_site(here: Here, me: Me, slug: str, at: str, reader: str, path: str) -> Response:
    """Any page of the site as it stands at a moment, for a kind of reader."""
    blog = blog_for(here, me, slug, Action.LOOK_AHEAD)
    root = to_site.moment_site(slug, at, reader, "")
    return _looked(
        moments.look(
            here,
            blog,
            path,
            instant_of_wall(at, blog.zone),
            preview_readers.reader_as(here, me, blog, reader),
            f"{root}/",
        ),
        root,
    )
