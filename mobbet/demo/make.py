"""Makes the demo blogs, only through actions; dates are set relative to the day they are made."""

from __future__ import annotations

import io
import json
import shutil
import tempfile
from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import timedelta
from pathlib import Path

import yaml

from mobbet.actions import (
    alike,
    appearance,
    building,
    categories,
    comments,
    docket_lines,
    external_media,
    files,
    house_facts,
    house_words,
    kept_blocks,
    library,
    link_checks,
    marked_days,
    media_jobs,
    missing_pages,
    old_addresses,
    placing,
    posts,
    proofing,
    readers,
    site_search,
    slots,
)
from mobbet.actions import blogs as blog_actions
from mobbet.actions.people import add_person
from mobbet.actions.work import unpublished
from mobbet.actions.workshop import Workshop
from mobbet.core.comments import ALL, ANYONE
from mobbet.core.document import schema
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.document.links import media_src
from mobbet.core.sharing import WAYS
from mobbet.core.timing import local, wall
from mobbet.core.values import existing
from mobbet.demo.answers import make_answers
from mobbet.demo.drawings import DRAWINGS, draw
from mobbet.demo.house import set_front, set_menu, set_profile
from mobbet.demo.letters import make_letters
from mobbet.demo.reads import make_reads
from mobbet.demo.recordings import CLIP, bad_motor, good_motor
from mobbet.demo.remarks import make_remarks
from mobbet.demo.team import make_team
from mobbet.services.contracts import LinkReply
from mobbet.services.stand_ins.clock import SetClock
from mobbet.services.stand_ins.link_answers import ScriptedReplies
from mobbet.store import blogs, media
from mobbet.store import posts as post_store
from mobbet.store.blogs import Blog
from mobbet.store.media import Wanted
from mobbet.store.people import Person
from mobbet.wiring import open_folder

ACCOUNT = ("ines@mending-bench.example", "port-alder-bench")
POSTS = Path(__file__).parent / "posts"
DAY = 86400
UPDATED_AFTER = 2 * DAY

PEOPLE = (
    (
        "Ines Farrow",
        ACCOUNT[0],
        "owner",
        "Electrics. Began the bench with a table from the school and one meter.",
    ),
    ("Tomas Wilde", "tomas@mending-bench.example", "editor", "Keeps the timetable and the box of cards."),
    ("Oyelaran Bright", "laran@mending-bench.example", "writer", "Textiles. Answers to Laran."),
    ("Petra Quill", "petra@mending-bench.example", "writer", "Clocks, and whatever else ticks."),
    ("Wren Halloran", "wren@mending-bench.example", "contributor", "Writes as a guest, and brings toasters."),
)

AVOIDED = "microwave oven: microwave\nutilise: use\nvery unique"
LEARNED = "cufflink, dashpot, grommet, repairability"
MOVED = ("https://fuse-notes.example/promise", "https://fuse-notes.example/why-a-fuse-is-a-promise/")

