"""The interface of a service that runs beside the application."""

from __future__ import annotations

from typing import Protocol


class Service(Protocol):
    """Something that runs beside the app."""

    def start(self) -> None: ...
    def stop(self) -> None: ...
