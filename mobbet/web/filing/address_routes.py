"""The Filing screen: the pattern of addresses, and every address."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, File, UploadFile
from starlette.responses import Response

from mobbet.actions import footprints, missing_pages, old_addresses, patterns
from mobbet.actions.access import blog_for
from mobbet.actions.permalinks import category_subjects
from mobbet.core.errors import BadInput, Refused
from mobbet.web.filing import addresses as to_filing
from mobbet.web.filing import lists as filing_lists
from mobbet.web.filing.contexts import Tried
from mobbet.web.shell.fields import Text
from mobbet.web.shell.footprints import in_words
from mobbet.web.shell.rendering import page
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.session import Here, Me

router = APIRouter()
LARGEST_CSV = 5_000_000


@router.get(to_filing.filing.at("addresses"))
def address_list(here: Here, me: Me, slug: str, q: str = "", after: int = 0, told: str = "") -> Response:
    blog = blog_for(here, me, slug)
    return page(filing_lists.addresses_page(here, me, blog, q, max(0, after), said=told))


@router.post(to_filing.address_change.at("pattern"))
def pattern(here: Here, me: Me, slug: str, pattern: Text = "", sure: Text = "") -> Response:
    """Shows what a pattern would do to a real post and how many it moves; moves them when one is sure."""
    blog = blog_for(here, me, slug)
    try:
        tried = patterns.try_pattern(here, blog, pattern)
        if tried.moved and sure != "yes":
            effect = footprints.effect_of_filing(
                here, blog, lambda shop: patterns.set_pattern(shop, me, slug, pattern)
            )
            words = f"“{tried.title}” would move from {tried.before} to {tried.path}. {tried.moved:,} post{'s' if tried.moved != 1 else ''} move{'s' if tried.moved == 1 else ''}; every old address leads to the new one."
            footprint = in_words(effect.pages, category_subjects(here, blog), every=effect.every)
            shown = Tried(
                words,
                footprint,
                to_filing.address_change(slug, "pattern"),
                [("pattern", tried.pattern), ("sure", "yes")],
                "Change the pattern",
            )
            return page(
                filing_lists.addresses_page(here, me, blog, "", 0, tried=shown, typed={"pattern": pattern})
            )
        moved = patterns.set_pattern(here, me, slug, pattern)
    except Refused as error:
        return page(
            filing_lists.addresses_page(
                here, me, blog, "", 0, problem=str(error), typed={"pattern": pattern}
            ),
            422,
        )
    return see_other(f"{to_filing.filing(slug, 'addresses')}?told=moved-{moved}")


@router.post(to_filing.address_change.at("script"))
def script(here: Here, me: Me, slug: str, script: Text = "") -> Response:
    blog = blog_for(here, me, slug)
    try:
        patterns.set_script(here, me, slug, script)
    except Refused as error:
        return page(filing_lists.addresses_page(here, me, blog, "", 0, problem=str(error)), 422)
    return see_other(to_filing.filing(slug, "addresses"))


@router.post(to_filing.address_change.at("add"))
def add_address(here: Here, me: Me, slug: str, old: Text = "", new: Text = "") -> Response:
    blog = blog_for(here, me, slug)
    try:
        old_addresses.add(here, me, slug, old, new)
    except Refused as error:
        return page(
            filing_lists.addresses_page(
                here, me, blog, "", 0, problem=str(error), typed={"old": old, "new": new}
            ),
            422,
        )
    return see_other(f"{to_filing.filing(slug, 'addresses')}?told=added-1")


@router.post(to_filing.address_change.at("import"))
def bring_in(here: Here, me: Me, slug: str, file: Annotated[UploadFile | None, File()] = None) -> Response:
    """Old addresses from a CSV file."""
    blog = blog_for(here, me, slug)
    try:
        body = file.file.read(LARGEST_CSV + 1) if file else b""
        if not body:
            raise BadInput(
                "No file was chosen; choose a CSV file with the old and the new address in each line.", "file"
            )
        if len(body) > LARGEST_CSV:
            raise BadInput("The file is larger than 5 megabytes; cut it into smaller ones.", "file")
        done = old_addresses.bring_in(here, me, slug, _decoded(body))
    except Refused as error:
        return page(filing_lists.addresses_page(here, me, blog, "", 0, problem=str(error)), 422)
    return page(
        filing_lists.addresses_page(
            here, me, blog, "", 0, said=f"added-{done.added}", refused=list(done.refused)
        )
    )


def _decoded(body: bytes) -> str:
    try:
        return body.decode("utf-8-sig")
    except UnicodeDecodeError:
        return body.decode("cp1252", "replace")


@router.post(to_filing.address_change.route)
def settle_address(here: Here, me: Me, slug: str, what: str, path: Text = "") -> Response:
    """Takes an added address away, or one that leads nowhere off the list."""
    blog = blog_for(here, me, slug)
    try:
        {"remove": old_addresses.remove, "dismiss": missing_pages.dismiss}.get(what, missing_pages.dismiss)(
            here, me, slug, path
        )
    except Refused as error:
        return page(filing_lists.addresses_page(here, me, blog, "", 0, problem=str(error)), 422)
    return see_other(to_filing.filing(slug, "addresses"))
