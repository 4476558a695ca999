"""Measures how many pages it takes to withdraw a post, or to date another back, at the newest, middle and oldest place of a blog."""

from __future__ import annotations

from mobbet.actions import building, files, placing
from mobbet.actions.work import unpublished
from mobbet.actions.workshop import Workshop
from mobbet.core.keys import ALL
from mobbet.core.timing import iso
from mobbet.core.values import existing
from mobbet.store import blogs, people
from mobbet.store.snapshot import SiteSnapshot


def figures(workshop: Workshop, count: int) -> dict[str, float]:
    """{what: the pages that it wrote and removed} of a blog with `count` posts, and the time of the slowest."""
    blog = existing(blogs.by_id(workshop.db, 1))
    person = people.of_blog(workshop.db, blog.id)[0]
    found: dict[str, float] = {}
    slowest = 0.0
    for name, share in (("newest", 1.0), ("middle", 0.5), ("oldest", 0.0)):
        snapshot = SiteSnapshot(workshop.db, blog.id, workshop.clock())
        there = snapshot.count(ALL)
        goes_out, number = snapshot.places(ALL, min(int(there * share), there - 1), 1)[0]
        with unpublished():
            placing.withdraw(workshop, person, number)
        gone = building.publish(workshop, blog)
        with unpublished():
            files.new_post(
                workshop,
                person,
                blog.slug,
                f"---\ntitle: In between {name}\ndate: {iso(goes_out)[:10]}\ncategories: [Lamps > Wiring]\ntags: flex, fuse\n---\nWords.\n",
            )
        come = building.publish(workshop, blog)
        found[f"pages to withdraw the {name} of {count}"] = gone.written + gone.removed
        found[f"pages to date one back to the {name} of {count}"] = come.written + come.removed
        slowest = max(slowest, gone.seconds, come.seconds)
    found[f"the slowest of these at {count}"] = round(slowest * 1000, 1)
    return found
