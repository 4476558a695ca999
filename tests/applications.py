"""The application with its routes, which take seconds to build: once for all tests of a process."""

from __future__ import annotations

from functools import cache
from typing import cast

from fastapi import FastAPI

from mobbet.actions.workshop import Workshop
from mobbet.web.shell.app import application


@cache
def _routes() -> FastAPI:
    return application(cast(Workshop, None))


def application_of(workshop: Workshop) -> FastAPI:
    """The application of a workshop, until it is asked for another one."""
    app = _routes()
    app.state.workshop = workshop
    return app
