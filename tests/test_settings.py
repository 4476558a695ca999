import unittest
from pathlib import Path
from unittest import mock

from mobbet.core.errors import BadInput
from mobbet.settings import from_environment


class SettingsTests(unittest.TestCase):
    def read(self, **environment: str):
        with mock.patch.dict("os.environ", environment):
            return from_environment(Path("data"))

    def test_settings_come_from_the_environment(self) -> None:
        settings = self.read(MOBBET_SECURE_COOKIES="1", MOBBET_SESSION_DAYS="7")
        self.assertEqual(
            (settings.secure_cookies, settings.session_days, settings.demo_account), (True, 7, None)
        )

    def test_a_wrong_setting_is_named(self) -> None:
        for value in ("soon", "0", "-1", "9999"):
            with self.subTest(value), self.assertRaisesRegex(BadInput, f"MOBBET_SESSION_DAYS is “{value}”"):
                self.read(MOBBET_SESSION_DAYS=value)

    def test_limits_and_services_are_settings(self) -> None:
        settings = self.read(
            MOBBET_PICTURE_MEGABYTES="8",
            MOBBET_MEGAPIXELS="12",
            MOBBET_AVIF="1",
            MOBBET_COLLECTION="https://a.example/?q={searchTerms}",
            MOBBET_VIDEO_HOSTS="off",
        )
        self.assertEqual(
            (settings.limits.picture_megabytes, settings.limits.megapixels, settings.limits.file_megabytes),
            (8, 12, 500),
        )
        self.assertEqual(
            (settings.with_avif, settings.collection, settings.asks_video_hosts),
            (True, "https://a.example/?q={searchTerms}", False),
        )

    def test_a_wrong_limit_or_collection_is_named(self) -> None:
        for name, value, message in (
            ("MOBBET_MEGAPIXELS", "many", "MOBBET_MEGAPIXELS is “many”; set it to a number of megapixels"),
            ("MOBBET_COLLECTION", "https://a.example/", "with {searchTerms} in it"),
            ("MOBBET_VIDEO_HOSTS", "1", "set it to on or off"),
        ):
            with self.subTest(name), self.assertRaisesRegex(BadInput, message):
                self.read(**{name: value})
