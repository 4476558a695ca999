"""Measures the house in use: sections of the front page, blocks below posts, counts in the foot, posts in two blogs and on backgrounds of their own."""

from __future__ import annotations

import time
from dataclasses import replace

from mobbet.actions import also_in, front_sections, house, kept_blocks, menus, new_blog, own_look, promos
from mobbet.actions.work import unpublished
from mobbet.actions.workshop import Workshop
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.house import PROMOS
from mobbet.store import blogs, people
from mobbet.store.people import Person

SECTIONS = ("chosen", "category:lamps", "categories", "most_read", "authors", "blocks:Notice", "pages")
SHARED = 5
"""So many posts stand in a second blog and on backgrounds of their own."""


def put_in_use(workshop: Workshop) -> None:
    """Gives a blog a front page of many sections, rules for blocks below posts, and a second blog with some of its posts."""
    blog = blogs.every(workshop.db)[0]
    person = people.of_blog(workshop.db, blog.id)[0]
    with unpublished():
        words = from_markdown("Mind the [first one](post:1), and come on Thursday.")
        kept_blocks.keep_blocks(workshop, person, blog.slug, "Notice", words["content"])
        for text in SECTIONS:
            section = front_sections.read_section(workshop, blog, text)
            section = replace(section, of=section.of or ((1, 2, 3) if text == "chosen" else ()))
            menus.give_change(workshop, person, blog.slug, front_sections.adding(section))
        menus.give_change(workshop, person, blog.slug, front_sections.foot_categories("counts"))
        _rule(workshop, person, blog.slug)
        new_blog.begin(
            workshop, person, name="Second", address="second", zone=blog.zone, home="https://second.example/", source="", parts=[]
        )  # fmt: skip
        for number in range(1, SHARED + 1):
            own_look.set_own_look(workshop, person, number, paper="#102018", accent="", picture="")
            also_in.add(workshop, person, number, "second")
    for one in blogs.every(workshop.db):
        workshop.press.publish(one.id, workshop.clock())


def _rule(workshop: Workshop, person: Person, slug: str) -> None:
    text = "---\nname: Notice\ncategories: Lamps\nnever: [Rival Tools, microwave*]\n---\n"
    promos.add_file(workshop, person, slug, text)


def figures(large: Workshop, count: int) -> dict[str, float]:
    """How long it takes to know what another rule for blocks below posts alters, and to give it to readers."""
    blog = blogs.every(large.db)[0]
    person = people.of_blog(large.db, blog.id)[0]
    promos.try_change(large, person, blog.slug, promos.setting(large, blog, 1, "never", "Rival Tools"))
    began = time.perf_counter()
    house.effect(large, person, blog.slug, PROMOS)
    told = time.perf_counter() - began
    began = time.perf_counter()
    house.give(large, person, blog.slug, PROMOS)
    given = time.perf_counter() - began
    return {
        f"footprint of another rule for blocks below {count} posts, s": round(told, 2),
        f"giving it to readers at {count}, s": round(given, 2),
    }
