"""Every screen in every state that a click opens, through axe and checks of its own: seen words in names, headings, width, focus.

A state is a screen of the demo with one of its sheets, menus or settings open, at one width of the window.
"""

from __future__ import annotations

import re
import sys
import tempfile
from collections import Counter
from collections.abc import Iterator
from pathlib import Path

from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import ElementHandle, Error, Page

from mobbet.actions import people as people_actions
from mobbet.demo.make import ACCOUNT
from mobbet.store import people
from mobbet.web.shell.cookies import SESSION
from tests.browser.browsing import Server, browser, demo_copy

WIDTHS = ((1280, 800), (390, 800), (320, 640), (360, 740), (430, 930), (800, 390))
DESK = "/desk/mending-bench"
SCREENS = (
    DESK, f"{DESK}?q=zip", f"{DESK}?q=zzzz", f"{DESK}/bring-in", f"{DESK}/kept/", f"{DESK}/proof", f"{DESK}/rhythm", f"{DESK}/timetable", f"{DESK}/timetable?posts=every",
    f"{DESK}/library", f"{DESK}/library/describe", "LIBRARY_ITEM", f"{DESK}/filing", f"{DESK}/filing/tags", f"{DESK}/filing/addresses", f"{DESK}/filing/worklist/uncategorised",
    f"{DESK}/readers", f"{DESK}/comments", f"{DESK}/letters", f"{DESK}/answers", f"{DESK}/read", f"{DESK}/accounts", f"{DESK}/profiles", f"{DESK}/site", f"{DESK}/site/look", f"{DESK}/site/menu", f"{DESK}/site/menu?at=menu.3", f"{DESK}/site/menu?at=front.2", f"{DESK}/site/promos?post=Which%20glue,%20honestly", f"{DESK}/kept/1", "/blogs/new", f"{DESK}/site/words", f"{DESK}/site/editions", f"{DESK}/site/targets", f"{DESK}/site/backups", f"{DESK}/site/in-and-out", "/account/programs", f"{DESK}/moment", "/account", "/account/signing-in", f"{DESK}/site/people", f"{DESK}/site/record",
    "/device", "/device?begin=yes", "WRITE", "WRITE/preview", "WRITE/revisions", "WRITE/notes/print", "WRITE/read", "WRITE/preview/letter",
)  # fmt: skip
OPENERS = "summary, button[aria-haspopup], button[aria-expanded=false], [id^=set-], [data-opens]"
MOST_OPENED = 40
AXE = {
    "runOnly": {
        "type": "tag",
        "values": ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"],
    },
    "resultTypes": ["violations"],
}
CHECKS = Path(__file__).with_name("audit_checks.js").read_text()


def screens(server: Server) -> Iterator[str]:
    """The addresses of the screens; a post's and an item's numbers are looked up."""
    db = server.workshop.db
    post = db.value("SELECT id FROM post WHERE title LIKE 'Rewiring a desk lamp%'")
    item = db.value("SELECT id FROM media WHERE kind = 'picture' ORDER BY id LIMIT 1")
    for screen in SCREENS:
        yield screen.replace("WRITE", f"/posts/{post}").replace("LIBRARY_ITEM", f"/library/{item}")


def problems(page: Page) -> list[str]:
    """What is wrong with the page as it stands."""
    found = Axe().run(page, options=AXE).response["violations"]
    told = [f"{one['id']}: {node['html'][:140]}" for one in found for node in one["nodes"]]
    return [*told, *page.evaluate(CHECKS)]


def openers(page: Page) -> list[tuple[str, ElementHandle]]:
    """(name, control) of what opens something and can be pressed, one of each kind of a list's rows."""
    kinds: dict[str, tuple[str, ElementHandle]] = {}
    for one in page.query_selector_all(OPENERS):
        if one.is_visible() and one.is_enabled():
            name = (one.get_attribute("id") or one.inner_text() or "").split("\n")[0][:40]
            kinds.setdefault(re.sub(r"[\d“”].*", "", name), (name, one))
    return list(kinds.values())[:MOST_OPENED]


def states(page: Page, address: str) -> Iterator[str]:
    """The page as it opens, and with each thing opened, by name."""
    page.goto(address)
    page.wait_for_load_state()
    page.wait_for_timeout(400)
    yield ""
    for name, opener in openers(page):
        try:
            opener.click(timeout=2000)
        except Error:
            continue
        page.wait_for_timeout(250)
        if page.url.split("#")[0] != address.split("#")[0]:
            return
        yield name
        page.keyboard.press("Escape")
        page.evaluate(
            "() => { for (const one of document.querySelectorAll('details[open]')) one.open = false; }"
        )


def main(only: str = "", widths: str = "1280,390,320,360,430,800") -> int:
    counts: Counter[str] = Counter()
    seen = 0
    with tempfile.TemporaryDirectory() as folder:
        server = Server(demo_copy(Path(folder)))
        workshop = server.workshop
        token = people_actions.begin_session(workshop, people.by_email(workshop.db, ACCOUNT[0])).token
        for width, height in WIDTHS:
            if str(width) not in widths:
                continue
            context = browser().new_context(
                viewport={"width": width, "height": height}, has_touch=width < 1000
            )
            context.add_cookies([{"name": SESSION, "value": token, "url": server.address, "httpOnly": True}])
            page = context.new_page()
            for screen in screens(server):
                if only and only not in screen:
                    continue
                for state in states(page, server.address + screen):
                    seen += 1
                    for problem in problems(page):
                        counts[f"{problem}"] += 1
                        if counts[problem] == 1:
                            print(f"{width} {screen} {state}: {problem}", flush=True)
            context.close()
        server.stop()
    print(f"{seen} states, {sum(counts.values())} faults of {len(counts)} kinds")
    return 1 if counts else 0


if __name__ == "__main__":
    sys.exit(main(*sys.argv[1:]))
