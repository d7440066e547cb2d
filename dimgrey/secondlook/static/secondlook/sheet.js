// The contact sheet: files go up one by one, decisions are made with single keys.
const page = document.getElementById("batch"), sheet = document.getElementById("sheet-of");
const token = () => JSON.parse(document.body.getAttribute("hx-headers"))["X-CSRFToken"];
const headers = () => ({ "X-CSRFToken": token(), "HX-Request": "true" });
let at = 0, inColour = false;

function say(words) {
  const line = document.getElementById("said");
  line.textContent = words;
  line.hidden = !words;
}

async function addAll(files) {
  const bar = document.getElementById("progress"), text = document.getElementById("progress-text");
  const count = { new: 0, known: 0, broken: 0 };
  bar.hidden = false;
  bar.max = files.length;
  for (const [k, file] of files.entries()) {
    text.textContent = `${k} of ${files.length}: ${file.name}`;
    const body = new FormData();
    body.append("file", file);
    try {
      const answer = await fetch(page.dataset.add, { method: "POST", headers: headers(), body });
      const found = await answer.json();
      if (found.state === "refused") { say(found.problem); break; }
      count[found.state] += 1;
      if (found.html) sheet.insertAdjacentHTML("beforeend", found.html);
      if (found.state === "broken") tellBroken(found);
    } catch {
      say(`Stopped at ${file.name}: the server does not answer. Add the same files again to go on.`);
      break;
    }
    bar.value = k + 1;
  }
  bar.hidden = true;
  const parts = [`${count.new} added`];
  if (count.known) parts.push(`${count.known} were in already`);
  if (count.broken) parts.push(`${count.broken} could not be read`);
  text.textContent = `${parts.join(", ")}.`;
  document.getElementById("decide").hidden = !sheet.children.length;
  mark();
}

function tellBroken(found) {
  const part = document.getElementById("broken"), line = document.createElement("li"), name = document.createElement("b");
  name.textContent = found.name;
  line.append(name, `: ${found.problem}`);
  part.querySelector("ul").append(line);
  part.hidden = false;
}

function mark() {
  at = Math.min(Math.max(at, 0), sheet.children.length - 1);
  [...sheet.children].forEach((item, k) => {
    if (k === at) item.setAttribute("aria-current", "true"); else item.removeAttribute("aria-current");
  });
  const item = sheet.children[at];
  if (!item) return;
  item.scrollIntoView({ block: "nearest" });
  for (const button of document.querySelectorAll("[data-decision]")) if (button.tagName === "BUTTON") button.setAttribute("aria-pressed", String(button.dataset.decision === item.dataset.decision));
  for (const button of document.querySelectorAll("[data-reason]")) if (button.tagName === "BUTTON") button.setAttribute("aria-pressed", String(!!item.dataset.reason && button.dataset.reason === item.dataset.reason));
}

function show(item, decision, reason) {
  item.dataset.decision = decision;
  item.dataset.reason = reason;
  item.className = `old ${decision.replace(" ", "-")}`;
  item.querySelector(".decided").textContent = (decision || "open") + (reason ? `, ${reason}` : "");
  mark();
}

// Shown at once, kept one after another; what could not be kept goes back to how it was.
let queue = Promise.resolve();
function decide(decision, reason) {
  const item = sheet.children[at];
  if (!item) return;
  const before = [item.dataset.decision, item.dataset.reason];
  show(item, decision, reason);
  queue = queue.then(() => send(item, decision, reason)).catch(() => {
    show(item, ...before);
    say("That was not kept: the server does not answer. Try again.");
  });
}

async function send(item, decision, reason) {
  const body = new URLSearchParams({ decision, reason });
  const answer = await fetch(page.dataset.decide.replace("/0/", `/${item.dataset.picture}/`), { method: "POST", headers: headers(), body });
  if (!answer.ok) throw new Error(answer.status);
  window.htmx.swap(document.getElementById("common"), await answer.text(), { swapStyle: "innerHTML" });
  say("");
}

function choose(decision) {
  decide(sheet.children[at]?.dataset.decision === decision ? "" : decision, "");
}

function reason(words) {
  const now = sheet.children[at]?.dataset.decision;
  if (now) decide(now, words); else say("Decide first: keep, doubt or let go. Then say why.");
}

function colour() {
  inColour = !inColour;
  for (const image of sheet.querySelectorAll("img")) image.src = inColour ? image.dataset.colour : image.dataset.grey;
  document.getElementById("colour").setAttribute("aria-pressed", String(inColour));
}

const perRow = () => { const tops = [...sheet.children].map((item) => item.offsetTop); return tops.filter((top) => top === tops[0]).length || 1; };
document.addEventListener("keydown", (event) => {
  if (event.target.closest("input, textarea, select") || event.ctrlKey || event.metaKey || event.altKey) return;
  const moves = { ArrowRight: 1, ArrowLeft: -1, ArrowDown: perRow(), ArrowUp: -perRow() };
  if (moves[event.key]) { at += moves[event.key]; mark(); }
  else if (event.key === "k") choose("keep");
  else if (event.key === "d") choose("doubt");
  else if (event.key === "x") choose("let go");
  else if (event.key === "c") colour();
  else if (/^[1-6]$/.test(event.key)) reason(document.querySelectorAll("button[data-reason]")[Number(event.key) - 1].dataset.reason);
  else return;
  event.preventDefault();
});
sheet.addEventListener("click", (event) => { const item = event.target.closest(".old"); if (item) { at = [...sheet.children].indexOf(item); mark(); } });
for (const button of document.querySelectorAll("button[data-decision]")) button.addEventListener("click", () => choose(button.dataset.decision));
for (const button of document.querySelectorAll("button[data-reason]")) button.addEventListener("click", () => reason(button.dataset.reason));
document.getElementById("colour").addEventListener("click", colour);
document.getElementById("files").addEventListener("change", (event) => addAll([...event.target.files]));
const drop = document.getElementById("drop");
for (const name of ["dragover", "dragleave", "drop"]) drop.addEventListener(name, (event) => { event.preventDefault(); drop.classList.toggle("over", name === "dragover"); if (name === "drop") addAll([...event.dataTransfer.files]); });
mark();
