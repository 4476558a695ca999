"""Writes docs/export.schema.json, the JSON Schema of an export: `python -m tools.export_schema`."""

from __future__ import annotations

import json
from pathlib import Path

from mobbet.core.exporting.json_schema import json_schema

FILE = Path(__file__).parent.parent / "docs" / "export.schema.json"


def text() -> str:
    return json.dumps(json_schema(), indent=1, ensure_ascii=False) + "\n"


if __name__ == "__main__":
    FILE.write_text(text())
