"""Search where the site stands as files: chosen at the site's screen, sent with it, asked in the browser without Mobbet."""

from __future__ import annotations

import threading
import time
from functools import partial
from http.server import SimpleHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path

from playwright.sync_api import expect

from mobbet.actions import targets
from mobbet.core.places_outside import Credentials
from mobbet.store import blogs, people
from mobbet.store import targets as target_store
from tests.browser.browsing import ACCOUNT, BrowserCase


class Quiet(SimpleHTTPRequestHandler):
    def log_message(self, *told: object) -> None:
        """Says nothing."""


class StaticSearchTests(BrowserCase):
    def send(self) -> None:
        shop = self.server.workshop
        blog = blogs.by_slug(shop.db, "mending-bench")
        end = time.monotonic() + 60
        while time.monotonic() < end and any(
            targets.is_due(shop, one) for one in target_store.of_blog(shop.db, blog.id)
        ):
            for target in target_store.of_blog(shop.db, blog.id):
                targets.try_to_send(shop, blog, target)  # the server may be at it as well
            time.sleep(0.1)

    def serve(self, folder: Path) -> str:
        server = ThreadingHTTPServer(("127.0.0.1", 0), partial(Quiet, directory=str(folder)))
        threading.Thread(target=server.serve_forever, daemon=True).start()
        self.addCleanup(server.server_close)
        self.addCleanup(server.shutdown)
        return f"http://127.0.0.1:{server.server_port}/below/"

    def test_readers_search_by_an_index_that_was_sent_along(self) -> None:
        self.sign_in()
        self.open("/desk/mending-bench/site/targets")
        self.page.click("summary[aria-label*='whether readers can search there']")
        self.page.click("button:text('whenever the site is sent')")
        expect(self.page.locator("main")).to_contain_text(
            "by an index that is made whenever the site is sent"
        )
        shop = self.server.workshop
        owner, blog = people.by_email(shop.db, ACCOUNT[0]), blogs.by_slug(shop.db, "mending-bench")
        targets.add(shop, owner, blog, f"folder:{self.folder / 'there' / 'below'}", Credentials())
        self.send()
        self.open("/desk/mending-bench/site/targets")
        expect(self.page.locator("main")).to_contain_text("It was made")
        self.assert_accessible(name="where it goes")
        reader = self.new_page(self.new_context(390, 800))
        reader.goto(self.serve(self.folder / "there") + "search/")
        expect(reader.locator("#q")).to_be_focused()
        reader.keyboard.type("fuse")
        expect(reader.locator(".results li").first).to_be_visible()
        expect(reader.locator(".total")).to_contain_text("pages")
        self.assert_accessible(reader, name="search there")
        reader.locator(".narrow button").first.click()
        expect(reader.locator(".narrow button[aria-pressed=true]")).to_have_count(1)
        reader.fill("#q", "qqqzzz")
        expect(reader.locator(".total")).to_contain_text("Nothing here has “qqqzzz”")
        reader.goto(reader.url.partition("?")[0] + "?q=fuse")
        reader.locator(".results a").first.click()
        expect(reader.locator("article")).to_be_visible()

    def test_without_a_script_the_page_leads_to_subjects(self) -> None:
        shop = self.server.workshop
        owner, blog = people.by_email(shop.db, ACCOUNT[0]), blogs.by_slug(shop.db, "mending-bench")
        targets.add(shop, owner, blog, f"folder:{self.folder / 'plain' / 'below'}", Credentials())
        self.send()
        reader = self.new_page(self.new_context(390, 800, java_script_enabled=False))
        reader.goto(self.serve(self.folder / "plain") + "search/")
        expect(reader.locator("#q")).not_to_be_visible()
        expect(reader.locator(".subjects a").first).to_be_visible()
