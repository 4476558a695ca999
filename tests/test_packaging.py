"""What the wheel holds: everything that the application reads when it runs, and the licences of what ships with it."""

import tomllib
import unittest
from pathlib import Path

ROOT = Path(__file__).parent.parent
PROJECT = tomllib.loads((ROOT / "pyproject.toml").read_text())


class WheelTests(unittest.TestCase):
    def test_every_file_of_the_package_is_packed(self) -> None:
        patterns = PROJECT["tool"]["setuptools"]["package-data"]["mobbet"]
        left = [
            path
            for path in (ROOT / "mobbet").rglob("*")
            if path.is_file()
            and "__pycache__" not in path.parts
            and path.suffix != ".py"
            and not any(path.match(pattern) for pattern in patterns)
        ]
        self.assertEqual(left, [])

    def test_the_licences_of_what_ships_with_it_are_packed(self) -> None:
        patterns = PROJECT["project"]["license-files"]
        packed = {path for pattern in patterns for path in ROOT.glob(pattern)}
        self.assertEqual({*(ROOT / "licences").iterdir(), ROOT / "THIRD-PARTY.md"} - packed, set())
