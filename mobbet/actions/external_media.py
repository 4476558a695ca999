"""Pictures and videos from outside: an address, a collection, a provider's page or embed code."""

from __future__ import annotations

import io
from typing import Any

from mobbet.actions import library
from mobbet.actions.access import blog_for
from mobbet.actions.workshop import Workshop
from mobbet.core.document.links import media_src
from mobbet.core.embeds import recognise
from mobbet.core.errors import BadInput, NotFound
from mobbet.core.media.kinds import BY_ENDING, ending_of, with_ending
from mobbet.core.media.licences import LICENCE, read_licence
from mobbet.media.sniffing import sniff
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


def embed(workshop: Workshop, person: Person, blog_slug: str, typed: str) -> dict[str, Any]:
    """The attributes of an embed for an address or embed code; its poster is kept in the library.

    Raises BadInput, with the reason, for code or an address that is none of a known provider's.
    """
    blog = blog_for(workshop, person, blog_slug)
    found = recognise(typed)
    told = workshop.services.videos.tell(found)
    poster = ""
    if told.poster:
        row = library.add_picture(
            workshop, person, blog, f"{found.address.rstrip('/').rpartition('/')[2]}.jpg", told.poster
        )
        if not row.credit:
            row = library.describe(
                workshop,
                person,
                row.id,
                caption=told.title,
                credit=told.by,
                source=found.address,
                licence="permission",
            )
        poster = media_src(row.id)
    return {
        "address": found.address,
        "title": told.title,
        "width": told.width,
        "height": told.height,
        "poster": poster,
    }
