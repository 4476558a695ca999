"""Settings of one running Mobbet. Each has an environment variable; README lists them."""

from __future__ import annotations

import os
from dataclasses import dataclass
from pathlib import Path

from mobbet.core.errors import BadInput


@dataclass(frozen=True)
class Settings:
    """`data` is the data folder. The sign-in page shows `demo_account` (e-mail, password) where there is one."""

    data: Path
    demo_account: tuple[str, str] | None = None
    secure_cookies: bool = False
    session_days: int = 30


def from_environment(data: Path, demo_account: tuple[str, str] | None = None) -> Settings:
    """MOBBET_SECURE_COOKIES=1 for a server behind https; MOBBET_SESSION_DAYS for how long a sign-in lasts."""
    return Settings(
        data=data,
        demo_account=demo_account,
        secure_cookies=os.environ.get("MOBBET_SECURE_COOKIES", "") == "1",
        session_days=_days(os.environ.get("MOBBET_SESSION_DAYS", "30")),
    )


def _days(text: str) -> int:
    if not text.isdigit() or not 1 <= int(text) <= 3650:
        raise BadInput(f"MOBBET_SESSION_DAYS is “{text}”; set it to a number of days from 1 to 3650.", "MOBBET_SESSION_DAYS")
    return int(text)
