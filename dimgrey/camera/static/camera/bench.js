// The filter bench: what is pointed at is seen large beside what is on the lens now.
import { draw, isView, partOf, paintOver, sideFor } from "../pictures/painted.js";

document.addEventListener("alpine:init", () => {
  window.Alpine.data("bench", () => ({
    now: null,
    seen: null,
    at: 0.5,
    wanted: "",
    async init() {
      if (this.$refs.view) this.now = await paintOver(this.$refs.view);
    },
    async look(event) {
      const { name, view } = event.currentTarget.dataset;
      this.wanted = name;
      if (!this.now || !isView(view)) return;
      const part = await partOf(view, sideFor(this.$refs.view.clientWidth));
      if (this.wanted !== name) return;
      this.seen = part;
      const label = this.$refs.names.children[1];
      label.textContent = name;
      label.hidden = false;
      this.paint();
    },
    divide(event) {
      const box = event.currentTarget.getBoundingClientRect();
      this.at = Math.min(Math.max((event.clientX - box.left) / box.width, 0), 1);
      this.paint(true);
    },
    paint(moving = false) {
      if (!this.seen) return;
      const canvas = this.$refs.view.nextElementSibling;
      this.$refs.names.children[1].style.left = `${this.at * 100}%`;
      draw(canvas, [{ ...this.now, to: this.at }, { ...this.seen, from: this.at }], moving);
    },
  }));
});
