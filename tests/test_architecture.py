"""Tests about the code itself."""

from __future__ import annotations

import ast
import re
import unittest
from collections import Counter
from pathlib import Path

ROOT = Path(__file__).parent.parent
PACKAGE = ROOT / "mobbet"
LAYERS = ("core", "store", "media", "services", "publish", "actions", "web", "demo")
"""From the lowest up: a layer imports itself and what stands before it. `settings` is below `actions`."""
OUTSIDE = {"core": {"fastapi", "starlette", "jinja2", "sqlite3", "PIL", "httpx", "uvicorn", "argon2"}}
TOP = {"wiring", "cli", "commands", "commands_writing", "commands_library", "worker", "bench", "bench_library", "__main__"}


def modules() -> list[Path]:
    return sorted(PACKAGE.rglob("*.py"))


def imports(path: Path) -> set[str]:
    found = set()
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.Import):
            found |= {alias.name for alias in node.names}
        elif isinstance(node, ast.ImportFrom) and node.module:
            found.add(node.module)
            found |= {f"{node.module}.{alias.name}" for alias in node.names}
    return found


def layer_of(path: Path) -> str:
    return path.relative_to(PACKAGE).parts[0].removesuffix(".py")


class LayerTests(unittest.TestCase):
    def test_imports_point_down_only(self) -> None:
        for path in modules():
            layer = layer_of(path)
            if layer not in LAYERS:
                continue
            above = set(LAYERS[LAYERS.index(layer) + 1 :]) | (TOP if layer != "demo" else TOP - {"wiring"})
            with self.subTest(str(path.relative_to(ROOT))):
                used = {name.split(".")[1] for name in imports(path) if name.startswith("mobbet.") and name.count(".")}
                self.assertEqual(used & above, set())
                self.assertEqual({name.split(".")[0] for name in imports(path)} & OUTSIDE.get(layer, set()), set())

    def test_sqlite3_and_sql_stand_only_in_store(self) -> None:
        sql = re.compile(r"\b(SELECT\s.+\sFROM|INSERT INTO|UPDATE \w+ SET|DELETE FROM)\b")
        for path in modules():
            if layer_of(path) != "store":
                with self.subTest(str(path.relative_to(ROOT))):
                    self.assertNotIn("sqlite3", imports(path))
                    self.assertIsNone(sql.search(path.read_text()))

    def test_the_time_is_asked_for_only_in_wiring(self) -> None:
        clock = re.compile(r"datetime\.now|time\.time\(|utcnow|date\.today")
        for path in modules():
            if layer_of(path) not in ("wiring", "bench"):
                with self.subTest(str(path.relative_to(ROOT))):
                    self.assertIsNone(clock.search(path.read_text()))

    def test_the_demo_is_made_only_through_actions(self) -> None:
        for path in (PACKAGE / "demo").glob("*.py"):
            writes = {name for name in imports(path) if name.startswith("mobbet.store.") and not name.startswith(("mobbet.store.blogs", "mobbet.store.people", "mobbet.store.posts", "mobbet.store.media"))}
            self.assertEqual(writes, set(), path.name)


class CodeTests(unittest.TestCase):
    def test_every_module_and_public_function_in_the_core_says_what_it_is(self) -> None:
        for path in modules():
            tree = ast.parse(path.read_text())
            if path.name != "__init__.py":
                with self.subTest(str(path.relative_to(ROOT))):
                    self.assertTrue(ast.get_docstring(tree))

    def test_no_function_is_long(self) -> None:
        for path in modules():
            for node in ast.walk(ast.parse(path.read_text())):
                if isinstance(node, (ast.FunctionDef, ast.AsyncFunctionDef)):
                    self.assertLessEqual(node.end_lineno - node.lineno, 60, f"{path.name} {node.name}")

    def test_tests_are_collected_and_no_two_share_a_name(self) -> None:
        for path in (ROOT / "tests").rglob("test_*.py"):
            for node in ast.parse(path.read_text()).body:
                if isinstance(node, ast.ClassDef):
                    names = Counter(item.name for item in node.body if isinstance(item, ast.FunctionDef))
                    self.assertEqual([name for name, count in names.items() if count > 1], [], f"{path.name} {node.name}")
                    if node.name.endswith("Tests"):
                        self.assertTrue(node.bases, f"{path.name} {node.name}")

    def test_every_command_and_setting_is_documented(self) -> None:
        from mobbet.cli import parser

        readme = (ROOT / "README.md").read_text()
        for command in parser()._subparsers._group_actions[0].choices:
            self.assertIn(f"mobbet {command}", readme)
        for setting in re.findall(r"MOBBET_\w+", (PACKAGE / "settings.py").read_text()):
            self.assertIn(setting, readme)

    def test_what_ships_is_licensed(self) -> None:
        told = (ROOT / "THIRD-PARTY.md").read_text()
        for name in ("Bulma", "htmx", "Tiptap", "ProseMirror", "Literata", "Atkinson Hyperlegible Next", "linkifyjs"):
            self.assertIn(name, told)

    def test_the_lock_names_every_dependency_with_its_hash(self) -> None:
        for name in ("requirements.lock", "requirements-test.lock"):
            text = (ROOT / name).read_text()
            for package in ("fastapi", "pydantic", "pillow", "selectolax"):
                self.assertRegex(text, rf"(?m)^{package}==\S+ \\\n    --hash=sha256:")

    def test_the_public_style_sheet_is_small(self) -> None:
        from mobbet.publish.design import ASSETS

        style = next(asset for asset in ASSETS if asset.name == "site.css")
        self.assertLess(len(style.body), 20_000)
