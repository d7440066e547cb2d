// The row of filters, mixes and setups, and which of them stands in its middle.
import { el, made } from "./page.js";

// Filters or mixes, then filters of the kit, and its setups for a digital camera. take: (verb, values).
export function showChoices(sheet, { filters, setups }, take) {
  const row = el("choices"),
    names = sheet.choices ?? [];
  const button = (words, pressed, verb, values = {}) => {
    const each = made("button", { type: "button", textContent: words });
    each.setAttribute("aria-pressed", String(pressed));
    each.dataset.act = JSON.stringify({ verb, ...values });
    each.addEventListener("click", () => take(verb, values));
    return each;
  };
  const wanted = names.map((name) =>
    button(name === "none" ? "no filter" : name, name === sheet.choice, "colour-choice", { choice: name }),
  );
  const ofKit = filters.filter(({ name }) => sheet.offered.includes(name));
  wanted.push(...ofKit.map(({ name }) => button(name, false, "kit-filter", { filter: name })));
  if (sheet.grey_glass) wanted.push(button("all filters off", false, "filter"));
  if (!sheet.film)
    wanted.push(...setups.map(({ pk, name }) => button(name, name === sheet.setup, "setup", { setup: pk })));
  const left = row.scrollLeft,
    untouched = standsAsPut();
  row.replaceChildren(...wanted);
  row.scrollLeft = left;
  row.hidden = !wanted.length;
  if (untouched) centreChoice();
}

// The choice in the middle of the row, null for none.
export function middleChoice() {
  const row = el("choices"),
    { left, width } = row.getBoundingClientRect(),
    middle = left + width / 2;
  return [...row.children].find((each) => {
    const box = each.getBoundingClientRect();
    return box.left <= middle && box.right >= middle;
  });
}

// The choice that the page itself put in the middle: only a hand that swipes another one there looks through it.
let put = "";

export function centreChoice() {
  const chosen = el("choices").querySelector("[aria-pressed=true]");
  if (!chosen) return;
  put = chosen.dataset.act;
  el("choices").scrollLeft = chosen.offsetLeft - (el("choices").clientWidth - chosen.offsetWidth) / 2;
}

// Whether the row stands where the page put it, so that nobody is looking through anything.
export const standsAsPut = () => middleChoice()?.dataset.act === put;

// A hand moved the row: what it brings to the middle from now on is its own choice.
export function moved() {
  put = "";
}
