"""The kinds of places outside that the operator allows, for the screens on which one is named."""

from __future__ import annotations

from mobbet.actions.workshop import Workshop


def kinds_of_places(here: Workshop, name: str, folder: str) -> list[tuple[str, str]]:
    """(an address, what it is) of each kind of place that the operator allows; `name` is that of an example, `folder` says what one is for."""
    allowed = here.settings.allowed
    found = [(f"folder:{root}/{name}", folder) for root in allowed.folders]
    found += [
        (f"s3://bucket/prefix?endpoint={endpoint}", "an object store, with its access key and secret")
        for endpoint in allowed.stores
    ]
    return [
        *found,
        (
            "sftp://user@host.example/path",
            "a folder on another machine, with a password or private key, and the machine’s host key",
        ),
    ]
