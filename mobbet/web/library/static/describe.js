// Describing many pictures: Enter keeps one and goes on to the next, Ctrl+Up goes back.
const forms = [...document.querySelectorAll(".describing form")];

function go(form, step) {
  const to = forms[forms.indexOf(form) + step];
  to?.querySelector("[name=alt]").focus();
  to?.scrollIntoView({ block: "nearest" });
}

for (const form of forms) {
  form.addEventListener("submit", async (event) => {
    event.preventDefault();
    const told = form.querySelector(".told");
    try {
      const response = await fetch(form.action, { method: "POST", body: new URLSearchParams(new FormData(form)), headers: { accept: "application/json" } });
      const answer = await response.json();
      told.textContent = response.ok ? "kept" : answer.message;
      told.classList.toggle("problem", !response.ok);
      if (response.ok) go(form, 1);
    } catch {
      told.textContent = "The network is away; what you typed is kept here. Try again when it is back.";
      told.classList.add("problem");
    }
  });
  form.addEventListener("keydown", (event) => {
    if (event.ctrlKey && event.key === "ArrowUp") go(form, -1);
    else if (event.ctrlKey && event.key === "ArrowDown") go(form, 1);
    else return;
    event.preventDefault();
  });
}
forms[0]?.querySelector("[name=alt]").focus();
