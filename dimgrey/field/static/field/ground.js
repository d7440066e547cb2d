// The tone ground in the field: a ramp from black to white with the tones hanging from it at their prints. It draws
// what the core said; a drag moves a tone to the print under the finger, in the camera's steps.
import { nearestHandle } from "../pictures/nearest.js";

const ACROSS = 11,
  ROWS = 3,
  ROW = 17,
  RAMP_TOP = 6 + ROWS * ROW,
  HEIGHT = RAMP_TOP + 42,
  APART = 0.5, // zones between two letters in one row
  NS = "http://www.w3.org/2000/svg";

const made = (name, attributes, ...children) => {
  const node = document.createElementNS(NS, name);
  for (const [key, value] of Object.entries(attributes)) node.setAttribute(key, value);
  node.append(...children);
  return node;
};
const at = (zone) => ((zone + 0.5) / ACROSS) * 100;

// greys: 8-bit, from half a zone before 0 to half a zone past X.
function ramp(greys) {
  const stops = greys.map((grey, k) =>
    made("stop", { offset: k / (greys.length - 1), "stop-color": `rgb(${grey},${grey},${grey})` }),
  );
  return made("linearGradient", { id: "ground-ramp" }, ...stops);
}

export function drawGround(host, greys, sheet) {
  // What a finger may be on stays where it is while nothing of it changed.
  const drawn = JSON.stringify([sheet.tones, sheet.limits]);
  if (host.dataset.drawn === drawn) return;
  host.dataset.drawn = drawn;
  const svg = made("svg", { width: "100%", height: HEIGHT, class: "ground" });
  svg.append(made("defs", {}, ramp(greys)));
  svg.append(made("rect", { y: RAMP_TOP, width: "100%", height: 24, fill: "url(#ground-ramp)" }));
  sheet.zones.forEach((name, zone) => {
    const x = `${at(zone)}%`;
    svg.append(made("line", { x1: x, x2: x, y1: RAMP_TOP + 24, y2: RAMP_TOP + 28, class: "tick" }));
    svg.append(made("text", { x, y: RAMP_TOP + 40, class: "numeral" }, name));
  });
  for (const limit of sheet.limits ?? []) {
    const x = `${at(limit)}%`;
    svg.append(made("line", { x1: x, x2: x, y1: RAMP_TOP - 4, y2: RAMP_TOP + 28, class: "water" }));
  }
  // All lines lie under all letters, so that none is crossed out.
  const hung = inRows(sheet.tones);
  svg.append(...hung.map(([tone, row]) => plumb(tone, row)), ...hung.map(([tone, row]) => flag(tone, row)));
  host.replaceChildren(svg);
}

// A tone that was read and is not placed yet hangs loose over the middle, to be dragged to where it shall print.
const UNREAD = "—",
  MIDDLE = 5;
const loosely = (tone) =>
  tone.print === null ? { ...tone, print: MIDDLE, printed: "not placed yet", loose: true } : tone;

// Letters that would lie over each other hang in different rows.
function inRows(tones) {
  const last = Array(ROWS).fill(-Infinity),
    hung = tones.filter(({ print, ev }) => print !== null || ev !== UNREAD).map(loosely);
  hung.sort((a, b) => a.print - b.print);
  return hung.map((tone) => {
    let row = last.findIndex((print) => tone.print - print >= APART);
    if (row < 0) row = last.indexOf(Math.min(...last));
    last[row] = tone.print;
    return [tone, ROWS - 1 - row];
  });
}

function plumb({ print, lost, loose }, row) {
  const x = `${at(print)}%`,
    ends = { x1: x, x2: x, y1: (row + 1) * ROW + 3, y2: RAMP_TOP + 12 };
  return made(
    "g",
    { class: lost || loose ? "broken" : "" },
    made("line", { ...ends, class: "plumb-case" }),
    made("line", { ...ends, class: "plumb" }),
  );
}

function flag({ mark, name, print, printed, placed, lost, loose, texture }, row) {
  const x = `${at(print)}%`,
    top = (row + 1) * ROW,
    words = `${mark} ${name}: ${printed}${lost ? `, ${texture}` : ""}`;
  const group = made("g", {
    class: `hang${placed ? " placed" : ""}${lost ? " lost" : ""}${loose ? " loose" : ""}`,
    "data-mark": mark,
    "data-print": print,
    tabindex: 0,
    role: "slider",
    "aria-label": `${mark} ${name}`,
    "aria-valuemin": 0,
    "aria-valuemax": 10,
    "aria-valuenow": print.toFixed(2),
    "aria-valuetext": words,
  });
  // The whole plumb line answers a finger: 48 px wide, from the letter down to the ramp.
  group.append(
    made(
      "svg",
      { x, overflow: "visible" },
      made("rect", { x: -24, y: 0, width: 48, height: RAMP_TOP + 24, class: "grip" }),
    ),
    made("circle", { cx: x, cy: RAMP_TOP + 12, r: 5, class: "bob-case" }),
    made("circle", { cx: x, cy: RAMP_TOP + 12, r: 5, class: "bob" }),
    made("svg", { x, overflow: "visible" }, made("rect", { x: -7, y: top - 13, width: 14, height: 15, class: "box" })),
    made("text", { x, y: top, class: "letter" }, mark),
  );
  return group;
}

// moving: (mark, print) while the finger moves; placed: (mark, print) when it lets go; steps: of a zone; freed: nothing
// came of it.
export function dragGround(host, { steps, moving, placed, freed }) {
  let drag = null;
  const snapped = (zone) => Math.round(Math.min(Math.max(zone, 0), 10) * steps()) / steps();
  host.addEventListener("pointerdown", (event) => {
    const bob = (each) => each.querySelector(".bob"),
      group = nearestHandle(host.querySelectorAll(".hang"), event, bob) ?? event.target.closest(".hang");
    if (!group) return;
    drag = {
      mark: group.dataset.mark,
      print: Number(group.dataset.print),
      x: event.clientX,
      unit: host.clientWidth / ACROSS,
    };
    host.setPointerCapture(event.pointerId);
    event.preventDefault();
  });
  host.addEventListener("pointermove", (event) => {
    if (!drag) return;
    const print = snapped(drag.print + (event.clientX - drag.x) / drag.unit);
    if (print === drag.now || (drag.now === undefined && Math.abs(event.clientX - drag.x) < 4)) return;
    drag.now = print;
    moving(drag.mark, print);
  });
  const end = (keep) => {
    if (!drag) return;
    const { mark, now } = drag;
    drag = null;
    if (now === undefined) return;
    if (keep) placed(mark, now);
    else freed();
  };
  host.addEventListener("pointerup", () => end(true));
  host.addEventListener("pointercancel", () => end(false));
  host.addEventListener("keydown", (event) => {
    const group = event.target.closest(".hang"),
      by = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 }[event.key];
    if (!group || !by) return;
    event.preventDefault();
    placed(group.dataset.mark, snapped(Number(group.dataset.print) + by / steps()), true);
  });
}
