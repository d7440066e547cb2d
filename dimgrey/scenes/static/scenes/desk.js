// The desk's parts: acts go to the server one after another, and its fragments come back to their places.
import { first } from "../pictures/painter.js";
import { signInAgain } from "../site/signin.js";
import { stamped } from "./stamped.js";
import { beside } from "./beside.js";
import { halfTyped, sameForm } from "./halftyped.js";
import { stage } from "./stage.js";
import { strip } from "./strip.js";
import { rail } from "./rail.js";
import { lasso } from "./lasso.js";
import { pad } from "./pad.js";
import { pins } from "./pins.js";
import { glass } from "./glass.js";
import { timer } from "./exposuretimer.js";

const data = () => JSON.parse(document.getElementById("desk-data").textContent);

const openParts = () => [...document.querySelectorAll("#sheet [data-edit][open]")].map((d) => d.id).join(",");
const token = () => JSON.parse(document.body.getAttribute("hx-headers"))["X-CSRFToken"];

// One act at a time, a form's too: each is sent with the state that the act before it left behind.
let queue = Promise.resolve();
function inTurn(address, values, form = null) {
  queue = queue
    .then(() => send(address, values, form))
    .catch(() => notKept("the server does not answer"))
    .then((kept) => kept || revert(form));
  return queue;
}
const act = (verb, values = {}) => inTurn(data().act.replace("VERB", verb), values);

// What a form says is read when it is sent off, because an act before it may bring another form to its place.
function formsInTurn() {
  document.addEventListener("htmx:confirm", (event) => {
    const form = event.target.closest("form[hx-post]");
    if (!form) return;
    event.preventDefault();
    if (!form.reportValidity()) return;
    inTurn(form.getAttribute("hx-post"), new FormData(form, event.detail.triggeringEvent?.submitter), form);
  });
}

// Work that takes longer than a glance shows that it is under way.
const BUSY_AFTER_MS = 300;
let busy = 0;
const wait = () => {
  clearTimeout(busy);
  busy = setTimeout(() => document.body.setAttribute("aria-busy", "true"), BUSY_AFTER_MS);
};
const rest = () => {
  clearTimeout(busy);
  document.body.removeAttribute("aria-busy");
};

async function send(address, values, form) {
  wait();
  try {
    return await first(() => post(address, values, form));
  } finally {
    rest();
  }
}

const typed = halfTyped();
let answered = null;

// True when it was kept, or the server said in its own words why not.
async function post(address, values, form) {
  const body = new URLSearchParams(values);
  for (const [name, value] of Object.entries({ ...stamped(), stamp: data().stamp, open: openParts() }))
    body.set(name, value);
  const sent = () =>
    fetch(address, { method: "POST", headers: { "X-CSRFToken": token(), "HX-Request": "true" }, body });
  let answer = await sent();
  // The same act again, with its id and its time.
  if (answer.status === 401 && (await signInAgain())) answer = await sent();
  if (answer.status === 503) return say(await answer.text());
  if (answer.status === 401) return notKept("your sign-in has ended");
  if (![200, 409, 422].includes(answer.status))
    return notKept("the server could not do that");
  say("");
  answered = answer.status === 200 && { form, values };
  window.htmx.swap(document.body, await answer.text(), { swapStyle: "none" });
  answered = null;
  return true;
}

const notKept = (why) => say(`That was not kept: ${why}. What was typed is still in its field; try again.`);

function say(words) {
  const line = document.getElementById("said");
  line.textContent = words;
  line.hidden = !words;
}

async function loadEditor(details) {
  const body = details.querySelector(".edit-body");
  if (body.children.length) return;
  const answer = await fetch(data().edit.replace("PART", details.dataset.edit));
  if (answer.ok && !body.children.length) {
    window.htmx.swap(body, await answer.text(), { swapStyle: "innerHTML" });
    body.querySelectorAll("form[data-token]").forEach(addToken);
    typed.giveBack(body);
  }
}

