"""The committed bundle is the one its sources make."""

import hashlib
import unittest
from pathlib import Path

ROOT = Path(__file__).parent.parent
EDITOR = ROOT / "editor"
STATIC = ROOT / "mobbet" / "web" / "shell" / "static"


def sources_digest() -> str:
    """As editor/build.mjs computes it: the name and bytes of every source, in order."""
    names = [path.relative_to(EDITOR).as_posix() for path in (EDITOR / "src").rglob("*.js")] + [
        "../mobbet/web/shell/static/uploading.js",
        "build.mjs",
        "bulma.scss",
        "package.json",
        "package-lock.json",
    ]
    digest = hashlib.sha256()
    for name in sorted(names):
        digest.update(f"{name}\n".encode())
        digest.update((EDITOR / name).read_bytes())
    return digest.hexdigest()


class BundleTests(unittest.TestCase):
    def test_the_bundle_matches_its_sources(self) -> None:
        for name in ("editor.js", "bulma.css"):
            with self.subTest(name):
                first_line = (STATIC / name).read_text().split("*/")[0]
                self.assertIn(sources_digest(), first_line, "run make editor and commit what it writes")
