"""Backups are made, checked, thinned out and restored."""

from __future__ import annotations

import io
import random
import shutil
import threading
import unittest
from contextlib import redirect_stderr, redirect_stdout
from dataclasses import replace
from pathlib import Path
from unittest import mock

from mobbet.actions import (
    aside,
    attention,
    backup_files,
    backup_places,
    backups,
    consistency,
    files,
    placing,
    posts,
)
from mobbet.actions.backup_places import Rhythm
from mobbet.actions.backups import Opened
from mobbet.cli.__main__ import main
from mobbet.core.backups import Every, read_key, written_key
from mobbet.core.errors import BadInput, Broken, NotAllowed, NotFound, Refused
from mobbet.core.places_outside import FOLDER, Allowed, Credentials, Place
from mobbet.services.vault import Vault
from mobbet.store import backups as store
from mobbet.store import blogs as blog_store
from mobbet.store import posts as post_store
from mobbet.wiring import open_existing, open_folder
from tests.actions.teams import TeamCase
from tests.shops import DAY, NOW, ShopCase, picture

HOUR = 3600
KEY = bytes(range(32))


class BackupCase(ShopCase):
    """A small site with a picture, and a folder for backups."""

    def prepare(self) -> None:
        self.write("A lamp", "A first look.", date="2026-11-10", slug="lamp")
        (self.folder / "lamp.png").write_bytes(picture())
        source = "---\ntitle: With a picture\ndate: 2026-11-11\n---\n![A lamp](lamp.png)\n"
        files.new_post(self.shop, self.me, "bench", source, self.folder)
        self.publish()
        Vault(self.shop.settings.sealing_key).seal("a secret", "a test")

    def setUp(self) -> None:
        super().setUp()
        self.there = self.folder / "there"
        self.back = self.folder / "back"

    def opened(self, key: bytes | None = None) -> Opened:
        place = Place(FOLDER, str(self.there))
        return backups.open_place(place, Allowed(), Credentials(), key, self.shop.settings.data)

    def make(self, key: bytes | None = None) -> backups.Made:
        with self.opened(key) as place:
            return backups.make(self.shop, place)

    def restore(self, instant: int | None = None, key: bytes | None = None) -> None:
        with self.opened(key) as place:
            backups.restore(place, instant, self.back, self.back / "sealing.key")

    def facts(self, data: Path) -> dict[str, bytes]:
        """Every file of the two shelves."""
        return {
            str(file.relative_to(data)): file.read_bytes()
            for shelf in ("media", "pages")
            for file in (data / shelf).rglob("*")
            if file.is_file()
        }


