// The desk's parts: acts go to the server one after another, and its fragments come back to their places.
import { stage } from "./stage.js";
import { rail } from "./rail.js";
import { pad } from "./pad.js";

const data = () => JSON.parse(document.getElementById("desk-data").textContent);

// One act at a time: each is sent with the state that the act before it left behind.
let queue = Promise.resolve();
function act(verb, values = {}) {
  queue = queue.then(() => {
    const state = data();
    return window.htmx.ajax("POST", state.act.replace("VERB", verb), {
      values: { ...values, stamp: state.stamp }, swap: "none", source: document.body,
    });
  });
  return queue;
}

const desk = { data, act };

function keepOpen() {
  // Sections that were open stay open when their fragment is swapped.
  let open = new Set();
  document.addEventListener("htmx:configRequest", (event) => {
    event.detail.parameters.open = [...document.querySelectorAll("#sheet [data-edit][open]")].map((d) => d.id).join(",");
  });
  document.getElementById("sheet").addEventListener("toggle", (event) => {
    const body = event.target.open && event.target.dataset.edit && event.target.querySelector(".edit-body");
    if (body && !body.children.length) window.htmx.ajax("GET", data().edit.replace("PART", event.target.dataset.edit), { target: body, swap: "innerHTML" });
  }, true);
  document.addEventListener("htmx:afterSettle", () => document.querySelectorAll("#sheet form[data-token]:not(:has([name=csrfmiddlewaretoken]))").forEach(addToken));
  document.addEventListener("htmx:oobBeforeSwap", (event) => {
    if (event.detail.target.id === "sheet") open = new Set([...event.detail.target.querySelectorAll("details[open]")].map((d) => d.id));
  });
  document.addEventListener("htmx:oobAfterSwap", (event) => {
    if (event.detail.target.id !== "sheet") return;
    for (const id of open) document.getElementById(id)?.setAttribute("open", "");
    refreshFoot();
    document.dispatchEvent(new CustomEvent("desk:changed"));
  });
}

function refreshFoot() {
  const state = data();
  for (const [id, able, label] of [["undo", state.canUndo, state.undoLabel], ["redo", state.canRedo, state.redoLabel]]) {
    const button = document.getElementById(id);
    button.disabled = !able;
    button.title = able ? `${id}: ${label}` : "";
  }
}

function openTone(mark) {
  const tone = document.getElementById(`tone-${mark}`);
  if (!tone) return;
  tone.open = true;
  tone.scrollIntoView({ block: "nearest" });
  tone.querySelector("summary").focus({ preventScroll: true });
}

function keys() {
  const dialog = document.getElementById("keys");
  document.getElementById("keys-button").addEventListener("click", () => dialog.showModal());
  document.addEventListener("keydown", (event) => {
    if (event.target.closest("input, textarea, select, dialog") || event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === "?") dialog.showModal();
    else if (event.key === "u") document.getElementById("undo").click();
    else if (event.key === "r") document.getElementById("redo").click();
    else if (/^[A-Z]$/.test(event.key)) openTone(event.key);
    else return;
    event.preventDefault();
  });
}

document.addEventListener("alpine:init", () => {
  window.Alpine.data("desk", () => ({
    init() {
      keepOpen();
      stage(desk, openTone);
      rail(desk);
      keys();
      refreshFoot();
      for (const verb of ["undo", "redo"]) document.getElementById(verb).addEventListener("click", () => act(verb));
      document.getElementById("open-pad").addEventListener("click", () => document.dispatchEvent(new CustomEvent("pad:open")));
      for (const form of document.querySelectorAll("form[data-token]")) addToken(form);
    },
  }));
  window.Alpine.data("pad", () => pad(desk));
});

// Forms that leave the page carry the same token as the fragments do.
function addToken(form) {
  const headers = JSON.parse(document.body.getAttribute("hx-headers"));
  const input = Object.assign(document.createElement("input"), { type: "hidden", name: "csrfmiddlewaretoken", value: headers["X-CSRFToken"] });
  form.append(input);
}
