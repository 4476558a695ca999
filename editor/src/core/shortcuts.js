// One page of every key, opened with Ctrl+/.
const KEYS = [
  ["Words", [["Ctrl+B", "bold"], ["Ctrl+I", "italic"], ["Ctrl+U", "underline"], ["Ctrl+Shift+S", "strike through"], ["Ctrl+E", "code in the line"], ["Ctrl+.", "raised"], ["Ctrl+,", "lowered"], ["Ctrl+K", "link"], ["Ctrl+\\", "clear formatting"]]],
  ["Blocks", [["Ctrl+Alt+2 to 4", "headings"], ["Ctrl+Alt+0", "paragraph"], ["Ctrl+Shift+8", "list"], ["Ctrl+Shift+7", "numbered list"], ["Ctrl+Shift+B", "quote"], ["Tab, Shift+Tab", "deeper or higher in a list, next cell in a table"], ["Shift+Enter", "line break"]]],
  ["Moving", [["Alt+Enter", "put something below this block"], ["Shift+Alt+Enter", "put something above it"], ["Alt+Up, Alt+Down", "move the block"], ["Ctrl+D", "double the block"], ["Ctrl+Shift+Backspace", "remove the block"], ["Escape", "select the block, then what is around it"], ["Ctrl+Alt+Right, Left", "a picture wider, or narrower"], ["Alt+F10", "to the toolbar"]]],
  ["The post", [["Ctrl+S", "save now"], ["Ctrl+F", "find and replace"], ["F8, Shift+F8", "to the next mark of the proof, or the one before"], ["Ctrl+Z, Ctrl+Shift+Z", "undo, redo"], ["Ctrl+Shift+V", "paste as plain text"], ["Ctrl+/", "this page"]]],
  ["Typed at the start of a line", [["## and a space", "heading"], ["- or * and a space", "list"], ["1. and a space", "numbered list"], ["> and a space", "quote"], ["``` and a space", "code"], ["---", "divider"], ["**bold**, *italic*, ~~struck~~, `code`", "as you type"]]],
];

export function makeShortcuts(dialog) {
  for (const [name, rows] of KEYS) {
    const section = document.createElement("section");
    const head = document.createElement("h3");
    head.textContent = name;
    const list = document.createElement("dl");
    for (const [keys, words] of rows) {
      const term = document.createElement("dt");
      const kbd = document.createElement("kbd");
      kbd.textContent = keys;
      term.append(kbd);
      const told = document.createElement("dd");
      told.textContent = words;
      list.append(term, told);
    }
    section.append(head, list);
    dialog.querySelector(".keys").append(section);
  }
  dialog.querySelector("button").addEventListener("click", () => dialog.close());
  return () => (dialog.open ? dialog.close() : dialog.showModal());
}
