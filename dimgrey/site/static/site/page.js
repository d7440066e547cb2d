import { noRoomFor } from "../pictures/room.js";
import "./signin.js";

// What every page does: what is open closes with Escape or a press beside it, a picture may be dropped or pasted
// wherever one can go, and a file on its way says how far it is.
const OPEN = "details.look[open], details.log-more[open]";

document.addEventListener(
  "click",
  (event) => {
    const open = [...document.querySelectorAll(OPEN)].filter((each) => !each.contains(event.target));
    for (const each of open) each.open = false;
    // The press that closes something does nothing else to the picture.
    if (open.length && event.target.closest("#frame")) {
      event.stopPropagation();
      event.preventDefault();
    }
    if (event.target.matches("dialog[open]")) event.target.close();
  },
  true,
);
document.addEventListener("keydown", (event) => {
  if (event.key !== "Escape") return;
  const open = [...document.querySelectorAll(OPEN)].at(-1);
  if (!open) return;
  open.open = false;
  open.querySelector("summary").focus();
});

// Who signs out leaves no rounds of practice behind on a machine that others use.
if (location.pathname === "/sign-in" && globalThis.caches)
  caches.keys().then((names) => {
    for (const name of names) if (name.startsWith("practice-")) caches.delete(name);
  });

// What was sent before the sign-in is sent on by itself.
document.querySelector("form[data-go-on]")?.submit();

// --- files on their way
function progressOf(form) {
  const found = form.querySelector(".on-its-way");
  if (found) return found;
  const line = document.createElement("p"),
    bar = document.createElement("progress"),
    words = document.createElement("span");
  line.className = "on-its-way";
  line.setAttribute("role", "status");
  bar.setAttribute("aria-label", "How much of the file has been sent");
  line.append(bar, words);
  form.append(line);
  return line;
}

async function send(form, files) {
  const buttons = [...form.querySelectorAll("button")],
    line = progressOf(form),
    [bar, words] = line.children,
    request = new XMLHttpRequest();
  for (const button of buttons) button.disabled = true;
  line.hidden = false;
  bar.max = 1;
  bar.value = 0;
  words.textContent = "Sending …";
  const over = (said) => {
    for (const button of buttons) button.disabled = false;
    bar.hidden = true;
    words.textContent = said;
  };
  const refused = await noRoomFor(files);
  if (refused) return over(refused);
  request.upload.addEventListener("progress", (event) => {
    bar.value = event.loaded / event.total;
    words.textContent =
      event.loaded < event.total ? `${Math.round(bar.value * 100)} % sent` : "Sent. Keeping it …";
  });
  request.addEventListener("error", () => over("That was not sent: the server does not answer. Try again."));
  request.addEventListener("load", () => {
    const led = request.status < 400 && request.responseURL !== form.action;
    if (led && request.responseURL === location.href) location.reload();
    else if (led) location.assign(request.responseURL);
    else shownAs(request.responseText, over);
  });
  request.open(form.method, form.action);
  request.send(new FormData(form));
}

// An answer that leads nowhere, such as a refusal, is a page with its sentence: it takes the place of what is shown.
function shownAs(text, over) {
  const main = new DOMParser().parseFromString(text, "text/html").querySelector("main");
  if (main) document.querySelector("main").replaceWith(main);
  else over("The server could not do that. Nothing was kept; try again.");
}

// --- what cannot be undone asks first
document.addEventListener("submit", (event) => {
  const asked = event.target.dataset.sure;
  if (asked && !window.confirm(asked)) event.preventDefault();
});

document.addEventListener("submit", (event) => {
  const form = event.target;
  if (event.defaultPrevented) return;
  if (form.enctype !== "multipart/form-data" || form.hasAttribute("hx-post")) return;
  const files = [...form.querySelectorAll("input[type=file]")].flatMap((input) => [...input.files]);
  if (!files.length) return;
  event.preventDefault();
  if (files.length > 1 && form.hasAttribute("data-drop")) sendEach(form, files);
  else send(form, files);
});

// --- a picture that is dropped or pasted goes where one can go
const takes = (input) => input.type === "file" && (input.accept.includes("image") || input.accept.includes(".jpg"));
const target = () => [...document.querySelectorAll("input[type=file]")].find(takes);
const isPicture = (file) => file.type.startsWith("image/") || /\.\w+$/.test(file.name);
const picturesIn = (list) => [...(list ?? [])].filter(isPicture);

async function take(files) {
  let input = target();
  if (!input) {
    const part = document.getElementById("edit-picture");
    if (!part) return;
    part.open = true;
    for (let k = 0; k < 50 && !(input = target()); k++) await new Promise((done) => setTimeout(done, 40));
    if (!input) return;
  }
  const held = new DataTransfer();
  for (const file of input.multiple ? files : files.slice(0, 1)) held.items.add(file);
  input.files = held.files;
  input.dispatchEvent(new Event("change", { bubbles: true }));
  if (input.form?.hasAttribute("data-drop")) return; // it is on its way
  input.scrollIntoView({ block: "center" });
  input.focus();
}

// Where a picture alone makes a scene it is sent as soon as it is chosen; several make a scene each.
document.addEventListener("change", (event) => {
  const form = event.target.closest("form[data-drop]");
  if (form && event.target.type === "file" && event.target.files.length) form.requestSubmit();
});
async function sendEach(form, files) {
  const line = progressOf(form),
    [bar, words] = line.children,
    refused = [];
  line.hidden = false;
  bar.max = files.length;
  for (const [k, file] of files.entries()) {
    words.textContent = `${k + 1} of ${files.length}: ${file.name}`;
    bar.value = k;
    const data = new FormData(form);
    data.delete("picture");
    data.append("picture", file);
    const answer = await fetch(form.action, { method: "POST", body: data }).catch(() => null);
    if (!answer?.ok) refused.push(file.name);
  }
  if (!refused.length) return location.reload();
  bar.hidden = true;
  words.textContent = `Not taken: ${refused.join(", ")}.`;
}

const isFile = (event) => [...(event.dataTransfer?.types ?? [])].includes("Files");
for (const name of ["dragover", "drop"])
  document.addEventListener(name, (event) => {
    if (event.defaultPrevented || !isFile(event)) return;
    event.preventDefault(); // else the browser would leave the page for the file
    document.body.toggleAttribute("data-dropping", name === "dragover");
    if (name === "drop") {
      const files = picturesIn(event.dataTransfer.files);
      if (files.length) take(files);
    }
  });
document.addEventListener("dragleave", (event) => {
  if (!event.relatedTarget) document.body.removeAttribute("data-dropping");
});
document.addEventListener("paste", (event) => {
  const files = picturesIn(event.clipboardData?.files);
  if (!files.length) return;
  event.preventDefault();
  take(files);
});
