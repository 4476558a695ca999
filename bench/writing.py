"""The figures of the writing surface, in Chromium: opening a long post, and from key to frame beside a bare editor."""

from __future__ import annotations

import json
import sys
import tempfile
from pathlib import Path
from statistics import quantiles

from playwright.sync_api import CDPSession, Page

from bench.figures import sample_html
from mobbet.actions import library, posts
from mobbet.store import blogs, people
from mobbet.wiring import open_folder, system_clock
from tests.browser.browsing import ACCOUNT, Server, browser, demo_copy
from tests.shops import picture

KEYS, WARM = 260, 60
PHONE_SLOWER = 4
WATCH = """(selector) => {
  window.times = [];
  document.querySelector(selector).addEventListener("keydown", (event) => {
    const began = event.timeStamp;
    requestAnimationFrame(() => { const channel = new MessageChannel(); channel.port1.onmessage = () => times.push(performance.now() - began); channel.port2.postMessage(0); });
  }, true);
}"""
BARE = """() => {
  const { editor } = document.querySelector(".ProseMirror");
  const { state } = editor;
  const holder = document.createElement("div");
  holder.id = "bare";
  holder.className = "surface";
  document.querySelector(".page").replaceChildren(holder);
  const plain = state.constructor.create({ doc: state.doc });
  const view = new editor.view.constructor(holder, { state: plain, attributes: { class: "text" } });
  const at = state.selection.constructor;
  view.dispatch(view.state.tr.setSelection(at.near(view.state.doc.resolve(2))));
  editor.destroy();
}"""


def long_post(media: list[int]) -> dict:
    """10,000 words in 200 paragraphs, with 30 pictures and headings between them."""
    content: list[dict] = []
    for number in range(200):
        if number % 10 == 0:
            content.append(
                {
                    "type": "heading",
                    "attrs": {"level": 2},
                    "content": [{"type": "text", "text": f"Part {number}"}],
                }
            )
        if number % 7 == 3 and sum(block["type"] == "picture" for block in content) < 30:
            content.append(
                {"type": "picture", "attrs": {"src": f"media:{media[number % len(media)]}", "alt": "A lamp"}}
            )
        words = " ".join(f"word{number}" for _ in range(50))
        content.append({"type": "paragraph", "content": [{"type": "text", "text": words}]})
    return {"type": "doc", "content": content}


def make_post(data: Path) -> int:
    workshop = open_folder(data, system_clock)
    person, blog = people.by_email(workshop.db, ACCOUNT[0]), blogs.by_slug(workshop.db, "mending-bench")
    media = [
        library.add_picture(workshop, person, blog, f"{n}.png", picture(1200, 800, color=f"#{n:02d}4060")).id
        for n in range(10, 15)
    ]
    post = posts.begin_post(workshop, person, blog.slug)
    posts.save_text(
        workshop, person, post.id, base=post.revision, title="A long one", subtitle="", body=long_post(media)
    )
    workshop.db.close()
    return post.id


def p95(times: list[float]) -> float:
    return round(quantiles(times, n=20)[-1], 1)


def typed(page: Page, selector: str) -> list[float]:
    """From each key to the frame that shows it, in milliseconds; the first keys warm up and do not count."""
    page.focus(selector)
    page.evaluate(WATCH, selector)
    for _ in range(KEYS):
        page.keyboard.press("a")
        page.wait_for_timeout(30)
    return page.evaluate("() => times")[WARM:]


def busy(session: CDPSession) -> float:
    """For how long the page has kept its processor busy so far, in milliseconds; other programs do not count."""
    found = {one["name"]: one["value"] for one in session.send("Performance.getMetrics")["metrics"]}
    return 1000 * found["TaskDuration"]


PASTE = """async (html) => {
  const surface = document.querySelector(".ProseMirror");
  const { editor } = surface;
  editor.commands.setContent({ type: "doc", content: [{ type: "paragraph" }] });
  const data = new DataTransfer();
  data.setData("text/html", html);
  data.setData("text/plain", "plain");
  const began = performance.now();
  surface.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }));
  while (editor.state.doc.childCount < 100) await new Promise((done) => requestAnimationFrame(done));
  return performance.now() - began;
}"""


