"""Sound and video, by way of the FFmpeg libraries in PyAV: what is in a file, its loudness and waveform,
frames of it, and a copy without the notes that cameras and programs leave."""

from __future__ import annotations

import array
import io
import math
from dataclasses import dataclass
from pathlib import Path

import av
from av.error import FFmpegError

from mobbet.core.errors import BadInput
from mobbet.core.media.kinds import SOUND, FileType

WAVE_FIELDS = 120
LONGEST = 6 * 3600
MOST_PIXELS = 36_000_000
"""Of one frame: 8K."""
READY_VIDEO = {
    "video/mp4": ({"h264"}, {"aac", "mp3"}),
    "video/webm": ({"vp8", "vp9", "av1"}, {"opus", "vorbis"}),
}
"""(codecs of the picture, codecs of the sound) that browsers play, by the type of the file."""
READY_SOUND = {
    "audio/mpeg": {"mp3", "mp3float"},
    "audio/mp4": {"aac"},
    "audio/ogg": {"opus", "vorbis"},
    "audio/webm": {"opus", "vorbis"},
    "audio/wav": {"pcm_s16le", "pcm_u8", "pcm_s24le", "pcm_f32le"},
    "audio/flac": {"flac"},
}
CONTAINERS = {
    "audio/mpeg": "mp3",
    "audio/mp4": "ipod",
    "audio/ogg": "ogg",
    "audio/webm": "webm",
    "audio/wav": "wav",
    "audio/flac": "flac",
    "video/mp4": "mp4",
    "video/webm": "webm",
}
_BAD = (
    FFmpegError,
    ValueError,
    OSError,
    EOFError,
    MemoryError,
    OverflowError,
    IndexError,
    AttributeError,
    TypeError,
    StopIteration,
)


@dataclass(frozen=True)
class Recording:
    """What is in a file: seconds, the picture's size in pixels (0 for sound), and whether browsers play it as it is."""

    seconds: float
    width: int
    height: int
    is_ready: bool
    codecs: str


@dataclass(frozen=True)
class AudioFacts:
    """What its samples tell: loudness in dBFS (root mean square), and the peaks of WAVE_FIELDS stretches, 0 to 100."""

    loudness: float
    wave: tuple[int, ...]


def look(path: Path, row: FileType, name: str) -> Recording:
    """Reads a file's heading and first frames. Raises BadInput for what is damaged or holds no sound or picture."""
    try:
        with av.open(str(path), metadata_errors="replace") as container:
            video = next((stream for stream in container.streams.video if not _is_cover(stream)), None)
            audio = next(iter(container.streams.audio), None)
            seconds = _seconds(container, video or audio)
            if row.kind == SOUND:
                if audio is None:
                    raise BadInput(f"“{name}” holds no sound; check the file and try again.", "file")
                next(iter(container.decode(audio)))
                return Recording(
                    seconds, 0, 0, audio.codec_context.name in READY_SOUND[row.type], audio.codec_context.name
                )
            if video is None:
                raise BadInput(
                    f"“{name}” holds no moving picture; a sound is kept as .m4a, .mp3, .ogg, .wav or .flac.",
                    "file",
                )
            _refuse_large(video.codec_context.width, video.codec_context.height, name)
            frame = next(iter(container.decode(video)))
            turned = _turn(frame) in (90, 270)
            size = (frame.height, frame.width) if turned else (frame.width, frame.height)
            codecs = [
                video.codec_context.name.removesuffix("_cuvid"),
                *([audio.codec_context.name] if audio else []),
            ]
            return Recording(seconds, *size, _is_ready(row.type, video, audio), " and ".join(codecs))
    except BadInput:
        raise
    except _BAD:
        raise BadInput(
            f"“{name}” is damaged or cut off; export it again and try once more.", "file"
        ) from None


def _refuse_large(width: int, height: int, name: str) -> None:
    if width * height > MOST_PIXELS:
        raise BadInput(
            f"“{name}” has frames of {width:,} × {height:,} pixels, more than browsers play; export it in 4K or smaller.",
            "file",
        )


def _is_ready(type: str, video: av.VideoStream, audio: av.AudioStream | None) -> bool:
    pictures, sounds = READY_VIDEO["video/mp4" if type == "video/quicktime" else type]
    is_shown = _plain(video.codec_context.name) in pictures and (
        video.codec_context.format is None
        or video.codec_context.format.name in ("yuv420p", "yuvj420p", "yuva420p")
    )
    return is_shown and (audio is None or _plain(audio.codec_context.name) in sounds)


def _plain(codec: str) -> str:
    return {
        "libdav1d": "av1",
        "libvpx": "vp8",
        "libvpx-vp9": "vp9",
        "libopus": "opus",
        "mp3float": "mp3",
    }.get(codec, codec)


def _is_cover(stream: av.VideoStream) -> bool:
    """Whether a picture stream is the cover of a sound."""
    return bool(stream.disposition & av.stream.Disposition.attached_pic)


def _turn(frame: av.VideoFrame) -> int:
    return round(getattr(frame, "rotation", 0) or 0) % 360