// How the picture is seen and which parts are open stays in the address, so that a reload finds them again.
function remember(changed) {
  const said = new URLSearchParams(location.search);
  for (const [name, value] of Object.entries(changed)) value ? said.set(name, value) : said.delete(name);
  const text = said.toString().replaceAll("%2C", ",");
  history.replaceState(null, "", text ? `?${text}` : location.pathname);
}
function reopen() {
  for (const id of (new URLSearchParams(location.search).get("open") ?? "").split(",")) {
    const part = /^(edit|tone)-[\w-]+$/.test(id) && document.getElementById(id);
    if (part) part.open = true;
  }
}

const setting = () =>
  ["shutter", "aperture"].map((side) => document.querySelector(`[data-side="${side}"]`)?.textContent ?? "").join(" ");
const desk = { data, act, remember, setting };

// What is read out after a change: the exposure, when it is another one.
let told = "";
function announce() {
  const now = setting();
  if (told && now !== told && now.trim()) document.getElementById("announced").textContent = `Exposure ${now}`;
  told = now;
}

// The part that is worked on, else the first in sight, stays where it is while what stands above it grows or shrinks.
function anchorIn(sheet) {
  const own = sheet.contains(document.activeElement) && document.activeElement.closest("[data-edit]"),
    edge = sheet.getBoundingClientRect().top,
    inSight = (part) => part.getBoundingClientRect().bottom > edge,
    part = own || (sheet.scrollTop > 0 && [...sheet.querySelectorAll("[data-edit]")].find(inSight));
  return part && { id: part.id, top: part.getBoundingClientRect().top };
}
function toAnchor(sheet, anchor) {
  const part = anchor && document.getElementById(anchor.id);
  if (part) sheet.scrollTop += part.getBoundingClientRect().top - anchor.top;
}
const nearerHeight = () => document.getElementById("nearer")?.offsetHeight ?? 0;

// A swap takes the field away that was being worked on; the one in its place gets the focus, and nothing scrolls.
function holdPlace() {
  const sheet = document.getElementById("sheet"),
    at = document.activeElement,
    form = at?.closest?.("form"),
    place = { anchor: anchorIn(sheet), page: window.scrollY, nearer: nearerHeight() };
  if (sheet.contains(at)) {
    place.name = at.name;
    place.form = form?.getAttribute("hx-post");
    place.value = at.tagName === "BUTTON" ? at.value : null;
    place.part = at.closest("[data-edit]")?.id;
  }
  return place;
}
function returnTo(place) {
  const sheet = document.getElementById("sheet");
  // what brings it nearer is looked for anew: its place is held open until then
  const nearer = document.getElementById("nearer");
  if (nearer) nearer.style.minHeight = `${place.nearer}px`;
  window.scrollTo({ top: place.page, behavior: "instant" });
  toAnchor(sheet, place.anchor);
  if (!place.part || document.activeElement !== document.body) return;
  const part = document.getElementById(place.part),
    same = [...(part?.querySelectorAll("input, select, textarea, button") ?? [])].find(
      (each) =>
        each.name === place.name &&
        each.form?.getAttribute("hx-post") === place.form &&
        (place.value === null || each.value === place.value),
    );
  (same ?? part?.querySelector("summary"))?.focus({ preventScroll: true });
}

