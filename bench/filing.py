"""Figures of the filing: how quickly the screen answers and changes are made in a large tree with many tags."""

from __future__ import annotations

import random
import time
from collections.abc import Callable
from pathlib import Path
from statistics import quantiles

from mobbet.actions import building, categories, category_tree, footprints, patterns, sample_posts, tags
from mobbet.actions.workshop import Workshop
from mobbet.core.values import existing
from mobbet.services.stand_ins.clock import SetClock
from mobbet.store import blogs, filing, people
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.wiring import open_folder

CATEGORIES, TAGS, POSTS, RUNS = 2000, 20_000, 2000, 30
NOW = 1_795_000_000


def figures(folder: Path) -> dict[str, float]:
    """{figure: value}: times in milliseconds, the 95th of a hundred where nothing else is said."""
    clock = SetClock(NOW)
    workshop = open_folder(folder, clock)
    sample_posts.fill(workshop, POSTS, 3)
    blog = blogs.every(workshop.db)[0]
    person = people.of_blog(workshop.db, blog.id)[0]
    _grow(workshop, blog)
    found = {
        f"filing of {CATEGORIES} categories, {TAGS} tags: {name}, p95": value
        for name, value in _screens(workshop, person, blog).items()
    }
    chance = random.Random(5)
    numbers = list(filing.subjects(workshop.db, blog.id))
    rename = _times(
        lambda: _changed(
            workshop,
            clock,
            lambda: categories.rename(
                workshop, person, blog.slug, chance.choice(numbers[20:]), f"Shelf {chance.random()}"[:20]
            ),
        )
    )
    found["rename a category and publish, p95"] = rename
    move = _times(
        lambda: footprints.effect_of_filing(
            workshop, blog, lambda shop: category_tree.move(shop, person, blog.slug, numbers[1], None)
        )
    )
    found["footprint of moving a category, p95"] = move
    started = time.perf_counter()
    tags.near_doubles(workshop, blog)
    found[f"near-doubles among {TAGS} tags, s"] = time.perf_counter() - started
    started = time.perf_counter()
    moved = patterns.set_pattern(workshop, person, blog.slug, "/{year}/{slug}/")
    building.publish(workshop, existing(blogs.by_id(workshop.db, blog.id)))
    found[f"another pattern for {moved} posts, published, s"] = time.perf_counter() - started
    workshop.db.close()
    return found


def _grow(workshop: Workshop, blog: Blog) -> None:
    """A random tree of categories, and tags."""
    chance = random.Random(4)
    with workshop.db.transaction():
        numbers = list(filing.subjects(workshop.db, blog.id))
        for number in range(CATEGORIES - len(numbers)):
            row = filing.add_category(
                workshop.db, blog.id, chance.choice([None, *numbers]), f"Shelf {number}", f"shelf-{number}"
            )
            numbers.append(row.id)
        letters = "abcdefghijklmnopqrstuvwxyz"
        for number in range(TAGS - filing.count_tags(workshop.db, blog.id)):
            name = "".join(chance.choice(letters) for _ in range(chance.randrange(4, 10)))
            filing.add_tag(workshop.db, blog.id, f"{name} {number % 97}", f"tag-{number}")


def _screens(workshop: Workshop, person: Person, blog: Blog) -> dict[str, float]:
    from mobbet.web.filing import lists as filing_lists
    from mobbet.web.filing import view
    from mobbet.web.shell.rendering import html_of

    numbers = list(filing.subjects(workshop.db, blog.id))
    chance = random.Random(6)
    return {
        "categories": _times(lambda: html_of(view.page(workshop, person, blog, chance.choice(numbers)))),
        "tags": _times(lambda: html_of(filing_lists.tags_page(workshop, person, blog, "", None, 0))),
        "addresses": _times(lambda: html_of(filing_lists.addresses_page(workshop, person, blog, "", 0))),
    }


def _changed(workshop: Workshop, clock: SetClock, change: Callable[[], object]) -> None:
    change()
    clock.forward(1)
    building.publish(workshop, blogs.every(workshop.db)[0])


def _times(run: Callable[[], object]) -> float:
    """The 95th percentile of some runs, in milliseconds."""
    run()
    taken = []
    for _ in range(RUNS):
        started = time.perf_counter()
        run()
        taken.append((time.perf_counter() - started) * 1000)
    return quantiles(taken, n=20)[-1]
