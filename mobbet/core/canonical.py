"""One spelling of a value, so that equal facts always have equal fingerprints."""

from __future__ import annotations

import hashlib
import json
from typing import Any

import orjson


def canonical(value: Any) -> str:
    """JSON with sorted keys and no spaces; tuples become arrays."""
    return json.dumps(value, sort_keys=True, separators=(",", ":"), ensure_ascii=False)


def digest(value: Any) -> str:
    """SHA-256 of one spelling of a value, in hexadecimal (64 characters); that of orjson, and the canonical one of what it does not write."""
    try:
        spelt = orjson.dumps(value, option=orjson.OPT_SORT_KEYS)
    except TypeError:
        spelt = canonical(value).encode("utf-8", "surrogatepass")
    return hashlib.sha256(spelt).hexdigest()
