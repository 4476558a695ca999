"""What readers of the bench answered: a form on the page that says how to reach it, and a poll about stools."""

from __future__ import annotations

from mobbet.actions import asking
from mobbet.actions.workshop import Workshop
from mobbet.core.audience import STRANGER
from mobbet.core.values import existing
from mobbet.store import posts
from mobbet.store.blogs import Blog

LETTERS = (
    ("Hanne Orvik", "hanne@net-loft.example", "A radio", "It hums, and then it is quiet for an hour. It is the one from the ferry office."),
    ("Teo Lind", "teo@harbour-school.example", "Something else", "May a class of nine come and look? They are quiet for about twenty minutes."),
)  # fmt: skip
VOTES = (
    ("The tall one by the window",) * 4
    + ("The one with the short leg",) * 2
    + ("The milking stool",) * 5
    + ("I stand",)
)


def make_answers(workshop: Workshop, bench: Blog) -> None:
    """Answers to the form, and votes of the poll."""
    form, poll = (
        existing(posts.titled(workshop.db, bench.id, title))
        for title in ("Find us", "A stool, and who sits on it")
    )
    for number, values in enumerate(LETTERS):
        typed = {f"q{at}": [value] for at, value in enumerate(values)}
        asking.answer(workshop, bench, form, "findus1", STRANGER, typed, f"198.51.100.{number + 60}", "")
    for number, choice in enumerate(VOTES):
        typed = {"q0": [choice], "q1": [str(1 + number % 5)]}
        asking.answer(
            workshop, bench, poll, "stools1", STRANGER, typed, f"203.0.113.{number + 1}", f"browser {number}"
        )
