"""One spelling of a value, so that equal facts always have equal fingerprints."""

from __future__ import annotations

import hashlib
import json
from typing import Any


def canonical(value: Any) -> str:
    """JSON with sorted keys and no spaces; tuples become arrays."""
    return json.dumps(value, sort_keys=True, separators=(",", ":"), ensure_ascii=False)


def digest(value: Any) -> str:
    """SHA-256 of the canonical spelling, in hexadecimal (64 characters)."""
    return hashlib.sha256(canonical(value).encode("utf-8", "surrogatepass")).hexdigest()
