// The keys that somebody prefers: theirs do what Mobbet's own do, and Mobbet's own are let go of.
const own = JSON.parse(document.querySelector("[data-own-keys]")?.dataset.ownKeys ?? "{}");
const meant = new Map(Object.entries(own).map(([usual, preferred]) => [preferred, usual]));
const made = new WeakSet();
const NAMED = { ArrowUp: "Up", ArrowDown: "Down", Slash: "/", Period: ".", Comma: ",", Semicolon: ";", Quote: "'", BracketLeft: "[", BracketRight: "]", Equal: "=", Minus: "-" };
const CODES = Object.fromEntries(Object.entries(NAMED).map(([code, name]) => [name, code]));

// “Ctrl+Alt+K” of a press; letters by what they type, so that a keyboard with another order has its own names.
export function nameOf(event) {
  const key = /^[a-z0-9]$/i.test(event.key) ? event.key.toUpperCase() : NAMED[event.code] ?? event.code.replace(/^(Key|Digit)/, "");
  return [event.ctrlKey || event.metaKey ? "Ctrl" : "", event.altKey ? "Alt" : "", event.shiftKey ? "Shift" : "", key].filter(Boolean).join("+");
}

function press(target, name) {
  const parts = name.split("+");
  const last = parts.pop();
  const code = CODES[last] ?? (/^[A-Z]$/.test(last) ? `Key${last}` : /^[0-9]$/.test(last) ? `Digit${last}` : last);
  const has = (modifier) => parts.includes(modifier);
  const key = /^[A-Z]$/.test(last) ? last.toLowerCase() : code === last ? last : code.startsWith("Arrow") ? code : last;
  const event = new KeyboardEvent("keydown", { key, code, ctrlKey: has("Ctrl"), altKey: has("Alt"), shiftKey: has("Shift"), bubbles: true, cancelable: true, composed: true });
  made.add(event);
  target.dispatchEvent(event);
}

if (meant.size) {
  addEventListener("keydown", (event) => {
    if (made.has(event) || event.isComposing || event.target.matches?.("[data-keys]")) return;
    const name = nameOf(event);
    const plain = name.replace("Shift+", "");
    const usual = meant.get(name) ?? (meant.has(plain) ? `Shift+${meant.get(plain)}` : null);
    if (usual) {
      event.preventDefault();
      event.stopImmediatePropagation();
      press(event.target, usual);
    } else if (own[name] || own[plain]) event.stopImmediatePropagation();
  }, true);
}

// A field for keys takes the combination that is pressed in it; what types a letter, or moves about, is typed.
document.addEventListener("keydown", (event) => {
  if (!event.target.matches?.("[data-keys]") || event.key === "Tab" || !(event.ctrlKey || event.altKey || event.metaKey || /^F\d+$/.test(event.key))) return;
  if (["Control", "Alt", "Shift", "Meta"].includes(event.key)) return;
  event.preventDefault();
  event.target.value = nameOf(event);
});
