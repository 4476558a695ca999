"""Takes the pictures of docs/screenshots from fresh demo data."""

from __future__ import annotations

import tempfile
from collections.abc import Callable
from pathlib import Path

from playwright.sync_api import Page

from mobbet.demo.make import ACCOUNT
from tests.browser.browsing import Server, browser, demo_copy

FOLDER = Path(__file__).parent.parent / "docs" / "screenshots"


def main() -> None:
    FOLDER.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as folder:
        server = Server(demo_copy(Path(folder)))
        take(server.address)
        server.stop()


def take(address: str) -> None:
    context = browser().new_context(viewport={"width": 1280, "height": 800}, timezone_id="Europe/Lisbon")
    page = context.new_page()

    def shot(name: str) -> None:
        page.wait_for_load_state("networkidle")
        page.screenshot(path=FOLDER / f"{name}.png")

    page.goto(address)
    page.fill("#email", ACCOUNT[0])
    page.fill("#password", ACCOUNT[1])
    page.keyboard.press("Enter")
    page.wait_for_url("**/desk/**")
    shot("desk")
    page.click("text=Rewiring a desk lamp")
    page.wait_for_selector(".ProseMirror img")
    page.wait_for_selector(".note[data-sign='spelling:seperate']", state="attached")
    page.evaluate(
        "() => mobbetRoom.proof.go(mobbetRoom.proof.marks.findIndex((mark) => mark.check === 'spelling'), false)"
    )
    shot("write")
    room = page.url
    page.click("#to-preview")
    page.frame_locator("#frame").locator("h1").wait_for()
    shot("preview")
    for name, path in (
        ("timetable", "/desk/mending-bench/timetable"),
        ("read", "/desk/mending-bench/read"),
        ("editions", "/desk/mending-bench/site/editions?number=3"),
        ("look", "/desk/mending-bench/site/look"),
        ("menu", "/desk/mending-bench/site/menu?at=menu.3"),
        ("people", "/desk/mending-bench/site/people"),
        ("proof", "/desk/mending-bench/proof"),
        ("site", "/b/mending-bench/"),
        ("comments", "/desk/mending-bench/comments"),
        ("letters", "/desk/mending-bench/letters"),
    ):
        page.goto(address + path)
        shot(name)
    page.goto(address + "/desk/mending-bench/filing")
    page.click("#tree >> text=Lamps")
    page.wait_for_selector("#chosen-head")
    shot("filing")
    page.goto(address + "/b/mending-bench/clocks/cleaning-a-stuck-clock/")
    shot("post")
    writing(page, address, room, shot)
    library(page, address, shot)
    phones(context.storage_state(), address, room)


def writing(page: Page, address: str, room: str, shot: Callable[[str], None]) -> None:
    """The writing room at work, with notes in the margin."""
    page.goto(room)
    page.wait_for_selector(".blue-mark")
    page.click("#open-notes")
    shot("notes")


def library(page: Page, address: str, shot: Callable[[str], None]) -> None:
    """The library."""
    page.goto(address + "/desk/mending-bench/library")
    shot("library")


def phones(state: dict, address: str, room: str) -> None:
    context = browser().new_context(
        viewport={"width": 390, "height": 800},
        has_touch=True,
        storage_state=state,
        timezone_id="Europe/Lisbon",
    )
    page = context.new_page()
    page.goto(room)
    page.wait_for_load_state("networkidle")
    page.locator(".ProseMirror").focus()
    page.screenshot(path=FOLDER / "write-phone.png")
    page.goto(address + "/device?begin=yes&blog=mending-bench")
    page.wait_for_function("() => window.mobbetDevice")
    page.fill("#title", "Three plugs in a row")
    page.locator(".ProseMirror").press_sequentially(
        "A woman brought a lamp, a radio and a fan, and all three had the same plug."
    )
    page.click(".phone-all")
    page.click("[data-pull=docket]")
    page.select_option("#category", label="Lamps")
    page.fill("#tags", "plug, fuse")
    page.wait_for_load_state("networkidle")
    page.screenshot(path=FOLDER / "device-phone.png")


if __name__ == "__main__":
    main()
