// A review: what is reviewed, scores with weights, points for and against, the verdict; the whole score is computed.
import { Node } from "@tiptap/core";
import { kept } from "../core/attributes.js";
import { field, formView, labelled } from "../core/forms.js";

const linesOf = (text) => text.split("\n").map((line) => line.trim()).filter(Boolean);

// The weighted mean to one decimal, as core/document/review.py has it.
function overall(criteria) {
  const weights = criteria.reduce((sum, [, , weight]) => sum + weight, 0);
  if (!weights) return null;
  const tenths = criteria.reduce((sum, [, score, weight]) => sum + Math.round(score * 10) * weight, 0);
  return Math.floor(tenths / weights + 0.5) / 10;
}

// A number as people write it, with a point or a comma; null when it is none or out of range.
function numberIn(text, least, most) {
  const found = /^\s*(\d+)(?:[.,](\d+))?\s*$/.exec(text);
  const number = found ? Number(`${found[1]}.${found[2] || 0}`) : NaN;
  return number >= least && number <= most ? number : null;
}

// What is reviewed, which search engines are told (core/document/review.py).
const KINDS = {
  "": "not said", product: "a product or tool", book: "a book", film: "a film", music: "a piece of music", game: "a game",
  software: "a program", place: "a shop or place", event: "an event", course: "a course", recipe: "a recipe",
};

function kindChoice(value) {
  const choice = Object.assign(document.createElement("select"), { className: "select" });
  choice.append(...Object.entries(KINDS).map(([kind, words]) => new Option(words, kind)));
  choice.value = value;
  return choice;
}

// What is wrong with a score or a weight, in a sentence; "" when nothing is.
function problemOf([, value, weight]) {
  if (numberIn(value, 0, 10) === null) return `“${value}” is no score; write a number from 0 to 10, such as 6.5.`;
  if (numberIn(weight, 1, 100) === null) return `“${weight}” is no weight; write a whole number from 1 to 100.`;
  return "";
}

function build(dom, node, keep) {
  const name = field(node.attrs.name, { max: 200 });
  const kind = kindChoice(node.attrs.kind);
  const rows = document.createElement("div");
  rows.className = "criteria";
  const score = document.createElement("p");
  score.className = "review-score";
  const pros = field(node.attrs.points_for.join("\n"), { tag: "textarea", max: 3000 });
  const cons = field(node.attrs.points_against.join("\n"), { tag: "textarea", max: 3000 });
  const verdict = field(node.attrs.verdict, { tag: "textarea", max: 1000 });

  // The rows as they are kept: one whose score or weight is wrong says so, and keeps the numbers it had.
  const read = () => [...rows.querySelectorAll(".criterion")].map(readRow).filter(([words]) => words);
  const readRow = (row) => {
    const [what, mark, share] = row.querySelectorAll("input");
    const problem = problemOf([what.value, mark.value, share.value]);
    row.querySelector(".problem").textContent = problem;
    mark.setAttribute("aria-invalid", String(numberIn(mark.value, 0, 10) === null));
    share.setAttribute("aria-invalid", String(numberIn(share.value, 1, 100) === null));
    if (!problem) row.numbers = [Math.round(numberIn(mark.value, 0, 10) * 10) / 10, Math.round(numberIn(share.value, 1, 100))];
    return [what.value.trim(), ...row.numbers];
  };
  const tell = (criteria) => {
    const whole = overall(criteria);
    score.textContent = whole === null ? "No score yet: name what you score below." : `${whole} of 10, the weighted mean of the scores`;
  };
  const keepRows = () => {
    const criteria = read();
    tell(criteria);
    keep({ criteria });
  };

  const addRow = ([words, value, weight]) => {
    const row = document.createElement("div");
    row.className = "criterion";
    const what = field(words, { max: 120 });
    const mark = Object.assign(field(value, { max: 6 }), { inputMode: "decimal" });
    const share = Object.assign(field(weight, { max: 6 }), { inputMode: "numeric" });
    const problem = Object.assign(document.createElement("p"), { className: "problem" });
    problem.setAttribute("role", "status");
    row.numbers = [value, weight];
    const drop = document.createElement("button");
    drop.type = "button";
    drop.className = "plain";
    drop.textContent = "Remove";
    drop.addEventListener("click", () => {
      row.remove();
      keepRows();
    });
    row.append(labelled("Scored", what), labelled("Score, 0 to 10", mark), labelled("Weight", share), drop, problem);
    row.addEventListener("input", keepRows);
    rows.append(row);
    return what;
  };
  const more = document.createElement("button");
  more.type = "button";
  more.className = "plain";
  more.textContent = "Score one thing more";
  more.addEventListener("click", () => addRow(["", 5, 1]).focus());

  const draw = (attrs) => {
    name.value = attrs.name;
    kind.value = attrs.kind;
    rows.replaceChildren();
    attrs.criteria.forEach(addRow);
    pros.value = attrs.points_for.join("\n");
    cons.value = attrs.points_against.join("\n");
    verdict.value = attrs.verdict;
    tell(attrs.criteria);
  };
  draw(node.attrs);
  name.addEventListener("input", () => keep({ name: name.value }));
  kind.addEventListener("change", () => keep({ kind: kind.value }));
  pros.addEventListener("input", () => keep({ points_for: linesOf(pros.value) }));
  cons.addEventListener("input", () => keep({ points_against: linesOf(cons.value) }));
  verdict.addEventListener("input", () => keep({ verdict: verdict.value }));
  dom.append(labelled("Review of", name), labelled("Which is", kind), score, rows, more, labelled("Points for, one a line", pros), labelled("Points against, one a line", cons), labelled("Verdict", verdict));
  return (attrs) => {
    if (!dom.contains(document.activeElement)) draw(attrs);
  };
}

