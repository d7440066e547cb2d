// Setups on one scene: side by side, or in one picture under a divider (two) or a cross (three and four), painted live.
import { draw, isView, partOf, paintAll, sideFor } from "../pictures/painted.js";

const STEP = 0.02;

document.addEventListener("alpine:init", () => {
  window.Alpine.data("compared", () => ({
    mode: "beside",
    at: [0.5, 0.5],
    parts: null,
    stops: 0,
    init() {
      this.stops = Number(this.$refs.stops.value);
      paintAll(this.$root);
    },
    get from() {
      return Number(this.$refs.stops.defaultValue);
    },
    images() {
      return [...this.$root.querySelectorAll(".choices img[data-painted]")];
    },
    // The exposure under the hand: every picture in the next frame, the measures when it is let go.
    expose() {
      this.stops = Number(this.$refs.stops.value);
      const shift = this.stops - this.from;
      this.$refs.words.textContent = Math.abs(this.stops) < 0.01 ? "as planned" : `${this.stops.toFixed(1)} stops`;
      if (this.mode === "beside") paintAll(this.$root, { shift });
      else this.draw(true);
    },
    settle() {
      this.$refs.form.requestSubmit();
    },
    beside() {
      this.mode = "beside";
      this.expose();
    },
    async together() {
      this.mode = "together";
      const views = this.images().map((image) => image.getAttribute("src"));
      if (!views.every(isView)) return;
      const side = sideFor(this.$root.clientWidth);
      this.parts = await Promise.all(views.map((view) => partOf(view, side)));
      this.draw();
    },
    // The parts of the one picture: left and right of the divider, or the quarters of the cross; a third has the lower
    // half.
    boxes() {
      const [x, y] = this.at,
        halves = [
          { from: 0, to: x },
          { from: x, to: 1 },
        ];
      if (this.parts.length < 3) return halves;
      const upper = halves.map((box) => ({ ...box, top: 0, bottom: y })),
        lower = halves.map((box) => ({ ...box, top: y, bottom: 1 }));
      return this.parts.length === 3 ? [...upper, { from: 0, to: 1, top: y, bottom: 1 }] : [...upper, ...lower];
    },
    draw(moving = false) {
      if (!this.parts) return;
      const boxes = this.boxes(),
        shift = this.stops - this.from;
      draw(
        this.$refs.one,
        this.parts.map((part, k) => ({ ...part, ...boxes[k], shift })),
        moving,
      );
      boxes.forEach(({ from, top = 0 }, k) => {
        const name = this.$refs.names.children[k];
        Object.assign(name.style, { left: `${from * 100}%`, top: `${top * 100}%` });
      });
    },
    grab(event) {
      this.$refs.view.setPointerCapture(event.pointerId);
      this.drag(event);
    },
    drag(event) {
      if (!event.buttons) return;
      const box = this.$refs.view.getBoundingClientRect();
      this.move((event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height);
      event.preventDefault();
    },
    nudge(event) {
      const by = { ArrowLeft: [-STEP, 0], ArrowRight: [STEP, 0], ArrowUp: [0, -STEP], ArrowDown: [0, STEP] }[event.key];
      if (!by) return;
      this.move(this.at[0] + by[0], this.at[1] + by[1]);
      event.preventDefault();
    },
    move(x, y) {
      this.at = [x, y].map((v) => Math.min(Math.max(v, 0), 1));
      this.draw(true);
    },
    isBeside() {
      return this.mode === "beside";
    },
    isTogether() {
      return this.mode === "together";
    },
  }));
});
