"""Codes and tokens of other programs that write for a person."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.store.database import Database, Row, data_of, maybe


@dataclass(frozen=True)
class Code:
    """A code that a program exchanges for a token; once it was, `token_id` says for which."""

    code_hash: str
    person_id: int
    blog_id: int
    client: str
    redirect: str
    scopes: str
    challenge: str
    over_at: int
    token_id: int | None = None


@dataclass(frozen=True)
class Token:
    """What a program shows: for whom it writes on which blog, and its scopes, parted by spaces. `client` is its address, or a name that its owner gave it."""

    id: int
    token_hash: str
    person_id: int
    blog_id: int
    client: str
    scopes: str
    made_at: int
    used_at: int


def _token(row: Row) -> Token:
    return Token(**data_of(row))


def add_code(db: Database, code: Code) -> None:
    db.run("DELETE FROM program_code WHERE over_at < ?", code.over_at - 86400)
    db.run(
        "INSERT INTO program_code VALUES (?, ?, ?, ?, ?, ?, ?, ?, NULL)",
        code.code_hash, code.person_id, code.blog_id, code.client, code.redirect, code.scopes, code.challenge, code.over_at,
    )  # fmt: skip


def code(db: Database, code_hash: str) -> Code | None:
    return maybe(
        lambda row: Code(**data_of(row)), db.one("SELECT * FROM program_code WHERE code_hash = ?", code_hash)
    )


def spend(db: Database, code_hash: str, token_id: int | None) -> None:
    """Notes that a code was used: it is good for one token."""
    db.run("UPDATE program_code SET token_id = ?, over_at = 0 WHERE code_hash = ?", token_id, code_hash)


def add(
    db: Database, token_hash: str, person_id: int, blog_id: int, client: str, scopes: str, now: int
) -> int:
    return db.value(
        "INSERT INTO program_token (token_hash, person_id, blog_id, client, scopes, made_at, used_at) VALUES (?, ?, ?, ?, ?, ?, ?) RETURNING id",
        token_hash, person_id, blog_id, client, scopes, now, now,
    )  # fmt: skip


def by_hash(db: Database, token_hash: str) -> Token | None:
    return maybe(_token, db.one("SELECT * FROM program_token WHERE token_hash = ?", token_hash))


def of_person(db: Database, person_id: int) -> list[Token]:
    return [
        _token(row)
        for row in db.all("SELECT * FROM program_token WHERE person_id = ? ORDER BY id DESC", person_id)
    ]


def note_use(db: Database, number: int, now: int) -> None:
    db.run("UPDATE program_token SET used_at = ? WHERE id = ?", now, number)


def end(db: Database, number: int, person_id: int) -> bool:
    """Ends a token of a person; whether there was one."""
    return bool(
        db.run("DELETE FROM program_token WHERE id = ? AND person_id = ?", number, person_id).rowcount
    )


def end_unused(db: Database, since: int) -> None:
    """Ends tokens that were not used since an instant."""
    db.run("DELETE FROM program_token WHERE used_at < ?", since)
