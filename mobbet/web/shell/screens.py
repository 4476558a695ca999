"""The screens: each is a folder of `web` with its routes, page contexts, templates, scripts and styles. A new one is a line here."""

from __future__ import annotations

from importlib import import_module
from inspect import isfunction
from pathlib import Path
from types import SimpleNamespace

from fastapi import APIRouter

from mobbet.web.shell.address import Address

WEB = Path(__file__).parent.parent
SCREENS = (
    "shell",
    "desk",
    "write",
    "library",
    "preview",
    "filing",
    "readers",
    "timetable",
    "site",
    "proof",
    "copies",
    "device",
    "public",
    "programs",
)


def routers() -> list[APIRouter]:
    """The routers of the screens, from their modules whose names end in `routes`."""
    return [import_module(module).router for module in _modules("routes")]


def folders(kind: str) -> list[Path]:
    """Where the screens keep their `templates` or `static` files."""
    return [WEB / name / kind for name in SCREENS if (WEB / name / kind).is_dir()]


def addresses() -> SimpleNamespace:
    """The addresses of all screens by their names, as templates take them."""
    found: dict[str, object] = {}
    for module in _modules("addresses"):
        own = {
            name: value
            for name, value in vars(import_module(module)).items()
            if isinstance(value, Address) or isfunction(value)
        }
        if doubled := own.keys() & found.keys():
            raise RuntimeError(f"{module} has names that another screen has: {', '.join(sorted(doubled))}")
        found |= own
    return SimpleNamespace(**found)


def page_contexts() -> list[type]:
    """The class of every page and part that a template shows, from the modules of the screens whose names end in `contexts`."""
    found = (one for module in _modules("contexts") for one in vars(import_module(module)).values())
    return list(dict.fromkeys(one for one in found if isinstance(one, type) and hasattr(one, "TEMPLATE")))


def _modules(ending: str) -> list[str]:
    return [
        f"mobbet.web.{name}.{path.stem}"
        for name in SCREENS
        for path in sorted((WEB / name).glob(f"*{ending}.py"))
    ]
