"""Exports and imports that were asked for on the screen."""

from __future__ import annotations

import io
import zipfile

from mobbet.actions import transfer_running, transfers
from mobbet.core.errors import BadInput, NotAllowed, NotFound, Refused, TooSoon
from mobbet.store import transfers as store
from tests.actions.teams import TeamCase

FEED = b"<rss><channel><item><title>Old</title><guid>g1</guid><pubDate>Mon, 04 Mar 2019 10:00:00 GMT</pubDate><description>Words.</description></item></channel></rss>"


def packed(files: dict[str, bytes]) -> io.BytesIO:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as file:
        for name, data in files.items():
            file.writestr(name, data)
    out.seek(0)
    return out


class TransferCase(TeamCase):
    def one(self, number: int) -> store.Transfer:
        return store.by_id(self.shop.db, number)

    def bring(self, kind: str = "rss", data: bytes = FEED, **more: str) -> int:
        return transfers.ask_import(
            self.shop,
            self.me,
            "bench",
            kind,
            "",
            "old.xml",
            io.BytesIO(data),
            more.get("subjects", "categories"),
        )


class ExportTests(TransferCase):
    def test_the_zip_file_is_there_once_it_is_done(self) -> None:
        self.write("A lamp", date="2026-11-01")
        number = transfers.ask_export(self.shop, self.me, "bench", frozenset({"revisions"}))
        self.assertEqual(transfer_running.run_due(self.shop), 1)
        one = self.one(number)
        self.assertEqual((one.state, one.done, one.total), ("done", 1, 1))
        with zipfile.ZipFile(transfers.archive_of(self.shop, one)) as file:
            self.assertIn("blog.json", file.namelist())
        self.assertEqual(
            self.shop.db.value("SELECT actor FROM record WHERE kind = 'exported'"), "Ines Farrow"
        )

    def test_one_at_a_time_and_not_too_many_in_a_day(self) -> None:
        transfers.ask_export(self.shop, self.me, "bench", frozenset())
        with self.assertRaisesRegex(Refused, "going on"):
            transfers.ask_export(self.shop, self.me, "bench", frozenset())
        with self.shop.db.transaction():
            self.shop.db.run("UPDATE transfer SET state = 'done'")
            for _ in range(transfers.EXPORTS_A_DAY):
                store.settle(
                    self.shop.db,
                    store.add(self.shop.db, self.blog.id, self.me.id, "export", "", {}, False, self.clock()),
                    state="done",
                )
        with self.assertRaises(TooSoon):
            transfers.ask_export(self.shop, self.me, "bench", frozenset())

    def test_only_an_owner_asks_looks_and_stops(self) -> None:
        number = transfers.ask_export(self.shop, self.me, "bench", frozenset())
        for somebody in (self.editor, self.writer):
            with self.assertRaises(NotAllowed):
                transfers.ask_export(self.shop, somebody, "bench", frozenset())
            with self.assertRaises(NotAllowed):
                transfers.of_owner(self.shop, somebody, "bench", number)
            with self.assertRaises(NotAllowed):
                transfers.stop(self.shop, somebody, "bench", number)
        with self.assertRaises(NotFound):
            transfers.of_owner(self.shop, self.me, "bench", 99)

    def test_somebody_who_owns_the_blog_no_more_gets_no_export(self) -> None:
        number = transfers.ask_export(self.shop, self.me, "bench", frozenset())
        with self.shop.db.transaction():
            self.shop.db.run("UPDATE membership SET role = 'writer' WHERE person_id = ?", self.me.id)
        transfer_running.run_due(self.shop)
        self.assertEqual(self.one(number).state, "failed")

    def test_files_are_forgotten_after_two_days(self) -> None:
        number = transfers.ask_export(self.shop, self.me, "bench", frozenset())
        transfer_running.run_due(self.shop)
        self.clock.forward(transfers.KEPT_SECONDS + 1)
        transfer_running.run_due(self.shop)
        self.assertIsNone(self.one(number))
        self.assertFalse(transfers.folder_of(self.shop, number).exists())


