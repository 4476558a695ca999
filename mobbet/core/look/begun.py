"""The looks to begin from, each unlike the others in structure. They are files as `docs/look.md` describes them."""

from __future__ import annotations

import json
from functools import lru_cache
from pathlib import Path

from mobbet.core.errors import BadInput

FOLDER = Path(__file__).parent / "begun_files"
BEGUN = ("bench", "ferry", "noticeboard", "harbour", "lamplight", "ledger")
"""In the order in which they are offered: a notebook of words, a log of pictures, a club's notices, a magazine, a quiet night, a reference."""
FIRST = "bench"
"""The look of a blog for which none was chosen."""


@lru_cache(maxsize=16)
def begun_look(name: str) -> str:
    """One of these looks as JSON in one line; the first of them for an unknown name."""
    path = FOLDER / f"{name if name in BEGUN else FIRST}.json"
    return json.dumps(json.loads(path.read_text()), ensure_ascii=False, separators=(",", ":"))


def read_begun(name: str) -> str:
    """The name of one of these looks. Raises BadInput."""
    if name not in BEGUN:
        raise BadInput(f"There is no look “{name[:40]}”; choose one of {', '.join(BEGUN)}.", "look")
    return name
