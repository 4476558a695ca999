"""Sends letters through a mail server by SMTP (RFC 5321), as MOBBET_MAIL names it."""

from __future__ import annotations

import smtplib
from collections.abc import Callable, Iterator
from contextlib import AbstractContextManager, contextmanager, suppress
from email import policy
from email.message import EmailMessage
from email.utils import formataddr, formatdate, make_msgid
from urllib.parse import unquote

from mobbet.core.errors import NotTaken
from mobbet.core.web_addresses import split_address
from mobbet.services.connecting import mail_server
from mobbet.services.contracts import Envelope

PATIENCE = 20
"""Seconds after which a server that does not answer is given up."""
LINE = 990
AT_ONCE = 100
"""After so many letters a connection is made anew: servers limit how many they take over one."""
SERVER_CODES = frozenset({421, 530, 535})
"""Replies that say something of the server or the account, not of a letter (RFC 5321, 4.2; RFC 4954, 6)."""


class Smtp:
    """A mail server; the connection is encrypted, by a verified certificate, where the server offers it."""

    keeps = False

    def __init__(self, server: str) -> None:
        self._server = split_address(server)

    def send(self, letter: Envelope) -> None:
        with self.open() as send:
            send(letter)

    @contextmanager
    def open(self) -> Iterator[Callable[[Envelope], None]]:
        line = _Line(self._connect, self._server.hostname or "")
        try:
            yield line.send
        finally:
            line.close()

    @contextmanager
    def _connect(self) -> Iterator[smtplib.SMTP]:
        with mail_server(self._server.geturl(), PATIENCE) as connection:
            if self._server.username:
                connection.login(unquote(self._server.username), unquote(self._server.password or ""))
            yield connection


class _Line:
    """A connection that is made when it is needed, and anew after it broke."""

    def __init__(self, connect: Callable[[], AbstractContextManager[smtplib.SMTP]], host: str) -> None:
        self._connect, self._host = connect, host
        self._opened: AbstractContextManager[smtplib.SMTP] | None = None
        self._connection: smtplib.SMTP | None = None
        self._taken = 0

    def send(self, letter: Envelope) -> None:
        """Hands a letter over. Raises NotTaken."""
        message = written(letter)
        if self._taken >= AT_ONCE:
            self.close()
        try:
            connection = self._connection or self._open()
        except (OSError, smtplib.SMTPException) as error:
            self.close()
            raise NotTaken(
                f"The mail server {self._host} cannot be used ({_words(error)}).", "server"
            ) from None
        try:
            _hand_over(connection, letter, message)
        except smtplib.SMTPResponseException as error:
            if error.smtp_code in SERVER_CODES:
                self.close()
            raise NotTaken(
                f"The mail server {self._host} did not take the letter to {letter.recipient} ({_words(error)}).",
                "server"
                if error.smtp_code in SERVER_CODES
                else "final"
                if 500 <= error.smtp_code < 600
                else "later",
            ) from None
        except (OSError, smtplib.SMTPException) as error:
            self.close()
            raise NotTaken(
                f"The mail server {self._host} broke off the letter to {letter.recipient} ({_words(error)}).",
                "broken",
            ) from None
        self._taken += 1

    def _open(self) -> smtplib.SMTP:
        self._opened = self._connect()
        self._connection, self._taken = self._opened.__enter__(), 0
        return self._connection

    def close(self) -> None:
        opened, self._opened, self._connection, self._taken = self._opened, None, None, 0
        if opened is not None:
            with suppress(OSError, smtplib.SMTPException):
                opened.__exit__(None, None, None)


def _hand_over(connection: smtplib.SMTP, letter: Envelope, message: bytes) -> None:
    """One transaction of SMTP. Raises SMTPResponseException with the server's reply, OSError, SMTPException."""
    connection.ehlo_or_helo_if_needed()
    is_ascii = letter.recipient.isascii() and letter.sender.isascii()
    if not is_ascii and not connection.has_extn("smtputf8"):
        raise smtplib.SMTPResponseException(553, b"the server takes no address with letters beyond ASCII")
    options = [] if is_ascii else ["SMTPUTF8", "BODY=8BITMIME"]
    steps = (
        lambda: connection.mail(letter.sender, options),
        lambda: connection.rcpt(letter.recipient),
        lambda: connection.data(message),
    )
    for step in steps:
        try:
            code, words = step()
        except smtplib.SMTPDataError as error:
            code, words = error.smtp_code, _bytes(error.smtp_error)
        if code not in (250, 251):
            with suppress(smtplib.SMTPServerDisconnected):
                connection.rset()
            raise smtplib.SMTPResponseException(code, words)


def written(letter: Envelope) -> bytes:
    """A letter as a message (RFC 5322), its text and its HTML as alternatives."""
    host = letter.sender.rpartition("@")[2]
    kind = policy.SMTP if letter.recipient.isascii() else policy.SMTPUTF8
    message = EmailMessage(
        policy=kind.clone(max_line_length=LINE)
    )  # a folded List-Unsubscribe is not understood everywhere
    message["From"] = formataddr((letter.name, letter.sender)) if letter.name else letter.sender
    message["To"], message["Subject"] = letter.recipient, letter.subject
    message["Date"] = formatdate()
    message["Message-ID"] = letter.message_id or make_msgid(
        domain=host if host.isascii() and host else "mobbet.invalid"
    )
    message["Auto-Submitted"] = "auto-generated"
    for name, value in letter.headers:
        message[name] = value
    message.set_content(letter.text)
    if letter.html:
        message.add_alternative(letter.html, subtype="html")
    return message.as_bytes()


def _bytes(said: bytes | str) -> bytes:
    return said if isinstance(said, bytes) else said.encode()


def _words(error: Exception) -> str:
    if isinstance(error, smtplib.SMTPResponseException):
        return f"{error.smtp_code} {_bytes(error.smtp_error).decode(errors='replace')}"[:300]
    return str(error)[:300] or type(error).__name__
