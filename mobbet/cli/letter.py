"""`mobbet letter`: the letters to subscribers."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from pathlib import Path

from mobbet.cli.options import Subcommands, takes_blog, takes_data, takes_json
from mobbet.cli.shared import at_work, post_at_work, report
from mobbet.core.errors import Broken

EPILOG = """`due` sends everything that is due now and ends; it prints `{"sent", "waiting", "refused"}`. `show --json` prints `{"subject", "text", "html", "bytes"}`.
`bounces` reads delivery status notifications (RFC 3464), one or a mailbox of them, and prints `{"final", "new", "others", "aside"}`; without a file it reads
the mailbox that MOBBET_RETURNED_MAIL names. `list --json` prints `{"letters": [{"id", "kind", "post", "subject", "made_at", "sent", "waiting", "refused",
"bounced", "opened"}]}`."""


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_data(command)
    takes_json(command)
    takes_blog(command)
    add = Subcommands(command, "list|show|send|due|bounces|rule")
    add("list", list_letters, "list the newest letters, with what became of them").add_argument(
        "--limit", type=int, default=30, metavar="N"
    )
    add("show", show, "print the letter about a post as it would be").add_argument(
        "id", type=int, metavar="POST"
    )
    sent = add("send", send, "send the letter about a post to one address, to look at it")
    sent.add_argument("id", type=int, metavar="POST")
    sent.add_argument("--to", required=True, metavar="EMAIL")
    add("due", due, "send everything that is due now")
    add("bounces", bounces, "count letters that came back").add_argument(
        "file", nargs="?", default="", metavar="FILE", help="a message or a mailbox file"
    )
    ruled = add("rule", rule, "tell the rules of the blog's letters, or change one")
    ruled.add_argument(
        "name",
        nargs="?",
        default="",
        choices=("", "is_open", "shows", "hold", "weekday", "at", "pace"),
        metavar="NAME",
    )
    ruled.add_argument("value", nargs="?", default="", metavar="VALUE")


def list_letters(options: Namespace) -> None:
    """The newest letters."""
    from mobbet.actions import letter_numbers
    from mobbet.core.timing import iso

    workshop, person, blog = at_work(options)
    rows = letter_numbers.newest(workshop, person, blog, options.limit)
    facts = [
        {
            "id": one.mailing.id, "kind": one.mailing.kind, "post": one.mailing.post_id, "subject": one.mailing.subject, "made_at": iso(one.mailing.made_at),
            "sent": one.tally.sent, "waiting": one.tally.waiting, "refused": one.tally.refused, "bounced": one.tally.bounced, "opened": one.opened,
        }
        for one in rows
    ]  # fmt: skip
    lines = [
        f"{one['id']:>5}  {one['subject']}: {one['sent']} sent, {one['waiting']} wait, {one['refused']} refused"
        for one in facts
    ]
    report(options, {"letters": facts}, "\n".join(lines) or "No letter was begun yet.")


def show(options: Namespace) -> None:
    """The letter about a post."""
    from mobbet.actions import letter_preview

    workshop, person, _ = post_at_work(options)
    letter = letter_preview.of_post(workshop, person, options.id)
    facts = {
        "subject": letter.subject,
        "text": letter.text,
        "html": letter.html,
        "bytes": len(letter.html.encode()),
    }
    report(options, facts, f"{letter.subject}\n\n{letter.text}")


def send(options: Namespace) -> None:
    """The letter about a post, to one address."""
    from mobbet.actions import letter_preview

    workshop, person, _ = post_at_work(options)
    letter_preview.send_to(workshop, person, options.id, options.to)
    report(options, {"sent": 1, "to": options.to}, f"It is on its way to {options.to}.")


def due(options: Namespace) -> None:
    """Sends what is due, by a process that outlives this one for as long as its last letter takes."""
    import json
    from dataclasses import asdict

    from mobbet import wiring
    from mobbet.actions import mail_sending
    from mobbet.services import sending_process

    workshop = wiring.open_existing(options.data)
    if workshop.services.mail.keeps:
        facts = asdict(mail_sending.send_due(workshop))
    else:
        workshop.db.close()
        with sending_process.start(options.data) as process:
            assert process.stdout is not None
            said = process.stdout.read()
        facts = json.loads(
            said or b'{"problem": "The process that sends letters ended without a word; try again."}'
        )
    if "problem" in facts:
        raise Broken(facts["problem"])
    report(options, facts, f"{facts['sent']} sent, {facts['waiting']} wait, {facts['refused']} refused.")


def bounces(options: Namespace) -> None:
    """Counts letters that came back."""
    from dataclasses import asdict

    from mobbet.actions import returned_letters

    workshop, _, _ = at_work(options)
    found = (
        returned_letters.read(workshop, Path(options.file).read_bytes())
        if options.file
        else returned_letters.fetch(workshop)
    )
    report(
        options,
        asdict(found),
        f"{found.final} came back for good, {found.new} of them new; {found.aside} set aside.",
    )


def rule(options: Namespace) -> None:
    """Tells the rules, or changes one."""
    from dataclasses import asdict

    from mobbet.actions import letter_rules
    from mobbet.core.letters import read_rules

    workshop, person, blog = at_work(options)
    if options.name:
        letter_rules.set_rule(workshop, person, blog.slug, options.name, options.value)
        blog = at_work(options)[2]
    facts = asdict(read_rules(blog.letters))
    report(options, facts, "\n".join(f"{name}: {value}" for name, value in facts.items()))
