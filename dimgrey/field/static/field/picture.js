// The picture in the field: painted from the light that was taken along with the tables that the core makes, its pins,
// and the ring under the finger.
import { Painter, mapFrom, stopsOf } from "../pictures/painter.js";
import { loupe } from "../scenes/loupe.js";
import * as store from "./store.js";

const STILL_PX = 6;
const forced = new URLSearchParams(location.search).get("painter");

const letters = (text) => Uint8Array.from(atob(text), (c) => c.charCodeAt(0));

export class Picture {
  // ask: (name, question) of the core; pin: (values) when a tone is pinned, with its mark when a pin was moved.
  constructor(ask, pin) {
    this.frame = document.getElementById("frame");
    this.canvas = document.getElementById("painted");
    this.ask = ask;
    this.pin = pin;
    this.tables = new Map();
    this.painter = new Painter(this.canvas, forced === "plain", (next) => (this.canvas = next));
    const rest = () => {
      document.getElementById("sighted").classList.add("touched");
      this.placeLabel();
    };
    loupe((x, y) => this.aim(x, y), rest);
    this.dragPins();
    this.frame.addEventListener("click", (event) => {
      if (event.target.closest("#pin-here")) return this.pinHere();
      if (event.target.closest(".pin")) return undefined;
      const box = this.frame.getBoundingClientRect();
      this.aim((event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height);
      return rest();
    });
    this.frame.addEventListener("keydown", (event) => {
      const step = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
      if (event.key === "Enter" && event.target === this.frame) this.pinHere();
      else if (event.key === "Escape") this.hide();
      else if (step && event.target === this.frame) {
        const [x, y] = this.at ?? [0.5, 0.5];
        this.aim(x + step[0] / 100, y + step[1] / 100);
        rest();
      } else return;
      event.preventDefault();
    });
  }

  // scene: as it was taken along.
  async open(scene) {
    this.hide();
    this.scene = scene;
    this.light = null;
    this.tables.clear();
    this.canvas.hidden = true;
    const { picture } = scene;
    this.frame.hidden = !picture;
    if (!picture) return;
    this.frame.style.setProperty("--ratio", picture.width / picture.height);
    const [light, sky] = await Promise.all([picture.light, picture.sky].map((address) => store.light(address ?? "")));
    if (this.scene !== scene || !light) return;
    // A picture of this phone's own lies here unpacked.
    this.light = light.pixels ? light : await mapFrom(light);
    this.sky = sky ? await mapFrom(sky) : { width: 1, height: 1, pixels: new Uint8Array(1) };
    const { tables } = picture;
    this.common = {
      ...tables,
      field: tables.polarizer && (await stopsOf(tables.polarizer.stops, tables.tableSteps)),
      rows: tables.graduated && (await stopsOf(tables.graduated.stops, tables.tableSteps)),
    };
    if (this.wanted) this.show(this.wanted.view, this.wanted.question);
  }

  // view: of the sheet. question: what the core did to come there, asked again where a table is not known yet.
  async show(view, question, moving = false) {
    this.wanted = { view, question };
    const here = this.scene;
    if (!this.light || !view) return;
    const known = this.tables.get(view.tables) ?? (await this.make(view.tables, question));
    if (this.wanted.view !== view || !known) return;
    this.part = { light: this.light, sky: this.sky, tables: known, shift: view.stops, from: 0, to: 1 };
    this.painter.paint([this.part], moving);
    // Seen from its first finished frame on; until then the desk's small picture is.
    if (this.canvas.hidden) this.painter.surface.finished(() => (this.canvas.hidden = this.scene !== here));
    Object.assign(this.canvas.dataset, { kind: this.painter.kind, tables: view.tables, stops: view.stops.toFixed(4) });
  }

  async make(name, question) {
    try {
      const told = await this.ask("painted", question);
      const made = {
        ...this.common,
        slope: told.slope,
        chain: { nodes: told.side, weights: told.weights, sky: told.sky },
        nodes: Float32Array.from(told.nodes),
        tones: { first: told.first, last: told.last },
        grey: letters(told.grey),
      };
      this.tables.set(name, made);
      return made;
    } catch {
      return null; // the small picture of the desk stays
    }
  }

  drawPins(tones) {
    const host = document.getElementById("pins");
    host.replaceChildren(
      ...tones
        .filter(({ at }) => at)
        .map(({ mark, name, at: [x, y], placed }) => {
          const pin = document.createElement("span");
          Object.assign(pin, { className: `pin pin-mark${placed ? " placed" : ""}`, textContent: mark, title: name });
          Object.assign(pin.style, { left: `${x * 100}%`, top: `${y * 100}%` });
          return pin;
        }),
    );
  }

  // A pin goes where the finger takes it; the ring shows what lies under it, and it is read there when it is let go.
  dragPins() {
    let held = null;
    const place = (event) => {
      const box = this.frame.getBoundingClientRect();
      return [(event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height];
    };
    this.frame.addEventListener("pointerdown", (event) => {
      const pin = event.target.closest(".pin");
      if (!pin || !this.light) return;
      held = { mark: pin.textContent, pin, moved: false, x: event.clientX, y: event.clientY };
      this.frame.setPointerCapture(event.pointerId);
      event.preventDefault();
    });
    this.frame.addEventListener("pointermove", (event) => {
      if (!held || (!held.moved && Math.hypot(event.clientX - held.x, event.clientY - held.y) < STILL_PX)) return;
      held.moved = true;
      this.aim(...place(event));
      Object.assign(held.pin.style, { left: `${this.at[0] * 100}%`, top: `${this.at[1] * 100}%` });
    });
    this.frame.addEventListener("pointerup", () => {
      if (!held) return;
      const { mark, moved } = held;
      held = null;
      if (moved) this.pinHere(mark);
    });
    this.frame.addEventListener("pointercancel", () => {
      held = null;
      this.hide();
    });
    this.frame.addEventListener("touchmove", (event) => held && event.preventDefault(), { passive: false });
  }

  // The piece of the light map around a place, for the core to read its spot in.
  spotAt(x, y) {
    const { width, height, pixels } = this.light,
      radius = this.ring * width,
      reach = Math.max(Math.ceil(radius), 1);
    const [column, row] = [Math.min(Math.floor(x * width), width - 1), Math.min(Math.floor(y * height), height - 1)],
      [left, right] = [Math.max(column - reach, 0), Math.min(column + reach, width - 1)],
      [top, bottom] = [Math.max(row - reach, 0), Math.min(row + reach, height - 1)];
    let codes = "";
    for (let each = top; each <= bottom; each++)
      codes += String.fromCharCode(...pixels.subarray(4 * (each * width + left), 4 * (each * width + right + 1)));
    return { codes: btoa(codes), width: right - left + 1, column: column - left, row: row - top, radius };
  }

  isSky(x, y) {
    const { width, height, pixels } = this.sky;
    return width > 1 && pixels[Math.floor(y * height) * width + Math.floor(x * width)] > 127;
  }

  aim(x, y) {
    if (!this.light) return;
    this.at = [x, y].map((v) => Math.min(Math.max(v, 0), 0.9999));
    const ring = document.getElementById("ring"),
      size = 2 * this.ring * this.frame.clientWidth;
    Object.assign(ring.style, {
      left: `${this.at[0] * 100}%`,
      top: `${this.at[1] * 100}%`,
      width: `${size}px`,
      height: `${size}px`,
    });
    ring.hidden = false;
    this.sight();
  }

  // One question at a time; while one is under way only the last place is remembered.
  async sight() {
    if (this.sighting) {
      this.again = true;
      return;
    }
    this.sighting = true;
    try {
      const [x, y] = this.at;
      this.tell(await this.ask("sighted", { spot: this.spotAt(x, y), y, sky: this.isSky(x, y) }));
    } catch {
      document.getElementById("sighted").hidden = true;
    }
    this.sighting = false;
    if (!this.again) return;
    this.again = false;
    this.sight();
  }

  tell(seen) {
    if (document.getElementById("ring").hidden || seen.problem) return;
    const text = (id, words) => (document.getElementById(id).textContent = words || "");
    text("sighted-ev", seen.ev);
    text("sighted-zone", seen.zone ? `on ${seen.zone}` : "");
    text(
      "sighted-pair",
      [seen.pair, `spread ${seen.spread}`, seen.names[0] && `${seen.names[0]}?`].filter(Boolean).join(", "),
    );
    text("sighted-mixed", seen.mixed ? "Mixed tones under the spot" : seen.clipped ? "The picture is blank here" : "");
    document.getElementById("sighted").hidden = false;
    this.placeLabel();
  }

  // Above the finger, below it where there is no room, never outside the picture.
  placeLabel() {
    if (!this.at) return;
    const label = document.getElementById("sighted"),
      { clientWidth: width, clientHeight: height } = this.frame,
      [x, y] = [this.at[0] * width, this.at[1] * height],
      above = y - label.offsetHeight - 44,
      top = above >= 0 ? above : Math.min(y + 44, height - label.offsetHeight);
    Object.assign(label.style, {
      left: `${Math.min(Math.max(x - label.offsetWidth / 2, 0), Math.max(width - label.offsetWidth, 0))}px`,
      top: `${Math.max(top, 0)}px`,
    });
  }

  // mark: of a pin that was moved; a new tone without one.
  async pinHere(mark = null) {
    if (!this.at || !this.light) return;
    const [x, y] = this.at,
      spot = this.spotAt(x, y);
    this.hide();
    await this.pin({ x: x.toFixed(5), y: y.toFixed(5), spot, ...(mark ? { mark } : {}) });
  }

  hide() {
    document.getElementById("ring").hidden = true;
    const label = document.getElementById("sighted");
    label.hidden = true;
    label.classList.remove("touched");
    this.at = null;
  }
}
