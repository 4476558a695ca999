import unittest
from dataclasses import replace

from mobbet.actions import backup_places
from mobbet.store import backups as store
from mobbet.wiring import open_folder
from tests.web.test_web import WebCase

PAGE = "/desk/bench/site/backups"


class BackupScreenTests(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.there = self.folder / "there"
        self.shop.settings = replace(self.shop.settings, folders=(self.folder,))
        self.sign_in()

    def add(self, **fields: str):
        return self.post(
            PAGE,
            **{"address": f"folder:{self.there}", "every": "day", "hour": "3", "checks": "day", **fields},
        )

    def run_due(self) -> None:
        for place in backup_places.due(self.shop):
            backup_places.run(self.shop, place, open_folder)

    def test_a_place_is_added_with_a_key_that_is_shown_once(self) -> None:
        answer = self.add(encrypts="new")
        self.assertIn("The key of these backups, shown this once", answer.text)
        self.assertNotIn("shown this once", self.get(PAGE).text)
        self.assertIn("no good backup yet", self.get(PAGE).text)
        self.run_due()
        text = self.get(PAGE).text
        self.assertIn("The last good backup is of", text)
        self.assertIn("Getting it back took 1 s", text)
        self.assertIn("restored in 1 s, sound", text)

    def test_what_is_typed_stays_when_it_is_refused(self) -> None:
        answer = self.add(every="week", encrypts="key", key="AAAA")
        self.assertEqual(answer.status_code, 422)
        self.assertIn("no key of a backup", answer.text)
        self.assertIn(f'value="folder:{self.there}"', answer.text)
        self.assertIn('<option value="week" selected>', answer.text)
        self.assertIn("MOBBET_FOLDERS", self.add(address="folder:/srv/x").text)
        self.assertEqual(store.every(self.shop.db), [])

    def test_a_place_is_changed_asked_for_one_now_and_removed(self) -> None:
        self.add()
        self.run_due()
        number = store.every(self.shop.db)[0].id
        self.post(f"{PAGE}/{number}/rhythm", every="hour", hour="0", checks="each")
        self.assertIn("Made every hour, checked each time", self.get(PAGE).text)
        self.post(f"{PAGE}/{number}/now")
        self.assertIn("It is made within a minute", self.get(PAGE).text)
        self.assertEqual(self.post(f"{PAGE}/{number}/rhythm", every="never").status_code, 422)
        self.assertEqual(self.post(f"{PAGE}/{number}/frobnicate").status_code, 404)
        self.post(f"{PAGE}/{number}/remove")
        self.assertEqual(self.post(f"{PAGE}/{number}/now").status_code, 404)
        self.assertTrue((self.there / "copies").exists())

    def test_a_copy_that_cannot_be_read_back_is_told_on_the_desk(self) -> None:
        self.add(checks="each")
        for one in (0, 1):
            self.run_due()
            self.clock.forward(86400)
            for file in (self.there / "objects").rglob("*" if not one else "-"):
                if file.is_file():
                    file.write_bytes(b"x")
        self.assertIn("could not be restored, and counts as none", self.get(PAGE).text)
        self.assertIn(
            "A backup could not be read back; the last good one is of", self.get("/desk/bench").text
        )


if __name__ == "__main__":
    unittest.main()
