"""Captions of a video as WebVTT (W3C): read, checked, and written line by line against the time."""

from __future__ import annotations

import re
from dataclasses import dataclass

from mobbet.core.errors import BadInput

MOST_CUES = 5000
_TIMING = re.compile(r"\s*+(\d[\d:.,]*+)\s*+(?:-->|–|-)\s*+(\d[\d:.,]*+)(?:[ \t]++(.*))?$")


@dataclass(frozen=True)
class Cue:
    """One caption: from and up to which second it shows, and its words."""

    start: float
    end: float
    words: str


def read(text: str, seconds: float | None = None) -> tuple[Cue, ...]:
    """The cues of a WebVTT or SubRip text, or of plain lines such as `0:04 - 0:07 Now the bad one`.

    Raises BadInput, naming the line, for a time that cannot be, or that lies after the video's end.
    """
    lines = text.replace("\ufeff", "").replace("\r\n", "\n").replace("\r", "\n").split("\n")
    cues: list[Cue] = []
    skipping = False
    for number, line in enumerate(lines, 1):
        if not line.strip():
            skipping = False
            continue
        if skipping or re.match(r"(WEBVTT|NOTE|STYLE|REGION)\b", line):
            skipping = True
            continue
        match = _TIMING.match(line)
        if match:
            start, end = _seconds(match.group(1), number), _seconds(match.group(2), number)
            _fits(start, end, seconds, number)
            words = "" if "-->" in line else (match.group(3) or "")
            cues.append(Cue(start, end, words.strip()))
        elif cues and not (line.strip().isdecimal() and _is_timing(lines, number)):
            cues[-1] = Cue(cues[-1].start, cues[-1].end, f"{cues[-1].words}\n{line.strip()}".strip())
        elif not cues and not _is_timing(lines, number):
            raise BadInput(
                f"Line {number} of the captions, “{line.strip()[:60]}”, stands before any time; begin it like 0:04 - 0:07.",
                "captions",
            )
    if len(cues) > MOST_CUES:
        raise BadInput(
            f"The captions have {len(cues):,} lines, more than {MOST_CUES:,}; shorten them.", "captions"
        )
    return tuple(sorted((cue for cue in cues if cue.words), key=lambda cue: cue.start))


def write(cues: tuple[Cue, ...]) -> str:
    """The cues as WebVTT."""
    parts = [f"{_stamp(cue.start)} --> {_stamp(cue.end)}\n{_escaped(cue.words)}" for cue in cues]
    return "\n\n".join(["WEBVTT", *parts]) + "\n"


def as_lines(cues: tuple[Cue, ...]) -> str:
    """The cues as lines to write in: `0:04.000 - 0:07.500 Now the bad one`."""
    return "\n".join(f"{_short(cue.start)} - {_short(cue.end)} {' '.join(cue.words.split())}" for cue in cues)


def _is_timing(lines: list[str], number: int) -> bool:
    """Whether the line after this one is a cue's time, so that this one is its number."""
    return number < len(lines) and bool(_TIMING.match(lines[number]))


def _fits(start: float, end: float, seconds: float | None, number: int) -> None:
    if end <= start:
        raise BadInput(
            f"Line {number} of the captions ends at {_short(end)}, before it begins at {_short(start)}; give it a later end.",
            "captions",
        )
    if seconds is not None and start > seconds:
        raise BadInput(
            f"Line {number} of the captions begins at {_short(start)}, after the video's end at {_short(seconds)}; check its time.",
            "captions",
        )


def _seconds(stamp: str, number: int) -> float:
    parts = stamp.replace(",", ".").split(":")
    try:
        values = [float(part) for part in parts]
    except ValueError:
        values = []
    if not 1 <= len(values) <= 3 or any(value >= 60 for value in values[1:]):
        raise BadInput(
            f"“{stamp}” in line {number} of the captions is no time; write it like 1:04 or 0:01:04.500.",
            "captions",
        )
    total = 0.0
    for value in values:
        total = total * 60 + value
    return round(total, 3)


def _stamp(seconds: float) -> str:
    whole = int(seconds)
    return f"{whole // 3600:02}:{whole // 60 % 60:02}:{whole % 60:02}.{round((seconds - whole) * 1000):03}"


def _short(seconds: float) -> str:
    hours, rest = divmod(seconds, 3600)
    minutes, rest = divmod(rest, 60)
    return f"{int(hours)}:{int(minutes):02}:{rest:06.3f}" if hours else f"{int(minutes)}:{rest:06.3f}"


def _escaped(words: str) -> str:
    return words.replace("&", "&amp;").replace("<", "&lt;").replace("-->", "--&gt;")


def clock(seconds: float) -> str:
    """A duration as readers see it: 0:41, 12:05, 1:02:09."""
    whole = round(seconds)
    hours, rest = divmod(whole, 3600)
    return f"{hours}:{rest // 60:02}:{rest % 60:02}" if hours else f"{rest // 60}:{rest % 60:02}"
