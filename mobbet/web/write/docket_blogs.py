"""The line of the docket that says in which other blogs a post stands."""

from __future__ import annotations

from typing import Any

from mobbet.actions import also_in
from mobbet.actions.permalinks import category_subjects
from mobbet.actions.workshop import Workshop
from mobbet.core.filing import path_in_words
from mobbet.store.posts import Post
from mobbet.web.public import addresses as to_public
from mobbet.web.shell.contexts import Choice
from mobbet.web.write.contexts import AlsoIn, Setting


def also_in_setting(workshop: Workshop, post: Post) -> Setting:
    """In which other blogs the post stands, in words."""
    names = [guest.blog.name for guest in also_in.guests_of(workshop, post)]
    words = f"also in {', '.join(names)}" if names else "in no other blog"
    return Setting("also-in", words, "Change in which other blogs it stands")


def also_in_fields(workshop: Workshop, post: Post) -> dict[str, Any]:
    """What the docket says of other blogs."""
    found = []
    for guest in also_in.guests_of(workshop, post):
        subjects = category_subjects(workshop, guest.blog)
        choices = [
            Choice(str(number), path_in_words(subjects, number), number in guest.categories[:1])
            for number in subjects
        ]
        link = to_public.public(guest.blog.slug, guest.path) if guest.path else ""
        found.append(AlsoIn(guest.blog.name, guest.blog.slug, link, choices, guest.is_behind))
    offered = also_in.offered(workshop, workshop.db.viewer or 0, post)
    return {"also_in": found, "other_blogs": [Choice(blog.slug, blog.name) for blog in offered]}
