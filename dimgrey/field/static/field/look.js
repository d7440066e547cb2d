// Swiped to the middle of the row, a filter or setup is seen through; a tap takes it, swiping back leaves it.
import { el } from "./page.js";
import { middleChoice, moved, standsAsPut } from "./choices.js";

const LOOK_MS = 160;

export class Look {
  // may: () whether anything can be seen through now. preview: (act). left: nothing is seen through any more.
  constructor({ may, preview, left }) {
    Object.assign(this, { may, preview, left, through: false });
    let later = 0;
    el("choices").addEventListener("scroll", () => {
      clearTimeout(later);
      later = setTimeout(() => this.#look(), LOOK_MS);
    });
  }

  #look() {
    const each = middleChoice();
    if (!each || !this.may() || standsAsPut()) return;
    moved();
    const taken = each.getAttribute("aria-pressed") === "true";
    if (taken && !this.through) return;
    this.through = !taken;
    el("seen").textContent = taken ? "" : `Seen through ${each.textContent}: tap it to take it.`;
    if (taken) this.left();
    else this.preview(JSON.parse(each.dataset.act));
  }

  leave() {
    this.through = false;
    el("seen").textContent = "";
  }
}
