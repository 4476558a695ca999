"""The process that hands letters to subscribers over to a mail server.

It is started by `mobbet letter due` and by the server, in a session of its own, so that what ends those does not cut a hand-over short: it sees their end at its
standard input, and ends itself between two letters. It prints what it came to as JSON.
"""

from __future__ import annotations

import json
import sys
from contextlib import suppress
from dataclasses import asdict
from pathlib import Path

from mobbet import wiring
from mobbet.actions import mail_sending
from mobbet.core.errors import MobbetError
from mobbet.worker import end_with_input

PATIENCE = 60.0
"""In seconds: for how long it waits for another one to end, such as one whose starter is gone and that is busy with its last letter."""


def main(data: str) -> int:
    try:
        end = end_with_input()
        outcome = mail_sending.send_due(wiring.open_existing(Path(data)), end.is_set, end.wait, PATIENCE)
    except MobbetError as error:
        print(json.dumps({"problem": str(error)}))
        return 1
    with suppress(BrokenPipeError):  # whoever started it is gone
        print(json.dumps(asdict(outcome)), flush=True)
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1]))
