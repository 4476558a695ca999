"""Makes a web-ready MP4 of a video that browsers do not play, with the program ffmpeg where it is installed."""

from __future__ import annotations

import shutil
import subprocess
from collections.abc import Callable
from pathlib import Path

from mobbet.core.errors import BadInput
from mobbet.core.values import existing

MOST_HEIGHT = 1080


def has_ffmpeg() -> bool:
    return shutil.which("ffmpeg") is not None


def refuse_unready(name: str, codecs: str) -> None:
    """Raises BadInput for a video that browsers do not play, when nothing here can turn it into one they do."""
    if not has_ffmpeg():
        raise BadInput(
            f"“{name}” holds {codecs}, which browsers do not play, and ffmpeg is not installed here to convert it; export it as MP4 with H.264 and AAC.",
            "file",
        )


def to_mp4(
    path: Path, target: Path, name: str, seconds: float, progress: Callable[[float], None] = lambda part: None
) -> None:
    """Writes a video as MP4 with H.264 and AAC, at most 1080 lines high, without metadata; a sound with AAC alone.

    `progress` is told the part done, from 0 to 1. Raises BadInput when ffmpeg cannot read it.
    """
    command = [
        "ffmpeg", "-nostdin", "-hide_banner", "-loglevel", "error", "-y", "-threads", "2", "-protocol_whitelist", "file", "-i", f"file:{path}",
        "-map", "0:V:0?", "-map", "0:a:0?", "-map_metadata", "-1", "-map_chapters", "-1", "-vf", f"scale=-2:'min({MOST_HEIGHT},ih)'",
        "-c:v", "libx264", "-preset", "veryfast", "-crf", "23", "-pix_fmt", "yuv420p", "-c:a", "aac", "-b:a", "128k", "-ac", "2",
        "-movflags", "+faststart", "-progress", "pipe:1", "-f", "mp4", f"file:{target}",
    ]  # fmt: skip
    with subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True) as running:
        for line in existing(running.stdout):
            key, _, value = line.strip().partition("=")
            if key == "out_time_us" and value.isdecimal() and seconds:
                progress(min(1.0, int(value) / 1_000_000 / seconds))
        told = existing(running.stderr).read().strip().splitlines()
    if running.returncode:
        raise BadInput(
            f"ffmpeg could not convert “{name}” ({told[-1][:160] if told else 'it gave no reason'}); export it as MP4 with H.264 and AAC.",
            "file",
        )
