"""Pictures and videos from outside: an address, a collection, a provider's page or embed code."""

from __future__ import annotations

import io
import json
from dataclasses import dataclass, field, replace
from typing import Any

from mobbet.actions import library
from mobbet.actions.access import blog_for, is_owner
from mobbet.actions.workshop import Workshop
from mobbet.core.document.links import media_src
from mobbet.core.embeds import host_of, is_allowed, read_embed_code
from mobbet.core.errors import BadInput, NotFound
from mobbet.core.media.kinds import BY_ENDING, ending_of, with_ending
from mobbet.core.media.licences import LICENCE, read_licence
from mobbet.media.sniffing import sniff
from mobbet.services.contracts import EmbedFacts, OfferedVideo
from mobbet.store.blogs import Blog
from mobbet.store.media import Media
from mobbet.store.people import Person


def from_address(
    workshop: Workshop, person: Person, blog_slug: str, address: str, credit: str, licence: str
) -> Media:
    """Brings in what lies at a public address. Raises BadInput until it is said whose it is and under what licence."""
    blog = blog_for(workshop, person, blog_slug)
    if not read_licence(licence):
        raise BadInput("Say under which licence it may be shown; choose one of the list.", "licence")
    if LICENCE[licence].asks_credit and not credit.strip():
        raise BadInput(f"Say whose it is: “{LICENCE[licence].words}” asks for a credit.", "credit")
    limits = workshop.settings.limits
    fetched = workshop.services.fetch(
        address, 1_000_000 * max(limits.picture_megabytes, limits.file_megabytes)
    )
    name = fetched.name
    with workshop.media.incoming() as file:
        file.write_bytes(fetched.body)
        row = sniff(file, name)
    if BY_ENDING.get(ending_of(name)) is not row:
        name = with_ending(name, row)
    return library.add_stream(
        workshop,
        person,
        blog,
        name,
        io.BytesIO(fetched.body),
        credit=credit,
        licence=licence,
        source=fetched.address,
    )


def from_collection(workshop: Workshop, person: Person, blog_slug: str, number: str) -> Media:
    """Brings in a picture of the collection, with its credit and licence."""
    blog = blog_for(workshop, person, blog_slug)
    offered = workshop.services.collection.find(number)
    if offered is None:
        raise NotFound("This picture is no longer offered; search again.")
    taken = workshop.services.collection.take(number)
    about = {
        "credit": offered.credit,
        "licence": offered.licence,
        "source": offered.page,
        "caption": offered.title,
    }
    return library.add_stream(workshop, person, blog, taken.name, io.BytesIO(taken.body), **about)


@dataclass(frozen=True)
class Embedded:
    """What comes of an address or of embed code: the attributes of an embed, or those of a link that stands in its place.

    `message` says why it is a link, '' where nobody asked for more; `host` is the one to allow so that it would be an embed;
    `is_video` is false of a page that tells of none.
    """

    attrs: dict[str, Any] = field(default_factory=dict)
    href: str = ""
    words: str = ""
    message: str = ""
    host: str = ""
    is_video: bool = True


def embed(workshop: Workshop, person: Person, blog_slug: str, typed: str) -> Embedded:
    """An embed for the address of a video's page, or for embed code; its poster is kept in the library.

    Hosts are asked over the public network; what they say is shown only if the blog allows the frame's host. Raises BadInput for
    an address that does not answer, and for code without one.
    """
    blog = blog_for(workshop, person, blog_slug)
    typed = typed.strip()
    if "<" in typed:
        return _of_code(workshop, person, blog, typed)
    if not host_of(typed):
        raise BadInput(
            f"“{typed[:80]}” is no address of a page; write it like https://films.example/a-film.", "address"
        )
    told = workshop.services.videos.tell(typed)
    if told is None:
        return Embedded(
            href=typed,
            words=typed,
            message=f"“{host_of(typed)}” tells of no video there, so it stands as a link.",
            is_video=False,
        )
    if not is_allowed(told.frame, _hosts(blog)):
        return _not_allowed(workshop, person, blog, told.frame, typed, told.title)
    return Embedded(_kept(workshop, person, blog, typed, told))


def offered_videos(workshop: Workshop, person: Person, blog_slug: str, words: str) -> list[OfferedVideo]:
    """What hosts that can be searched offer, of those that the blog allows."""
    hosts = _hosts(blog_for(workshop, person, blog_slug))
    return [one for one in workshop.services.videos.search(words[:200]) if is_allowed(one.address, hosts)]


def _of_code(workshop: Workshop, person: Person, blog: Blog, typed: str) -> Embedded:
    code = workshop.services.heavy(read_embed_code, typed, seconds=2.0, what="This code")
    page = code.page or code.frame
    if not page:
        raise BadInput(
            "This code holds no frame and no address; copy the address of the page itself instead.", "address"
        )
    words = code.words or host_of(page)
    if not code.frame:
        return Embedded(
            href=page, words=words, message="This code shows no frame, so its link stands in its place."
        )
    if not is_allowed(code.frame, _hosts(blog)):
        return _not_allowed(workshop, person, blog, code.frame, page, words)
    bare = EmbedFacts(words, "", code.width, code.height, code.frame, "", b"")
    told = replace(_told_of(workshop, page) or bare, frame=code.frame)
    return Embedded(_kept(workshop, person, blog, page, told))


def _told_of(workshop: Workshop, page: str) -> EmbedFacts | None:
    """What a host says of the page of a frame; nothing where it does not answer, since the code is enough to show it."""
    try:
        return workshop.services.videos.tell(page)
    except BadInput:
        return None


def _hosts(blog: Blog) -> tuple[str, ...]:
    return tuple(json.loads(blog.video_hosts))


def _not_allowed(
    workshop: Workshop, person: Person, blog: Blog, frame: str, page: str, words: str
) -> Embedded:
    host = host_of(frame)
    may_allow = is_owner(workshop, person, blog)
    how = "" if may_allow else "; an owner of the blog can allow it at Site"
    message = f"Videos from {host} may not be shown yet, so it stands as a link{how}."
    return Embedded(href=page, words=words or page, message=message, host=host if may_allow else "")


def _kept(workshop: Workshop, person: Person, blog: Blog, address: str, told: EmbedFacts) -> dict[str, Any]:
    """The attributes of the embed, its poster in the library."""
    poster = ""
    if told.poster:
        name = f"{address.rstrip('/').rpartition('/')[2][:60] or 'video'}.jpg"
        try:
            row = library.add_picture(workshop, person, blog, name, told.poster)
        except BadInput:  # no picture that Mobbet reads
            return _attributes(address, told, "")
        if not row.credit:
            about = {"caption": told.title, "credit": told.by, "source": address, "licence": "permission"}
            row = library.describe(workshop, person, row.id, **about)
        poster = media_src(row.id)
    return _attributes(address, told, poster)


def _attributes(address: str, told: EmbedFacts, poster: str) -> dict[str, Any]:
    return {
        "address": address,
        "title": told.title or address[:300],
        "width": told.width,
        "height": told.height,
        "poster": poster,
        "frame": told.frame,
        "provider": told.provider,
    }
