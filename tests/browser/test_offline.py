"""Writing without a network: a post begun, filed and given its time on a phone, sent when the network is back, each step once."""

from __future__ import annotations

import json
import random
import time
from collections.abc import Callable
from contextlib import suppress
from typing import Any

from playwright.sync_api import Error, Page, expect

from mobbet.actions import posts as post_actions
from mobbet.core.document import schema
from mobbet.core.values import existing
from mobbet.demo.make import ACCOUNT
from mobbet.store import people, placements, posts
from tests.browser.browsing import BrowserCase
from tests.shops import picture
from tests.sounds import tone

CHOOSE = "(field, value) => { field.value = value; field.dispatchEvent(new Event('change')); }"
AWAY = ("ERR_INTERNET_DISCONNECTED", "ERR_FAILED", "htmx:", "503")


class OfflineCase(BrowserCase):
    in_whole_browser = True

    def setUp(self) -> None:
        super().setUp()
        self.context = self.new_context(390, 800, has_touch=True)
        self.page = self.new_page()
        self.sign_in()
        self.expected = AWAY
        self.wait_kept()

    def wait_kept(self) -> None:
        """Until the browser keeps what a new post needs."""
        self.wait_for("() => caches.match('/device/ready').then(Boolean)")

    def wait_for(self, asked: str) -> None:
        """Until a question to the page, whose answer comes later, is answered with yes."""
        end = time.monotonic() + 30
        while not self.page.evaluate(asked):
            self.assertLess(time.monotonic(), end, asked)
            self.page.wait_for_timeout(100)

    def begin_away(self) -> None:
        self.context.set_offline(True)
        self.page.click("text=New post")
        self.page.wait_for_function("() => window.mobbetDevice")

    def type(self, title: str, words: str) -> None:
        self.page.fill("#title", title)
        self.page.locator(".ProseMirror").focus()
        self.page.keyboard.press("Control+End")
        self.page.keyboard.type(words)

    def kept(self) -> None:
        self.page.evaluate("() => window.mobbetDevice.kept()")

    def open_docket(self) -> None:
        self.page.click(".phone-all")
        self.page.click("[data-pull=docket]")

    def close_docket(self) -> None:
        self.page.click("#docket .pull-close button")

    def change(self, key: str, **fields: object) -> None:
        """Changes a post on the device, as another tab would."""
        self.page.evaluate(
            """([key, fields]) => new Promise((done) => {
                const asked = indexedDB.open("mobbet-device", 1);
                asked.onsuccess = () => {
                    const all = asked.result.transaction("posts", "readwrite").objectStore("posts");
                    all.get(key).onsuccess = ({ target }) => {
                        all.put({ ...target.result, ...fields }).onsuccess = () => done();
                    };
                };
            })""",
            [key, fields],
        )

    def files(self, button: str, *files: dict[str, Any]) -> None:
        with self.page.expect_file_chooser() as chooser:
            self.page.click(button)
        chooser.value.set_files(list(files))

    def titled(self, title: str) -> list[int]:
        return self.server.workshop.db.column(
            "SELECT post.id FROM post JOIN revision ON post_id = post.id AND number = post.revision WHERE revision.title = ?",
            title,
        )

    def back(self) -> Page:
        """The network comes back, and the application is opened again."""
        self.context.set_offline(False)
        page = self.new_page()
        self.open("/desk/mending-bench", page)
        return page