SAFETY = """~~~ mobbet:callout sign=stop tint=clay title="Before you begin"
Pull the plug, and keep it where you can see it. If the flex is warm, wet or gnawed, stop and bring us the whole thing.
~~~
"""
FUSES = "Rating,Where,How to tell\n3 A,lamps and radios,ceramic in a plug\n13 A,kettles and heaters,ceramic in a plug\nF,instruments,glass with a hair inside\nT,motors,glass that waits a moment\n"
DESCRIBED = {
    "lamp": ("A desk lamp with a red shade on a bench", "lamp, bench"), "clock": ("A round kitchen clock with black hands", "clock"),
    "zip": ("A dark zip half open, with a red slider", "zip, textiles"), "radio": ("An old table radio with a round dial", "radio"),
    "gears": ("Gears and screws laid out on a sheet", "clock, parts"), "fuse": ("Five small fuses in a row", "fuse, parts"),
    "ferry": ("The ferry at the quay", "ferry"), "birds": ("Birds over grey water", "birds"),
}  # fmt: skip
CATEGORIES = (
    ("Lamps", "Anything that shines, or used to. *Unplug it first*, also when it is broken.", "lamp"),
    (
        "Clocks",
        "What ticks, and what ought to. Most of them want oil in one place and none in the others.",
        "clock",
    ),
    ("Sessions", "When the bench is open, and what to bring.", ""),
)
"""(path, description, picture) of the categories that are described."""
MISSED = (
    ("/clocks/cleaning-stuck-clocks/", 14),
    ("/lamps/rewire-a-lamp/", 6),
    ("/textiles/zip-railway/", 4),
    ("/shop/", 3),
)
"""Addresses that readers asked for, and how often."""
VOLUNTEERS = """Tomas Wilde <tomas@mending-bench.example>
Mira Holt <mira@port-alder.example>
Jonas Amsel <jonas@port-alder.example>
Bea Quickly <bea@port-alder.example>
"""
NEIGHBOURS = "Alba Renn <alba@port-alder.example>\nOtto Vance <otto@port-alder.example>"
QUEUED = ("Five fuses, and the one you need", "The toaster that ate a fork")
LOCKED = "The button box"
FACTS = "telephone: 555 0142\nnext-session: Thursday, from six to nine\nplace: the net loft, Port Alder"
LINK_RULES = "harbour-shop.example paid"


@dataclass(frozen=True)
class DemoPost:
    """One post of the demo's files: what only the demo reads, and the rest as front matter and Markdown."""

    written_day: int
    planned: str
    state: str
    is_updated: bool
    series: str
    place: str
    source: str


Tell = Callable[[str, int, int], None]
"""Is told what is being made, how many of it are, and of how many."""


def make_demo(
    data: Path, now: int, origin: str, tell: Tell = lambda what, done, of: None, with_copies: bool = True
) -> None:
    """Makes both blogs in an empty data folder, as of `now`; `origin` is where the site will be served.

    The folder appears whole or not at all. Without copies of the pictures for readers, the worker of the server makes them.
    """
    data.parent.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory(dir=data.parent) as folder:
        made = Path(folder) / "data"
        _make(made, Path(folder) / "drawings", now, origin, tell, with_copies)
        if data.exists():
            data.rmdir()
        shutil.move(made, data)


def _make(data: Path, drawings: Path, now: int, origin: str, tell: Tell, with_copies: bool) -> None:
    drawings.mkdir()
    for number, name in enumerate(DRAWINGS, 1):
        (drawings / f"{name}.png").write_bytes(draw(name))
        tell("pictures drawn", number, len(DRAWINGS))
    clock = SetClock(now - 420 * DAY)
    workshop = open_folder(data, clock)
    people = [
        add_person(workshop, name=name, email=email, password=ACCOUNT[1]) for name, email, _, _ in PEOPLE
    ]
    ines = people[0]
    bench = blog_actions.make_blog(
        workshop, ines, name="The Mending Bench", address="mending-bench", zone="Europe/Lisbon", home=f"{origin}/b/mending-bench/",
        tagline="What we fix, and what we learn doing it, in Port Alder",
    )  # fmt: skip
    for person, (_, _, role, _) in zip(people[1:], PEOPLE[1:], strict=True):
        blog_actions.add_member(workshop, bench, person, role)
    log = blog_actions.make_blog(
        workshop, ines, name="Alder Ferry Log", address="ferry-log", zone="Atlantic/Azores", home=f"{origin}/b/ferry-log/",
        tagline="Crossings, weather and birds, from the deck", look="ferry",
    )  # fmt: skip
    with unpublished():
        items = {bench.id: _bench_items(workshop, ines, bench), log.id: {}}
        kept_blocks.keep_blocks(workshop, ines, bench.slug, "Safety notice", from_markdown(SAFETY)["content"])
        _house_facts(workshop, ines, bench)
        _filing(workshop, ines, bench, log)
        comments.set_rule(workshop, ines, bench.slug, ANYONE, ALL)
        bench = existing(blogs.by_slug(workshop.db, bench.slug))
        volunteers = readers.make_group(workshop, ines, bench, "Volunteers")
        readers.add_readers(workshop, ines, bench, volunteers.id, VOLUNTEERS)
        readers.add_readers(workshop, ines, bench, None, NEIGHBOURS)
        for blog in (bench, log):
            _posts(workshop, clock, ines, blog, items[blog.id], drawings, now, tell)
            clock.instant = now
            _describe(workshop, ines, blog)
            if with_copies:
                media_jobs.work_all(workshop)
            building.publish(workshop, blog, person=ines, why="a year of posts was published")
        _keep_in_order(workshop, ines, bench)
        set_menu(workshop, ines, bench)
        set_front(workshop, ines, bench)
        for person, (*_, line) in zip(people, PEOPLE, strict=True):
            set_profile(workshop, person, line, bench)
        _timetable(workshop, ines, bench)
        make_letters(workshop, clock, ines, bench)
        _publish(workshop, ines, bench, log)
    make_remarks(workshop, clock, ines, bench, now)
    make_team(workshop, ines, bench, origin)
    make_answers(workshop, bench)
    for blog in (bench, log):
        make_reads(workshop, blog, now)
    # a cached property keeps its value there
    vars(workshop.services)["ask"] = ScriptedReplies({MOVED[0]: LinkReply(ends_at=MOVED[1])})
    link_checks.try_some(workshop)
    proofing.read_some(workshop, 1000)
    workshop.db.close()


