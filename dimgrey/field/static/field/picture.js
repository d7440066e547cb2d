// The picture in the field: painted from the light that was taken along with the tables that the core makes, its pins,
// and the ring under the finger.
import { placeIn } from "../pictures/geometry.js";
import { Painter, mapFrom, stopsOf } from "../pictures/painter.js";
import { Ring } from "../pictures/ring.js";
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
    this.ring = new Ring({
      radius: () => (this.light ? this.radius : 0),
      read: (x, y) => this.ask("sighted", { spot: this.spotAt(x, y), y, sky: this.isSky(x, y) }),
      pin: (x, y) => this.pinAt(x, y),
    });
    this.dragPins();
    this.frame.addEventListener("click", (event) => {
      if (event.target.closest("#pin-here")) return this.ring.pinHere();
      if (event.target.closest(".pin")) return undefined;
      this.ring.aim(...placeIn(this.frame, event));
      return this.ring.rest();
    });
  }

  // scene: as it was taken along.
  async open(scene) {
    this.ring.hide();
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
      this.ring.aim(...placeIn(this.frame, event));
      const [x, y] = this.ring.at;
      Object.assign(held.pin.style, { left: `${x * 100}%`, top: `${y * 100}%` });
    });
    this.frame.addEventListener("pointerup", () => {
      if (!held) return;
      const { mark, moved } = held;
      held = null;
      if (moved && this.ring.at) this.pinAt(...this.ring.at, mark);
    });
    this.frame.addEventListener("pointercancel", () => {
      held = null;
      this.ring.hide();
    });
    this.frame.addEventListener("touchmove", (event) => held && event.preventDefault(), { passive: false });
  }

  // The piece of the light map around a place, for the core to read its spot in.
  spotAt(x, y) {
    const { width, height, pixels } = this.light,
      radius = this.radius * width,
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
    const [column, row] = [Math.min(Math.floor(x * width), width - 1), Math.min(Math.floor(y * height), height - 1)];
    return width > 1 && pixels[row * width + column] > 127;
  }

  // mark: of a pin that was moved; a new tone without one.
  async pinAt(x, y, mark = null) {
    const spot = this.spotAt(x, y);
    this.ring.hide();
    await this.pin({ x: x.toFixed(5), y: y.toFixed(5), spot, ...(mark ? { mark } : {}) });
  }
}
