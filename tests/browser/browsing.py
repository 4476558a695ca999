"""A browser on the running application, with the demo data, for journeys through the real interface."""

from __future__ import annotations

import fcntl
import gc
import os
import shutil
import socket
import tempfile
import threading
import time
import unittest
from pathlib import Path

import uvicorn
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Browser, BrowserContext, ConsoleMessage, Page, expect, sync_playwright

from mobbet.actions import first_run, media_jobs, proofing
from mobbet.actions import people as people_actions
from mobbet.actions.workshop import Workshop
from mobbet.demo.make import ACCOUNT, make_demo
from mobbet.settings import Settings
from mobbet.store import people
from mobbet.web.shell.cookies import SESSION
from mobbet.web.shell.protocol import LimitedProtocol
from mobbet.web.shell.serving import create_server
from mobbet.wiring import exact_time, open_folder, system_clock
from mobbet.worker import READ_AT_ONCE, Keeper
from tests.applications import application_of

WITHOUT = (
    "WebUIOmniboxAimPopup WebUIOmniboxPopup AvoidUnnecessaryBeforeUnloadCheckSync DestroyProfileOnBrowserClose HttpsUpgrades HttpsFirstBalancedModeAutoEnable LensOverlay MediaRouter "
    "PaintHolding ThirdPartyStoragePartitioning OptimizationHints NetworkTimeServiceQuerying AimEnabled PreconnectToSearch"
).split()
"""What Chromium leaves out: as Playwright asks for it, and the drop-down lists of an address field that nobody sees, which are pages of their own for each window."""
ARGUMENTS = (
    "--use-fake-device-for-media-stream --use-fake-ui-for-media-stream --no-sandbox --disable-gpu --disable-quic --no-first-run --disable-background-networking --disable-component-update --disable-sync "
    f"--disable-features={','.join(WITHOUT)}"
).split()
SHELL = "chromium-headless-shell"
AXE = {
    "runOnly": {"type": "tag", "values": ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"]},
    "resultTypes": ["violations"],
}


OF_THE_BROWSER = ("Clear-Site-Data header on", "Service Worker registration blocked by Playwright")
"""How notes begin that a browser makes when it does as it was told."""

expect.set_options(timeout=15_000)  # two browsers and two servers share a small machine


class Server:
    """Mobbet on a free port of this machine, in a thread."""

    def __init__(self, data: Path, demo: bool = True) -> None:
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            self.port = probe.getsockname()[1]
        self.address = f"http://127.0.0.1:{self.port}"
        self.workshop = open_folder(
            data, settings=Settings(data, ACCOUNT if demo else None, folders=(data.parent,))
        )
        config = uvicorn.Config(
            create_server(self.workshop, exact_time, lambda: Keeper(data), application_of),
            host="127.0.0.1",
            port=self.port,
            http=LimitedProtocol,
            ws="none",
            proxy_headers=False,
            log_level="error",
            timeout_graceful_shutdown=1,
        )
        self._server = uvicorn.Server(config)
        self._thread = threading.Thread(target=self._server.run, daemon=True)
        self._thread.start()
        end = time.monotonic() + 20
        while not self._server.started and time.monotonic() < end:
            time.sleep(0.02)

    def stop(self) -> None:
        self._server.should_exit = True
        self._thread.join(timeout=5)
        gc.unfreeze()  # of the server that has ended; otherwise its connections stay open
        gc.collect()


_shared: dict[str, object] = {}


def shared_demo() -> Path:
    """Demo data that is made once for all tests, by whichever process is first, with what a worker would make of it first."""
    shared = Path(os.environ.setdefault("MOBBET_TEST_FOLDER", tempfile.mkdtemp(prefix="mobbet-suite-")))
    with open(shared / "lock", "w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        if not (shared / "made").exists():
            make_demo(shared / "demo", system_clock(), "http://127.0.0.1:8000")
            work_all(open_folder(shared / "demo"))
            (shared / "made").touch()
    return shared / "demo"


def work_all(workshop: Workshop) -> None:
    """Makes every copy of the library's files, and reads the proof of every post."""
    media_jobs.work_all(workshop)
    while proofing.read_some(workshop, READ_AT_ONCE):
        pass
    workshop.db.close()


def demo_copy(folder: Path) -> Path:
    """A fresh copy of the demo data."""
    return Path(shutil.copytree(shared_demo(), folder / "data"))


def browser(is_whole: bool = True) -> Browser:
    """One browser of each kind for all tests of a process: a whole Chromium, or its shell without a window where that is installed."""
    name = "chromium" if is_whole or not shutil.which(SHELL) else SHELL
    if "playwright" not in _shared:
        _shared["playwright"] = sync_playwright().start()
    if name not in _shared:
        _shared[name] = _shared["playwright"].chromium.launch(
            executable_path=shutil.which(name), args=ARGUMENTS
        )
    return _shared[name]


@unittest.skipUnless(
    shutil.which("chromium"), "the browser tests need chromium: sudo apt-get install chromium"
)
class BrowserCase(unittest.TestCase):
    """Each class has a server of its own; each test a browser profile of its own, in which nothing may complain."""

    demo = True
    in_whole_browser = False
    """Whether a class needs a whole Chromium with service workers: the shell without them takes half of the time."""
    expected: tuple[str, ...] = ()
    """Parts of the complaints that belong to a test, whenever they arrive."""

    @classmethod
    def setUpClass(cls) -> None:
        cls.folder = Path(tempfile.mkdtemp(prefix="mobbet-browser-"))
        cls.server = Server(demo_copy(cls.folder) if cls.demo else cls.folder / "data", cls.demo)

    @classmethod
    def tearDownClass(cls) -> None:
        cls.server.stop()
        shutil.rmtree(cls.folder, ignore_errors=True)

    def setUp(self) -> None:
        self.complaints: list[str] = []
        self.context = self.new_context()
        self.page = self.new_page()

    def tearDown(self) -> None:
        self.context.close()
        told = [one for one in self.complaints if not any(part in one for part in self.expected)]
        self.assertEqual(told, [])

    def new_context(self, width: int = 1280, height: int = 800, **more: object) -> BrowserContext:
        context = browser(self.in_whole_browser).new_context(
            viewport={"width": width, "height": height},
            timezone_id="Europe/Lisbon",
            service_workers="allow" if self.in_whole_browser else "block",
            **more,
        )
        context.set_default_timeout(20_000)
        self.addCleanup(context.close)  # a page left open goes on drawing beside every later test
        return context

    def new_page(self, context: BrowserContext | None = None) -> Page:
        page = (context or self.context).new_page()
        page.on("console", self._hear)
        page.on("filechooser", lambda chooser: None)  # so that choosers are caught from the start
        page.on("pageerror", lambda error: self.complaints.append(str(error)))
        return page

    def _hear(self, message: ConsoleMessage) -> None:
        if not message.text.startswith(OF_THE_BROWSER):
            self.complaints.append(f"{message.type}: {message.text}")

    def first_word(self) -> str:
        """What stands on the console of an empty server."""
        return first_run.word(self.server.workshop)

    def open(self, path: str, page: Page | None = None) -> None:
        (page or self.page).goto(self.server.address + path)

    def sign_in(self, page: Page | None = None, email: str = ACCOUNT[0]) -> None:
        """A session as signing in begins one, without the half second that a password takes, and the desk."""
        page, workshop = page or self.page, self.server.workshop
        token = people_actions.begin_session(workshop, people.by_email(workshop.db, email)).token
        page.context.add_cookies(
            [
                {
                    "name": SESSION,
                    "value": token,
                    "url": self.server.address,
                    "httpOnly": True,
                    "sameSite": "Lax",
                }
            ]
        )
        self.open("/desk/mending-bench", page)

    def sign_in_by_hand(self) -> None:
        self.open("/sign-in")
        self.page.fill("#email", ACCOUNT[0])
        self.page.fill("#password", ACCOUNT[1])
        self.page.keyboard.press("Enter")
        self.page.wait_for_url("**/desk/**")

    def new_post(self, page: Page | None = None) -> None:
        self.into_room("text=New post", page or self.page)

    def back_to_sheet(self) -> None:
        self.into_room("text=Back to the sheet", self.page)

    def into_room(self, way: str, page: Page) -> None:
        """Through that link, until the room answers to clicks."""
        page.click(way)
        page.wait_for_selector(".ProseMirror")
        page.wait_for_load_state()  # the docket's script comes last

    def wait_saved(self, page: Page | None = None) -> None:
        """Until everything typed is on the server."""
        (page or self.page).wait_for_function(
            "() => !mobbetRoom.saving.isDirty && !mobbetRoom.saving.flight", timeout=30_000
        )

    def wait_worked(self) -> None:
        """Until every copy of the library's files is made, since the first ones make way for them."""
        end = time.monotonic() + 30
        while (
            self.server.workshop.db.value("SELECT 1 FROM job WHERE state IN ('waiting', 'working') LIMIT 1")
            and time.monotonic() < end
        ):
            time.sleep(0.05)

    def assert_accessible(self, page: Page | None = None, name: str = "") -> None:
        found = Axe().run(page or self.page, options=AXE).response["violations"]
        told = [
            f"{name} {one['id']}: {node['html'][:160]} {node.get('failureSummary', '')[:200]}"
            for one in found
            for node in one["nodes"]
        ]
        self.assertEqual(told, [])
