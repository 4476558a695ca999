import io
import shutil
import tempfile
import unittest
import wave
from pathlib import Path
from unittest import mock

import av
from PIL import Image

from mobbet.core.errors import BadInput
from mobbet.core.media.kinds import BY_ENDING, BY_TYPE
from mobbet.demo.recordings import CLIP, good_motor
from mobbet.media import recordings, transcoding
from mobbet.media.sniffing import sniff


class RecordingTests(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def file(self, name: str, data: bytes) -> Path:
        path = self.folder / name
        path.write_bytes(data)
        return path

    def encoded(self, name: str, codec: str, format: str, rate: int = 48_000) -> Path:
        """A second of a tone, with words about where it was made."""
        path = self.folder / name
        with av.open(str(path), "w", format=format) as out:
            out.metadata["title"] = "Secret title"
            stream = out.add_stream(codec, rate=rate)
            stream.layout = "mono"
            resampler = av.AudioResampler(
                format=stream.format or "fltp", layout="mono", rate=rate, frame_size=stream.frame_size or 1024
            )
            with av.open(io.BytesIO(good_motor())) as source:
                for frame in source.decode(audio=0):
                    for plain in resampler.resample(frame):
                        out.mux(stream.encode(plain))
            out.mux(stream.encode())
        return path

    def test_sound_of_every_kind_is_measured_and_copied_without_its_notes(self) -> None:
        for name, codec, format in (
            ("a.mp3", "libmp3lame", "mp3"),
            ("a.m4a", "aac", "ipod"),
            ("a.opus", "libopus", "ogg"),
            ("a.weba", "libopus", "webm"),
            ("a.flac", "flac", "flac"),
        ):
            with self.subTest(name):
                path, row = self.encoded(name, codec, format), BY_ENDING[name[2:]]
                self.assertEqual(sniff(path, name), row)
                self.assertIn(b"Secret title", path.read_bytes())
                found = recordings.look(path, row, name)
                heard = recordings.hear(path, name, found.seconds)
                self.assertAlmostEqual(found.seconds, 9, delta=0.2)
                self.assertTrue(found.is_ready)
                self.assertAlmostEqual(heard.loudness, -12, delta=3)
                target = self.folder / "copy"
                recordings.copied(path, row.type, target, name)
                self.assertNotIn(b"Secret title", target.read_bytes())
                self.assertAlmostEqual(recordings.look(target, row, name).seconds, 9, delta=0.2)

    def test_a_waveform_follows_the_samples(self) -> None:
        out = io.BytesIO()
        with wave.open(out, "wb") as file:
            file.setparams((1, 2, 8000, 0, "NONE", ""))
            file.writeframes(b"\x00\x00" * 8000 + b"\x00\x40\x00\xc0" * 4000)
        heard = recordings.hear(self.file("a.wav", out.getvalue()), "a.wav", 2.0)
        self.assertEqual((max(heard.wave[:55]), min(heard.wave[65:])), (0, 50))
        self.assertIn(b"<path", recordings.wave_svg(heard.wave))

    def test_the_loudest_part_of_a_quiet_recording_fills_its_drawing(self) -> None:
        self.assertIn(b"v100M", recordings.wave_svg((0, 8, 4)))
        self.assertIn(b"M1 49.5v1M3 49.5v1", recordings.wave_svg((0, 0)))

    def test_a_video_tells_its_size_and_gives_its_frames(self) -> None:
        found = recordings.look(CLIP, BY_TYPE["video/mp4"], "switch.mp4")
        self.assertEqual((found.width, found.height, found.is_ready), (640, 360, True))
        self.assertAlmostEqual(found.seconds, 6, delta=0.1)
        first, later = (
            Image.open(io.BytesIO(recordings.frame_at(CLIP, "switch.mp4", second))).getpixel((470, 140))
            for second in (0.5, 2.5)
        )
        self.assertEqual(Image.open(io.BytesIO(recordings.frame_at(CLIP, "s", 5.9))).size, (640, 360))
        self.assertGreater(later[0] - later[2], first[0] - first[2] + 40)

    def test_a_copied_video_begins_with_its_heading(self) -> None:
        target = self.folder / "copy"
        recordings.copied(CLIP, "video/mp4", target, "switch.mp4")
        body = target.read_bytes()
        self.assertLess(body.index(b"moov"), body.index(b"mdat"))

    def test_what_is_damaged_or_holds_nothing_is_refused_in_words(self) -> None:
        for name, data, row, message in (
            ("a.mp4", CLIP.read_bytes()[:3000], "video/mp4", "damaged or cut off"), ("a.mp3", b"ID3\x03" + b"\x00" * 500, "audio/mpeg", "damaged or cut off"),
            ("a.mp4", self.encoded("b.m4a", "aac", "ipod").read_bytes(), "video/mp4", "holds no moving picture"), ("a.m4a", CLIP.read_bytes(), "audio/mp4", "holds no sound"),
        ):  # fmt: skip
            with self.subTest(message), self.assertRaisesRegex(BadInput, message):
                recordings.look(self.file(name, data), BY_TYPE[row], name)

    def test_without_ffmpeg_what_browsers_do_not_play_is_refused_with_the_reason(self) -> None:
        with (
            mock.patch.object(shutil, "which", return_value=None),
            self.assertRaisesRegex(
                BadInput, "holds hevc, which browsers do not play, and ffmpeg is not installed"
            ),
        ):
            transcoding.refuse_unready("a.mov", "hevc")

    @unittest.skipUnless(transcoding.has_ffmpeg(), "ffmpeg is not installed: sudo apt-get install ffmpeg")
    def test_with_ffmpeg_a_video_becomes_a_web_ready_mp4(self) -> None:
        parts: list[float] = []
        transcoding.to_mp4(CLIP, self.folder / "out.mp4", "switch.mp4", 6, parts.append)
        self.assertTrue(recordings.look(self.folder / "out.mp4", BY_TYPE["video/mp4"], "out.mp4").is_ready)
        self.assertGreater(parts[-1], 0.9)
        with self.assertRaisesRegex(BadInput, "ffmpeg could not convert “x.mov”"):
            transcoding.to_mp4(self.file("x.mov", b"nothing"), self.folder / "o.mp4", "x.mov", 1)
