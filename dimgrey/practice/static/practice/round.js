// A round runs in the page: it goes on without a network.
import { stamped } from "../scenes/stamped.js";
import { add, waiting } from "./answers.js";

const round = document.querySelector("[data-round]");
const part = (name) => round.querySelector(`[data-${name}]`);

const svg = (name, attributes) => {
  const made = document.createElementNS("http://www.w3.org/2000/svg", name);
  for (const [key, value] of Object.entries(attributes)) made.setAttribute(key, value);
  return made;
};
const patches = (colours, label) => {
  const box = `0 0 ${colours.length * 100} 60`;
  const made = svg("svg", { viewBox: box, class: "patches", role: "img", "aria-label": label });
  colours.forEach((colour, k) => made.append(svg("rect", { x: k * 100, width: 100, height: 60, fill: colour })));
  return made;
};
const bars = (shares) => {
  const most = Math.max(...shares);
  const told = "profile of tones, black to white";
  const made = svg("svg", { viewBox: "0 0 330 100", class: "bars", role: "img", "aria-label": told });
  shares.forEach((share, k) => {
    const height = (share / most) * 96;
    made.append(svg("rect", { x: k * 30 + 2, width: 26, y: 100 - height, height }));
  });
  return made;
};
const picture = (card) => {
  const made = document.createElement("div");
  made.className = "round-picture";
  const image = document.createElement("img");
  image.src = card.picture;
  image.alt = "the scene in grey";
  made.append(image);
  if (card.at) {
    const pin = document.createElement("span");
    pin.className = "round-pin";
    pin.style.left = `${card.at[0] * 100}%`;
    pin.style.top = `${card.at[1] * 100}%`;
    made.append(pin);
  }
  return made;
};

const cards = JSON.parse(document.getElementById("cards")?.textContent || "[]");
let at = 0;
let right = 0;

const show = () => {
  const card = cards[at];
  part("place").textContent = `${at + 1} of ${cards.length}: ${card.name}`;
  part("ask").textContent = card.ask;
  part("why").textContent = "";
  part("next").hidden = true;
  const shown = part("shown");
  shown.replaceChildren();
  if (card.picture) shown.append(picture(card));
  if (card.patches.length) shown.append(patches(card.patches, "patches"));
  if (card.bars.length) shown.append(bars(card.bars));
  part("answers").replaceChildren(
    ...card.options.map((option) => {
      const made = document.createElement("button");
      made.type = "button";
      made.className = "round-option";
      if (option.colour) made.append(patches(option.colour.split(" "), option.text));
      made.append(option.text);
      made.addEventListener("click", () => answer(card, option, made));
      return made;
    }),
  );
};

const answer = (card, option, pressed) => {
  const isRight = option.off === 0;
  right += isRight;
  for (const [k, made] of [...part("answers").children].entries()) {
    made.disabled = true;
    if (card.options[k].off === 0) made.classList.add("is-right");
  }
  if (!isRight) pressed.classList.add("is-wrong");
  const off = card.inStops && !isRight ? `${option.off.toFixed(1)} stops off. ` : "";
  const link = document.createElement("a");
  link.href = card.book;
  link.target = "_blank";
  link.className = "book-link";
  link.textContent = "Why this? In the book";
  part("why").replaceChildren(`${isRight ? "Right. " : "No. "}${off}${card.why} `, link);
  const kept = {
    ...stamped(),
    kind: card.kind,
    subject: card.subject,
    off: option.off,
    is_right: isRight,
    in_stops: card.inStops,
    level: card.level,
  };
  add(kept);
  part("next").hidden = false;
  part("next").focus();
};

const finish = () => {
  part("place").textContent = "Done";
  part("ask").textContent = `${right} of ${cards.length} right`;
  part("shown").replaceChildren();
  part("answers").replaceChildren();
  part("why").textContent = waiting().length ? "Your answers are kept here, and go home when the network is back." : "";
  part("next").textContent = "Where I stand";
};

part("next")?.addEventListener("click", () => {
  if (at >= cards.length) {
    window.location.assign(round.dataset.home);
    return;
  }
  at += 1;
  if (at < cards.length) show();
  else finish();
});
if (cards.length) show();
