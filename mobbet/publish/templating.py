"""The templates of the public site."""

from __future__ import annotations

from functools import lru_cache
from pathlib import Path
from typing import TYPE_CHECKING, Any
from urllib.parse import urlencode

import orjson
from markupsafe import Markup

from mobbet.core import comments, geo, qr_codes, sharing
from mobbet.core.document import outline
from mobbet.core.headings import shown_parts
from mobbet.core.media.licences import LICENCE
from mobbet.core.numbers import MOST_COUNTED, counted, counted_to
from mobbet.core.permalinks import short_path
from mobbet.core.read_counts import END_PATH, READ_PATH
from mobbet.core.timing import iso, month_name
from mobbet.core.web_addresses import split_address
from mobbet.publish import design, look_style

if TYPE_CHECKING:
    from jinja2 import Environment, Template

TEMPLATES = Path(__file__).parent / "templates"
HELPERS: dict[str, Any] = {
    "asset": design.path_of,
    "preloaded": look_style.preloaded,
    "month": month_name,
    "iso": iso,
    "counted": lambda count: counted(count, "post"),
    "counted_to": lambda count: counted_to(count, "post"),
    "mail_to": sharing.mail_to,
    "qr_code": lambda address, title: Markup(qr_codes.drawn(address, title)),
    "share_filled": sharing.filled,
    "shares_by_script": lambda ways: not sharing.OF_SCRIPT.isdisjoint(ways),
    "query_of": lambda values: urlencode({name: value for name, value in values.items() if value}),
    "most_counted": MOST_COUNTED,
    "shown_parts": shown_parts,
    "short_path": short_path,
    "end_path": END_PATH,
    "read_path": READ_PATH,
    "reading_time": outline.reading_time,
    "place_of": geo.read_kept,
    "wave": lambda item: next(iter(item.of("wave")), None),
    "licence": LICENCE.get,
    "host_of": lambda address: split_address(address).hostname or "",
    "said": lambda comment: Markup(comments.html_of(comment.text)),
}
"""What every template can call."""


def written(name: str, values: dict[str, Any]) -> str:
    """A template, with the helpers and these values."""
    return _template(name).render({**HELPERS, **values})


@lru_cache(maxsize=32)
def _template(name: str) -> Template:
    """A template by its name; asking the environment each time takes as long as a small page."""
    return _environment().get_template(f"{name}.html")


@lru_cache(maxsize=1)
def _environment() -> Environment:
    """Without globals: Jinja copies those for each page, one by one. Imported here, since commands that only read render nothing."""
    from jinja2 import Environment, FileSystemLoader, StrictUndefined

    from mobbet.publish.bytecode import BesideTemplates

    environment = Environment(
        loader=FileSystemLoader(TEMPLATES),
        bytecode_cache=BesideTemplates(TEMPLATES),
        autoescape=True,
        undefined=StrictUndefined,
        trim_blocks=True,
        lstrip_blocks=True,
        auto_reload=False,
    )
    environment.globals.clear()
    environment.policies["json.dumps_function"] = lambda value, **_: orjson.dumps(
        value, option=orjson.OPT_SORT_KEYS
    ).decode()
    return environment