def _house_facts(workshop: Workshop, ines: Person, bench: Blog) -> None:
    """What the bench says of itself, its rules for words, and how readers share its posts."""
    for fact in FACTS.splitlines():
        house_facts.give_facts(workshop, ines, bench.slug, fact=fact)
    house_facts.give_facts(
        workshop, ines, bench.slug, link_rule=LINK_RULES, **{f"sharing:{way}": "yes" for way in WAYS}
    )
    house_words.set_house_words(
        workshop, ines, bench.slug, quotes="", dashes="", ellipses="sign", avoided=AVOIDED
    )
    house_words.set_learned(workshop, ines, bench.slug, LEARNED)


def _publish(workshop: Workshop, ines: Person, bench: Blog, log: Blog) -> None:
    """Both sites with what was put in order, and posts like each other below one another."""
    site_search.bring_up_to_date(workshop)
    while alike.catch_up(workshop):
        pass
    building.publish(workshop, bench, person=ines, why="filing and timetable were put in order")
    building.publish(workshop, log, person=ines, why="posts like others were found")


def _posts(
    workshop: Workshop,
    clock: SetClock,
    author: Person,
    blog: Blog,
    items: dict[str, str],
    drawings: Path,
    now: int,
    tell: Tell,
) -> None:
    posts = list(_told(POSTS / f"{blog.slug}.md", blog, now))
    for number, told in enumerate(posts, 1):
        source = _with_items(told.source, items)
        _post(workshop, clock, author, blog, replace(told, source=source), drawings, now)
        proofing.read_some(workshop, 5)
        tell(f"posts of “{blog.name}”", number, len(posts))