class JourneyTests(OfflineCase):
    def test_the_idea_on_a_bus_stands_in_the_timetable(self) -> None:
        self.begin_away()
        self.type("Three plugs in a row", "All three had the same plug.")
        self.assert_accessible(name="sheet on the device")
        plugs = [
            {"name": f"{name}.png", "mimeType": "image/png", "buffer": picture(600, 400, color=colour)}
            for name, colour in (("plug", "#884422"), ("fuse", "#224488"))
        ]
        self.files("#tools >> text=Camera", *plugs)
        expect(self.page.locator(".ProseMirror .picture")).to_have_count(2)
        for at, words in enumerate(("Three plugs", "A fuse")):
            self.page.locator(".ProseMirror .about .input").nth(at).fill(words)
        self.page.locator(".ProseMirror").press("Control+End")
        self.page.click(".phone-all")
        self.page.click("text=Insert…")
        self.page.click(".seam >> text=Sound")
        self.files("#choose-files", {"name": "hum.wav", "mimeType": "audio/wav", "buffer": tone()})
        expect(self.page.locator(".ProseMirror .sound audio")).to_have_count(1)
        self.open_docket()
        self.assert_accessible(name="docket on the device")
        self.page.select_option("#category", label="Lamps")
        self.page.fill("#tags", "plug, fuse")
        self.page.locator("#tags").blur()
        slot = self.page.locator("#when option[value^=slot]").first.get_attribute("value") or ""
        self.page.select_option("#when", value=slot)
        self.close_docket()
        self.kept()
        self.page.click("#send-here")
        expect(self.page.locator("#actions .told")).to_contain_text("8 things wait for the network")
        self.page.close()
        page = self.back()
        expect(page.locator("#on-device")).to_be_hidden(timeout=30_000)
        [number] = self.titled("Three plugs in a row")
        db = self.server.workshop.db
        [placement] = placements.of_post(db, number)
        self.assertEqual(placement.goes_out_wall, slot.split(" ")[1])
        self.assertEqual((len(placement.categories), len(placement.tags), len(placement.media)), (1, 2, 3))
        kinds = [node["type"] for node in json.loads(posts.working(db, number).body)["content"]]
        self.assertEqual((kinds.count("picture"), kinds.count("sound")), (2, 1))

    def test_a_choice_that_is_changed_and_changed_back_is_sent_as_it_stands(self) -> None:
        self.open("/device?begin=yes&blog=mending-bench")
        self.page.wait_for_function("() => window.mobbetDevice")
        key = self.page.url.rpartition("=")[2]
        self.type("Back and forth", "Words.")
        self.kept()
        for tag in ("one", "two", "one"):
            with self.subTest(tag=tag):
                self.change(key, tags=tag, isWaiting=True, isSent=False, at=time.time())
                self.page = self.new_page()
                self.open("/device")
                end = time.monotonic() + 20
                while self.tags("Back and forth") != [tag] and time.monotonic() < end:
                    self.page.wait_for_timeout(100)
                self.assertEqual(self.tags("Back and forth"), [tag])
                expect(self.page.locator(".device-posts")).to_contain_text("is sent")

    def tags(self, title: str) -> list[str]:
        numbers = ",".join(map(str, self.titled(title))) or "0"
        return self.server.workshop.db.column(
            f"SELECT name FROM tag JOIN post_tag ON tag_id = tag.id WHERE post_id IN ({numbers})"
        )

    def test_what_is_refused_is_told_and_nothing_is_lost(self) -> None:
        self.begin_away()
        self.type("Too late", "It was to go out yesterday.")
        self.open_docket()
        self.page.select_option("#when", value="time")
        self.page.fill("#wall", "2024-01-01T09:00")
        self.page.locator("#wall").blur()
        self.close_docket()
        self.kept()
        self.page.click("#send-here")
        self.context.set_offline(False)
        self.open("/device")
        expect(self.page.locator(".device-posts .problem")).to_contain_text(
            "Its time has passed", timeout=30_000
        )
        [number] = self.titled("Too late")
        self.assertEqual(placements.of_post(self.server.workshop.db, number), [])
        self.page.click("text=Write on")
        self.page.wait_for_function("() => window.mobbetDevice")
        expect(self.page.locator("#problems")).to_contain_text("Its time has passed")
        self.open_docket()
        self.page.select_option("#when", value="draft")
        self.close_docket()
        self.page.click("#send-here")
        self.page.wait_for_url(f"**/posts/{number}")
        self.assertEqual(len(self.titled("Too late")), 1)

    def test_a_post_for_a_blog_that_one_left_goes_on_in_another(self) -> None:
        self.begin_away()
        key = self.page.url.rpartition("=")[2]
        self.type("Homeless", "Where shall I go?")
        plug = {"name": "plug.png", "mimeType": "image/png", "buffer": picture(600, 400)}
        self.files("#tools >> text=Camera", plug)
        expect(self.page.locator(".ProseMirror .picture")).to_have_count(1)
        self.kept()
        self.change(key, blog="left-behind", isWaiting=True)
        self.context.set_offline(False)
        self.open("/device")
        expect(self.page.locator(".device-posts .problem")).to_contain_text("left-behind", timeout=30_000)
        expect(self.page.locator("text=Write on")).to_be_hidden()
        self.page.click("text=Make it a post of its own")
        self.page.wait_for_function("() => window.mobbetDevice")
        self.page.click("#send-here")
        self.page.wait_for_url("**/posts/*")
        self.assertEqual(len(self.titled("Homeless")), 1)
        expect(self.page.locator(".ProseMirror .picture")).to_have_count(1)

    def test_a_file_for_which_there_is_no_room_is_named_and_the_rest_goes_on(self) -> None:
        self.begin_away()
        self.page.evaluate(
            """() => {
                const put = IDBObjectStore.prototype.put;
                window.makeRoom = () => { IDBObjectStore.prototype.put = put; };
                IDBObjectStore.prototype.put = function (value) {
                    if (this.name === "files") throw new DOMException("full", "QuotaExceededError");
                    return put.call(this, value);
                };
            }"""
        )
        plug = {"name": "plug.png", "mimeType": "image/png", "buffer": picture(600, 400)}
        self.files("#tools >> text=Camera", plug)
        told = self.page.locator("#actions .told")
        expect(told).to_contain_text("“plug.png” is not kept, since the browser’s room is full")
        empty = {"name": "empty.png", "mimeType": "image/png", "buffer": b""}
        self.files("#tools >> text=Camera", empty)
        expect(told).to_contain_text("“empty.png” is empty")
        self.page.evaluate("() => window.makeRoom()")
        self.files("#tools >> text=Camera", plug)
        expect(self.page.locator(".ProseMirror .picture")).to_have_count(1)

    def test_pictures_of_a_gallery_are_kept_without_a_network(self) -> None:
        self.begin_away()
        self.page.locator(".ProseMirror").press("Control+End")
        self.page.click(".phone-all")
        self.page.click("text=Insert…")
        self.page.click(".seam >> text=Gallery")
        plugs = [
            {"name": f"{name}.png", "mimeType": "image/png", "buffer": picture(600, 400, color=colour)}
            for name, colour in (("plug", "#884422"), ("fuse", "#224488"))
        ]
        self.files("#choose-files", *plugs)
        expect(self.page.locator(".ProseMirror .gallery img")).to_have_count(2)

    def test_a_text_that_somebody_changed_meanwhile_stands_beside_theirs(self) -> None:
        self.begin_away()
        key = self.page.url.rpartition("=")[2]
        self.type("Met", "My words.")
        self.kept()
        self.context.set_offline(False)
        self.page.click("#send-here")
        self.page.wait_for_url("**/posts/*")
        [number] = self.titled("Met")
        workshop = self.server.workshop
        self.change(key, title="Mine", isWaiting=True, isSent=False, at=1)
        me = people.by_email(workshop.db, ACCOUNT[0])
        base = posts.working(workshop.db, number).number
        post_actions.save_text(
            workshop, me, number, base=base, title="Theirs", subtitle="", body=schema.EMPTY
        )
        self.open("/device")
        self.page.click("text=Put mine beside it as a draft", timeout=30_000)
        expect(self.page.locator(".device-posts")).to_contain_text("is sent")
        self.assertEqual((len(self.titled("Mine")), len(self.titled("Theirs"))), (1, 1))

    def test_pages_that_are_not_kept_lead_to_the_device_and_one_returns_with_what_was_written(self) -> None:
        self.begin_away()
        self.type("Half a thought", "And then")
        self.kept()
        self.open("/desk/mending-bench/library")
        expect(self.page.locator("#told")).to_contain_text("There is no network")
        expect(self.page.locator(".device-posts")).to_contain_text("Half a thought")
        self.assert_accessible(name="device")
        self.page.click("text=Write on")
        self.page.wait_for_function("() => window.mobbetDevice")
        expect(self.page.locator(".ProseMirror")).to_contain_text("And then")


