// Records a sound with the device's microphone, until the button is pressed again.
const TYPES = [["audio/webm;codecs=opus", "weba"], ["audio/mp4", "m4a"], ["audio/ogg;codecs=opus", "ogg"]];
const LONGEST = 60 * 60; // seconds

const clock = (seconds) => `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, "0")}`;

// `put(files)` gets the recording as a file; the button says what it does, and for how long it has been recording.
export function readyToRecord(button, tell, put) {
  const [type, ending] = TYPES.find(([one]) => globalThis.MediaRecorder?.isTypeSupported(one)) ?? [];
  if (!button || !type || !navigator.mediaDevices?.getUserMedia) return;
  const words = button.textContent;
  let recorder = null;
  button.hidden = false;

  async function start() {
    const stream = await navigator.mediaDevices.getUserMedia({ audio: true });
    const parts = [];
    const begun = Date.now();
    recorder = new MediaRecorder(stream, { mimeType: type, audioBitsPerSecond: 96_000 });
    recorder.ondataavailable = ({ data }) => parts.push(data);
    const ticking = setInterval(() => {
      const seconds = Math.round((Date.now() - begun) / 1000);
      button.textContent = `Stop and keep (${clock(seconds)})`;
      if (seconds >= LONGEST) recorder.stop();
    }, 250);
    recorder.onstop = () => {
      clearInterval(ticking);
      for (const track of stream.getTracks()) track.stop();
      recorder = null;
      button.textContent = words;
      const name = `recording ${new Date(begun).toISOString().slice(0, 16).replace("T", " ").replace(":", ".")}.${ending}`;
      put([new File(parts, name, { type: type.split(";")[0] })]);
    };
    recorder.start(1000);
    tell("Recording…");
  }

  button.addEventListener("click", async () => {
    if (recorder) {
      tell("");
      recorder.stop();
      return;
    }
    try {
      await start();
    } catch {
      tell("The microphone cannot be used; allow it for this page in the browser’s settings, and try again.", true);
    }
  });
}
