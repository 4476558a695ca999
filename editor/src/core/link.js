// The mark of a link, and what becomes one as it is typed: [words](address), a web address, an e-mail address.
import { InputRule, Mark, mergeAttributes } from "@tiptap/core";
import { isAllowedAddress } from "./addresses.js";
import { kept } from "./attributes.js";

const WRITTEN = /(?<!!)\[([^\]]+)\]\(([^()\s]+)\)$/;
// The address ends before the sign that closes a sentence or a bracket; the last letter is the space just typed.
const ADDRESS = /(?:^|[\s(\[])((?:https?:\/\/|www\.)[^\s<>"]{2,500}?|[\w.+-]{1,64}@[\w-]{1,63}(?:\.[\w-]{2,63}){1,4})[.,;:!?)\]]*[ \u00a0]$/;

const hrefOf = (typed) => (typed.includes("@") && !/^https?:/.test(typed) ? `mailto:${typed}` : typed.startsWith("www.") ? `https://${typed}` : typed);

// Marks an address that ends at a place of the text, where it is none yet.
function linkUpTo(state, tr, end) {
  const { parent, start } = { parent: state.doc.resolve(end).parent, start: state.doc.resolve(end).start() };
  if (parent.type.spec.code) return false;
  const before = parent.textBetween(Math.max(0, end - start - 600), end - start, undefined, "\ufffc");
  const match = ADDRESS.exec(`${before} `);
  if (!match) return false;
  const from = end - before.length + match[0].indexOf(match[1]) + (before.length + 1 - match[0].length);
  const href = hrefOf(match[1]);
  if (!isAllowedAddress(href) || state.doc.rangeHasMark(from, from + match[1].length, state.schema.marks.link)) return false;
  tr.addMark(from, from + match[1].length, state.schema.marks.link.create({ href })).removeStoredMark(state.schema.marks.link);
  return true;
}

export const Link = Mark.create({
  name: "link",
  priority: 1000,
  keepOnSplit: false,
  inclusive: false,
  addAttributes: () => ({
    href: { default: null, parseHTML: (element) => element.getAttribute("href") },
    title: kept("title", ""),
    window: kept("window", "here"),
    paid: kept("paid", false, (value) => (value ? { class: "paid-link" } : {})),
  }),
  parseHTML: () => [{ tag: "a[href]", getAttrs: (element) => (isAllowedAddress(element.getAttribute("href") || "") ? null : false) }],
  renderHTML: ({ HTMLAttributes }) => ["a", mergeAttributes(isAllowedAddress(HTMLAttributes.href || "") ? HTMLAttributes : { ...HTMLAttributes, href: "" }), 0],
  addInputRules: () => [
    new InputRule({
      find: WRITTEN,
      handler: ({ state, range, match }) => {
        if (!isAllowedAddress(match[2])) return null;
        const mark = state.schema.marks.link.create({ href: match[2] });
        state.tr.replaceWith(range.from, range.to, state.schema.text(match[1], [mark])).removeStoredMark(mark);
        return undefined;
      },
    }),
    new InputRule({
      find: ADDRESS,
      handler: ({ state, range, match }) => {
        if (!linkUpTo(state, state.tr, range.to)) return null;
        state.tr.insertText(match[0].at(-1), range.to).removeMark(range.to, range.to + 1, state.schema.marks.link);
        return undefined;
      },
    }),
  ],
  addKeyboardShortcuts() {
    return {
      Enter: () => {
        const { state, view } = this.editor;
        const { tr } = state;
        if (state.selection.empty && linkUpTo(state, tr, state.selection.from)) view.dispatch(tr);
        return false;
      },
    };
  },
});