AGE_TEXTS = """() => new Promise((done) => {
    const asked = indexedDB.open("mobbet", 1);
    asked.onsuccess = () => {
        const all = asked.result.transaction("texts", "readwrite").objectStore("texts");
        all.getAll().onsuccess = ({ target }) => {
            for (const text of target.result) all.put({ ...text, at: text.at - 20_000 });
            all.transaction.oncomplete = () => done();
        };
    };
})"""
"""A text that was kept just now belongs to a room that is open; these are older."""


class RoomTests(OfflineCase):
    def write_in_a_tunnel(self, title: str) -> int:
        """Writes in the room of a new post without a network, and closes it; answers with the post."""
        self.new_post()
        self.page.wait_for_function("() => window.mobbetRoom")
        number = int(self.page.url.split("?")[0].rpartition("/")[2])
        self.context.set_offline(True)
        self.type(title, "Nobody heard it.")
        self.page.wait_for_timeout(600)
        # what a page sends as it goes does not know that there is to be no network
        self.page.evaluate("() => { window.fetch = () => Promise.reject(new TypeError()); }")
        self.page.close()
        self.context.set_offline(False)
        return number

    def test_words_written_in_a_room_that_was_closed_are_sent_when_the_network_is_back(self) -> None:
        number = self.write_in_a_tunnel("Written in a tunnel")
        page = self.back()
        page.evaluate(AGE_TEXTS)
        page.reload()
        end = time.monotonic() + 20
        while not self.titled("Written in a tunnel") and time.monotonic() < end:
            page.wait_for_timeout(200)
        self.assertEqual(self.titled("Written in a tunnel"), [number])

    def test_what_a_page_sends_as_it_goes_arrives_beside_a_service_worker(self) -> None:
        db = self.server.workshop.db
        for _ in range(3):
            with self.page.expect_response("**/here"):
                self.open("/posts/33")
            self.page.wait_for_function("() => window.mobbetRoom")
            self.assertEqual(db.column("SELECT post_id FROM present"), [33])
            self.open("/desk/mending-bench/library")
            end = time.monotonic() + 10
            while db.column("SELECT post_id FROM present") and time.monotonic() < end:
                self.page.wait_for_timeout(100)
            self.assertEqual(db.column("SELECT post_id FROM present"), [])

    def test_words_of_one_person_are_neither_shown_to_another_nor_sent_as_theirs(self) -> None:
        number = self.write_in_a_tunnel("Mine alone")
        self.page = self.new_page()
        self.sign_in(self.page, "tomas@mending-bench.example")
        self.page.evaluate(AGE_TEXTS)
        self.open("/device")
        expect(self.page.locator("#none")).to_be_visible()
        self.open(f"/posts/{number}")
        self.page.wait_for_function("() => window.mobbetRoom")
        expect(self.page.locator("#title")).to_have_value("")
        self.page.wait_for_timeout(1000)
        self.assertEqual(self.titled("Mine alone"), [])
        self.sign_in(self.page)
        self.open(f"/posts/{number}")
        expect(self.page.locator("#title")).to_have_value("Mine alone")
        self.wait_saved()
        self.assertEqual(self.titled("Mine alone"), [number])

    def test_words_for_a_post_that_one_may_not_see_any_more_go_on_as_a_new_one(self) -> None:
        number = self.write_in_a_tunnel("Too late for that one")
        db = self.server.workshop.db
        with db.transaction():
            db.run(
                "UPDATE post SET visibility = 'only-me', author_id = (SELECT id FROM person WHERE email LIKE 'tomas@%') WHERE id = ?",
                number,
            )
        self.page = self.back()
        self.page.evaluate(AGE_TEXTS)
        self.open("/device")
        expect(self.page.locator(".device-posts")).to_contain_text(
            "Changes to Too late for that one were not taken", timeout=30_000
        )
        with self.page.expect_download() as download:
            self.page.click("#to-file")
        saved = json.loads(download.value.path().read_text())
        self.assertEqual([text["post"] for text in saved["texts"]], [number])
        self.page.click("text=Make it a post of its own")
        self.page.wait_for_function("() => window.mobbetDevice")
        self.page.click("#send-here")
        self.page.wait_for_url("**/posts/*")
        self.assertEqual(len(self.titled("Too late for that one")), 1)


