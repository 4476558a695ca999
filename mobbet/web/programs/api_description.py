"""The OpenAPI description of Mobbet's own JSON over HTTP, made from its routes."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter
from fastapi.openapi.utils import get_openapi

from mobbet import __version__
from mobbet.core.programs import SCOPES


def open_api(router: APIRouter, server: str) -> dict[str, Any]:
    """The description (OpenAPI 3.1), with paths below a server's address."""
    found = get_openapi(
        title="Mobbet", version=__version__, routes=[one for one in router.routes if getattr(one, "include_in_schema", False)],
        description="Posts, files, filing, footprints and the timetable of one blog. A token is made at Your account, Programs; what it may do are its scopes: "
        + "; ".join(f"`{scope}`: {words}" for scope, words in SCOPES.items()) + ".",
        servers=[{"url": server}],
    )  # fmt: skip
    prefix = "/~/{slug}"
    found["paths"] = {
        path.removeprefix(prefix): _without_slug(methods) for path, methods in found["paths"].items()
    }
    found["components"]["securitySchemes"] = {"token": {"type": "http", "scheme": "bearer"}}
    found["security"] = [{"token": []}]
    return found


def _without_slug(methods: dict[str, Any]) -> dict[str, Any]:
    for method in methods.values():
        method["parameters"] = [one for one in method.get("parameters", []) if one["name"] != "slug"]
        method["responses"].pop("422", None)
    return methods
