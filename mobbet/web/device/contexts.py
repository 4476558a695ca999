"""The page of what is on a device."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, ClassVar

from mobbet.web.shell.contexts import Bar, Choice


@dataclass(frozen=True)
class DevicePage:
    """`room` is what the writing surface and the sending must know, for every blog of the person."""

    TEMPLATE: ClassVar = "device.html"
    bar: Bar
    room: dict[str, Any]
    readers: dict[str, str]
    """{visibility that needs nothing else: its words}."""
    limits: str
    licences: list[Choice]
    notices: dict[str, str]
    """{kind of notice that a device may be told of: its words}."""
    letters: dict[str, str]
    """{blog: the address of the letters of its look}, of those that do not have the usual ones."""
