// What follows a change of the text without being part of it: toolbar, block line, outline.
const WHILE_TYPING = 90;

// Runs after a change: while one types at most every 90 ms, outside the frame in which a letter appears; after a
// change of the selection alone in the next frame.
export function afterChange(editor, run) {
  let frame = null;
  let timer = null;
  editor.on("transaction", ({ transaction }) => {
    if (transaction.docChanged) {
      timer ??= setTimeout(() => {
        timer = null;
        run();
      }, WHILE_TYPING);
      return;
    }
    frame ??= requestAnimationFrame(() => {
      frame = null;
      run();
    });
  });
}
