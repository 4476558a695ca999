"""Account: the language of dates, and the keys that one prefers."""

from __future__ import annotations

import json

from fastapi import APIRouter
from starlette.responses import Response

from mobbet.actions import preferences
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput
from mobbet.core.own_keys import COMMANDS
from mobbet.store.people import Person
from mobbet.web.shell import addresses as to_shell
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.contexts import KeyLine, OwnKeysPage
from mobbet.web.shell.fields import AnyForm, Text
from mobbet.web.shell.rendering import page
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.session import Here, Me

router = APIRouter()


@router.post(to_shell.account.at("dates"))
def set_date_language(here: Here, me: Me, value: Text = "") -> Response:
    """The language of dates on one's screens."""
    preferences.set_date_language(here, me, value)
    return see_other(to_shell.account())


@router.get(to_shell.account.at("keys"))
def keys(here: Here, me: Me, told: str = "") -> Response:
    """The keys that can be others."""
    return _page(here, me, json.loads(me.own_keys), told="These are your keys from now on." if told else "")


def _page(
    here: Workshop,
    me: Person,
    typed: dict[str, str],
    wrong: str = "",
    problem: str = "",
    told: str = "",
    status: int = 200,
) -> Response:
    lines = [
        KeyLine(usual, words, typed.get(usual, ""), problem if usual == wrong else "")
        for usual, words in COMMANDS.items()
    ]
    return page(OwnKeysPage(bar_for(here, me, None, "account"), lines, told), status)


@router.post(to_shell.account.at("keys"))
def set_keys(form: AnyForm, here: Here, me: Me) -> Response:
    """Keeps the keys, or Mobbet's own."""
    typed = {} if form.get("as-usual") else {usual: str(form.get(usual, "")) for usual in COMMANDS}
    try:
        preferences.set_keys(here, me, typed)
    except BadInput as error:
        return _page(here, me, typed, error.field, str(error), status=422)
    return see_other(f"{to_shell.account('keys')}?told=kept")
