"""Writes docs/rights.md from the table of rights."""

from __future__ import annotations

from pathlib import Path

from mobbet.core.rights import RIGHTS, Role

PAGE = Path(__file__).parent.parent / "docs" / "rights.md"
HEAD = """# Who may do what

Written by `python -m tools.rights_page` from `mobbet/core/rights.py`. “own” means only with what is their own: a post they wrote, an item they brought in.
A post for its author alone is outside the table: nobody but its author opens it, whatever their role.

"""


def page() -> str:
    """The table as Markdown: a row for each action, a column for each role."""
    rows = [f"| | {' | '.join(role.value for role in Role)} |", f"|---|{'---|' * len(Role)}"]
    for action, right in RIGHTS.items():
        cells = ["yes" if role in right.others else "own" if role in right.own else "" for role in Role]
        rows.append(f"| {action.value} | {' | '.join(cells)} |")
    return HEAD + "\n".join(rows) + "\n"


if __name__ == "__main__":
    PAGE.write_text(page())
