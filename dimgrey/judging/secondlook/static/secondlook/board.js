import { noRoomFor } from "../pictures/room.js";

// The proof board: files go up one by one, decisions are made with single keys, a loupe shows what the pointer is on.
const token = () => JSON.parse(document.body.getAttribute("hx-headers"))["X-CSRFToken"];
const headers = () => ({ "X-CSRFToken": token(), "HX-Request": "true" });

function say(words) {
  const line = document.getElementById("said");
  line.textContent = words;
  line.hidden = !words;
}

function tellBroken(found) {
  const part = document.getElementById("broken");
  const line = document.createElement("li");
  const name = document.createElement("b");
  name.textContent = found.name;
  line.append(name, `: ${found.problem}`);
  part.querySelector("ul").append(line);
  part.hidden = false;
}

const press = (button, holds) => button.setAttribute("aria-pressed", String(holds));

const LOUPE_TIMES = 2;

// Shown at once, kept one after another; what could not be kept goes back to how it was.
let queue = Promise.resolve();

const component = () => ({
  at: 0,
  inColour: false,
  init() {
    this.mark();
  },
  board() {
    return document.getElementById("board");
  },
  item() {
    return this.board().children[this.at];
  },

  // --- adding pictures
  chosen(event) {
    this.addAll([...event.target.files]);
  },
  hover(event) {
    event.currentTarget.classList.toggle("over", event.type === "dragover");
  },
  dropped(event) {
    event.currentTarget.classList.remove("over");
    this.addAll([...event.dataTransfer.files]);
  },
  async addAll(files) {
    const bar = document.getElementById("progress");
    const text = document.getElementById("progress-text");
    const count = { new: 0, known: 0, broken: 0, waiting: 0 };
    const full = await noRoomFor(files);
    if (full) return say(full);
    bar.hidden = false;
    bar.max = files.length;
    for (const [k, file] of files.entries()) {
      text.textContent = `${k} of ${files.length}: ${file.name}`;
      try {
        const found = await this.add(file);
        if (found.state === "refused") {
          say(found.problem);
          break;
        }
        count[found.state] += 1;
        if (found.html) this.board().insertAdjacentHTML("beforeend", found.html);
        if (found.state === "broken") tellBroken(found);
      } catch {
        say(`Stopped at ${file.name}: the server does not answer. Add the same files again to go on.`);
        break;
      }
      bar.value = k + 1;
    }
    bar.hidden = true;
    // They are read one after another; the page shows how far that is.
    if (count.waiting) return location.reload();
    const parts = [`${count.new} added`];
    if (count.known) parts.push(`${count.known} were in already`);
    if (count.broken) parts.push(`${count.broken} could not be read`);
    text.textContent = `${parts.join(", ")}.`;
    for (const id of ["decide", "under-loupe"]) document.getElementById(id).hidden = !this.board().children.length;
    this.mark();
  },
  async add(file) {
    const body = new FormData();
    body.append("file", file);
    const answer = await fetch(this.$root.dataset.add, { method: "POST", headers: headers(), body });
    return answer.json();
  },

  // --- the loupe: what lies under the pointer at twice its pixels; of the proof that the keys are at, its middle
  sight(event) {
    const image = event.target.closest(".proof")?.querySelector("img");
    if (!image) return;
    const box = image.getBoundingClientRect();
    this.loupe(image, (event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height);
  },
  loupe(image, x, y) {
    const glass = document.getElementById("loupe"),
      pen = glass.getContext("2d"),
      size = glass.width / LOUPE_TIMES;
    if (!image.complete || !image.naturalWidth) {
      image.addEventListener("load", () => this.loupe(image, x, y), { once: true });
      return;
    }
    const held = (at, whole) => Math.min(Math.max(at * whole - size / 2, 0), Math.max(whole - size, 0));
    pen.imageSmoothingEnabled = false;
    pen.fillStyle = "#696969";
    pen.fillRect(0, 0, glass.width, glass.height);
    pen.drawImage(
      image,
      held(x, image.naturalWidth),
      held(y, image.naturalHeight),
      size,
      size,
      0,
      0,
      glass.width,
      glass.height,
    );
    document.getElementById("loupe-words").textContent = image.alt;
  },

  // --- looking and deciding
  mark() {
    const items = [...this.board().children];
    this.at = Math.min(Math.max(this.at, 0), items.length - 1);
    items.forEach((item, k) => {
      if (k === this.at) item.setAttribute("aria-current", "true");
      else item.removeAttribute("aria-current");
    });
    const item = this.item();
    if (!item) return;
    item.scrollIntoView({ block: "nearest" });
    this.loupe(item.querySelector("img"), 0.5, 0.5);
    for (const button of document.querySelectorAll("button[data-decision]"))
      press(button, button.dataset.decision === item.dataset.decision);
    for (const button of document.querySelectorAll("button[data-reason]"))
      press(button, !!item.dataset.reason && button.dataset.reason === item.dataset.reason);
  },
  show(item, decision, reason) {
    item.dataset.decision = decision;
    item.dataset.reason = reason;
    item.className = `proof ${decision}`;
    item.querySelector(".decided").textContent = (decision || "open") + (reason ? `, ${reason}` : "");
    this.mark();
  },
  decide(decision, reason) {
    const item = this.item();
    if (!item) return;
    const before = [item.dataset.decision, item.dataset.reason];
    this.show(item, decision, reason);
    queue = queue
      .then(() => this.send(item, decision, reason))
      .catch(() => {
        this.show(item, ...before);
        say("That was not kept: the server does not answer. Try again.");
      });
  },
  async send(item, decision, reason) {
    const address = this.$root.dataset.decide.replace("/0/", `/${item.dataset.picture}/`);
    const body = new URLSearchParams({ decision, reason });
    const answer = await fetch(address, { method: "POST", headers: headers(), body });
    if (!answer.ok) throw new Error(answer.status);
    window.htmx.swap(document.getElementById("common"), await answer.text(), { swapStyle: "innerHTML" });
    say("");
  },
  choose(decision) {
    this.decide(this.item()?.dataset.decision === decision ? "" : decision, "");
  },
  reason(words) {
    const now = this.item()?.dataset.decision;
    if (now) this.decide(now, words);
    else say("Decide first: print, wait or leave. Then say why.");
  },
  pressed(event) {
    const { decision, reason } = event.target.closest("button")?.dataset ?? {};
    if (decision) this.choose(decision);
    else if (reason) this.reason(reason);
  },
  colour() {
    this.inColour = !this.inColour;
    for (const image of this.board().querySelectorAll("img"))
      image.src = this.inColour ? image.dataset.colour : image.dataset.grey;
    press(document.getElementById("colour"), this.inColour);
  },
  pick(event) {
    const item = event.target.closest(".proof");
    if (!item) return;
    this.at = [...this.board().children].indexOf(item);
    this.mark();
  },
  perRow() {
    const tops = [...this.board().children].map((item) => item.offsetTop);
    return tops.filter((top) => top === tops[0]).length || 1;
  },
  key(event) {
    if (event.target.closest("input, textarea, select") || event.ctrlKey || event.metaKey || event.altKey) return;
    const moves = { ArrowRight: 1, ArrowLeft: -1, ArrowDown: this.perRow(), ArrowUp: -this.perRow() };
    const decisions = { p: "print", w: "wait", l: "leave" };
    if (moves[event.key]) {
      this.at += moves[event.key];
      this.mark();
    } else if (decisions[event.key]) this.choose(decisions[event.key]);
    else if (event.key === "c") this.colour();
    else if (/^[1-6]$/.test(event.key))
      this.reason(document.querySelectorAll("button[data-reason]")[Number(event.key) - 1].dataset.reason);
    else return;
    event.preventDefault();
  },
});

document.addEventListener("alpine:init", () => window.Alpine.data("batch", component));
