import re
import sys
import unittest
from dataclasses import fields
from pathlib import Path

from jinja2 import meta

from mobbet.web.shell.address import Address
from mobbet.web.shell.rendering import environment
from mobbet.web.shell.screens import addresses, folders, page_contexts

ROOT = Path(__file__).parents[3]
TEMPLATES = {path.name: path for folder in folders("templates") for path in folder.glob("*.html")}


def names_in(template: str) -> set[str]:
    """The variables that a template, and the one it extends, ask for."""
    source = TEMPLATES[template].read_text()
    tree = environment().parse(source)
    imported = re.findall(r"import (\w+(?:, \w+)*)", source)
    found = meta.find_undeclared_variables(tree) - {name for names in imported for name in names.split(", ")}
    return found | (names_in("layout.html") if '"layout.html"' in source else set())


def names_of_parts(template: str) -> set[str]:
    """The variables that the templates it includes ask for; those may also come from a loop around them."""
    parts = re.findall(r'{% include "([\w.]+)"', TEMPLATES[template].read_text())
    return {name for part in parts for name in names_in(part)}


class ContextTests(unittest.TestCase):
    def test_each_template_asks_for_what_its_context_has(self) -> None:
        for context in page_contexts():
            with self.subTest(context.TEMPLATE):
                given = {field.name for field in fields(context)} | {"to"}
                asked = names_in(context.TEMPLATE)
                self.assertEqual(asked - given, set())
                nested = {
                    field.name
                    for field in fields(context)
                    if hasattr(sys.modules[context.__module__], field.type)
                }
                self.assertEqual(given - asked - names_of_parts(context.TEMPLATE) - nested - {"to"}, set())

    def test_no_template_has_a_style_or_script_inside(self) -> None:
        for path in TEMPLATES.values():
            with self.subTest(path.name):
                text = path.read_text()
                self.assertNotRegex(
                    text,
                    r"<style|\sstyle=|\son[a-z]+=|javascript:|<script(?![^>]*(src=|application/(ld\+)?json))",
                )

    def test_templates_and_scripts_write_no_address_themselves(self) -> None:
        stems = sorted(
            {
                re.escape(address.stem)
                for address in vars(addresses()).values()
                if isinstance(address, Address) and len(address.stem) > 1
            }
        )
        written = re.compile(rf"""["'`](?:{"|".join(stems)})(?=[\w$"'`{{/?])""")
        scripts = [
            path
            for folder in folders("static")
            for path in folder.glob("*.js")
            if path.name not in ("editor.js", "htmx.js")
        ]
        for path in (*TEMPLATES.values(), *scripts, *(ROOT / "editor" / "src").rglob("*.js")):
            with self.subTest(path.name):
                self.assertIsNone(written.search(path.read_text()))
                self.assertNotRegex(path.read_text(), r'(href|action|hx-\w+)="/')
