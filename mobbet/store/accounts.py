"""What proves who somebody is beside a password: one-time codes, passkeys, recovery codes; the links of letters; and their sessions."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.store.database import Database, Row, data_of, maybe


@dataclass(frozen=True)
class Passkey:
    """A passkey of a person: its credential and public key in base64url, how often it signed, and what they call it."""

    id: int
    person_id: int
    credential: str
    public_key: str
    signatures: int
    label: str
    added_at: int
    last_used: int


@dataclass(frozen=True)
class OpenSession:
    """A session of a person as the list shows it."""

    token_hash: str
    begun_at: int
    used_at: int
    browser: str
    begun_from: str
    proved_at: int


@dataclass(frozen=True)
class AskedOf:
    """What a browser was asked for and has not answered yet."""

    what: str
    person_id: int | None
    challenge: str


def _passkey(row: Row) -> Passkey:
    return Passkey(**data_of(row))


def set_code_secret(db: Database, person_id: int, sealed: str) -> None:
    """The secret of one-time codes, sealed; '' for none."""
    db.run("UPDATE person SET code_secret = ?, code_step = 0 WHERE id = ?", sealed, person_id)


def use_step(db: Database, person_id: int, step: int) -> bool:
    """Takes the code of a time step; False where it, or a later one, was taken already."""
    return (
        db.run(
            "UPDATE person SET code_step = ? WHERE id = ? AND code_step < ?", step, person_id, step
        ).rowcount
        > 0
    )


def set_short_password(db: Database, person_id: int, is_short: bool) -> None:
    db.run("UPDATE person SET has_short_password = ? WHERE id = ?", int(is_short), person_id)


def passkeys(db: Database, person_id: int) -> list[Passkey]:
    return [
        _passkey(row) for row in db.all("SELECT * FROM passkey WHERE person_id = ? ORDER BY id", person_id)
    ]


def passkey(db: Database, credential: str) -> Passkey | None:
    return maybe(_passkey, db.one("SELECT * FROM passkey WHERE credential = ?", credential))


def add_passkey(
    db: Database, person_id: int, credential: str, public_key: str, signatures: int, label: str, now: int
) -> None:
    db.run(
        "INSERT INTO passkey (person_id, credential, public_key, signatures, label, added_at, last_used) VALUES (?, ?, ?, ?, ?, ?, ?)",
        person_id, credential, public_key, signatures, label, now, now,
    )  # fmt: skip


def use_passkey(db: Database, number: int, signatures: int, now: int) -> None:
    db.run("UPDATE passkey SET signatures = ?, last_used = ? WHERE id = ?", signatures, now, number)


def remove_passkey(db: Database, person_id: int, number: int) -> bool:
    return db.run("DELETE FROM passkey WHERE id = ? AND person_id = ?", number, person_id).rowcount > 0


def set_recovery_codes(db: Database, person_id: int, hashes: list[str]) -> None:
    """Gives somebody other recovery codes."""
    db.run("DELETE FROM recovery_code WHERE person_id = ?", person_id)
    db.run_many("INSERT INTO recovery_code VALUES (?, ?)", [(person_id, one) for one in hashes])


def count_recovery_codes(db: Database, person_id: int) -> int:
    return db.value("SELECT COUNT(*) FROM recovery_code WHERE person_id = ?", person_id)


def use_recovery_code(db: Database, person_id: int, code_hash: str) -> bool:
    """Takes a recovery code; False where there is none."""
    return (
        db.run(
            "DELETE FROM recovery_code WHERE person_id = ? AND code_hash = ?", person_id, code_hash
        ).rowcount
        > 0
    )


def remove_factors(db: Database, person_id: int) -> None:
    """Takes everything away that somebody proves themself with beside the password."""
    set_code_secret(db, person_id, "")
    set_recovery_codes(db, person_id, [])
    db.run("DELETE FROM passkey WHERE person_id = ?", person_id)


def has_factor(db: Database, person_id: int) -> bool:
    return bool(
        db.value(
            "SELECT EXISTS (SELECT 1 FROM person WHERE id = ? AND code_secret <> '') OR EXISTS (SELECT 1 FROM passkey WHERE person_id = ?)",
            person_id, person_id,
        )
    )  # fmt: skip


def lacks_factor(db: Database, person_id: int) -> bool:
    """Whether some blog asks a second factor of somebody who has none."""
    is_asked = db.value(
        "SELECT EXISTS (SELECT 1 FROM membership JOIN blog ON blog.id = blog_id WHERE person_id = ? AND suspended_at IS NULL AND set_aside_at IS NULL"
        " AND INSTR(factor_roles, '\"' || role || '\"'))",
        person_id,
    )  # fmt: skip
    return bool(is_asked) and not has_factor(db, person_id)


def ask_browser(
    db: Database, token_hash: str, what: str, person_id: int | None, challenge: str, now: int, over_at: int
) -> None:
    db.run("DELETE FROM asked_of_browser WHERE over_at <= ? OR token_hash = ?", now, token_hash)
    db.run(
        "INSERT INTO asked_of_browser VALUES (?, ?, ?, ?, ?)", token_hash, what, person_id, challenge, over_at
    )


def asked_of(db: Database, token_hash: str, what: str, now: int) -> AskedOf | None:
    row = db.one(
        "SELECT what, person_id, challenge FROM asked_of_browser WHERE token_hash = ? AND what = ? AND over_at > ?",
        token_hash,
        what,
        now,
    )
    return AskedOf(*row) if row else None


def forget_asked(db: Database, token_hash: str) -> None:
    db.run("DELETE FROM asked_of_browser WHERE token_hash = ?", token_hash)


def add_link(
    db: Database, token_hash: str, what: str, person_id: int, new_address: str, now: int, over_at: int
) -> None:
    """A link of a letter; earlier ones of the same kind end."""
    db.run(
        "DELETE FROM account_link WHERE over_at <= ? OR (person_id = ? AND what = ?)", now, person_id, what
    )
    db.run(
        "INSERT INTO account_link VALUES (?, ?, ?, ?, ?)", token_hash, what, person_id, new_address, over_at
    )


def link(db: Database, token_hash: str, what: str, now: int) -> tuple[int, str] | None:
    """(person, new address) of a link that is still good."""
    row = db.one(
        "SELECT person_id, new_address FROM account_link WHERE token_hash = ? AND what = ? AND over_at > ?",
        token_hash,
        what,
        now,
    )
    return (row[0], row[1]) if row else None


def forget_link(db: Database, token_hash: str) -> bool:
    return db.run("DELETE FROM account_link WHERE token_hash = ?", token_hash).rowcount > 0


def set_address(db: Database, person_id: int, email: str) -> None:
    db.run("UPDATE person SET email = ? WHERE id = ?", email, person_id)


def sessions(db: Database, person_id: int, now: int, idle: int) -> list[OpenSession]:
    """The sessions of a person for all of Mobbet that are open, the one that was used last first."""
    return [
        OpenSession(**data_of(row))
        for row in db.all(
            "SELECT token_hash, begun_at, used_at, browser, begun_from, proved_at FROM session WHERE person_id = ? AND blog_id IS NULL AND ends_at > ? AND used_at > ?"
            " ORDER BY used_at DESC, begun_at DESC",
            person_id, now, now - idle,
        )
    ]  # fmt: skip


def end_session(db: Database, person_id: int, token_hash: str) -> bool:
    """Ends a session of a person."""
    return (
        db.run("DELETE FROM session WHERE person_id = ? AND token_hash = ?", person_id, token_hash).rowcount
        > 0
    )


def describe_session(db: Database, token_hash: str, browser: str, begun_from: str, now: int) -> None:
    db.run(
        "UPDATE session SET browser = ?, begun_from = ?, proved_at = ? WHERE token_hash = ?",
        browser,
        begun_from,
        now,
        token_hash,
    )


def prove_session(db: Database, token_hash: str, now: int) -> None:
    db.run("UPDATE session SET proved_at = ? WHERE token_hash = ?", now, token_hash)


def proved_at(db: Database, token_hash: str) -> int:
    """When the person of a session proved last who they are."""
    return db.value("SELECT MAX(proved_at, begun_at) FROM session WHERE token_hash = ?", token_hash) or 0