class CopyTests(BackupCase):
    def test_what_was_backed_up_comes_back_whole(self) -> None:
        for key in (None, KEY):
            with self.subTest(encrypted=bool(key)):
                made = self.make(key)
                self.assertEqual((made.copy.at, made.copy.posts), (NOW, 2))
                self.assertEqual(self.there.stat().st_mode & 0o777, 0o700)
                self.restore(key=key)
                shop = open_existing(self.back)
                self.addCleanup(shop.db.close)
                self.assertEqual(consistency.problems(shop), [])
                self.assertEqual(
                    list(shop.db.connection.iterdump()), list(self.shop.db.connection.iterdump())
                )
                self.assertEqual(self.facts(self.back), self.facts(self.shop.settings.data))
                self.assertEqual((self.back / "sealing.key").exists(), bool(key))
                shutil.rmtree(self.back)
                shutil.rmtree(self.there)

    def test_only_what_is_new_travels(self) -> None:
        first = self.make()
        self.assertEqual(self.make().sent, 0)
        self.write("Another", "A second look.", date="2026-11-12")
        self.publish()
        second = self.make()
        self.assertGreater(second.copy.file_count, first.copy.file_count)
        self.assertLess(second.sent, first.sent)

    def test_a_large_file_travels_in_parts(self) -> None:
        with mock.patch.object(backup_files, "PART", 700):
            self.make()
            self.restore()
        self.assertEqual(self.facts(self.back), self.facts(self.shop.settings.data))

    def test_many_files_are_listed_by_their_first_digits(self) -> None:
        with mock.patch.object(backup_files, "FILES_IN_A_LIST", 5):
            made = self.make()
            self.assertGreater(len(made.copy.files["pages"].lists), 3)
            self.restore()
        self.assertEqual(self.facts(self.back), self.facts(self.shop.settings.data))

    def test_an_encrypted_backup_tells_nothing(self) -> None:
        self.make(KEY)
        texts = b"".join(file.read_bytes() for file in self.there.rglob("*") if file.is_file())
        names = " ".join(str(file) for file in self.there.rglob("*"))
        for word in (b"A first look", b"ines@bench.example", b"SQLite"):
            self.assertNotIn(word, texts)
        for hash in self.facts(self.shop.settings.data):
            self.assertNotIn(Path(hash).name, names)

    def test_a_place_has_one_key(self) -> None:
        self.make(KEY)
        for key, message in ((None, "are encrypted; give their key"), (bytes(32), "with another key")):
            with self.subTest(message), self.assertRaisesRegex(Refused, message):
                self.make(key)
        shutil.rmtree(self.there)
        self.make()
        with self.assertRaisesRegex(Refused, "are not encrypted"):
            self.make(KEY)

    def test_a_backup_with_any_byte_flipped_is_refused(self) -> None:
        chance = random.Random(5)
        for key in (None, KEY):
            self.make(key)
            written = [one for one in self.there.rglob("*") if one.is_file() and not one.name.startswith(".")]
            for file in written:
                body = bytearray(file.read_bytes())
                at = chance.randrange(len(body))
                body[at] ^= 1 << chance.randrange(8)
                with self.subTest(file=file.name, at=at):
                    kept = file.read_bytes()
                    file.write_bytes(body)
                    with self.assertRaises((Broken, Refused, NotFound)):
                        self.restore(key=key)
                    file.write_bytes(kept)
                    self.assertFalse((self.back / "mobbet.db").exists())
                    shutil.rmtree(self.back, ignore_errors=True)
            shutil.rmtree(self.there)

    def test_a_missing_object_and_a_file_of_another_are_refused(self) -> None:
        self.make()
        objects = sorted((self.there / "objects").rglob("??*"))
        whole = [one for one in objects if one.is_file()]
        shutil.copy(whole[0], whole[1])
        with self.assertRaisesRegex(Broken, "damaged"):
            self.restore()
        whole[1].unlink()
        with self.assertRaisesRegex(Broken, "missing"):
            self.restore()

    def test_a_restore_that_broke_off_is_run_again(self) -> None:
        self.make()
        with mock.patch("os.replace", side_effect=KeyboardInterrupt), self.assertRaises(KeyboardInterrupt):
            self.restore()
        self.assertFalse((self.back / "mobbet.db").exists())
        self.restore()
        shop = open_existing(self.back)
        self.addCleanup(shop.db.close)
        self.assertEqual(consistency.problems(shop), [])

    def test_a_folder_with_something_in_it_is_left_alone(self) -> None:
        self.make()
        self.back.mkdir()
        (self.back / "letter.txt").write_text("mine")
        with self.assertRaisesRegex(Refused, "is not empty"):
            self.restore()
        with self.assertRaisesRegex(Refused, "holds files that Mobbet did not write"):
            backups.open_place(
                Place(FOLDER, str(self.back)), Allowed(), Credentials(), None, self.folder / "data"
            )
        inside = Place(FOLDER, str(self.shop.settings.data / "backups"))
        with self.assertRaisesRegex(NotAllowed, "lies in the data folder"):
            backups.open_place(inside, Allowed(), Credentials(), None, self.shop.settings.data)

    def test_the_newest_until_a_time_comes_back(self) -> None:
        self.make()
        self.clock.forward(HOUR)
        self.write("Later", "A later one.")
        self.make()
        self.restore(NOW + 60)
        shop = open_existing(self.back)
        self.addCleanup(shop.db.close)
        self.assertEqual(len(shop.db.all("SELECT id FROM post")), 2)
        with self.assertRaisesRegex(NotFound, "no copy until"), self.opened() as place:
            backups.restore(place, NOW - 1, self.folder / "other", self.folder / "key")

    def test_a_save_that_was_acknowledged_before_is_in_the_copy_though_others_go_on(self) -> None:
        post, end, said = self.write("Busy", "0"), threading.Event(), []

        def go_on() -> None:
            number = 0
            while not end.is_set():
                number += 1
                body = {
                    "type": "doc",
                    "content": [{"type": "paragraph", "content": [{"type": "text", "text": str(number)}]}],
                }
                base = post_store.by_id(self.shop.db, post.id).revision
                posts.save_text(self.shop, self.me, post.id, base=base, title="Busy", subtitle="", body=body)
                said.append(number)
            self.shop.db.close()

        writer = threading.Thread(target=go_on)
        writer.start()
        try:
            while len(said) < 5:
                pass
            before = said[-1]
            self.make()
        finally:
            end.set()
            writer.join()
        self.restore()
        shop = open_existing(self.back)
        self.addCleanup(shop.db.close)
        text = post_store.working(shop.db, post.id).body
        self.assertGreaterEqual(int("".join(filter(str.isdigit, text.split('"text":')[-1]))), before)
        self.assertEqual(consistency.problems(shop), [])

    def test_old_copies_go_with_what_they_alone_named(self) -> None:
        for _ in range(3):
            self.make()
            self.write("More", "More words.", date="2026-11-12")
            self.publish()
            self.clock.forward(DAY // 2)
        self.clock.forward(40 * DAY)
        self.make()
        with self.opened() as place:
            gone = backups.remove_old(self.shop, place, None)
            self.assertEqual(len(place.copies()), 4 - len(gone))
            self.assertGreaterEqual(len(gone), 2)
            used = {
                place._sealing.name(one) for at in place.copies() for one in place._named_by(place.copy(at))
            }
            self.assertEqual(place.objects(), used)
        self.restore()

    def test_a_damaged_copy_keeps_no_other_from_going_and_takes_nothing_with_it(self) -> None:
        self.make()
        self.clock.forward(40 * DAY)
        self.make()
        (old, new) = sorted((self.there / "copies").iterdir())
        new.write_bytes(new.read_bytes()[:-1] + b"x")
        with self.opened() as place:
            before = place.objects()
            place.remove_copies([NOW])
            self.assertEqual(place.objects(), before)
        self.assertFalse(old.exists())

    def test_the_newest_good_copy_stays_until_there_is_a_newer_one(self) -> None:
        self.make()
        self.clock.forward(600)
        self.make()
        with self.opened() as place:
            self.assertEqual(backups.remove_old(self.shop, place, NOW), [])
            self.assertEqual(backups.remove_old(self.shop, place, NOW + 600), [NOW])

    def test_letters_on_their_way_are_not_sent_again(self) -> None:
        self.shop.db.run(
            "INSERT INTO target (blog_id, address, made_at, edition) VALUES (?, 'folder:/x', 0, 3)",
            self.blog.id,
        )
        self.make()
        self.restore()
        shop = open_existing(self.back)
        self.addCleanup(shop.db.close)
        self.assertEqual(backups.after_restoring(shop), 0)
        self.assertEqual(shop.db.value("SELECT edition FROM target"), 0)


class PlaceTests(TeamCase):
    """Backups that the server makes by itself."""

    def setUp(self) -> None:
        super().setUp()
        self.there = self.folder / "there"
        self.shop.settings = replace(self.shop.settings, folders=(self.folder,))

    def add(self, key: str = "", **rhythm: object) -> tuple[store.BackupPlace, str]:
        return backup_places.add(
            self.shop, self.me, f"folder:{self.there}", Credentials(), key, Rhythm(**rhythm), "UTC"
        )

    def run_due(self) -> list[store.BackupCopy | None]:
        return [backup_places.run(self.shop, one, open_folder) for one in backup_places.due(self.shop)]

    def test_a_backup_is_made_at_its_time_and_checked(self) -> None:
        self.add(every=Every.HOUR, checks="each")
        (copy,) = self.run_due()
        self.assertTrue(copy.is_good)
        self.assertEqual(self.run_due(), [])
        self.clock.forward(HOUR)
        self.assertEqual(len(self.run_due()), 1)
        standing = backup_places.standing(self.shop)
        self.assertEqual((standing.good.at, standing.is_late), (NOW + HOUR, False))

    def test_a_copy_is_checked_as_often_as_the_rule_says(self) -> None:
        place, _ = self.add(every=Every.HOUR, checks="day")
        for _ in range(26):
            self.run_due()
            self.clock.forward(HOUR)
        checked = [one for one in store.copies(self.shop.db, place.id) if one.checked_at]
        self.assertEqual(len(checked), 2)

    def test_a_copy_that_cannot_be_read_back_counts_as_none_and_is_told(self) -> None:
        self.add(every=Every.HOUR, checks="each")
        self.run_due()
        for file in (self.there / "objects").rglob("*"):
            if file.is_file():
                file.write_bytes(file.read_bytes()[:-1] + b"x")
        self.clock.forward(HOUR)
        (copy,) = self.run_due()
        self.assertIn("damaged", copy.problem)
        standing = backup_places.standing(self.shop)
        self.assertEqual((standing.good.at, [one.at for one in standing.bad]), (NOW, [NOW + HOUR]))
        (want,) = [one for one in attention.wants(self.shop, self.me, self.blog) if one.what == "backup"]
        self.assertEqual((want.count, want.instant), (1, NOW))
        self.clock.forward(HOUR)
        (copy,) = self.run_due()  # what was damaged is sent again
        self.assertTrue(copy.is_good, copy.problem)
        self.assertEqual(backup_places.standing(self.shop).bad, ())

    def test_the_desk_tells_when_no_good_copy_was_made_for_long(self) -> None:
        self.add(every=Every.DAY)
        self.assertFalse(
            [one for one in attention.wants(self.shop, self.me, self.blog) if one.what == "backup"]
        )
        self.clock.forward(3 * DAY)
        self.assertTrue(
            [one for one in attention.wants(self.shop, self.me, self.blog) if one.what == "backup"]
        )

    def test_a_place_that_fails_is_tried_again_after_growing_pauses(self) -> None:
        place, _ = self.add()
        self.shop.settings = replace(self.shop.settings, folders=())
        for pause in (60, 120, 240):
            self.assertEqual(self.run_due(), [None])
            after = backup_places.place_of(self.shop, place.id)
            self.assertIn("MOBBET_FOLDERS", after.problem)
            self.assertEqual(after.next_try - self.clock(), pause)
            self.assertEqual(self.run_due(), [])
            self.clock.forward(pause)
        self.shop.settings = replace(self.shop.settings, folders=(self.folder,))
        self.assertEqual(len(self.run_due()), 1)
        self.assertEqual(backup_places.place_of(self.shop, place.id).problem, "")

    def test_a_key_is_told_once_and_kept_sealed(self) -> None:
        place, key = self.add("new")
        self.assertEqual(len(read_key(key)), 32)
        self.assertNotIn(key, place.key)
        self.assertNotIn(key, "\n".join(self.shop.db.connection.iterdump()))
        self.run_due()
        backup_places.remove(self.shop, self.me, place.id)
        self.assertEqual(self.add(key)[1], "")
        backup_places.remove(self.shop, self.me, store.every(self.shop.db)[0].id)
        with self.assertRaisesRegex(Refused, "another key"):
            self.add(written_key(KEY))

    def test_only_who_owns_every_blog_keeps_backups(self) -> None:
        for person in (self.editor, self.writer):
            with self.subTest(person.name), self.assertRaisesRegex(NotAllowed, "owns all of them"):
                backup_places.add(
                    self.shop, person, f"folder:{self.there}", Credentials(), "", Rhythm(), "UTC"
                )
        place, _ = self.add()
        with mock.patch.object(blog_store, "every", return_value=[self.blog, replace(self.blog, id=99)]):
            for act in (backup_places.ask_now, backup_places.remove):
                with self.assertRaisesRegex(NotAllowed, "owns all of them"):
                    act(self.shop, self.me, place.id)

    def test_places_that_cannot_be_are_refused(self) -> None:
        self.add()
        for address, error, message in (
            (f"folder:{self.there}", BadInput, "go to .* already"),
            ("folder:/srv/x", NotAllowed, "MOBBET_FOLDERS"),
            (f"folder:{self.folder / 'data' / 'x'}", NotAllowed, "lies in the data folder"),
            ("hello", BadInput, "is no place"),
        ):
            with self.subTest(address), self.assertRaisesRegex(error, message):
                backup_places.add(self.shop, self.me, address, Credentials(), "", Rhythm(), "UTC")
        for rhythm in (
            ("year", "3", "day"),
            ("day", "24", "day"),
            ("day", "x", "day"),
            ("day", "3", "never"),
        ):
            with self.subTest(rhythm), self.assertRaises(BadInput):
                backup_places.read_rhythm(*rhythm)


class CommandTests(BackupCase):
    def mobbet(self, *words: str) -> tuple[int, str]:
        said = io.StringIO()
        with redirect_stdout(said), redirect_stderr(said):
            status = main([str(word) for word in words])
        return status, said.getvalue()

    def test_the_commands_make_list_and_restore(self) -> None:
        data, place = self.shop.settings.data, f"folder:{self.there}"
        status, said = self.mobbet("backup", "--data", data, "--to", place, "--encrypt", "--check")
        self.assertEqual(status, 0, said)
        self.assertIn("is sound", said)
        key = self.folder / "key"
        key.write_text(said.splitlines()[2])
        status, said = self.mobbet("backup", "--data", data, "--to", place, "--list")
        self.assertEqual((status, said), (1, "mobbet: The backups there are encrypted; give their key.\n"))
        status, said = self.mobbet("backup", "--data", data, "--to", place, "--key-file", key, "--list")
        self.assertIn("2 posts", said)
        status, said = self.mobbet("restore", "--from", place, "--key-file", key, "--data", self.back)
        self.assertEqual(status, 0, said)
        self.assertIn("All is sound.", said)
        status, said = self.mobbet("restore", "--from", place, "--key-file", key, "--data", self.back)
        self.assertEqual(status, 1)
        self.assertIn("is not empty", said)

    def test_one_post_is_brought_back(self) -> None:
        data, place = self.shop.settings.data, f"folder:{self.there}"
        self.assertEqual(self.mobbet("backup", "--data", data, "--to", place)[0], 0)
        number = self.shop.db.value("SELECT id FROM post WHERE title = 'With a picture'")
        before = post_store.working(self.shop.db, number)
        base = post_store.by_id(self.shop.db, number).revision
        self.clock.forward(600)
        posts.save_text(
            self.shop,
            self.me,
            number,
            base=base,
            title="Spoilt",
            subtitle="",
            body={"type": "doc", "content": [{"type": "paragraph"}]},
        )
        words = ("restore", "--from", place, "--data", data, "--post")
        status, said = self.mobbet(*words, number)
        self.assertEqual(status, 0, said)
        self.assertIn("as its newest revision", said)
        after = post_store.working(self.shop.db, number)
        self.assertEqual((after.title, after.body), (before.title, before.body))
        self.assertIn("no post 999", self.mobbet(*words, 999)[1])

    def test_one_blog_comes_back_beside_the_one_that_is_there(self) -> None:
        data, place = self.shop.settings.data, f"folder:{self.there}"
        self.assertEqual(self.mobbet("backup", "--data", data, "--to", place)[0], 0)
        words = ("restore", "--from", place, "--data", data, "--blog", "bench")
        self.assertIn("has posts already", self.mobbet(*words)[1])
        status, said = self.mobbet(*words, "--as", "bench-again")
        self.assertEqual(status, 0, said)
        titles = "SELECT title FROM post JOIN blog ON blog.id = blog_id WHERE blog.slug = ? ORDER BY post.id"
        self.assertEqual(self.shop.db.column(titles, "bench-again"), self.shop.db.column(titles, "bench"))

    def test_a_post_that_is_gone_comes_back_with_its_picture_and_filing(self) -> None:
        data, place = self.shop.settings.data, f"folder:{self.there}"
        self.assertEqual(self.mobbet("backup", "--data", data, "--to", place)[0], 0)
        number = self.shop.db.value("SELECT id FROM post WHERE title = 'With a picture'")
        self.write("A newer one")  # the newest is never removed
        placing.withdraw(self.shop, self.me, number)
        placing.set_aside(self.shop, self.me, number)
        self.clock.forward(60 * DAY)
        aside.remove_aged(self.shop)
        for table in ("post_media", "placement_media", "copy", "job", "media"):
            self.shop.db.run(f"DELETE FROM {table}")
        status, said = self.mobbet("restore", "--from", place, "--data", data, "--post", number)
        self.assertEqual(status, 0, said)
        self.assertIn("is a draft now", said)
        back = self.shop.db.value("SELECT MAX(id) FROM post WHERE title = 'With a picture'")
        item = self.shop.db.value("SELECT MAX(id) FROM media")
        self.assertIn(f'"media:{item}"', post_store.working(self.shop.db, back).body)

    def test_what_cannot_be_is_told_in_one_line(self) -> None:
        data = self.shop.settings.data
        for words, told in (
            (["backup", "--data", data], "Say where the backups lie"),
            (["backup", "--data", data, "--to", "x"], "is no place"),
            (["restore", "--data", self.back, "--from", f"folder:{self.there}"], "There is no copy"),
            (["restore", "--data", self.back, "--from", f"folder:{self.there}", "--at", "soon"], "soon"),
        ):
            with self.subTest(told):
                status, said = self.mobbet(*words)
                self.assertEqual((status, said.count("\n")), (1, 1))
                self.assertIn(told, said)
        self.assertEqual(self.mobbet("backup", "--data", data, "--due"), (0, "No backup is due.\n"))


if __name__ == "__main__":
    unittest.main()
