// The ribbon over the bar: what was done to the scene, the newest first, each with its own key that strikes it out.
import { el, key, made } from "./page.js";

const MOST = 12;

export class Ribbon {
  // strike: (what a line is known by) strikes it out, or puts it back.
  constructor(strike) {
    this.strike = strike;
    this.asked = "";
    this.lines = [];
  }

  // lines: as `standing` gives them.
  draw(lines) {
    this.lines = lines;
    const shown = lines.slice(-MOST).reverse();
    if (!shown.some(({ line }) => line === this.asked)) this.asked = "";
    el("ribbon").replaceChildren(...shown.map((each) => this.#line(each)));
    el("ribbon").hidden = !shown.length;
  }

  // A frame is struck out only after a question: there may be a picture of it.
  ask(line) {
    this.asked = line;
    this.draw(this.lines);
    el("ribbon").querySelector(".asks button")?.focus();
  }

  #line(each) {
    const { line, words, frame, struck } = each;
    if (line === this.asked)
      return made(
        "li",
        { className: "asks" },
        made("span", { textContent: `Strike out ${words}?` }),
        key("Strike out", () => this.#answer(line), "plain"),
        key("Keep", () => this.#answer(""), "plain"),
      );
    const press = struck ? () => this.strike(struck) : () => (frame ? this.ask(line) : this.strike(line)),
      sign = key(struck ? "↺" : "✕", press, "plain");
    sign.setAttribute("aria-label", `${struck ? "Put back" : "Strike out"}: ${words}`);
    return made("li", { className: struck ? "struck" : "" }, made(struck ? "s" : "span", { textContent: words }), sign);
  }

  #answer(line) {
    this.asked = "";
    this.draw(this.lines);
    if (line) this.strike(line);
  }
}
