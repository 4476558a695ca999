"""What is read, as sentences, drawings and tables."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from datetime import date, timedelta

from markupsafe import Markup, escape

from mobbet.actions.workshop import Workshop
from mobbet.core.numbers import counted
from mobbet.core.read_counts import FRONT, LETTER, OTHER, OWN_LINK, WHOLE
from mobbet.core.read_words import age_in_words, change_in_words, longer_stretches
from mobbet.core.screen_dates import day_and_month, weekday_day_and_month
from mobbet.core.timing import instant_of_wall, local
from mobbet.store import desk, mailings, placements
from mobbet.store import read_counts as store
from mobbet.store.blogs import Blog
from mobbet.store.read_counts import DayCount
from mobbet.web.readers import addresses as to_readers
from mobbet.web.readers.read_contexts import DayRow, ReadRow
from mobbet.web.shell.contexts import Choice

WIDTH, HEIGHT, BASE, TOP, LEFT, RIGHT = 1200, 148, 96, 22, 8, 8
MOST_BARS, MOST_SOURCES, MOST_FIRST, MOST_ROWS = 120, 5, 5, 40
NODE = 10
DAY_ON_A_PHONE = 26
"""How wide a day is where it is pressed by a finger, in drawing units of which one is a pixel there."""
NO_TRACE = "Typed it, or no trace"


@dataclass(frozen=True)
class FlowShape:
    """Where the two sides of the flow stand, in drawing units; their names stand beside them, or above them where there is no room."""

    width: int
    height: int
    from_x: int
    to_x: int
    gap: int
    longest_name: int
    is_narrow: bool = False


WIDE_FLOW = FlowShape(780, 330, 190, 560, 10, 26)
NARROW_FLOW = FlowShape(310, 400, 0, 300, 26, 18, is_narrow=True)


@dataclass(frozen=True)
class Bin:
    """Some days drawn as one bar, and what went out on them."""

    first: date
    last: date
    readers: int
    pages: int
    titles: list[str]
    letters: int = 0


def bins(workshop: Workshop, blog: Blog, first: str, last: str, page: int) -> list[Bin]:
    """The stretch as bars: days, or several days where there would be too many."""
    start, end = date.fromisoformat(first), date.fromisoformat(last)
    step = -(-((end - start).days + 1) // MOST_BARS)
    counts = {one.day: one for one in store.days(workshop.db, blog.id, first, last, page)}
    out: dict[date, list[str]] = {}
    now = workshop.clock()
    from_when, until = _instants(blog, start, end)
    for row in desk.out_days(workshop.db, blog.id, from_when, min(until, now + 1), now, most=20_000):
        out.setdefault(local(row.goes_out, blog.zone).date(), []).append(row.title)
    sent = Counter(local(at, blog.zone).date() for at in mailings.days(workshop.db, blog.id, from_when))
    found, day = [], start
    while day <= end:
        days = [day + timedelta(days=at) for at in range(step) if day + timedelta(days=at) <= end]
        some = [counts.get(one.isoformat(), DayCount("", 0, 0)) for one in days]
        titles = [title for one in days for title in out.get(one, [])]
        found.append(
            Bin(
                day, days[-1], sum(one.readers for one in some), sum(one.pages for one in some), titles, sum(sent[one] for one in days),
            )
        )  # fmt: skip
        day += timedelta(days=step)
    return found


def _instants(blog: Blog, start: date, end: date) -> tuple[int, int]:
    first = instant_of_wall(f"{start.isoformat()} 00:00", blog.zone)
    return first, instant_of_wall(f"{(end + timedelta(days=1)).isoformat()} 00:00", blog.zone)


def words_of(one: Bin) -> str:
    if one.first == one.last:
        return weekday_day_and_month(one.first)
    return f"{day_and_month(one.first)} to {day_and_month(one.last)}"


def drawn_days(slug: str, some: list[Bin], post: int, compared: list[Bin]) -> Markup:
    """Pages by day as bars, each a link to its day, with a mark for what went out; those of the post that it is compared with as a line.

    Drawn twice: as wide as the page, and for a narrow window with bars as wide as a finger.
    """
    narrow = LEFT + RIGHT + DAY_ON_A_PHONE * len(some)
    return _days_of_width(slug, some, post, compared, WIDTH, "for-wide") + _days_of_width(
        slug, some, post, compared, narrow, "for-narrow"
    )


def _days_of_width(
    slug: str, some: list[Bin], post: int, compared: list[Bin], width: int, class_name: str
) -> Markup:
    top = _round(max((one.pages for one in (*some, *compared)), default=1))
    step, most = (width - LEFT - RIGHT) / max(1, len(some)), counted(top, "page")
    parts = [
        f'<line class="top" x1="0" x2="{width}" y1="{TOP}" y2="{TOP}"/><text x="{width}" y="{TOP - 6}" text-anchor="end">{most}</text>',
        f'<line class="base" x1="0" x2="{width}" y1="{BASE}" y2="{BASE}"/>',
    ]
    for at, one in enumerate(some):
        x, height = LEFT + at * step, (BASE - TOP) * one.pages / top
        went = f"; went out: {', '.join(one.titles[:3])}" if one.titles else ""
        went += "; a letter was sent" if one.letters else ""
        title = escape(
            f"{words_of(one)}: {counted(one.pages, 'page')}, {counted(one.readers, 'reader')}{went}"
        )
        href = escape(
            to_readers.read(slug, first=one.first.isoformat(), last=one.last.isoformat(), post=post or "")
        )
        mark = (
            f'<rect class="out" x="{x + step / 2 - 5:.1f}" y="{BASE + 6}" width="10" height="8"/>'
            if one.titles
            else ""
        )
        if one.letters:
            y = BASE + (17 if one.titles else 6)
            mark += f'<path class="letter-mark" d="M{x + step / 2 - 6:.1f} {y} h12 v8 h-12 Z l6 5 l6 -5"/>'
        parts.append(
            f'<a href="{href}" aria-label="{title}"><title>{title}</title><rect class="room" x="{x:.1f}" y="{TOP}" width="{step:.1f}" height="{BASE - TOP + 18}"/>'
            f'<rect class="bar-of" x="{x + step * 0.12:.1f}" y="{BASE - height:.1f}" width="{step * 0.76:.1f}" height="{height:.1f}"/>{mark}</a>'
        )
        if at % max(1, round(len(some) / 6)) == 0 and x < width - 70:
            parts.append(
                f'<text class="day" x="{x:.1f}" y="{HEIGHT - 6}">{escape(day_and_month(one.first))}</text>'
            )
    points = " ".join(
        f"{LEFT + (at + 0.5) * step:.1f},{BASE - (BASE - TOP) * one.pages / top:.1f}"
        for at, one in enumerate(compared)
    )
    parts += [f'<polyline class="beside" points="{points}"/>'] if points else []
    return Markup(
        f'<svg class="days {class_name}" viewBox="0 0 {width} {HEIGHT}" width="{width}" height="{HEIGHT}" role="group" aria-label="Pages by day">{"".join(parts)}</svg>'
    )


def _round(number: int) -> int:
    """A round number at or above one."""
    size = 10 ** max(0, len(str(number)) - 1)
    return next(round(size * factor) for factor in (1, 1.5, 2, 3, 4, 5, 7.5, 10) if size * factor >= number)


def day_rows(some: list[Bin], compared: list[Bin]) -> list[DayRow]:
    beside = [one.pages for one in compared] or [0] * len(some)
    return [
        DayRow(
            words_of(one),
            one.readers,
            one.pages,
            ", ".join([*one.titles, *(["a letter"] if one.letters else [])]),
            other,
        )
        for one, other in zip(some, beside, strict=True)
    ]


def longer_choices(workshop: Workshop, blog: Blog, post: str) -> list[tuple[str, str]]:
    """(in words, address) of months and years."""
    today = local(workshop.clock(), blog.zone).date()
    first = store.first_day(workshop.db, blog.id) or today.isoformat()
    return [
        (words, to_readers.read(blog.slug, first=start, last=end, post=post))
        for words, start, end in longer_stretches(today, first)
    ]


def as_choice(row: ReadRow, chosen: int) -> Choice:
    """A post as one to compare with."""
    return Choice(str(row.number), row.title, row.number == chosen)


@dataclass(frozen=True)
class Flow:
    """Where readers came from, what they opened first, and how often from where to what: names with their totals, and (from, to, how often)."""

    sources: list[tuple[str, int]]
    firsts: list[tuple[str, int]]
    ways: list[tuple[int, int, int]]


def flow_of(workshop: Workshop, blog: Blog, first: str, last: str) -> Flow:
    rows = store.flows(workshop.db, blog.id, first, last)
    by_source: Counter[str] = Counter()
    by_page: Counter[int] = Counter()
    for source, page, number in rows:
        by_source[_source_name(source)] += number
        by_page[page] += number
    sources = _first(
        [(name, number) for name, number in by_source.most_common()], MOST_SOURCES, "Other places"
    )
    titles = titles_of(workshop, blog, [page for page, _ in by_page.most_common(MOST_FIRST + 2)])
    named = [(titles.get(page, "Other pages"), number) for page, number in by_page.most_common()]
    merged: Counter[str] = Counter()
    for name, number in named:
        merged[name] += number
    firsts = _first(merged.most_common(), MOST_FIRST, "Other pages")
    at_source, at_first = ({name: at for at, (name, _) in enumerate(some)} for some in (sources, firsts))
    ways: Counter[tuple[int, int]] = Counter()
    for source, page, number in rows:
        start = at_source.get(_source_name(source), len(sources) - 1)
        end = at_first.get(titles.get(page, "Other pages"), len(firsts) - 1)
        ways[start, end] += number
    return Flow(sources, firsts, [(start, end, number) for (start, end), number in sorted(ways.items())])


def _source_name(source: str) -> str:
    if source.startswith(OWN_LINK + LETTER):
        return "A letter"
    if source.startswith(OWN_LINK):
        return f"Your link “{source.removeprefix(OWN_LINK)}”"
    return source or NO_TRACE


def _from_words(source: str) -> str:
    if source.startswith(OWN_LINK + LETTER):
        return "letters"
    return f"your link “{source.removeprefix(OWN_LINK)}”" if source.startswith(OWN_LINK) else source


def _first(some: list[tuple[str, int]], most: int, rest: str) -> list[tuple[str, int]]:
    """The first of some, and the others together."""
    known = [one for one in some if one[0] != rest]
    left = sum(number for name, number in some if name == rest) + sum(number for _, number in known[most:])
    return known[:most] + ([(rest, left)] if left else [])


def titles_of(workshop: Workshop, blog: Blog, pages: list[int]) -> dict[int, str]:
    """{page: its title} of pages that everybody, or this viewer, may be told of."""
    found = {FRONT: "The front page", OTHER: "Other pages"}
    for number in (page for page in pages if page > 0):
        row = placements.shown_at(placements.of_post(workshop.db, number), workshop.clock())
        rows = [row] if row else placements.of_post(workshop.db, number)[-1:]
        if rows and rows[0].blog_id == blog.id:
            found[number] = placements.title_of(workshop.db, rows[0])
    return found


def drawn_flow(flow: Flow) -> Markup:
    """The flow from where to what first, as bands: drawn once for a wide and once for a narrow window."""
    if not sum(number for _, number in flow.sources):
        return Markup("")
    return _flow_of_shape(flow, WIDE_FLOW, "for-wide") + _flow_of_shape(flow, NARROW_FLOW, "for-narrow")


def _flow_of_shape(flow: Flow, shape: FlowShape, class_name: str) -> Markup:
    total = sum(number for _, number in flow.sources)
    sides = (flow.sources, flow.firsts)
    scale = min((shape.height - shape.gap * (len(some) - 1) - 20) / total for some in sides)
    starts, ends = (_places(some, scale, shape) for some in sides)
    parts, used_from, used_to = [], [0.0] * len(starts), [0.0] * len(ends)
    for start, end, number in flow.ways:
        thick = number * scale
        y, z = starts[start] + used_from[start], ends[end] + used_to[end]
        used_from[start] += thick
        used_to[end] += thick
        edge = shape.from_x + NODE
        middle = (edge + shape.to_x) / 2
        words = escape(f"{flow.sources[start][0]} to {flow.firsts[end][0]}: {number:,}")
        parts.append(
            f'<path class="band of-{start % 2}" d="M{edge} {y:.1f} C{middle:.0f} {y:.1f} {middle:.0f} {z:.1f} {shape.to_x} {z:.1f} v{max(thick, 0.6):.1f}'
            f' C{middle:.0f} {z + thick:.1f} {middle:.0f} {y + thick:.1f} {edge} {y + thick:.1f} Z"><title>{words}</title></path>'
        )
    parts += _nodes(flow.sources, starts, scale, shape, is_left=True)
    parts += _nodes(flow.firsts, ends, scale, shape, is_left=False)
    height = max(shape.height, round(max(starts[-1], ends[-1])) + 20)
    return Markup(
        f'<svg class="flow {class_name}" viewBox="0 0 {shape.width} {height}" role="img" aria-label="Where readers came from, and what they opened first; the table below has the numbers">{"".join(parts)}</svg>'
    )


def _places(some: list[tuple[str, int]], scale: float, shape: FlowShape) -> list[float]:
    found, y = [], float(shape.gap)
    for _, number in some:
        found.append(y)
        y += max(number * scale, 1) + shape.gap
    return found


def _nodes(
    some: list[tuple[str, int]], places: list[float], scale: float, shape: FlowShape, is_left: bool
) -> list[str]:
    found = []
    x = shape.from_x if is_left else shape.to_x
    if shape.is_narrow:
        words_x = x if is_left else x + NODE
    else:
        words_x = x - 8 if is_left else x + NODE + 8
    anchor = "end" if is_left != shape.is_narrow else "start"
    for (name, number), y in zip(some, places, strict=True):
        height = max(number * scale, 1)
        words_y = y - 5 if shape.is_narrow else y + height / 2 + 4
        most = shape.longest_name
        short = name if len(name) <= most else name[: most - 1].rstrip() + "…"
        found.append(
            f'<rect class="node" x="{x}" y="{y:.1f}" width="{NODE}" height="{height:.1f}"/>'
            f'<text x="{words_x}" y="{words_y:.1f}" text-anchor="{anchor}">{escape(short)} <tspan class="n">{number:,}</tspan></text>'
        )
    return found


def post_rows(
    workshop: Workshop, blog: Blog, first: str, last: str, chosen: int, query: dict[str, str]
) -> list[ReadRow]:
    """The posts that were opened most."""
    found, now = [], workshop.clock()
    some = store.posts(workshop.db, blog.id, first, last, MOST_ROWS)
    titles = titles_of(workshop, blog, [one.page for one in some])
    for one in some:
        if one.page not in titles:
            continue
        rows = placements.of_post(workshop.db, one.page)
        since = age_in_words(max(0, (now - min(row.goes_out for row in rows)) // 86400)) if rows else ""
        is_chosen = one.page == chosen
        href = to_readers.read(blog.slug, **query, post="" if is_chosen else str(one.page))
        ends = f"{min(100, round(100 * one.ends / one.readers))} %" if one.ends and one.readers else ""
        found.append(
            ReadRow(titles[one.page], href, one.readers, one.pages, since, is_chosen, ends, one.page)
        )
    return found


def changed(
    workshop: Workshop, blog: Blog, first: str, last: str, before_words: str, page: int = WHOLE
) -> str:
    """How the pages of a stretch differ from those of the one before: “, a fifth more than in the six weeks before”; '' where nothing was counted then."""
    start, end = date.fromisoformat(first), date.fromisoformat(last)
    length = (end - start).days + 1
    before = start - timedelta(days=length)
    days = {one.day: one.pages for one in store.days(workshop.db, blog.id, before.isoformat(), last, page)}

    def total(begin: date, count: int) -> int:
        return sum(days.get((begin + timedelta(days=at)).isoformat(), 0) for at in range(count))

    weeks = [total(before + timedelta(days=7 * at), 7) for at in range(length // 7)]
    words = change_in_words(total(start, length), total(before, length), weeks)
    return f", {words} in {before_words or 'the stretch before'}" if words else ""


def more_of(workshop: Workshop, blog: Blog, first: str, last: str, rows: list[ReadRow]) -> list[str]:
    """Further sentences: what brings readers, and what is still read long after it went out."""
    found = []
    sources: Counter[str] = Counter()
    for source, number in store.sources(workshop.db, blog.id, first, last):
        if source:
            sources[_from_words(source)] += number
    if sources:
        found.append(f"More of them came from {sources.most_common(1)[0][0]} than from any other place.")
    old = [row for row in rows[:1] if row.since.endswith("months")]
    found += [f"“{row.title}” is still the most read, {row.since} after it went out." for row in old]
    return found
