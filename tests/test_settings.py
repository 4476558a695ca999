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
        self.assertEqual((settings.secure_cookies, settings.session_days, settings.demo_account), (True, 7, None))

    def test_a_wrong_setting_is_named(self) -> None:
        for value in ("soon", "0", "-1", "9999"):
            with self.subTest(value), self.assertRaisesRegex(BadInput, f"MOBBET_SESSION_DAYS is “{value}”"):
                self.read(MOBBET_SESSION_DAYS=value)
