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

// A node view around a form: `build(form, node, keep)` fills it and answers with a function that shows new attributes.
export function formView(className, build) {
  return ({ node, editor, getPos }) => {
    const dom = document.createElement("div");
    dom.className = className;
    dom.contentEditable = "false";
    let shown = node;
    const keep = (change) => {
      const attrs = { ...shown.attrs, ...change };
      editor.view.dispatch(editor.state.tr.setNodeMarkup(getPos(), undefined, attrs));
    };
    const show = build(dom, node, keep);
    return {
      dom,
      update(next) {
        if (next.type !== shown.type) return false;
        shown = next;
        show(next.attrs);
        return true;
      },
      stopEvent: (event) => dom.contains(event.target) && !event.type.startsWith("drag"),
      ignoreMutation: () => true,
    };
  };
}
