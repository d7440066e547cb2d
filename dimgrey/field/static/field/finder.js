// The live finder: the phone's own camera seen in grey through film, filter and setup, before a scene begins. It looks
// up what the core has tabulated. Without a reading it says nothing of exposure: its own middle is taken for V.
import { Painter } from "../pictures/painter.js";
import { looksAlong } from "./orientation.js";

const WIDTH = 320,
  MIDDLE_GREY = 0.18,
  KEPT_QUALITY = 0.92;
const el = (id) => document.getElementById(id);
const forced = new URLSearchParams(location.search).get("painter");

export const canFind = () => isSecureContext && Boolean(navigator.mediaDevices?.getUserMedia);

export class Finder {
  // rules: () the core's worker. kit: () names by kind. taken: (file, choice, view) when a frame is frozen.
  constructor(rules, kit, common, taken) {
    Object.assign(this, { rules, kit, common, taken, choice: "none", hard: false, frames: 0 });
    el("finder-freeze").addEventListener("click", () => this.freeze());
    el("finder-close").addEventListener("click", () => this.close());
    el("finder-hard").addEventListener("click", () => this.set({ hard: !this.hard }));
    // What counts from north is better than what counts from where the page was opened.
    addEventListener("deviceorientation", (event) => (this.turned = this.turned?.absolute ? this.turned : event));
    addEventListener("deviceorientationabsolute", (event) => (this.turned = event));
  }

  async open() {
    this.stream = await navigator.mediaDevices.getUserMedia({ video: { facingMode: "environment" } });
    const video = el("finder-video");
    video.srcObject = this.stream;
    await video.play();
    this.live ??= await this.tabulated();
    await this.set({});
    el("finder").hidden = false;
    this.prepare(video);
    this.painter ??= new Painter(el("finder-view"), forced === "plain", () => {});
    this.running = true;
    this.paint();
  }

  async tabulated() {
    const told = JSON.parse(await this.rules().call("live"));
    return { ...told, codes: bytesOf(told.codes) };
  }

  async set(changes) {
    Object.assign(this, changes);
    const told = JSON.parse(
      await this.rules().call("finder", JSON.stringify({ kit: this.kit(), choice: this.choice, hard: this.hard })),
    );
    this.tables = {
      ...this.common(),
      slope: told.slope,
      chain: { nodes: told.side, weights: told.weights, sky: told.sky },
      nodes: Float32Array.from(told.nodes),
      tones: { first: told.first, last: told.last },
      grey: bytesOf(told.grey),
    };
    el("finder-hard").setAttribute("aria-pressed", String(this.hard));
    el("finder-choices").replaceChildren(
      ...told.choices.map((name) => {
        const each = Object.assign(document.createElement("button"), {
          type: "button",
          textContent: name === "none" ? "no filter" : name,
        });
        each.setAttribute("aria-pressed", String(name === this.choice));
        each.addEventListener("click", () => this.set({ choice: name }));
        return each;
      }),
    );
  }

  prepare({ videoWidth, videoHeight }) {
    const height = Math.max(Math.round((WIDTH * videoHeight) / videoWidth), 1);
    this.small = Object.assign(document.createElement("canvas"), { width: WIDTH, height });
    this.pen = this.small.getContext("2d", { willReadFrequently: true });
    this.size = { width: WIDTH, height };
    // Two maps in turn: the painter knows new light by its being another one.
    this.maps = [0, 1].map(() => new Uint8Array(4 * WIDTH * height));
    this.light = new Float32Array(WIDTH * height);
    this.upper = new Uint8Array(this.light.buffer);
  }

  paint() {
    if (!this.running) return;
    this.pen.drawImage(el("finder-video"), 0, 0, this.size.width, this.size.height);
    const pixels = this.mapped(this.pen.getImageData(0, 0, this.size.width, this.size.height).data),
      light = { ...this.size, pixels };
    const sky = { width: 1, height: 1, pixels: NO_SKY };
    this.painter.paint([{ light, sky, tables: this.tables, shift: this.middle, from: 0, to: 1 }], true);
    el("finder-view").dataset.frames = String(++this.frames);
    requestAnimationFrame(() => this.paint());
  }

  // Pixels of the camera as a light map, by the core's tables.
  mapped(data) {
    const { light: of, codes, shades } = this.live,
      out = this.maps[this.frames & 1],
      step = 256 / shades;
    let sum = 0;
    for (let k = 0, n = this.light.length; k < n; k++)
      sum += this.light[k] = of[data[4 * k]] + of[256 + data[4 * k + 1]] + of[512 + data[4 * k + 2]] + 1e-12;
    for (let k = 0, n = this.light.length; k < n; k++) {
      const shade =
        ((data[4 * k] / step) | 0) * shades * shades +
        ((data[4 * k + 1] / step) | 0) * shades +
        ((data[4 * k + 2] / step) | 0);
      out[4 * k] = this.upper[4 * k + 3];
      out[4 * k + 1] = this.upper[4 * k + 2];
      out[4 * k + 2] = codes[2 * shade];
      out[4 * k + 3] = codes[2 * shade + 1];
    }
    // The picture's mean light is shown as middle grey.
    this.middle = Math.log2(MIDDLE_GREY / (sum / this.light.length));
    return out;
  }

  async freeze() {
    const video = el("finder-video"),
      whole = Object.assign(document.createElement("canvas"), { width: video.videoWidth, height: video.videoHeight });
    whole.getContext("2d").drawImage(video, 0, 0);
    const blob = await new Promise((done) => whole.toBlob(done, "image/jpeg", KEPT_QUALITY)),
      file = new File([blob], "finder.jpg", { type: "image/jpeg" });
    this.close();
    this.taken(file, this.choice, looksAlong(this.turned));
  }

  close() {
    this.running = false;
    for (const track of this.stream?.getTracks() ?? []) track.stop();
    el("finder").hidden = true;
  }
}
const NO_SKY = new Uint8Array(1);
const bytesOf = (text) => Uint8Array.from(atob(text), (c) => c.charCodeAt(0));