def _seconds(container: av.container.InputContainer, stream: av.stream.Stream | None) -> float:
    if container.duration:
        seconds = container.duration / av.time_base
    elif stream is not None and stream.duration:
        seconds = float(stream.duration * (stream.time_base or 1))
    else:
        seconds = 0.0
    return round(min(seconds, LONGEST), 3)


def hear(path: Path, name: str, seconds: float) -> AudioFacts | None:
    """Loudness and waveform of a file's first sound; None when it has none. Raises BadInput when it cannot be read to the end."""
    peaks = [0.0] * WAVE_FIELDS
    squares, count = 0.0, 0
    rate = 8000
    try:
        with av.open(str(path), metadata_errors="replace") as container:
            audio = next(iter(container.streams.audio), None)
            if audio is None:
                return None
            resampler = av.AudioResampler(format="s16", layout="mono", rate=rate)
            total = max(1, int((seconds or 1) * rate))
            step = min(400, max(20, total // WAVE_FIELDS // 2))
            at = 0
            for frame in container.decode(audio):
                for plain in resampler.resample(frame):
                    samples = array.array("h", bytes(plain.planes[0])[: plain.samples * 2])
                    if not samples:
                        continue
                    for start in range(0, len(samples), step):
                        part = samples[start : start + step]
                        field = min(WAVE_FIELDS - 1, (at + start) * WAVE_FIELDS // total)
                        peaks[field] = max(peaks[field], max(part), -min(part))
                        squares += (
                            math.sumprod(part, part)
                            if hasattr(math, "sumprod")
                            else sum(value * value for value in part)
                        )
                    at += len(samples)
                    count += len(samples)
                if at > LONGEST * rate:
                    break
    except _BAD:
        raise BadInput(
            f"“{name}” is damaged or cut off; export it again and try once more.", "file"
        ) from None
    mean = math.sqrt(squares / count) / 32768 if count else 0
    return AudioFacts(
        round(20 * math.log10(mean), 1) if mean > 0 else -96.0,
        tuple(round(100 * peak / 32768) for peak in peaks),
    )


def wave_svg(wave: tuple[int, ...]) -> bytes:
    """The waveform as a drawing 2 units a field wide and 100 high, which its loudest field fills: a quiet recording shows as well."""
    scale = 100 / max(1, *wave)
    heights = (max(1, round(value * scale)) for value in wave)
    bars = "".join(f"M{2 * at + 1} {50 - height / 2:g}v{height:g}" for at, height in enumerate(heights))
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {2 * len(wave)} 100" width="{4 * len(wave)}" height="80" preserveAspectRatio="none">'
        f'<path d="{bars}" stroke="#7d756b" stroke-width="1.2" fill="none"/></svg>'
    ).encode()


def frame_at(path: Path, name: str, second: float) -> bytes:
    """The frame shown at that second, upright, as PNG bytes without loss of size. Raises BadInput when there is none."""
    try:
        with av.open(str(path), metadata_errors="replace") as container:
            stream = next(stream for stream in container.streams.video if not _is_cover(stream))
            stream.codec_context.thread_count = 1
            if second > 0:
                container.seek(
                    int(second / float(stream.time_base or 1)) + (stream.start_time or 0), stream=stream
                )
            chosen = None
            for frame in container.decode(stream):
                chosen = frame
                if frame.time is None or frame.time >= second - 1e-3:
                    break
            if chosen is None:
                raise BadInput(
                    f"“{name}” has no picture at {second:g} seconds; choose another one.", "second"
                )
            image = chosen.to_image()
            turn = _turn(chosen)
            image = image.rotate(turn, expand=True) if turn else image
            out = io.BytesIO()
            image.save(out, "PNG", compress_level=1)
            return out.getvalue()
    except BadInput:
        raise
    except _BAD:
        raise BadInput(
            f"“{name}” is damaged or cut off; export it again and try once more.", "file"
        ) from None


def copied(path: Path, type: str, target: Path, name: str) -> None:
    """Writes the streams of a file, as they are, into a new one that says nothing of where and by what it was made.

    A video begins with its heading, so that it plays while it loads.
    """
    options = (
        {"movflags": "+faststart", "fflags": "+bitexact"}
        if type in ("video/mp4", "audio/mp4")
        else {"fflags": "+bitexact"}
    )
    try:
        with (
            av.open(str(path), metadata_errors="replace") as source,
            av.open(str(target), "w", format=CONTAINERS[type], options=options) as out,
        ):
            streams = {}
            for stream in (
                *[one for one in source.streams.video if not _is_cover(one)][:1],
                *source.streams.audio[:1],
            ):
                if type.startswith("audio/") and stream.type == "video":
                    continue
                streams[stream.index] = out.add_stream_from_template(stream)
                streams[stream.index].metadata.clear()
            out.metadata.clear()
            for packet in source.demux([source.streams[index] for index in streams]):
                if packet.dts is None:
                    continue
                packet.stream = streams[packet.stream_index]
                out.mux(packet)
    except _BAD:
        raise BadInput(
            f"“{name}” is damaged or cut off; export it again and try once more.", "file"
        ) from None
