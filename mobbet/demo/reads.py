"""What was read on the demo's sites: made-up requests of eight weeks, counted as real ones are."""

from __future__ import annotations

import random

from mobbet.actions import read_counts, site_search
from mobbet.actions.read_counts import Hit
from mobbet.actions.workshop import Workshop
from mobbet.core.read_counts import END_PATH
from mobbet.store.blogs import Blog

DAYS, A_DAY, TO_THE_END = 84, 46, 0.55
SOURCES = (
    "",
    "",
    "",
    "https://search.example/",
    "https://search.example/",
    "https://port-alder.example/",
    "https://fuse-notes.example/",
    "https://reader.example/",
)
AGENTS = (
    "Mozilla/5.0 (X11; Linux x86_64) Firefox/142.0",
    "Mozilla/5.0 (Windows NT 10.0; Win64) Chrome/141.0 Safari/537.36",
    "Mozilla/5.0 (iPhone; CPU iPhone OS 18_0 like Mac OS X) Mobile/15E148",
    "Mozilla/5.0 (Linux; Android 15) Chrome/141.0 Mobile Safari/537.36",
    "Mozilla/5.0 (iPad; CPU OS 18_0 like Mac OS X)",
    "Harbourbot/1.0 (+https://robot.example/)",
)
LANGUAGES = ("pt-PT", "pt-PT", "en", "en-GB", "de")
READ = {
    "/clocks/cleaning-a-stuck-clock/": 41,
    "/glue/which-glue-honestly/": 1204,
    "/lamps/why-lamp-flickers-when-tram-goes/": 212,
    "/zips/zips-replace-slider-not-zip/": 388,
    "/safety/how-to-say-no-to-a-microwave/": 640,
    "/notes/a-stool-and-who-sits-on-it/": 18,
}
"""How often some posts are read in those days; the others are as it comes."""
MISSED = {"kettle element": 3, "hearing aid": 2, "opening hours": 2}


def make_reads(workshop: Workshop, blog: Blog, now: int) -> None:
    """Requests for the blog's pages, more of them on Tuesdays and of some posts, and words that readers searched for in vain."""
    chance = random.Random(blog.slug)
    numbers = read_counts.post_paths(workshop, blog)
    posts = sorted(numbers)
    weights = [0.0 if path in READ else chance.lognormvariate(0, 1) for path in posts]
    hits = [
        Hit(now - chance.randint(0, DAYS * 86400), path, "", f"198.51.100.{chance.randint(1, 254)}", chance.choice(AGENTS[:5]), chance.choice(SOURCES), "pt-PT", "")
        for path, times in READ.items() if path in numbers for _ in range(times)
    ]  # fmt: skip
    for day in range(DAYS):
        start = now - (DAYS - day) * 86400
        is_tuesday = (start // 86400 + 4) % 7 == 2
        for _ in range(
            round(A_DAY * (2.1 if is_tuesday else chance.uniform(0.7, 1.1)) * (0.8 + day / DAYS / 2.5))
        ):
            address, agent = f"192.0.2.{chance.randint(1, 254)}", chance.choice(AGENTS)
            at, language = start + chance.randint(0, 86399), chance.choice(LANGUAGES)
            source, query = chance.choice(SOURCES), "from=poster" if chance.random() < 0.05 else ""
            path = "/" if chance.random() < 0.25 else chance.choices(posts, weights)[0]
            hits.append(Hit(at, path, query, address, agent, source, language, ""))
            if path in numbers and chance.random() < TO_THE_END:
                hits.append(
                    Hit(at + 200, END_PATH, str(numbers[path]), address, agent, blog.home, language, "")
                )
            if chance.random() < 0.4:
                more = chance.choices(posts, weights)[0]
                hits.append(Hit(at + 90, more, "", address, agent, blog.home, language, ""))
    read_counts.count(workshop, blog, hits)
    for day in range(5):
        site_search.count_missed(workshop, blog.id, now // 86400 - day, MISSED)
