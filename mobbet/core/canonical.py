"""One spelling of a value, so that equal facts always have equal fingerprints."""

from __future__ import annotations

import hashlib
import json
from dataclasses import asdict, is_dataclass
from typing import Any

import orjson


def canonical(value: Any) -> str:
    """JSON with sorted keys and no spaces; tuples become arrays, dataclasses objects."""
    return json.dumps(value, sort_keys=True, separators=(",", ":"), ensure_ascii=False, default=_plain)


def _plain(value: Any) -> Any:
    """A frozen dataclass as data, as orjson writes it too."""
    if not is_dataclass(value) or isinstance(value, type):
        raise TypeError(f"{type(value).__name__} is no value that can be spelled.")
    return asdict(value)


def digest(value: Any) -> str:
    """SHA-256 of one spelling of a value, in hexadecimal (64 characters); that of orjson, and the canonical one of what it does not write."""
    try:
        spelt = orjson.dumps(value, option=orjson.OPT_SORT_KEYS)
    except TypeError:
        spelt = canonical(value).encode("utf-8", "surrogatepass")
    return hashlib.sha256(spelt).hexdigest()
