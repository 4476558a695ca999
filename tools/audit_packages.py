"""Known faults of the packages in use, Python's and the editor's, where a source of advisories can be reached."""

from __future__ import annotations

import json
import subprocess
import sys
from collections.abc import Callable
from pathlib import Path

ROOT = Path(__file__).parent.parent


class NotReached(Exception):
    """No source of advisories answered; says why in a few words."""


def python_packages() -> list[str]:
    """What is known of the packages in `requirements.lock`, one line each; NotReached when none of them could be looked up."""
    command = [
        sys.executable,
        "-m",
        "pip_audit",
        "--require-hashes",
        "--disable-pip",
        "-r",
        str(ROOT / "requirements.lock"),
        "-f",
        "json",
        "--progress-spinner",
        "off",
        "--timeout",
        "10",
    ]
    run = subprocess.run(command, capture_output=True, text=True, check=False)
    try:
        rows = json.loads(run.stdout)["dependencies"]
    except ValueError as problem:
        raise NotReached(_last_line(run.stderr)) from problem
    skipped = [row["name"] for row in rows if "skip_reason" in row]
    if len(skipped) == len(rows):
        raise NotReached(rows[0]["skip_reason"] if rows else "the lock file lists no packages")
    unknown = [f"{name}: not found at the source of advisories" for name in skipped]
    return unknown + [
        f"{row['name']} {row['version']}: {fault['id']}" for row in rows for fault in row.get("vulns", [])
    ]


def editor_packages() -> list[str]:
    """The same for the editor's npm packages that ship with Mobbet."""
    run = subprocess.run(
        ["npm", "audit", "--json", "--omit=dev"],
        cwd=ROOT / "editor",
        capture_output=True,
        text=True,
        check=False,
    )
    try:
        rows = json.loads(run.stdout)["vulnerabilities"]
    except (ValueError, KeyError) as problem:
        raise NotReached("npm's registry gave no advisories") from problem
    return [f"{name}: {row['severity']}" for name, row in rows.items()]


def _last_line(text: str) -> str:
    return (text.strip().splitlines() or ["no answer"])[-1][:200]


def packages() -> bool:
    """Prints what is known; True when no fault is, or nothing could be asked."""
    checks: dict[str, Callable[[], list[str]]] = {
        "Python packages": python_packages,
        "npm packages": editor_packages,
    }
    is_good = True
    for name, check in checks.items():
        try:
            faults = check()
        except NotReached as problem:
            print(f"{name}: NOT CHECKED, no source of advisories can be reached here ({problem})")
            continue
        print(f"{name}: {len(faults)} faults known")
        for fault in faults:
            print(f"  {fault}")
        is_good = is_good and not faults
    return is_good
