"""Sends letters through a mail server by SMTP (RFC 5321), as MOBBET_MAIL names it."""

from __future__ import annotations

import smtplib
from email.message import EmailMessage
from email.utils import formatdate, make_msgid
from urllib.parse import unquote

from mobbet.core.errors import Broken
from mobbet.core.web_addresses import split_address
from mobbet.services.connecting import mail_server
from mobbet.services.contracts import Envelope

PATIENCE = 20
"""Seconds after which a server that does not answer is given up."""


class Smtp:
    """A mail server; the connection is encrypted, by a verified certificate, where the server offers it."""

    keeps = False

    def __init__(self, server: str) -> None:
        self._server = split_address(server)

    def send(self, letter: Envelope) -> None:
        message = EmailMessage()
        message["From"], message["To"], message["Subject"] = letter.sender, letter.recipient, letter.subject
        message["Date"], message["Message-ID"] = formatdate(), make_msgid(domain="mobbet.invalid")
        message["Auto-Submitted"] = "auto-generated"
        message.set_content(letter.text)
        try:
            with mail_server(self._server.geturl(), PATIENCE) as connection:
                if self._server.username:
                    connection.login(unquote(self._server.username), unquote(self._server.password or ""))
                connection.send_message(message)
        except (OSError, smtplib.SMTPException) as error:
            raise Broken(
                f"The mail server {self._server.hostname} did not take the letter to {letter.recipient} ({error})."
            ) from None
