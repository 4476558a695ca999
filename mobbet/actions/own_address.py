"""Where this server is found, for letters that are written without a request."""

from __future__ import annotations

from mobbet.actions.workshop import Workshop
from mobbet.store.blogs import Blog

USUAL = "http://127.0.0.1:8000"


def server_of(workshop: Workshop, blog: Blog) -> str:
    """The address of the application: by its own host name, or where it serves the blog; as `mobbet serve` has it otherwise."""
    if workshop.settings.host:
        return f"https://{workshop.settings.host}"
    home, below, _ = blog.home.partition(f"/b/{blog.slug}/")
    return home if below else USUAL
