import re
import unittest
from pathlib import Path
from unittest import mock

import brotli

from mobbet.web.shell import static_files
from mobbet.web.shell.static_files import JOINED, compressed_file, file_named, tints

WEB = Path(static_files.__file__).parents[1]
OF_BULMA = (
    "button",
    "is-primary",
    "is-small",
    "is-fullwidth",
    "input",
    "textarea",
    "select",
    "field",
    "control",
    "label",
    "help",
    "checkbox",
)


class StaticFileTests(unittest.TestCase):
    def test_the_address_of_a_file_covers_what_it_loads(self) -> None:
        before = compressed_file("editor.js").digest
        chunk = re.search(r'from"\./(editor-[\w-]+\.js)"', file_named("editor.js")[0].decode())[1]
        changed = {chunk: b"changed"}
        with mock.patch.object(
            static_files, "file_named", lambda name: (changed.get(name) or file_named(name)[0], "")
        ):
            self.assertNotEqual(static_files._digest_of("editor.js"), before)

    def test_what_is_packed_says_the_same(self) -> None:
        for name in ("editor.js", *JOINED):
            with self.subTest(name):
                file = compressed_file(name)
                self.assertEqual(brotli.decompress(file.encodings[b"br"]), file.body)

    def test_styles_that_go_together_are_one_file(self) -> None:
        self.assertEqual(
            file_named("shell.css")[0], file_named("bulma.css")[0] + b"\n" + file_named("mobbet.css")[0]
        )

    def test_the_trimmed_sheet_has_every_class_of_bulmas_that_screens_name(self) -> None:
        screens = " ".join(path.read_text() for path in WEB.rglob("templates/*.html"))
        sheet = file_named("bulma.css")[0].decode()
        for name in OF_BULMA:
            with self.subTest(name):
                self.assertEqual(f".{name}" in sheet, bool(re.search(rf'class="[^"]*\b{name}\b', screens)))

    def test_every_tint_has_a_light_and_a_dark_value(self) -> None:
        self.assertEqual(
            len(re.findall(r"--(?:tint|marker)-\w+: light-dark\(#\w{6}, #\w{6}\);", tints())), 12
        )

    def test_colours_of_screens_are_tokens(self) -> None:
        for path in sorted(WEB.rglob("static/*.css")):
            if path.name in ("bulma.css", "mobbet.css", "stand-in.css"):
                continue
            with self.subTest(path.name):
                self.assertEqual(re.findall(r"(?<![-\w])(?:color|background): #fff\b", path.read_text()), [])
