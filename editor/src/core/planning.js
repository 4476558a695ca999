// What follows a change of the text without being part of it: toolbar, block line, outline.
const PAUSE = 150;
const AT_THE_LATEST = 600;

// Runs after a change: of the text when writing pauses, or 600 ms after it began, so that no letter waits for it;
// after a change of the selection alone in the next frame.
export function afterChange(editor, run) {
  let frame = null;
  let timer = null;
  let since = 0;
  const now = () => {
    timer = null;
    run();
  };
  editor.on("transaction", ({ transaction }) => {
    if (transaction.docChanged) {
      if (timer === null) since = performance.now();
      clearTimeout(timer);
      timer = setTimeout(now, Math.min(PAUSE, Math.max(0, since + AT_THE_LATEST - performance.now())));
      return;
    }
    frame ??= requestAnimationFrame(() => {
      frame = null;
      run();
    });
  });
}
