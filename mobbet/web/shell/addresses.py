"""Addresses that belong to no screen."""

from __future__ import annotations

from mobbet.web.shell.address import Address

home = Address("/")
robots = Address("/robots.txt")
first_run = Address("/begin")
sign_in = Address("/sign-in", "then")
sign_out = Address("/sign-out")
sign_in_code = Address("/sign-in/code")
passkey_question = Address("/sign-in/passkey-question")
passkey_answer = Address("/sign-in/passkey")
forgotten = Address("/sign-in/forgotten")
password_link = Address("/password/{token}")
address_link = Address("/address/{token}")
"""Where letters lead: to another password, and to the confirmation of an address."""
again = Address("/account/again", "to")
"""Where somebody proves once more who they are."""
signing_in = Address("/account/signing-in[/{part}]")
account = Address("/account[/{part}]")
new_blog = Address("/blogs/new")
leave_blog = Address("/desk/{slug}/leave")
join = Address("/join/{token}")
"""Where the letter of an invitation leads."""
static_file = Address("/static/{digest}/{name}")
changes = Address("/changes/{slug}")
blog_back = Address("/blogs/back")
"""Where a blog is brought back that was set aside."""
manifest = Address("/app.webmanifest")
service_worker = Address("/worker.js")
favicon = Address("/favicon.ico")


def static(name: str) -> str:
    """One of the application's own scripts, styles and fonts."""
    from mobbet.web.shell.static_files import address_of

    return address_of(name)