class SettingsTests(OfflineCase):
    def setUp(self) -> None:
        super().setUp()
        self.number = self.titled("Rewiring a desk lamp without losing the switch")[0]
        self.db = self.server.workshop.db

    def choose_away(self) -> None:
        """From the docket of the room, without a network, to its settings on the device."""
        self.open(f"/posts/{self.number}")
        self.page.wait_for_function("() => window.mobbetRoom")
        self.context.set_offline(True)
        self.page.click(".phone-all")
        self.page.click(".base [data-pull=side]")
        self.page.click("#set-categories")
        self.page.click(".docket .away a")
        expect(self.page.locator("#settings-of")).to_have_text(
            "Rewiring a desk lamp without losing the switch"
        )

    def subjects(self) -> list[str]:
        return self.db.column(
            "SELECT name FROM category JOIN post_category ON category_id = category.id WHERE post_id = ? ORDER BY name",
            self.number,
        )

    def visibility(self) -> str:
        return existing(posts.by_id(self.db, self.number)).visibility

    def author(self) -> str:
        number = existing(posts.by_id(self.db, self.number)).author_id
        return existing(people.by_id(self.db, number)).name

    def wait_until(self, holds: Callable[[], bool]) -> None:
        end = time.monotonic() + 30
        while not holds():
            self.assertLess(time.monotonic(), end)
            self.page.wait_for_timeout(100)

    def test_what_is_chosen_for_a_post_that_is_there_is_sent_and_the_rest_stays(self) -> None:
        tags = existing(posts.tags(self.db, self.number))
        self.choose_away()
        self.assert_accessible(name="settings on the device")
        self.page.select_option("#settings-category", label="Radios")
        self.page.select_option("#settings-readers", "signed-in")
        self.page.select_option("#settings-author", label="Tomas Wilde")
        expect(self.page.locator("#settings-told")).to_have_text(
            "It will be filed under Radios, by Tomas Wilde, for people who are signed in to read. This waits for the network."
        )
        self.page.reload()
        expect(self.page.locator("#settings-category option:checked")).to_have_text("Radios")
        self.page.close()
        self.page = self.back()
        self.wait_until(lambda: self.subjects() == ["Radios"] and self.visibility() == "signed-in")
        self.wait_until(lambda: self.author() == "Tomas Wilde")
        self.assertEqual(posts.tags(self.db, self.number), tags)

    def test_a_category_that_is_gone_by_then_is_told_and_another_can_be_chosen(self) -> None:
        self.choose_away()
        self.page.select_option("#settings-category", label="Radios")
        before = self.subjects()
        self.page.evaluate(
            """async () => {
                const opening = indexedDB.open("mobbet-device");
                const database = await new Promise((resolve) => { opening.onsuccess = () => resolve(opening.result); });
                const all = database.transaction("posts", "readwrite").objectStore("posts");
                const asked = all.getAll();
                asked.onsuccess = () => { for (const one of asked.result) if (one.changes) all.put({ ...one, changes: { categories: [{ id: 99999, name: "Kites" }] } }); };
            }"""
        )
        self.page.close()
        self.page = self.back()
        self.open("/device")
        expect(self.page.locator(".device-posts .problem")).to_contain_text("“Kites” is not there any more")
        self.assertEqual(self.subjects(), before)
        self.page.click("text=Choose others")
        self.page.select_option("#settings-category", label="Radios")
        self.wait_until(lambda: self.subjects() == ["Radios"])
        expect(self.page.locator(".device-posts")).to_contain_text(
            "Settings of Rewiring a desk lamp without losing the switch are sent"
        )


