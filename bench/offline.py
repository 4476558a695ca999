"""Writes on a device by chance while the network, the browser and the server go away and a colleague writes too; looks whether anything is lost
or stands twice: `python -m bench.offline [SEQUENCES] [FIRST SEED]`.
"""

from __future__ import annotations

import random
import shutil
import signal
import socket
import subprocess
import sys
import tempfile
import time
from contextlib import suppress
from pathlib import Path

from playwright.sync_api import BrowserContext, Error, Page, Playwright, sync_playwright

from mobbet import wiring
from mobbet.actions import blogs, people, posts
from mobbet.actions.workshop import Workshop
from mobbet.core.document import schema
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.errors import Refused
from mobbet.store import posts as post_store
from mobbet.store.people import Person
from mobbet.web.shell.cookies import SESSION

ARGUMENTS = (
    "--no-sandbox --disable-gpu --disable-quic --no-first-run --disable-background-networking --disable-component-update --disable-sync"
).split()
ACTS = "write write write write send send flip flip close kill-browser kill-server colleague tags".split()
STEPS = 12
CHOOSE = "(field, value) => { field.value = value; field.dispatchEvent(new Event('change')); }"


class Device:
    """A phone's browser with a profile that outlives it, and the server it writes to; either may be killed at any time."""

    def __init__(self, playwright: Playwright, folder: Path) -> None:
        self.playwright, self.folder = playwright, folder
        self.workshop, self.me, self.colleague = _begin(folder / "data")
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            self.port = probe.getsockname()[1]
        self.address = f"http://127.0.0.1:{self.port}"
        self.is_away = False
        self.start_server()
        self.start_browser()

    def start_server(self) -> None:
        command = [sys.executable, "-m", "mobbet", "serve", "--data", str(self.folder / "data")]
        self.server = subprocess.Popen(
            [*command, "--port", str(self.port)], stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL
        )
        end = time.monotonic() + 60
        while time.monotonic() < end:
            with suppress(OSError), socket.create_connection(("127.0.0.1", self.port), 1):
                return
            time.sleep(0.1)
        raise RuntimeError("The server did not start.")

    def kill_server(self) -> None:
        self.server.send_signal(signal.SIGKILL)
        self.server.wait()

    def start_browser(self) -> None:
        self.context: BrowserContext = self.playwright.chromium.launch_persistent_context(
            str(self.folder / "profile"), executable_path=shutil.which("chromium"), args=ARGUMENTS,
            viewport={"width": 390, "height": 800},
        )  # fmt: skip
        self.context.set_default_timeout(10_000)
        token = people.begin_session(self.workshop, self.me).token
        self.context.add_cookies(
            [{"name": SESSION, "value": token, "url": self.address, "httpOnly": True, "sameSite": "Lax"}]
        )
        self.context.set_offline(self.is_away)
        self.page: Page = self.context.pages[0]

    def kill_browser(self) -> None:
        subprocess.run(["pkill", "-KILL", "-f", str(self.folder / "profile")], check=False)
        with suppress(Error):
            self.context.close()
        time.sleep(0.5)
        self.start_browser()

    def set_away(self, is_away: bool) -> None:
        self.is_away = is_away
        self.context.set_offline(is_away)

    def open(self, path: str) -> None:
        with suppress(Error):  # a server that was just killed; the page is asked for again
            self.page.goto(self.address + path)

    def wait_kept(self) -> None:
        """Until the browser keeps what a new post needs."""
        end = time.monotonic() + 60
        while time.monotonic() < end:
            if not self.page.url.endswith("/device"):
                self.open("/device")
            with suppress(Error):
                if self.page.evaluate("() => caches.match('/device/ready').then(Boolean)"):
                    return
            time.sleep(0.2)
        raise RuntimeError("The browser keeps nothing.")

    def is_open(self) -> bool:
        with suppress(Error):
            self.page.wait_for_function("() => window.mobbetDevice", timeout=8000)
            return True
        return False

    def bodies(self, title: str) -> dict[int, str]:
        """{post: its text} of those with that title."""
        numbers = self.workshop.db.column(
            "SELECT post.id FROM post JOIN revision ON post_id = post.id WHERE revision.title = ? GROUP BY post.id",
            title,
        )
        return {number: post_store.working(self.workshop.db, number).body for number in numbers}


def _begin(data: Path) -> tuple[Workshop, Person, Person]:
    workshop = wiring.open_folder(data)
    me, blog = blogs.set_up(
        workshop, name="Ines", email="ines@bench.example", password="three brass kettles", blog="Bench", address="bench", zone="UTC",
        home="https://bench.example/",
    )  # fmt: skip
    colleague = people.add_person(workshop, name="Wren", email="wren@bench.example", password=None)
    blogs.add_member(workshop, blog, colleague, "editor")
    return workshop, me, colleague


