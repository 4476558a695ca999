// Two texts met: who changed what, passage by passage, with the choice of one or both for each.
function button(words, act, away) {
  const made = document.createElement("button");
  made.type = "button";
  made.className = "button is-small";
  made.textContent = words;
  made.addEventListener("click", () => Promise.resolve(act()).catch(away));
  return made;
}

export class Meeting {
  constructor(box, acts) {
    Object.assign(this, { box, acts });
  }

  async ask(body) {
    const response = await fetch(this.acts.room.to.compared, {
      method: "POST",
      headers: { "content-type": "application/json", accept: "application/json" },
      body: JSON.stringify(body),
    });
    if (!response.ok) throw new Error("not compared");
    return response.json();
  }

  // Another text was saved first: `answer` says whose, and its revision.
  show(answer) {
    const words = document.createElement("p");
    words.textContent = `${answer.message} Nothing is lost either way.`;
    const passages = document.createElement("div");
    passages.className = "passages";
    const whole = document.createElement("p");
    whole.append(
      button("Go on with mine; theirs stays kept as a revision", () => this.mine(answer), this.acts.away),
      " ",
      button("Go on with theirs; mine becomes a draft of its own", () => this.acts.theirs(answer.current), this.acts.away),
    );
    this.box.replaceChildren(words, whole, passages);
    this.box.hidden = false;
    this.choose(answer, passages).catch(() => passages.replaceChildren());
  }

  async mine(answer) {
    const sent = await this.acts.over(answer.current);
    if (sent.revision) this.box.hidden = true;
    else if (sent.current) this.show(sent);
  }

  // Every passage that differs, with radio buttons: theirs, mine, or both.
  async choose(answer, place) {
    const compared = await this.ask({ mine: this.acts.read() });
    const differing = compared.rows.filter((row) => row.kind !== "same");
    if (!differing.length) return;
    const head = document.createElement("p");
    head.textContent = "Or passage by passage:";
    place.append(head, ...compared.rows.map((row, index) => (row.kind === "same" ? "" : this.passage(row, index))));
    place.append(button("Go on with the passages chosen", () => this.take(answer, compared, place), this.acts.away));
  }

  passage(row, index) {
    const set = document.createElement("fieldset");
    set.className = "passage";
    const legend = document.createElement("legend");
    legend.textContent = { changed: "Changed in both", added: "Only in mine", removed: "Only in theirs", moved: "Moved" }[row.kind];
    const sides = document.createElement("div");
    sides.className = "compared-row";
    for (const html of [row.before, row.now]) {
      const side = document.createElement("div");
      side.className = "text";
      side.innerHTML = html;
      sides.append(side);
    }
    set.append(legend, sides);
    for (const [value, words] of [["theirs", "theirs"], ["mine", "mine"], ["both", "both"]]) {
      const label = document.createElement("label");
      const radio = Object.assign(document.createElement("input"), { type: "radio", name: `passage-${index}`, value, checked: value === (row.kind === "removed" ? "theirs" : "mine") });
      label.append(radio, ` ${words} `);
      set.append(label);
    }
    return set;
  }

  async take(answer, compared, place) {
    const content = compared.rows.flatMap((row, index) => {
      const chosen = row.kind === "same" ? "mine" : place.querySelector(`[name=passage-${index}]:checked`).value;
      const sides = { theirs: [row.theirs], mine: [row.mine], both: [row.theirs, row.mine] }[chosen];
      return sides.filter(Boolean);
    });
    const { title, subtitle } = this.acts.read();
    this.acts.put({ title, subtitle, document: { type: "doc", content: content.length ? content : [{ type: "paragraph" }] } });
    await this.mine(answer);
  }

  // What a text brought back has that the server's had not.
  async compare(before, now) {
    const compared = await this.ask({ mine: now, theirs: before });
    const words = document.createElement("p");
    words.textContent = "On the left what the server had, on the right what was brought back.";
    const rows = document.createElement("div");
    rows.className = "compared";
    for (const row of compared.rows.filter((one) => one.kind !== "same")) rows.append(this.passage(row, 0).querySelector(".compared-row"));
    const back = button("Go back to what the server had", () => {
      this.acts.put(before);
      this.box.hidden = true;
    });
    const close = button("Keep what was brought back", () => {
      this.box.hidden = true;
    });
    this.box.replaceChildren(words, rows, close, " ", back);
    this.box.hidden = false;
  }
}
