// Fields inside a block of the sheet: what is typed there goes into the node's attributes.
export function labelled(words, control) {
  const label = document.createElement("label");
  const name = document.createElement("span");
  name.textContent = words;
  label.append(name, control);
  return label;
}

export function field(value, { tag = "input", type = "text", max = 300, rows = 2 } = {}) {
  const control = document.createElement(tag);
  control.className = tag === "input" ? "input" : "textarea";
  if (tag === "input") control.type = type;
  else control.rows = rows;
  if (max) control.maxLength = max;
  control.value = value;
  return control;
}

// A node view that shows a block as readers get it, and its form while one is at it or nothing is in it yet.
// `build(form, node, keep)` fills the form and answers with a function that shows new attributes; `draw(shown, attrs)`
// fills what readers see, and answers whether there is anything.
export function formView(className, build, draw) {
  return ({ node, editor, getPos }) => {
    const dom = document.createElement("div");
    dom.className = "formed";
    dom.contentEditable = "false";
    const seen = document.createElement("div");
    seen.className = "seen";
    const form = document.createElement("div");
    form.className = className;
    dom.append(seen, form);
    let shown = node;
    let isChosen = false;
    const keep = (change) => {
      const attrs = { ...shown.attrs, ...change };
      editor.view.dispatch(editor.state.tr.setNodeMarkup(getPos(), undefined, attrs));
    };
    const show = build(form, node, keep);
    const settle = async () => {
      const isAny = await draw(seen, shown.attrs);
      const isOpen = !isAny || isChosen || form.contains(document.activeElement);
      dom.classList.toggle("is-open", isOpen);
    };
    const enter = () => {
      dom.classList.add("is-open");
      if (!form.contains(document.activeElement)) form.querySelector("input, textarea").focus();
    };
    seen.addEventListener("click", enter);
    form.addEventListener("focusout", () => setTimeout(settle));
    dom.classList.add("is-open");
    settle();
    return {
      dom,
      update(next) {
        if (next.type !== shown.type) return false;
        shown = next;
        show(next.attrs);
        if (!form.contains(document.activeElement)) settle();
        return true;
      },
      selectNode() {
        isChosen = true;
        dom.classList.add("is-open", "ProseMirror-selectednode");
      },
      deselectNode() {
        isChosen = false;
        dom.classList.remove("ProseMirror-selectednode");
        settle();
      },
      stopEvent: (event) => dom.contains(event.target) && !event.type.startsWith("drag"),
      ignoreMutation: () => true,
    };
  };
}
