"""What a Micropub client asks for, carried out by the actions that a person's hand uses."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from mobbet.actions import announcing, docket_lines, posts, tags
from mobbet.actions.program_posts import (
    address_of,
    bring_back,
    html_of,
    is_placed,
    place,
    post_at,
    remove,
    spelled_visibility,
    withdraw,
)
from mobbet.actions.program_texts import ABOUT, text_of_properties, title_of
from mobbet.actions.programs import Grant
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core import micropub
from mobbet.core.audience import EVERYONE, ONLY_ME
from mobbet.core.document import schema
from mobbet.core.errors import BadInput
from mobbet.core.filing import path_in_words
from mobbet.core.micropub import (
    CREATE,
    DELETE,
    UNDELETE,
    UPDATE,
    NotTaken,
    Properties,
    Request,
    invalid,
    text_of,
    texts_of,
)
from mobbet.core.names import one_line
from mobbet.core.timing import iso, read_instant, wall
from mobbet.store import announcing as accounts
from mobbet.store import filing, placements
from mobbet.store import posts as post_store
from mobbet.store.posts import Post

SCOPES = {
    CREATE: ("create", "draft"),
    UPDATE: ("update",),
    DELETE: ("delete",),
    UNDELETE: ("undelete", "delete"),
}
"""{what is done: the scopes of which a token needs one}."""
VISIBILITIES = {"public": EVERYONE, "private": ONLY_ME}
ACCOUNTS = "accounts"


@dataclass(frozen=True)
class Done:
    """What came of a request: the address of the post, whether it is another one than before or new, and why the post does not go out although it was asked for."""

    post_id: int
    url: str
    is_new: bool = False
    has_moved: bool = False
    waits: str = ""


def do(workshop: Workshop, grant: Grant, request: Request) -> Done:
    """Carries out a request. Raises NotTaken with the error of the Recommendation, and what actions raise."""
    need(grant, *SCOPES[request.action])
    if request.action == CREATE:
        return create(workshop, grant, request.properties)
    post = post_at(workshop, grant, request.url)
    if request.action == UPDATE:
        return update(workshop, grant, post, request.changes)
    if request.action == DELETE:
        remove(workshop, grant, post)
        return Done(post.id, request.url)
    return Done(post.id, request.url, waits=bring_back(workshop, grant, post))


def need(grant: Grant, *scopes: str) -> None:
    """Raises NotTaken for a token that has none of these scopes."""
    if not grant.has(*scopes):
        raise NotTaken(
            "insufficient_scope",
            f"The program was not allowed to do that; it needs the scope {scopes[0]}.",
            401,
            scopes[0],
        )


def create(workshop: Workshop, grant: Grant, properties: Properties) -> Done:
    """A new post, which goes out unless it is a draft. The caller asked for the scope."""
    person, blog = grant.person, grant.blog
    document = text_of_properties(workshop, grant, properties)
    title = title_of(properties, document)
    is_draft = text_of(properties, "post-status") == "draft" or not grant.has("create")
    with changing(workshop, person):
        post = posts.begin_post(workshop, person, blog.slug)
        posts.save_text(
            workshop, person, post.id, base=post.revision, title=title, subtitle="", body=document
        )
        _settle(workshop, grant, post, properties, set(properties))
    waits = "" if is_draft else place(workshop, grant, post.id)
    return Done(
        post.id, address_of(workshop, blog, post_store.again(workshop.db, post)), is_new=True, waits=waits
    )


def update(workshop: Workshop, grant: Grant, post: Post, changes: micropub.Changes) -> Done:
    """Changes a post; what is out is updated with it. The caller asked for the scope."""
    before = address_of(workshop, grant.blog, post)
    waits = _update(workshop, grant, post, changes)
    after = address_of(workshop, grant.blog, post_store.again(workshop.db, post))
    return Done(post.id, after, has_moved=after != before, waits=waits)


def _update(workshop: Workshop, grant: Grant, post: Post, changes: micropub.Changes) -> str:
    """Why the post does not go out although it was asked for; '' where it does, or was not."""
    touched = micropub.touched(changes)
    before = properties_of(workshop, grant, post)
    properties = micropub.changed(before, changes)
    was_placed = is_placed(workshop, post)
    text = {"name", "content", "photo", "video", "audio"} & touched
    document = (
        text_of_properties(workshop, grant, _added_files(before, properties, touched)) if text else None
    )
    with changing(workshop, grant.person):
        if document is not None:
            now = post_store.again(workshop.db, post)
            working = post_store.working(workshop.db, post.id)
            title = title_of(properties, document) if "name" in touched else working.title
            posts.save_text(
                workshop,
                grant.person,
                post.id,
                base=now.revision,
                title=title,
                subtitle=working.subtitle,
                body=document,
            )
        _settle(workshop, grant, post, properties, touched)
    status = text_of(properties, "post-status") if "post-status" in touched else None
    if status == "draft":
        if was_placed:
            withdraw(workshop, grant, post)
        return ""
    if was_placed or status == "published":
        if not was_placed:
            need(grant, "create", "update")
        return place(workshop, grant, post.id)
    return ""


def _added_files(before: Properties, properties: Properties, touched: set[str]) -> Properties:
    """The properties of a text, with files that were added to it alone: those it had are in its content."""
    found = {
        name: values
        for name, values in properties.items()
        if name not in ("photo", "video", "audio") and name not in ABOUT
    }
    for name in {"photo", "video", "audio"} & touched:
        found[name] = [value for value in properties.get(name, []) if value not in before.get(name, [])]
    return found


# the docket


def _settle(workshop: Workshop, grant: Grant, post: Post, properties: Properties, touched: set[str]) -> None:
    """Writes the lines of the docket that properties name."""
    person, blog = grant.person, grant.blog
    if "category" in touched:
        _file(workshop, grant, post, texts_of(properties, "category") or [])
    if "summary" in touched:
        docket_lines.set_line(
            workshop, person, post.id, "excerpt", one_line(text_of(properties, "summary") or "")
        )
    slug = text_of(properties, "mp-slug") if "mp-slug" in touched else None
    if slug is not None:
        docket_lines.set_slug(workshop, person, post.id, slug)
    if "published" in touched and (published := text_of(properties, "published")):
        docket_lines.set_time(
            workshop, person, post.id, "goes_out_wall", wall(read_instant(published, blog.zone), blog.zone)
        )
    visibility = text_of(properties, "visibility") if "visibility" in touched else None
    if visibility is not None:
        if visibility == "unlisted":
            raise invalid(
                "A post for those who know its address alone (visibility “unlisted”) is not made here; choose public or private."
            )
        docket_lines.set_visibility(workshop, person, post.id, VISIBILITIES.get(visibility, visibility))
    if "mp-syndicate-to" in touched:
        wanted = texts_of(properties, "mp-syndicate-to") or []
        announcing.set_announced(workshop, person, post.id, is_off=ACCOUNTS not in wanted)


def _file(workshop: Workshop, grant: Grant, post: Post, names: list[str]) -> None:
    """Files a post: a name of a category is that category, any other is a tag."""
    subjects = filing.subjects(workshop.db, grant.blog.id)
    known = {
        name.casefold(): number
        for number in subjects
        for name in (path_in_words(subjects, number), subjects[number].name)
    }
    categories = [known[name.casefold()] for name in names if name.casefold() in known]
    main, *others = [str(number) for number in dict.fromkeys(categories)] or [""]
    docket_lines.set_categories(workshop, grant.person, post.id, main, others)
    rest = [one_line(name).replace(",", " ") for name in names if name.casefold() not in known]
    tags.set_tags(workshop, grant.person, post.id, ", ".join(filter(None, rest)))


# what programs ask


def properties_of(workshop: Workshop, grant: Grant, post: Post) -> Properties:
    """The properties of a post, as a program changes them."""
    working = post_store.working(workshop.db, post.id)
    subjects = filing.subjects(workshop.db, grant.blog.id)
    rows = placements.of_post(workshop.db, post.id)
    newest = next((row for row in reversed(rows) if row.shows_from < row.shows_until), None)
    goes_out = (
        newest.goes_out
        if newest
        else read_instant(post.goes_out_wall, grant.blog.zone)
        if post.goes_out_wall
        else None
    )
    names = [
        path_in_words(subjects, number)
        for number in post_store.categories(workshop.db, post.id)
        if number in subjects
    ]
    names += [tag.name for tag in filing.tags(workshop.db, post_store.tags(workshop.db, post.id))]
    found: dict[str, Any] = {
        "name": working.title, "content": {"html": html_of(workshop, grant.blog, schema.load(working.body))}, "summary": post.excerpt or None,
        "published": iso(goes_out) if goes_out is not None else None, "mp-slug": post.slug or None,
        "post-status": "published" if is_placed(workshop, post) else "draft", "visibility": _visibility(workshop, post),
        "url": address_of(workshop, grant.blog, post),
    }  # fmt: skip
    return {
        **{name: [value] for name, value in found.items() if value is not None},
        **({"category": names} if names else {}),
    }


def _visibility(workshop: Workshop, post: Post) -> str:
    spelled = spelled_visibility(workshop, post)
    return next((word for word, value in VISIBILITIES.items() if value == spelled), spelled)


def source(workshop: Workshop, grant: Grant, url: str, wanted: list[str]) -> dict[str, Any]:
    """A post as its source: all of it, or the properties that are wanted. Raises NotTaken, NotFound."""
    need(grant, "update", "read", "create")
    try:
        found = properties_of(workshop, grant, post_at(workshop, grant, url))
    except BadInput as error:
        raise invalid(str(error)) from None
    if wanted:
        return {"properties": {name: found[name] for name in wanted if name in found}}
    return {"type": ["h-entry"], "properties": found}


def syndication(workshop: Workshop, grant: Grant) -> list[dict[str, Any]]:
    """Where posts are announced: one place, since a post is announced at all accounts of a blog or at none."""
    names = [one.name for one in accounts.of_blog(workshop.db, grant.blog.id)]
    return [{"uid": ACCOUNTS, "name": ", ".join(names)}] if names else []


def categories(workshop: Workshop, grant: Grant, words: str = "") -> list[str]:
    """The names under which posts can be filed: categories, then tags."""
    subjects = filing.subjects(workshop.db, grant.blog.id)
    names = [path_in_words(subjects, number) for number in subjects]
    names += filing.tag_names(workshop.db, grant.blog.id)
    return [name for name in dict.fromkeys(names) if words.casefold() in name.casefold()]
