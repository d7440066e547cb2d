// The setup editor: while a slider moves, picture and curve follow by what the core tabulates; when it rests, detail
// and measures come too.
import { draw, partOf, paintAll, sideFor } from "../pictures/painted.js";
import { tablesFrom } from "../pictures/painter.js";

const RESTS_MS = 250;

// A slider's value as the page first said it, on the scale of -1 to +1.
function onScale(value) {
  const sign = value < 0 ? "−" : value > 0 ? "+" : "";
  return sign + (Math.abs(value) / 100).toFixed(2);
}

document.addEventListener("alpine:init", () => {
  window.Alpine.data("setup", () => ({
    waiting: false,
    again: false,
    resting: 0,
    init() {
      paintAll(document.getElementById("preview"));
    },
    asked() {
      const asked = new URLSearchParams(new FormData(this.$root));
      asked.delete("csrfmiddlewaretoken");
      asked.delete("notes");
      return asked;
    },
    ask() {
      const form = this.$root;
      for (const range of form.querySelectorAll("input[type=range]"))
        range.parentElement.querySelector("output").textContent = onScale(Number(range.value));
      if (!form.elements.scene) return;
      this.look();
      clearTimeout(this.resting);
      this.resting = setTimeout(() => this.rest(), RESTS_MS);
    },
    // One question at a time; while one is under way only that there is another is remembered.
    async look() {
      if (this.waiting) {
        this.again = true;
        return;
      }
      this.waiting = true;
      try {
        const answer = await fetch(`${this.$root.dataset.look}?${this.asked()}`);
        if (answer.ok) await this.show(await answer.json());
      } catch {
        /* the last picture stays; keeping the setup will say that the server is away */
      }
      this.waiting = false;
      if (this.again) {
        this.again = false;
        this.look();
      }
    },
    async show({ grey, tables, curve, dots }) {
      const image = document.querySelector("#preview img[data-painted]"),
        canvas = image?.nextElementSibling;
      document.querySelector("#preview .line").setAttribute("d", curve);
      for (const { mark, x, y } of dots)
        document
          .querySelector(`#preview .dot[data-mark="${mark}"]`)
          ?.setAttribute("transform", `translate(${x} ${y})`);
      if (!canvas?.matches(".painted") || canvas.hidden) return;
      draw(canvas, [await partOf(grey, sideFor(image.clientWidth), await tablesFrom(tables))], true);
      image.dataset.shown = grey;
    },
    async rest() {
      const host = document.getElementById("preview");
      try {
        const answer = await fetch(`${this.$root.dataset.preview}?${this.asked()}`);
        if (!answer.ok) return;
        // The painted picture stays until the new one is painted, so that nothing flashes.
        const was = host.querySelector("canvas.painted");
        window.htmx.swap(host, await answer.text(), { swapStyle: "innerHTML" });
        const image = host.querySelector("img[data-painted]");
        if (was && !was.hidden && image) image.after(was);
        paintAll(host);
      } catch {
        /* as above */
      }
    },
  }));
});