def pasted(page: Page) -> float:
    """From the key to the sheet for 100 kB of word-processor HTML: the middle of five, after one to warm up."""
    times = [page.evaluate(PASTE, sample_html()) for _ in range(6)][1:]
    return round(sorted(times)[2])


def sign_in(page: Page, address: str) -> None:
    page.goto(f"{address}/sign-in")
    page.fill("#email", ACCOUNT[0])
    page.fill("#password", ACCOUNT[1])
    page.keyboard.press("Enter")
    page.wait_for_url("**/desk/**")


def keyed(page: Page, room: str) -> tuple[list[float], list[float]]:
    """From key to frame in the writing room, and in a bare editor with the same text."""
    page.goto(room)
    page.wait_for_function("() => window.mobbetRoom")
    page.evaluate("() => document.querySelector('.ProseMirror').editor.commands.setTextSelection(4)")
    ours = typed(page, ".ProseMirror")
    page.evaluate(BARE)
    return ours, typed(page, "#bare .ProseMirror")


def busy_per_key(page: Page, room: str) -> tuple[float, float]:
    """How long one key keeps the page's processor busy, in milliseconds: in the writing room, and in a bare editor."""
    session = page.context.new_cdp_session(page)
    session.send("Performance.enable", {"timeDomain": "threadTicks"})
    page.goto(room)
    page.wait_for_function("() => window.mobbetRoom")
    page.evaluate("() => document.querySelector('.ProseMirror').editor.commands.setTextSelection(4)")
    found = []
    for selector in (".ProseMirror", "#bare .ProseMirror"):
        if found:
            page.evaluate(BARE)
        before = busy(session)
        typed(page, selector)
        found.append(round((busy(session) - before) / KEYS, 1))
    return found[0], found[1]


def measure() -> dict[str, float]:
    with tempfile.TemporaryDirectory() as folder:
        data = demo_copy(Path(folder))
        post = make_post(data)
        server = Server(data)
        page = browser().new_context(viewport={"width": 1280, "height": 800}).new_page()
        sign_in(page, server.address)
        opened = []
        for _ in range(6):
            page.goto(f"{server.address}/posts/{post}", wait_until="commit")
            page.wait_for_function("() => window.mobbetRoom")
            opened.append(page.evaluate("() => performance.getEntriesByName('mobbet:ready')[0].startTime"))
        page.wait_for_load_state("networkidle")
        paste = pasted(page)
        ours, bare = keyed(page, f"{server.address}/posts/{post}")
        phone = browser().new_context(viewport={"width": 390, "height": 800}, has_touch=True).new_page()
        sign_in(phone, server.address)
        phone.context.new_cdp_session(phone).send("Emulation.setCPUThrottlingRate", {"rate": PHONE_SLOWER})
        ours_there, bare_there = keyed(phone, f"{server.address}/posts/{post}")
        steady = browser().new_context(viewport={"width": 390, "height": 800}, has_touch=True).new_page()
        sign_in(steady, server.address)
        busy_ours, busy_bare = busy_per_key(steady, f"{server.address}/posts/{post}")
        server.stop()
    return {
        "open 10,000 words and 30 pictures until one can type, middle of 6": round(sorted(opened)[2]),
        "paste 100 kB of word-processor HTML, from key to sheet, middle of 5": paste,
        "key to frame, bare editor, p95": p95(bare),
        "key to frame, writing room, p95": p95(ours),
        "the second over the first, key to frame": round(p95(ours) / p95(bare), 2),
        f"the same on a phone {PHONE_SLOWER} times slower": round(p95(ours_there) / p95(bare_there), 2),
        "processor time of a key on the phone's layout, bare editor": busy_bare,
        "the same, writing room": busy_ours,
    }


if __name__ == "__main__":
    figures = measure()
    print(
        json.dumps(figures)
        if "--json" in sys.argv
        else "\n".join(f"{name:<70} {value}" for name, value in figures.items())
    )
