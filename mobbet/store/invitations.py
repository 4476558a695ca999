"""Invitations to work on blogs: who is invited by whom, to what, and what became of it."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.store.database import Database, Row, data_of, maybe

WAITS, TAKEN, WITHDRAWN = "", "taken", "withdrawn"


@dataclass(frozen=True)
class Invitation:
    """One invitation; `ended` is WAITS, TAKEN or WITHDRAWN. The link's token is kept as its SHA-256."""

    id: int
    token_hash: str
    email: str
    invited_by: int
    made_at: int
    ends_at: int
    ended: str
    letter_id: int | None


def _invitation(row: Row) -> Invitation:
    return Invitation(**data_of(row))


def add(
    db: Database,
    token_hash: str,
    email: str,
    invited_by: int,
    now: int,
    ends_at: int,
    letter_id: int,
    roles: dict[int, str],
) -> int:
    """An invitation with a role for each blog."""
    number = db.value(
        "INSERT INTO invitation (token_hash, email, invited_by, made_at, ends_at, letter_id) VALUES (?, ?, ?, ?, ?, ?) RETURNING id",
        token_hash, email, invited_by, now, ends_at, letter_id,
    )  # fmt: skip
    db.run_many(
        "INSERT INTO invitation_role (invitation_id, blog_id, role) VALUES (?, ?, ?)",
        [(number, blog_id, role) for blog_id, role in roles.items()],
    )
    return number


def by_token(db: Database, token_hash: str) -> Invitation | None:
    return maybe(_invitation, db.one("SELECT * FROM invitation WHERE token_hash = ?", token_hash))


def roles(db: Database, number: int) -> dict[int, str]:
    """{blog: role} of an invitation, of blogs that are not set aside."""
    rows = db.tuples(
        "SELECT blog_id, role FROM invitation_role JOIN blog ON blog.id = blog_id WHERE invitation_id = ? AND set_aside_at IS NULL ORDER BY blog_id", number
    )  # fmt: skip
    return dict(rows)


def waiting(db: Database, blog_id: int) -> list[tuple[Invitation, str]]:
    """(invitation, role) of those to a blog that nobody took yet, also too old ones, the newest first."""
    rows = db.all(
        "SELECT invitation.*, role FROM invitation JOIN invitation_role ON invitation_id = invitation.id WHERE blog_id = ? AND ended = '' ORDER BY invitation.id DESC",
        blog_id,
    )
    found = []
    for row in rows:
        values = data_of(row)
        role = values.pop("role")
        found.append((Invitation(**values), role))
    return found


def end(db: Database, number: int, ended: str) -> bool:
    """Ends an invitation that waits; False where somebody was first."""
    return db.run("UPDATE invitation SET ended = ? WHERE id = ? AND ended = ''", ended, number).rowcount > 0


def leave_blog(db: Database, number: int, blog_id: int) -> None:
    """Takes a blog out of an invitation."""
    db.run("DELETE FROM invitation_role WHERE invitation_id = ? AND blog_id = ?", number, blog_id)
