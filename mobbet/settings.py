"""Settings of one running Mobbet. Each has an environment variable; README lists them."""

from __future__ import annotations

import os
from dataclasses import dataclass
from pathlib import Path


@dataclass(frozen=True)
class Settings:
    """`data` is the data folder. `demo` shows the demo's account on the sign-in page."""

    data: Path
    demo: bool = False
    secure_cookies: bool = False
    session_days: int = 30


def from_environment(data: Path, demo: bool = False) -> Settings:
    """MOBBET_SECURE_COOKIES=1 for a server behind https; MOBBET_SESSION_DAYS for how long a sign-in lasts."""
    return Settings(
        data=data,
        demo=demo,
        secure_cookies=os.environ.get("MOBBET_SECURE_COOKIES", "") == "1",
        session_days=int(os.environ.get("MOBBET_SESSION_DAYS", "30")),
    )