function keepOpen() {
  // Sections that were open stay open when their fragment is swapped.
  let open = new Set(),
    place = null;
  document.addEventListener("htmx:beforeRequest", wait);
  document.addEventListener("htmx:afterRequest", rest);
  let anchor = null;
  document.addEventListener("htmx:beforeSwap", (event) => {
    if (event.detail.target?.id === "nearer") anchor = anchorIn(document.getElementById("sheet"));
  });
  document.addEventListener("htmx:afterSwap", () => {
    toAnchor(document.getElementById("sheet"), anchor);
    anchor = null;
  });
  document.getElementById("sheet").addEventListener(
    "toggle",
    (event) => {
      if (event.target.open && event.target.dataset.edit) loadEditor(event.target);
      remember({ open: openParts() });
    },
    true,
  );
  document.addEventListener("htmx:oobBeforeSwap", (event) => {
    if (event.detail.target.id === "sheet") {
      open = new Set([...event.detail.target.querySelectorAll("details[open]")].map((d) => d.id));
      place = holdPlace();
      typed.hold(event.detail.target, answered);
    }
  });
  document.addEventListener("htmx:oobAfterSwap", (event) => {
    if (event.detail.target.id !== "sheet") return;
    for (const id of open) document.getElementById(id)?.setAttribute("open", "");
    // measured anew, after the exposure is back
    if (open.has("edit-seeing")) loadEditor(document.getElementById("edit-seeing"));
    document.querySelectorAll("form[data-token]").forEach(addToken);
    refreshFoot();
    if (place) returnTo(place);
    typed.giveBack(document.getElementById("sheet"));
    announce();
    document.dispatchEvent(new CustomEvent("desk:changed"));
  });
}

// A choice that was not kept must not stand beside the old figures.
function revert(sent) {
  if (!sent?.getAttribute("hx-trigger")?.includes("change")) return;
  const form = [...document.forms].find((each) => sameForm(each) === sameForm(sent)) ?? sent;
  for (const field of form.querySelectorAll("select, input[type=checkbox]"))
    if (field.type === "checkbox") field.checked = field.defaultChecked;
    else for (const option of field.options) option.selected = option.defaultSelected;
}

function refreshFoot() {
  const state = data();
  for (const [id, able, label] of [
    ["undo", state.canUndo, state.undoLabel],
    ["redo", state.canRedo, state.redoLabel],
  ]) {
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

// Paper is the card's: printing the desk prints it.
function printing() {
  document.addEventListener("keydown", (event) => {
    if (event.key !== "p" || !(event.ctrlKey || event.metaKey)) return;
    event.preventDefault();
    location.assign(`${data().card}?print=on`);
  });
}

// Escape closes the part that one is in; nothing of it is lost, because every change was kept when it was made.
function closePart(from) {
  const part = from.closest?.("details[open]");
  if (!part) return;
  part.open = false;
  part.querySelector("summary").focus();
}

function keys() {
  const dialog = document.getElementById("keys");
  document.getElementById("keys-button").addEventListener("click", () => dialog.showModal());
  document.addEventListener("keydown", (event) => {
    if (event.key === "Escape" && event.target.closest("#sheet input, #sheet textarea, #sheet select")) {
      closePart(event.target);
      return;
    }
    if (event.target.closest("input, textarea, select, dialog") || event.ctrlKey || event.metaKey || event.altKey)
      return;
    if (event.key === "?") dialog.showModal();
    else if (event.key === "u") document.getElementById("undo").click();
    else if (event.key === "r") document.getElementById("redo").click();
    else if (event.key === "Escape") closePart(event.target);
    else if (/^[A-Z]$/.test(event.key)) openTone(event.key);
    else return;
    event.preventDefault();
  });
}

document.addEventListener("alpine:init", () => {
  window.Alpine.data("desk", () => ({
    init() {
      formsInTurn();
      keepOpen();
      const greys = strip(desk, openTone);
      pins(desk, greys);
      stage(desk, greys);
      rail(desk);
      glass(desk);
      lasso(desk, openTone);
      beside();
      keys();
      reopen();
      printing();
      refreshFoot();
      announce();
      for (const form of document.querySelectorAll("form[data-token]")) addToken(form);
    },
    act(verb) {
      act(verb);
    },
    openPad() {
      document.dispatchEvent(new CustomEvent("pad:open"));
    },
  }));
  window.Alpine.data("pad", () => pad(desk));
  window.Alpine.data("timer", timer);
});

// Forms that leave the page carry the same token as the fragments do.
function addToken(form) {
  if (form.elements.csrfmiddlewaretoken) return;
  form.append(
    Object.assign(document.createElement("input"), { type: "hidden", name: "csrfmiddlewaretoken", value: token() }),
  );
}
