// What every part of the field page uses: its elements, and the one sentence at its head.
const SAID_MS = 8000;

export const el = (id) => document.getElementById(id);

export function made(name, properties = {}, ...children) {
  const node = Object.assign(document.createElement(name), properties);
  node.append(...children.filter((each) => each !== ""));
  return node;
}

export function key(words, press, className = "act") {
  const each = made("button", { type: "button", className, textContent: words });
  each.addEventListener("click", press);
  return each;
}

let later = 0;
export function say(sentence) {
  el("said").textContent = sentence;
  el("said").hidden = !sentence;
  clearTimeout(later);
  if (sentence) later = setTimeout(() => say(""), SAID_MS);
}
