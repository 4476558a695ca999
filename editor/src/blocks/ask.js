// Questions to readers: a form whose answers the people of the blog read, or a poll.
import { Node } from "@tiptap/core";
import { kept } from "../core/attributes.js";
import { field, formView, labelled } from "../core/forms.js";
import { element } from "./parts.js";

// As core/asking.py has them.
const QUESTIONS = {
  line: "a line", text: "a longer text", email: "an e-mail address", choice: "one of some choices", several: "several of some choices", scale: "a number from 1 to 5",
};
const COUNTED = ["choice", "several", "scale"];
const WITH_CHOICES = ["choice", "several"];
const OUTCOMES = { voted: "after they voted", closed: "once it is closed", never: "never" };

const linesOf = (text) => [...new Set(text.split("\n").map((line) => line.trim().slice(0, 120)).filter(Boolean))].slice(0, 20);
const newKey = () => Array.from(crypto.getRandomValues(new Uint8Array(8)), (byte) => (byte % 36).toString(36)).join("");

function choiceOf(choices, value) {
  const made = Object.assign(document.createElement("select"), { className: "select" });
  made.append(...Object.entries(choices).map(([key, words]) => new Option(words, key)));
  made.value = value;
  return made;
}

function plainButton(words) {
  const made = element("button", "plain", words);
  made.type = "button";
  return made;
}

function questionRow([kind, words, choices, isNeeded], drop) {
  const row = element("div", "question");
  const what = choiceOf(QUESTIONS, kind);
  const asked = field(words, { max: 300 });
  const offered = field(choices.join("\n"), { tag: "textarea", max: 2600, rows: 3 });
  const needed = Object.assign(document.createElement("input"), { type: "checkbox", checked: isNeeded });
  const choicesLabel = labelled("Choices, one a line", offered);
  const showChoices = () => (choicesLabel.hidden = !WITH_CHOICES.includes(what.value));
  what.addEventListener("change", showChoices);
  showChoices();
  const remove = plainButton("Remove");
  remove.addEventListener("click", () => {
    row.remove();
    drop();
  });
  row.append(labelled("Question", asked), labelled("Answered by", what), choicesLabel, labelled("Must be answered", needed), remove);
  row.read = () => [what.value, asked.value.trim(), WITH_CHOICES.includes(what.value) ? linesOf(offered.value) : [], needed.checked];
  return row;
}

function build(dom, node, keep) {
  const title = field(node.attrs.title, { max: 200 });
  const kind = choiceOf({ form: "a form: answers are read here", poll: "a poll: answers are counted" }, node.attrs.kind);
  const rows = element("div", "questions");
  const told = field(node.attrs.told, { max: 300 });
  const closes = field(node.attrs.closes, { type: "date", max: 0 });
  const outcome = choiceOf(OUTCOMES, node.attrs.outcome);
  const outcomeLabel = labelled("Readers see the outcome", outcome);
  const hint = element("p", "hint", "");

  const keepRows = () => keep({ questions: [...rows.children].map((row) => row.read()) });
  const addRow = (question) => {
    const row = questionRow(question, keepRows);
    for (const event of ["input", "change"]) row.addEventListener(event, keepRows);
    rows.append(row);
    return row;
  };
  const more = plainButton("Ask one thing more");
  more.addEventListener("click", () => addRow([kind.value === "poll" ? "choice" : "line", "", [], true]).querySelector("input").focus());
  const tell = (attrs) => {
    outcomeLabel.hidden = attrs.kind !== "poll";
    const isUncounted = attrs.kind === "poll" && attrs.questions.some(([type]) => !COUNTED.includes(type));
    hint.textContent = isUncounted ? "A poll counts choices and numbers alone; other questions are left out." : "";
  };
  const draw = (attrs) => {
    title.value = attrs.title;
    kind.value = attrs.kind;
    rows.replaceChildren();
    attrs.questions.forEach(addRow);
    told.value = attrs.told;
    closes.value = attrs.closes;
    outcome.value = attrs.outcome;
    tell(attrs);
  };
  draw(node.attrs);
  title.addEventListener("input", () => keep({ title: title.value }));
  kind.addEventListener("change", () => keep({ kind: kind.value }));
  told.addEventListener("input", () => keep({ told: told.value }));
  closes.addEventListener("change", () => keep({ closes: closes.value }));
  outcome.addEventListener("change", () => keep({ outcome: outcome.value }));
  const toldLabel = labelled("What happens to the answers, told below it", told);
  told.placeholder = "Only the people of this blog read your answers.";
  dom.append(labelled("Heading", title), labelled("This is", kind), rows, more, hint, toldLabel, labelled("Open until the end of", closes), outcomeLabel);
  // the key under which its answers stand is made once, in the browser, so that saving never changes a text
  if (!node.attrs.key) setTimeout(() => dom.isConnected && keep({ key: newKey() }));
  return (attrs) => {
    tell(attrs);
    if (!dom.contains(document.activeElement)) draw(attrs);
  };
}

// About what the site shows (core/document/asking.py).
function draw(seen, attrs) {
  seen.className = "seen form-block";
  const asked = attrs.questions.filter(([, words]) => words);
  const parts = attrs.title ? [element("p", "form-words", attrs.title)] : [];
  for (const [kind, words, choices] of asked) {
    const offered = WITH_CHOICES.includes(kind) ? `: ${choices.join(" · ") || "no choices yet"}` : ` (${QUESTIONS[kind]})`;
    parts.push(element("p", "", words + offered));
  }
  seen.replaceChildren(...parts, element("span", "form-button", attrs.kind === "poll" ? "Vote" : "Send it"));
  return asked.length > 0;
}

const Ask = Node.create({
  name: "ask",
  group: "block",
  atom: true,
  addAttributes: () => ({
    key: kept("key", ""), kind: kept("kind", "form"), title: kept("title", ""), questions: kept("questions", []), told: kept("told", ""),
    outcome: kept("outcome", "voted"), closes: kept("closes", ""),
  }),
  parseHTML: () => [{ tag: '[data-kind="ask"]' }],
  renderHTML: ({ HTMLAttributes }) => ["div", { "data-kind": "ask", ...HTMLAttributes }],
  addNodeView: () => formView("block-form ask-form", build, draw),
});

export const ask = {
  nodes: [Ask],
  entry: { words: "Questions to readers", group: "together", block: { type: "ask" }, more: "contact form poll survey vote hand in" },
};
