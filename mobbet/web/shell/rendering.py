"""Turns a typed page context into HTML with the application's templates."""

from __future__ import annotations

from dataclasses import fields
from functools import lru_cache
from pathlib import Path
from typing import Any

from jinja2 import Environment, FileSystemLoader, StrictUndefined
from starlette.responses import HTMLResponse, Response

from mobbet.actions.moments import Answer
from mobbet.publish.bytecode import BesideTemplates
from mobbet.web.shell.screens import addresses, folders
from mobbet.web.shell.security import shown_headers


@lru_cache(maxsize=1)
def environment() -> Environment:
    made = Environment(
        loader=FileSystemLoader(folders("templates")), bytecode_cache=BesideTemplates(Path(__file__).parent / "templates"), autoescape=True, undefined=StrictUndefined,
        trim_blocks=True, lstrip_blocks=True, auto_reload=False,
    )  # fmt: skip
    made.globals["to"] = addresses()
    made.filters["html_of"] = html_of
    return made


def read_all() -> None:
    """Compiles every template into the cache."""
    for name in environment().list_templates(extensions=["html"]):
        environment().get_template(name)


def html_of(context: Any) -> str:
    """The HTML of a context; its class names the template."""
    values = {field.name: getattr(context, field.name) for field in fields(context)}
    return environment().get_template(context.TEMPLATE).render(**values)


def looked_response(found: Answer) -> Response:
    """What stands at an address of the site at a moment, for a frame of the application."""
    headers = {
        name.decode(): value.decode()
        for name, value in shown_headers(found.type or "text/plain", found.is_download, page=found.body)
    }
    status = 200 if found.is_there else 404
    return Response(found.body, status, headers={**headers, "cache-control": "no-store"})


def page(context: Any, status: int = 200, headers: dict[str, str] | None = None) -> HTMLResponse:
    return HTMLResponse(html_of(context), status_code=status, headers=headers)
