"""Characters that no document holds."""

from __future__ import annotations

import re

UNPRINTABLE = re.compile(r"[\x00-\x08\x0b\x0c\x0e-\x1f\ud800-\udfff\ufffe\uffff]")
"""What XML forbids: controls but tab and line breaks, lone surrogates, and what is no character."""