class ChanceTests(OfflineCase):
    def test_chance_changes_of_the_network_and_closed_pages_lose_nothing_and_double_nothing(self) -> None:
        for seed in (5,):
            with self.subTest(seed=seed):
                self.context.set_offline(False)
                self.page = self.new_page()
                self.open("/desk/mending-bench")
                self.go_by_chance(random.Random(seed), f"By chance {seed}")

    def go_by_chance(self, chance: random.Random, title: str) -> None:
        self.begin_away()
        key = self.page.url.rpartition("=")[2]
        self.page.fill("#title", title)
        self.kept()
        written: list[str] = []
        for step in range(12):
            with suppress(Error):  # it was sent, and the page goes to where it is now
                self.do(chance, step, written)
            time.sleep(chance.uniform(0, 0.3))
            if self.page.is_closed():
                self.page = self.new_page()
                self.open(f"/device?post={key}")
            self.page.wait_for_timeout(200)
            if "post=" not in self.page.url:
                break
        self.context.set_offline(False)
        if "post=" in self.page.url:
            self.page.wait_for_function("() => window.mobbetDevice")
            if self.page.locator("#send").text_content() != "Do not send it yet":
                self.page.click("#send-here")
        end, body = time.monotonic() + 30, ""
        while time.monotonic() < end and not all(one in body for one in written):
            self.page.wait_for_timeout(300)
            numbers = self.titled(title)
            body = "".join(posts.working(self.server.workshop.db, number).body for number in numbers)
        self.assertEqual([one for one in written if body.count(one) != 1], [])
        self.assertEqual(len(self.titled(title)), 1)

    def do(self, chance: random.Random, step: int, written: list[str]) -> None:
        """Something that happens on a bus; what was surely kept on the device is among what was written."""
        act = chance.choice(["write", "write", "write", "send", "flip", "close", "tags"])
        self.page.wait_for_function("() => window.mobbetDevice", timeout=3000)
        if act == "write":
            self.page.locator(".ProseMirror").press("Control+End", timeout=2000)
            self.page.keyboard.type(f" word{step}x")
            self.kept()
            written.append(f"word{step}x")
        elif act == "send":
            self.page.evaluate("() => document.getElementById('send').click()")
        elif act == "flip":
            self.context.set_offline(chance.random() < 0.5)
        elif act == "tags":
            self.page.locator("#tags").evaluate(CHOOSE, f"tag{step}", timeout=2000)
        else:
            self.kept()
            self.page.close()