class ImportTests(TransferCase):
    def test_a_source_is_looked_at_then_imported_then_taken_away(self) -> None:
        number = self.bring()
        transfer_running.run_due(self.shop)
        one = self.one(number)
        self.assertEqual((one.state, one.report["counts"]["new"], one.report["run"]), ("looked", 1, 0))
        self.assertEqual(self.shop.db.value("SELECT COUNT(*) FROM post"), 0)
        transfers.go_on(self.shop, self.me, "bench", number, {})
        transfer_running.run_due(self.shop)
        self.assertEqual(
            (self.one(number).state, self.shop.db.column("SELECT title FROM post")), ("done", ["Old"])
        )
        self.assertEqual(transfers.undo(self.shop, self.me, "bench", number), (1, []))
        with self.assertRaisesRegex(Refused, "has ended"):
            transfers.go_on(self.shop, self.me, "bench", number, {})

    def test_files_in_a_zip_with_fields_of_their_own_are_looked_at_again(self) -> None:
        number = self.bring(
            "markdown", packed({"posts/a.md": b"---\ntitle: A\nlaid: 2019-03-01\n---\nWords."}).read()
        )
        transfer_running.run_due(self.shop)
        self.assertEqual(self.one(number).report["fields"], {"laid": ["2019-03-01"]})
        with self.assertRaisesRegex(BadInput, "nothing that a field can be"):
            transfers.go_on(self.shop, self.me, "bench", number, {"laid": "soup"})
        transfers.go_on(self.shop, self.me, "bench", number, {"laid": "published"})
        transfer_running.run_due(self.shop)
        one = self.one(number)
        self.assertEqual((one.state, one.report["posts"][0]["date"][:10]), ("looked", "2019-03-01"))
        transfers.go_on(self.shop, self.me, "bench", number, {"laid": "published"})
        transfer_running.run_due(self.shop)
        self.assertEqual(self.one(number).state, "done")

    def test_one_that_was_stopped_goes_on_and_brings_nothing_twice(self) -> None:
        number = self.bring(
            "markdown",
            packed({f"{n}.md": f"---\ntitle: {n}\n---\nWords {n}.".encode() for n in range(100)}).read(),
        )
        transfer_running.run_due(self.shop)
        transfers.go_on(self.shop, self.me, "bench", number, {})
        with self.shop.db.transaction():
            store.settle(self.shop.db, number, stops=1)
        transfer_running.run_due(self.shop)
        self.assertEqual(self.one(number).state, "stopped")
        count = self.shop.db.value("SELECT COUNT(*) FROM post")
        self.assertLess(count, 100)
        transfers.go_on(self.shop, self.me, "bench", number, {})
        transfer_running.run_due(self.shop)
        self.assertEqual(
            (self.one(number).state, self.shop.db.value("SELECT COUNT(*) FROM post")), ("done", 100)
        )

    def test_what_cannot_be_read_is_told(self) -> None:
        for kind, data, words in (
            ("rss", b"{", "no"),
            ("markdown", b"x", "zip file"),
            ("csv", b"a,b\n1,2", "no column"),
            ("html", packed({"../a.html": b"x"}).read(), "leads out"),
        ):
            with self.subTest(kind=kind):
                number = self.bring(kind, data)
                transfer_running.run_due(self.shop)
                one = self.one(number)
                self.assertEqual(one.state, "failed")
                self.assertIn(words, one.problem)

    def test_what_cannot_be_asked_is_refused(self) -> None:
        for kind, address, file in (
            ("soup", "", io.BytesIO(b"")),
            ("rss", "", None),
            ("rss", "https://a.example/", io.BytesIO(b"")),
            ("rss", "feed.xml", None),
            ("csv", "https://a.example/", None),
        ):
            with self.subTest(kind=kind, address=address), self.assertRaises(BadInput):
                transfers.ask_import(self.shop, self.me, "bench", kind, address, "x", file, "categories")
