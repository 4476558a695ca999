"""Settings of one running Mobbet. Each has an environment variable; README lists them."""

from __future__ import annotations

import os
from dataclasses import dataclass
from pathlib import Path

from mobbet.core.errors import BadInput
from mobbet.core.media.kinds import Limits
from mobbet.services.mail import read_server


@dataclass(frozen=True)
class Settings:
    """`data` is the data folder. The sign-in page shows `demo_account` (e-mail, password) where there is one."""

    data: Path
    demo_account: tuple[str, str] | None = None
    secure_cookies: bool = False
    session_days: int = 30
    limits: Limits = Limits()
    with_avif: bool = False
    collection: str = ""
    asks_providers: bool = False
    mail: str = ""
    mail_from: str = ""
    links: str = "off"


def from_environment(data: Path, demo_account: tuple[str, str] | None = None) -> Settings:
    """Reads the MOBBET_… variables. Raises BadInput for a value that cannot be.

    MOBBET_SECURE_COOKIES=1 for a server behind https; MOBBET_SESSION_DAYS for how long a sign-in lasts;
    MOBBET_PICTURE_MEGABYTES, MOBBET_MEGAPIXELS and MOBBET_FILE_MEGABYTES for how large files may be;
    MOBBET_AVIF=1 for copies of pictures in AVIF too; MOBBET_COLLECTION for the OpenSearch address of a collection of
    pictures in the place of the made-up one; MOBBET_PROVIDERS=1 to ask the providers of videos over the network;
    MOBBET_LINKS=on to try the links out of posts over the network, off to leave them, auto (as it comes) where there is a way out;
    MOBBET_MAIL for the mail server that takes letters to readers, and MOBBET_MAIL_FROM for the address they come from.
    """
    return Settings(
        data=data,
        demo_account=demo_account,
        secure_cookies=os.environ.get("MOBBET_SECURE_COOKIES", "") == "1",
        session_days=_whole("MOBBET_SESSION_DAYS", 30, 3650, "days"),
        limits=Limits(
            _whole("MOBBET_PICTURE_MEGABYTES", 50, 1000, "megabytes"),
            _whole("MOBBET_MEGAPIXELS", 50, 500, "megapixels"),
            _whole("MOBBET_FILE_MEGABYTES", 500, 100_000, "megabytes"),
        ),
        with_avif=os.environ.get("MOBBET_AVIF", "") == "1",
        collection=_collection(os.environ.get("MOBBET_COLLECTION", "")),
        asks_providers=os.environ.get("MOBBET_PROVIDERS", "") == "1",
        mail=read_server(os.environ.get("MOBBET_MAIL", "")),
        mail_from=os.environ.get("MOBBET_MAIL_FROM", ""),
        links=_links(os.environ.get("MOBBET_LINKS", "off" if demo_account else "auto")),
    )


def _whole(name: str, usual: int, most: int, unit: str) -> int:
    text = os.environ.get(name, str(usual))
    if not text.isdecimal() or not 1 <= int(text) <= most:
        raise BadInput(f"{name} is “{text}”; set it to a number of {unit} from 1 to {most}.", name)
    return int(text)


def _links(text: str) -> str:
    if text not in ("auto", "on", "off"):
        raise BadInput(f"MOBBET_LINKS is “{text}”; set it to auto, on or off.", "MOBBET_LINKS")
    return text


def _collection(text: str) -> str:
    if text and not (text.startswith(("https://", "http://")) and "{searchTerms}" in text):
        raise BadInput(f"MOBBET_COLLECTION is “{text}”; set it to an address with {{searchTerms}} in it.", "MOBBET_COLLECTION")
    return text
