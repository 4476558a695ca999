import tempfile
import unittest
from pathlib import Path
from unittest import mock

from jinja2 import Environment, FileSystemLoader

from mobbet.publish.bytecode import BesideTemplates


class BesideTemplatesTests(unittest.TestCase):
    def setUp(self) -> None:
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        (self.folder / "one.html").write_text("Hello {{ name }}")

    def environment(self) -> Environment:
        return Environment(
            loader=FileSystemLoader(self.folder), bytecode_cache=BesideTemplates(self.folder), autoescape=True
        )

    def test_a_second_process_does_not_compile(self) -> None:
        self.environment().get_template("one.html")
        second = self.environment()
        with mock.patch.object(second, "_generate") as generate:
            self.assertEqual(second.get_template("one.html").render(name="Ines"), "Hello Ines")
        generate.assert_not_called()

    def test_a_changed_template_is_compiled_anew(self) -> None:
        self.environment().get_template("one.html")
        (self.folder / "one.html").write_text("Good evening {{ name }}")
        self.assertEqual(self.environment().get_template("one.html").render(name="Ines"), "Good evening Ines")

    def test_a_folder_that_cannot_be_written_to_is_no_fault(self) -> None:
        (self.folder / "__pycache__").write_text("a file in the way")
        self.assertEqual(self.environment().get_template("one.html").render(name="Ines"), "Hello Ines")
