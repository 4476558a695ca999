"""A small calendar month with the posts of its days."""

from __future__ import annotations

import calendar
from datetime import date, timedelta

from mobbet.actions.workshop import Workshop
from mobbet.core.screen_dates import month_name
from mobbet.core.timing import instant_of_wall, local
from mobbet.store import desk
from mobbet.store.blogs import Blog
from mobbet.store.posts import Post
from mobbet.web.write import addresses as to_write
from mobbet.web.write.contexts import MonthDay, MonthPart


def month_page(workshop: Workshop, blog: Blog, post: Post, month: str, chosen: str, today: date) -> MonthPart:
    """The weeks of a month from Monday to Sunday; each day tells the posts that went out or go out on it."""
    year, number = map(int, month.split("-"))
    days = list(calendar.Calendar().itermonthdates(year, number))
    first, last = (
        instant_of_wall(f"{day.isoformat()}T00:00", blog.zone)
        for day in (days[0], days[-1] + timedelta(days=1))
    )
    titles: dict[date, list[str]] = {}
    for row in desk.out_days(workshop.db, blog.id, first, last, workshop.clock()):
        if row.id != post.id:
            titles.setdefault(local(row.goes_out, blog.zone).date(), []).append(row.title)
    stop = next(
        (day for day in days if day.isoformat() == chosen), today if today in days else date(year, number, 1)
    )
    shown = [
        MonthDay(day.isoformat(), str(day.day), day.month == number, day == today, day.isoformat() == chosen, titles.get(day, []), day < today, day == stop)
        for day in days
    ]  # fmt: skip
    before, after = date(year, number, 1) - timedelta(days=1), date(year, number, 28) + timedelta(days=4)
    address = to_write.docket_check(post.id, "month")
    return MonthPart(
        month_name(month),
        [shown[at : at + 7] for at in range(0, len(shown), 7)],
        f"{address}?month={before:%Y-%m}",
        f"{address}?month={after:%Y-%m}",
    )