class Sequence:
    """One sequence: a post that is begun without a network, and what happens then."""

    def __init__(self, device: Device, seed: int) -> None:
        self.device, self.chance, self.title = device, random.Random(seed), f"By chance {seed}"
        self.written: list[str] = []
        self.changes = 0

    def run(self) -> list[str]:
        """What went wrong: words that are lost or stand twice, and posts too many."""
        device = self.device
        device.set_away(True)
        device.open("/device?begin=yes&blog=bench")
        if not device.is_open():
            return ["no sheet was there"]
        self.key = device.page.url.rpartition("=")[2]
        device.page.fill("#title", self.title)
        self.keep()
        for step in range(STEPS):
            if not self.is_on_device():
                break
            with suppress(Error):  # it was sent, and the page goes to where it is now
                self.do(self.chance.choice(ACTS), f"word{step}x")
            time.sleep(self.chance.uniform(0, 0.4))
        device.set_away(False)
        return self.settle()

    def keep(self) -> None:
        self.device.page.evaluate("() => window.mobbetDevice.kept()")

    def is_on_device(self) -> bool:
        page = self.device.page
        if "post=" not in page.url and "posts/" not in page.url:
            self.device.open(f"/device?post={self.key}")
        return "post=" in page.url and self.device.is_open()

    def do(self, act: str, word: str) -> None:
        device, page = self.device, self.device.page
        if act == "write":
            page.locator(".ProseMirror").press("Control+End")
            page.keyboard.type(f" {word}")
            self.keep()
            self.written.append(word)
        elif act == "tags":
            page.locator("#tags").evaluate(CHOOSE, word)
        elif act == "send":
            page.evaluate("() => document.getElementById('send').click()")
        elif act == "flip":
            device.set_away(self.chance.random() < 0.5)
        elif act == "close":
            self.keep()
            device.page = device.context.new_page()
            page.close()
        elif act == "kill-browser":
            self.keep()
            device.kill_browser()
        elif act == "kill-server":
            device.kill_server()
            time.sleep(self.chance.uniform(0, 0.5))
            device.start_server()
        else:
            self.change_beside()

    def change_beside(self) -> None:
        """A colleague writes into what is there already."""
        for number in self.device.bodies(self.title):
            revision = post_store.working(self.device.workshop.db, number)
            self.changes += 1
            document = schema.load(revision.body)
            more = from_markdown(f"Wren {self.changes}.")["content"]
            with suppress(Refused):
                posts.save_text(
                    self.device.workshop, self.device.colleague, number, base=revision.number, title=self.title,
                    subtitle="", body={**document, "content": [*document["content"], *more]},
                )  # fmt: skip

    def settle(self) -> list[str]:
        """With the network and the server there: sends what waits, puts beside what met other words, and looks at what became of it."""
        device, faults = self.device, ["never sent"]
        end = time.monotonic() + 60
        while faults and time.monotonic() < end:
            device.open("/device")
            device.page.wait_for_timeout(700)
            for words in ("Put mine beside it as a draft", "Send it"):
                with suppress(Error):
                    for button in device.page.get_by_role("button", name=words, exact=True).all():
                        button.click(timeout=1000)
            device.page.wait_for_timeout(1000)
            faults = self.faults()
        return faults

    def faults(self) -> list[str]:
        bodies = self.device.bodies(self.title)
        everything = "".join(bodies.values())
        lost = [f"{word} is lost" for word in self.written if word not in everything]
        twice = [
            f"{word} stands twice in {number}"
            for number, body in bodies.items()
            for word in (*self.written, *(f"Wren {one + 1}." for one in range(self.changes)))
            if body.count(word) > 1
        ]
        gone = [
            f"Wren {one + 1} is lost" for one in range(self.changes) if f"Wren {one + 1}." not in everything
        ]
        most = 1 + self.changes  # each meeting may leave a draft of its own
        many = [f"{len(bodies)} posts"] if not 1 <= len(bodies) <= most else []
        return lost + twice + gone + many


def main(count: int, first: int) -> int:
    folder, failed = Path(tempfile.mkdtemp(prefix="mobbet-offline-")), 0
    with sync_playwright() as playwright:
        device = Device(playwright, folder)
        device.wait_kept()
        for seed in range(first, first + count):
            faults = Sequence(device, seed).run()
            failed += bool(faults)
            if faults:
                print(f"sequence {seed}: {'; '.join(faults)}", flush=True)
        device.kill_server()
        device.context.close()
    shutil.rmtree(folder, ignore_errors=True)
    print(
        f"{count} sequences of writing, sending, lost networks, killed browsers and servers: {failed} with something lost or twice"
    )
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main(*(int(one) for one in (sys.argv[1:] + ["20", "1"][len(sys.argv) - 1 :])[:2])))