def _bench_items(workshop: Workshop, owner: Person, blog: Blog) -> dict[str, str]:
    """The sounds, the clip and the files of the bench, and one video of a provider: {its name in the texts: what stands for it}."""
    found = {}
    for name, body, about in (
        (
            "good-motor.wav",
            good_motor(),
            {"caption": "A good motor", "transcript": "An even hum that does not change.", "labels": "motor"},
        ),
        (
            "bad-motor.wav",
            bad_motor(),
            {
                "caption": "A bad motor",
                "transcript": "A hum that grows slower, with a knock at every turn.",
                "labels": "motor",
            },
        ),
        ("switch.mp4", CLIP.read_bytes(), {"caption": "A switch, thrown three times", "labels": "switch"}),
        ("fuses.csv", FUSES.encode(), {"caption": "The table of fuses, to print", "labels": "fuse"}),
    ):
        item = library.add_stream(
            workshop, owner, blog, name, io.BytesIO(body), licence="own", credit="The Mending Bench", **about
        )
        found[f"item:{name}"] = media_src(item.id)
    clip = found["item:switch.mp4"].removeprefix("media:")
    library.set_captions(
        workshop, owner, int(clip), "0:01.5 - 0:03 On\n0:03 - 0:04.5 Off\n0:04.5 - 0:06 On again"
    )
    house_facts.allow_video_host(workshop, owner, blog.slug, "reel.example")
    attrs = external_media.embed(workshop, owner, blog.slug, "https://reel.example/watch/eye-splice").attrs
    found["embed:eye-splice"] = " ".join(
        f"{name}={json.dumps(value, ensure_ascii=False)}" for name, value in attrs.items()
    )
    external_media.from_collection(workshop, owner, blog.slug, "15")
    external_media.from_collection(workshop, owner, blog.slug, "21")
    return found


def _filing(workshop: Workshop, owner: Person, bench: Blog, log: Blog) -> None:
    """The owner's order: where posts without a category fall, how many they may have, what the section is called."""
    for blog, name, label in ((bench, "Notes", "Notes"), (log, "From the deck", "Log")):
        made = categories.add(workshop, owner, blog.slug, name)
        categories.set_catch_all(workshop, owner, blog.slug, made.subject)
        house_facts.give_facts(workshop, owner, blog.slug, label=label)
    categories.set_rule(
        workshop,
        owner,
        bench.slug,
        "",
        "3",
        "The first one gives the address, so choose the thing that was mended.",
    )


def _keep_in_order(workshop: Workshop, owner: Person, bench: Blog) -> None:
    """What a year of keeping order leaves: described categories, an old address that redirects, and some that readers missed."""
    pictures = {
        row.name.rpartition(".")[0]: row.id
        for row in media.find(workshop.db, bench.id, Wanted(kind="picture"), 100)
    }
    for path, words, picture in CATEGORIES:
        number = categories.find(workshop, bench, path)
        categories.describe(
            workshop,
            owner,
            bench.slug,
            number,
            description=words,
            picture=pictures.get(picture),
            shows_below=True,
        )
    old_addresses.add(
        workshop, owner, bench.slug, "/2019/flickering-lamps.html", "/lamps/why-lamp-flickers-when-tram-goes/"
    )
    missing_pages.count(workshop, bench.id, {(path, False): hits for path, hits in MISSED})


def _timetable(workshop: Workshop, owner: Person, bench: Blog) -> None:
    """Two slots, finished posts that wait for their turn in them, and a locked post of which lists show the teaser."""
    today = local(workshop.clock(), bench.zone).date()
    tomorrow = (today + timedelta(days=1)).isoformat()  # so that nothing goes out while somebody looks
    slots.add_slot(workshop, owner, bench, "FREQ=WEEKLY;BYDAY=TU", "09:00", tomorrow)
    slots.add_slot(workshop, owner, bench, "FREQ=MONTHLY;BYDAY=-1TH", "18:30", tomorrow)
    closed, session = (
        today + timedelta(days=26 - today.weekday()),
        today + timedelta(days=12 - today.weekday()),
    )
    marked_days.mark(
        workshop,
        owner,
        bench.slug,
        closed.isoformat(),
        (closed + timedelta(days=7)).isoformat(),
        "net loft closed",
        True,
    )
    marked_days.mark(workshop, owner, bench.slug, session.isoformat(), "", "harbour market", False)
    for title in QUEUED:
        slots.put_in_queue(workshop, owner, existing(post_store.titled(workshop.db, bench.id, title)))
    locked = existing(post_store.titled(workshop.db, bench.id, LOCKED))
    docket_lines.set_post_password(workshop, owner, locked, "", "teaser")
    placing.place(workshop, owner, locked)


