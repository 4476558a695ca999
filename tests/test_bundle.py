"""The committed bundle is the one its sources make."""

import hashlib
import unittest
from pathlib import Path

ROOT = Path(__file__).parent.parent
EDITOR = ROOT / "editor"
STATIC = ROOT / "mobbet" / "web" / "shell" / "static"


SCRIPTS = [path.relative_to(EDITOR).as_posix() for path in (EDITOR / "src").rglob("*.js")]
SHIPPED = [*SCRIPTS, "../mobbet/web/shell/static/uploading.js"]
SOURCES = {"editor.js": SHIPPED, "shell.js": SHIPPED, "bulma.css": ["bulma.scss"]}
SHARED = ["build.mjs", "package.json", "package-lock.json"]


def sources_digest(sources: list[str]) -> str:
    """As editor/build.mjs computes it: the name and bytes of every source, in order."""
    digest = hashlib.sha256()
    for name in sorted(sources + SHARED):
        digest.update(f"{name}\n".encode())
        digest.update((EDITOR / name).read_bytes())
    return digest.hexdigest()


class BundleTests(unittest.TestCase):
    def test_the_bundle_matches_its_sources(self) -> None:
        for name, sources in SOURCES.items():
            with self.subTest(name):
                first_line = (STATIC / name).read_text().split("*/")[0]
                self.assertIn(
                    sources_digest(sources), first_line, "run make editor and commit what it writes"
                )
