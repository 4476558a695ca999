// Work that follows a key without being part of it, so that no letter waits for it.
const PAUSE = 150;
const AT_THE_LATEST = 600;

// A function that runs `run` when it was not called for `pause` ms, or `atLatest` ms after the first call, whichever comes first.
// Its one timer is extended when it fires: clearing and setting a timer for each key costs more than most of what follows a key.
export function debounced(run, pause, atLatest = Infinity) {
  let timer = null;
  let [first, last] = [0, 0];
  const fire = () => {
    const left = Math.min(last + pause, first + atLatest) - performance.now();
    timer = left > 1 ? setTimeout(fire, left) : null;
    if (timer === null) run();
  };
  const call = () => {
    last = performance.now();
    if (timer !== null) return;
    first = last;
    timer = setTimeout(fire, Math.min(pause, atLatest));
  };
  call.cancel = () => {
    clearTimeout(timer);
    timer = null;
  };
  return call;
}

const followers = new WeakMap();

// Runs after a change: of the text when writing pauses, or 600 ms after it began; of the selection alone in the next frame.
export function afterChange(editor, run) {
  if (!followers.has(editor)) followers.set(editor, follow(editor));
  followers.get(editor).push(run);
}

// One listener for all that follows.
function follow(editor) {
  const runs = [];
  let frame = null;
  const all = () => runs.forEach((run) => run());
  const inFrame = () => {
    frame = null;
    all();
  };
  const later = debounced(all, PAUSE, AT_THE_LATEST);
  editor.on("transaction", ({ transaction }) => {
    if (transaction.docChanged) later();
    else frame ??= requestAnimationFrame(inFrame);
  });
  return runs;
}