def _with_items(source: str, items: dict[str, str]) -> str:
    for name, stands_for in items.items():
        source = source.replace(name, stands_for)
    return source


def _describe(workshop: Workshop, owner: Person, blog: Blog) -> None:
    """What the library knows of the drawings: some are described, some are not yet."""
    for row in media.find(workshop.db, blog.id, Wanted(kind="picture"), 100):
        stem = row.name.rpartition(".")[0]
        if stem in DESCRIBED:
            alt, labels = DESCRIBED[stem]
            library.describe(
                workshop, owner, row.id, alt=alt, labels=labels, licence="own", credit="The Mending Bench"
            )


def _told(file: Path, blog: Blog, now: int) -> list[DemoPost]:
    """The posts of a file, in the order in which they were written."""
    return [_one(part, blog, now) for part in file.read_text().split("=== post\n") if part.strip()]


def _one(part: str, blog: Blog, now: int) -> DemoPost:
    head, body = part.removeprefix("---\n").split("---\n", 1)
    values = yaml.safe_load(head)
    time, state = values.pop("time", "10:30"), values.pop("state", "")
    is_updated, expires, day = (
        values.pop("updated", False),
        values.pop("expires_day", None),
        values.pop("day", None),
    )
    series, place = values.pop("series", ""), values.pop("place", "")
    written = values.pop("changed_day", day)
    planned = _wall(now, blog, day, time) if day is not None else ""
    if planned and state != "draft":
        values["date"] = planned
    if expires is not None:
        values["expires"] = _wall(now, blog, expires, "21:00")
    front = yaml.safe_dump(values, allow_unicode=True)
    return DemoPost(
        min(written, -1),
        planned if state == "draft" else "",
        state,
        is_updated,
        series,
        place,
        f"---\n{front}---\n{body}",
    )


def _wall(now: int, blog: Blog, day: int, time: str) -> str:
    return f"{wall(now + day * DAY, blog.zone)[:10]}T{time}"


def _post(
    workshop: Workshop, clock: SetClock, owner: Person, blog: Blog, told: DemoPost, drawings: Path, now: int
) -> None:
    """Writes a post two hours before the time it goes out, and brings it into its state."""
    morning = local(now + told.written_day * DAY, blog.zone).replace(hour=10, minute=30, second=0)
    clock.instant = min(now, int(morning.timestamp())) - 7200
    brought = files.new_post(workshop, owner, blog.slug, told.source, drawings)
    if told.planned:
        docket_lines.set_time(workshop, owner, brought.post.id, "goes_out_wall", told.planned)
    if told.state == "set-aside":
        clock.instant = now - 5 * DAY  # lately, so that it is still kept
        placing.set_aside(workshop, owner, brought.post.id)
    if told.state == "template":
        kept_blocks.set_template(workshop, owner, brought.post.id, True)
    if told.place:
        name, _, point = told.place.partition(" @ ")
        appearance.set_place(workshop, owner, brought.post.id, name, point, True)
        placing.place(workshop, owner, brought.post.id)
    if told.series:
        kept_blocks.set_series(workshop, owner, brought.post.id, told.series)
        placing.place(workshop, owner, brought.post.id)
    if told.is_updated:
        _update(workshop, clock, owner, brought.post.id)


def _update(workshop: Workshop, clock: SetClock, owner: Person, post_id: int) -> None:
    """A second thought two days later, released to readers."""
    clock.forward(UPDATED_AFTER + 7200)
    post = existing(post_store.by_id(workshop.db, post_id))
    before = post_store.working(workshop.db, post_id)
    subtitle = f"{before.subtitle} With a word on cold rooms."
    posts.save_text(
        workshop,
        owner,
        post_id,
        base=post.revision,
        title=before.title,
        subtitle=subtitle,
        body=schema.load(before.body),
    )
    placing.place(workshop, owner, post_id)
