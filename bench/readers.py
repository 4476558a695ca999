"""Measures readers who come back: publishing where they subscribe, comment, search and are counted; a search; a page that is counted."""

from __future__ import annotations

import time
from statistics import median, quantiles

from mobbet.actions import announcing, comments, house_facts, letter_rules, site_search, subscribers
from mobbet.actions.site_search import Asked
from mobbet.actions.workshop import Workshop
from mobbet.core.audience import STRANGER
from mobbet.core.comments import ANYONE, NONE
from mobbet.core.values import existing
from mobbet.store import blogs, people
from mobbet.web.public.tally import Tally

SUBSCRIBERS, VIEWS = 5000, 20_000
WORDS = ("hinge", "stubborn hinge", "lamp", "fuse flex", '"the fuse"', "hinje", "solder", "wiring lamp")


def put_in_use(workshop: Workshop) -> None:
    """Gives a blog subscribers, comments, ways to share, a hub, and an account elsewhere, and has its index read."""
    blog = blogs.every(workshop.db)[0]
    person = people.of_blog(workshop.db, blog.id)[0]
    letter_rules.set_rule(workshop, person, blog.slug, "is_open", "yes")
    blog = existing(blogs.by_id(workshop.db, blog.id))
    rows = "".join(f"reader{number}@alder.example\n" for number in range(SUBSCRIBERS))
    subscribers.bring_in(workshop, person, blog, f"email\n{rows}", "said so", {})
    comments.set_rule(workshop, person, blog.slug, ANYONE, NONE)
    house_facts.give_facts(workshop, person, blog.slug, hub="https://hub.example/")
    announcing.add(workshop, person, blog.slug, "stand-in", "Board", "", "", "")
    site_search.bring_up_to_date(workshop)
    workshop.press.publish(blog.id, workshop.clock())


def figures(large: Workshop) -> dict[str, float]:
    """How long a reader's search takes, in milliseconds, and to note that a page was opened, in microseconds."""
    blog = blogs.every(large.db)[0]
    times = []
    for _ in range(5):
        for words in WORDS:
            began = time.perf_counter()
            site_search.find(large, blog, STRANGER, Asked(words))
            times.append((time.perf_counter() - began) * 1000)
    tally, scope = Tally(large), {"client": ("192.0.2.1", 9), "query_string": b""}
    headers = {b"user-agent": b"Firefox", b"referer": b"https://search.example/"}
    counted = []
    for _ in range(5):
        began = time.perf_counter()
        for _ in range(VIEWS // 5):
            tally.count(blog.id, "/", True)
            tally.count_opened(blog.id, "/", scope, headers)
        counted.append((time.perf_counter() - began) / (VIEWS // 5) * 1e6)
    began = time.perf_counter()
    tally.write()
    written = (time.perf_counter() - began) / VIEWS * 1e6
    return {
        "a reader's search, p95": round(quantiles(times, n=20)[-1], 1),
        "noting that a page was opened, µs": round(median(counted), 1),
        "writing it down in the background, µs a page": round(written, 1),
    }
