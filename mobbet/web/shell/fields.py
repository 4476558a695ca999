"""The fields of forms: how long each may be, and the one way to read a form whose fields have no fixed names."""

from __future__ import annotations

from typing import Annotated

from fastapi import Depends, Form, Request
from starlette.datastructures import FormData

from mobbet.core.errors import TooMuch
from mobbet.web.shell.limits import FIELD, FIELDS, LONG_FIELD

Text = Annotated[str, Form(max_length=FIELD)]
"""A line, or a few."""
LongText = Annotated[str, Form(max_length=LONG_FIELD)]
"""A whole text."""
Texts = Annotated[list[Annotated[str, Form(max_length=FIELD)]], Form(max_length=FIELDS)]
Numbers = Annotated[list[int], Form(max_length=FIELDS)]


async def form_with_files(request: Request, most_files: int) -> FormData:
    """A form with fields of any names, and files. Raises TooMuch where one is too long, or there are too many."""
    form = await request.form(max_fields=FIELDS, max_files=most_files, max_part_size=LONG_FIELD)
    for name, value in form.multi_items():
        if len(name) > 200 or (isinstance(value, str) and len(value) > LONG_FIELD):
            raise TooMuch(f"The field “{name[:40]}” has more than {LONG_FIELD:,} letters; shorten it.")
    return form


async def form_of(request: Request) -> FormData:
    """As `form_with_files`, with one file at most."""
    return await form_with_files(request, 1)


AnyForm = Annotated[FormData, Depends(form_of)]