class ShareTests(OfflineCase):
    def share(self, words: str) -> None:
        """What a device's share sheet does: a form with a text, an address and a picture, sent by itself."""
        self.page.evaluate(
            """([words, bytes]) => {
                const form = Object.assign(document.createElement("form"), { method: "post", action: "/device/share", enctype: "multipart/form-data" });
                const field = (name, value) => form.append(Object.assign(document.createElement("input"), { name, value }));
                field("title", "Shared with me");
                field("text", words);
                field("url", "https://knots.example/reef");
                const files = Object.assign(document.createElement("input"), { type: "file", name: "files" });
                const all = new DataTransfer();
                all.items.add(new File([new Uint8Array(bytes)], "knot.png", { type: "image/png" }));
                files.files = all.files;
                form.append(files);
                document.body.append(form);
                form.submit();
            }""",
            [words, list(picture(80, 60))],
        )
        self.page.wait_for_function("() => window.mobbetDevice")

    def test_what_is_shared_becomes_a_post_on_the_device_or_goes_into_one(self) -> None:
        self.begin_away()
        self.type("Knots", "What I know of them.")
        self.kept()
        self.open("/desk/mending-bench")
        self.share("A knot to remember <b>")
        sheet = self.page.locator(".ProseMirror")
        expect(self.page.locator("#title")).to_have_value("Shared with me")
        expect(sheet).to_contain_text("A knot to remember <b> https://knots.example/reef")
        expect(sheet.locator(".picture img")).to_have_js_property("naturalWidth", 80)
        self.assert_accessible(name="shared")
        self.page.select_option("#add-to", label="“Knots”")
        self.page.wait_for_function("() => document.getElementById('title').value === 'Knots'")
        expect(sheet).to_contain_text("What I know of them.")
        expect(sheet.locator(".picture")).to_have_count(1)
        self.open("/device")
        expect(self.page.locator(".device-posts li")).to_have_count(1)

    def test_opened_without_a_network_the_application_shows_the_desk(self) -> None:
        self.open("/desk/mending-bench")
        self.context.set_offline(True)
        self.open("/")
        self.page.wait_for_url("**/desk/mending-bench")
        expect(self.page.locator(".posts td.t").first).to_be_visible()