const SVG = "http://www.w3.org/2000/svg";

function bar(score) {
  const svg = document.createElementNS(SVG, "svg");
  for (const [name, value] of [["class", "score-bar"], ["viewBox", "0 0 100 6"], ["preserveAspectRatio", "none"], ["aria-hidden", "true"]]) svg.setAttribute(name, value);
  for (const [className, width] of [["whole", 100], ["part", score * 10]]) {
    const part = document.createElementNS(SVG, "rect");
    for (const [name, value] of [["class", className], ["width", width], ["height", 6]]) part.setAttribute(name, value);
    svg.append(part);
  }
  return svg;
}

function element(tag, className, ...inner) {
  const made = document.createElement(tag);
  if (className) made.className = className;
  made.append(...inner);
  return made;
}

// The review as the site shows it (core/document/composed.py).
function draw(seen, attrs) {
  seen.className = "seen review";
  const whole = overall(attrs.criteria);
  const parts = [element("p", "review-name", attrs.name)];
  if (whole !== null) {
    parts.push(element("p", "review-score", element("b", "", String(whole)), " of 10", bar(whole)));
    const rows = attrs.criteria.map(([name, score]) => element("tr", "", element("th", "", name), element("td", "", bar(score)), element("td", "figure", String(score))));
    parts.push(element("table", "review-criteria", element("tbody", "", ...rows)));
  }
  for (const [words, points] of [["For", attrs.points_for], ["Against", attrs.points_against]]) {
    if (points.length) parts.push(element("div", "review-points", element("p", "", words), element("ul", "", ...points.map((point) => element("li", "", point)))));
  }
  if (attrs.verdict) parts.push(element("p", "review-verdict", attrs.verdict));
  seen.replaceChildren(...parts);
  return Boolean(attrs.name && whole !== null);
}

const Review = Node.create({
  name: "review",
  group: "block",
  atom: true,
  addAttributes: () => ({
    name: kept("name", ""),
    criteria: kept("criteria", []),
    points_for: kept("points_for", []),
    points_against: kept("points_against", []),
    verdict: kept("verdict", ""),
    kind: kept("kind", ""),
  }),
  parseHTML: () => [{ tag: '[data-kind="review"]' }],
  renderHTML: ({ HTMLAttributes }) => ["div", { "data-kind": "review", ...HTMLAttributes }],
  addNodeView: () => formView("block-form review-form", build, draw),
});

export const review = {
  nodes: [Review],
  entry: { words: "Review", group: "together", block: { type: "review" }, more: "score rating test stars" },
};
