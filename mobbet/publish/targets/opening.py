"""Opens a place outside, by its kind."""

from __future__ import annotations

from mobbet.core.places_outside import FOLDER, STORE, Allowed, Credentials, Place
from mobbet.publish.targets.folder import LIST, Folder
from mobbet.publish.targets.host import Host


def open_host(place: Place, allowed: Allowed, credentials: Credentials, listing: str = LIST) -> Host:
    """A place that was judged by `core/places_outside.check_allowed`; `listing` marks a folder as ours, privately where it is not that of a site. Raises Broken when it cannot be reached."""
    if place.kind == FOLDER:
        return Folder(place.path, listing, is_private=listing != LIST)
    if place.kind == STORE:  # imported only when needed: its client takes half a second to load
        from mobbet.publish.targets.objects import ObjectStore

        return ObjectStore(place, credentials)
    from mobbet.publish.targets.sftp import Sftp

    return Sftp(place, allowed, credentials)