class KeepingTests(OfflineCase):
    def test_signing_out_asks_first_and_then_leaves_nothing(self) -> None:
        self.begin_away()
        self.type("Not sent", "Words.")
        self.kept()
        self.context.set_offline(False)
        self.open("/desk/mending-bench")
        expect(self.page.locator("#on-device")).to_contain_text("1 post on this device")
        self.assertLessEqual(self.page.evaluate("() => document.documentElement.scrollWidth"), 390)
        for part in ("#on-device", ".who"):
            expect(self.page.locator(part)).to_be_in_viewport(ratio=1)
        self.page.click(".who")
        self.page.click("text=Sign out")
        expect(self.page.locator("#leaving")).to_contain_text("has not been sent")
        self.page.click("text=Sign out all the same")
        self.page.wait_for_url("**/sign-in**")
        left = self.page.evaluate(
            "async () => [(await (await caches.open('mobbet-pages-2')).keys()).filter(({ url }) => !url.includes('/static/')).length, await new Promise((done) => { const asked = indexedDB.open('mobbet-device', 1); asked.onsuccess = () => { const all = asked.result.transaction('posts').objectStore('posts').count(); all.onsuccess = () => done(all.result); }; })]"
        )
        self.assertEqual(left, [0, 0])

    def test_scripts_of_a_new_version_are_kept_as_soon_as_one_of_its_pages_is_seen(self) -> None:
        self.page.evaluate(
            """async () => {
                localStorage.setItem("mobbet:device-version", "an older one");
                for (const name of await caches.keys()) {
                    const cache = await caches.open(name);
                    for (const { url } of await cache.keys()) if (url.includes("editor-part")) await cache.delete(url);
                }
            }"""
        )
        self.open("/desk/mending-bench/library")
        self.wait_for(
            "() => fetch('/device').then((one) => one.text()).then(async (text) => {"
            " const parts = text.match(/\\/static\\/\\w+\\/editor-part[\\w.-]+/g) ?? [];"
            " const kept = await Promise.all(parts.map((part) => caches.match(part)));"
            " return parts.length > 3 && kept.every(Boolean); })"
        )

    def test_signing_out_tells_of_what_somebody_else_has_not_sent(self) -> None:
        self.begin_away()
        key = self.page.url.rpartition("=")[2]
        self.type("Theirs", "Words.")
        self.kept()
        self.open("/desk/mending-bench")
        self.change(key, person=9999)
        self.context.set_offline(False)
        self.open("/desk/mending-bench")
        expect(self.page.locator("#on-device")).to_be_hidden()
        self.page.click(".who")
        self.page.click("text=Sign out")
        leaving = self.page.locator("#leaving")
        expect(leaving).to_contain_text("Somebody else wrote on this device and has not sent it")
        expect(leaving).not_to_contain_text("What stands below")

    def test_what_waits_is_saved_to_a_file_and_read_back(self) -> None:
        self.begin_away()
        self.type("In a file", "Words.")
        self.files(
            "#tools >> text=Camera", {"name": "one.png", "mimeType": "image/png", "buffer": picture(60, 40)}
        )
        expect(self.page.locator(".ProseMirror .picture")).to_have_count(1)
        self.kept()
        self.open("/device")
        with self.page.expect_download() as download:
            self.page.click("#to-file")
        saved = download.value.path()
        self.page.click("text=Remove it")
        expect(self.page.locator("#none")).to_be_visible()
        with self.page.expect_file_chooser() as chooser:
            self.page.click("#from-file")
        chooser.value.set_files(saved)
        expect(self.page.locator(".device-posts")).to_contain_text("In a file")
        self.page.click("text=Write on")
        self.page.wait_for_function("() => window.mobbetDevice")
        expect(self.page.locator(".ProseMirror .picture img")).to_have_js_property("naturalWidth", 60)

    def test_the_desk_and_the_posts_written_last_are_kept_by_choice(self) -> None:
        self.open("/device")
        self.page.select_option("#keeps", value="posts")
        self.wait_for(
            "() => caches.open('mobbet-pages-2').then(async (one) => (await one.keys()).filter(({ url }) => /posts\\/\\d+$/.test(url)).length > 3)"
        )
        self.context.set_offline(True)
        self.open("/desk/mending-bench")
        expect(self.page.locator(".posts td.t a").first).to_be_visible()
        number = self.server.workshop.db.value(
            "SELECT post_id FROM revision WHERE person_id = 1 ORDER BY saved_at DESC LIMIT 1"
        )
        self.open(f"/posts/{number}")
        self.page.wait_for_selector(".ProseMirror")
