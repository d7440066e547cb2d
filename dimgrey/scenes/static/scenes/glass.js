// Glass under the hand: the polarizer turned by its slider, the edge of graduated glass dragged over the picture.
// Picture, rail and figures follow by the core's tables; the server settles it when the hand lets go.
import { live } from "./dragging.js";

const STEP = 0.01,
  SETTLES_MS = 400;

export function glass(desk) {
  const frame = document.getElementById("frame");
  if (!frame) return;
  const answer = live(desk),
    told = () => desk.data().live;

  // own: mark -> stops that a tone gains. The placed tone keeps its zone, so the exposure follows it.
  function show(own, how) {
    if (!answer.ready()) return;
    const stops = -(own[told().placed] ?? 0);
    document.dispatchEvent(new CustomEvent("picture:glass", { detail: how }));
    answer.show(stops, own);
  }
  const at = (table, k) => Object.fromEntries(Object.entries(table).map(([mark, stops]) => [mark, stops[k]]));

  document.addEventListener("input", (event) => {
    const slider = event.target.closest("[data-turn]");
    if (!slider) return;
    document.getElementById("turned").textContent = `${slider.value}°`;
    const turn = told().turn;
    if (!turn) return;
    const k = turn.steps.indexOf(Number(slider.value));
    if (k >= 0) show(at(turn.tones, k), { crossed: turn.crossed[k] });
  });

  const limit = (v) => Math.min(Math.max(v, 0), 1);
  let held = null,
    waiting = 0;

  function move(grip, edge) {
    grip.setAttribute("y", `${(edge * 100).toFixed(2)}%`);
    grip.setAttribute("aria-valuenow", Math.round(edge * 100));
    const told_ = told().edge;
    if (!told_) return;
    const steps = Object.values(told_.tones)[0]?.length ?? 1;
    show(at(told_.tones, Math.round(edge * (steps - 1))), { slide: edge - told_.at });
  }
  const settle = async (edge) => {
    await desk.act("edge", { edge: edge.toFixed(3) });
  };

  frame.addEventListener("pointerdown", (event) => {
    const grip = event.target.closest(".edge-grip");
    if (!grip || event.button !== 0) return;
    held = { grip, edge: null };
    frame.setPointerCapture(event.pointerId);
    event.preventDefault();
    event.stopPropagation();
  });
  frame.addEventListener("pointermove", (event) => {
    if (!held) return;
    const box = frame.getBoundingClientRect();
    held.edge = limit((event.clientY - box.top) / box.height);
    move(held.grip, held.edge);
  });
  frame.addEventListener("pointerup", () => {
    if (!held) return;
    const { edge } = held;
    held = null;
    if (edge !== null) settle(edge);
  });
  frame.addEventListener("keydown", (event) => {
    const grip = event.target.closest?.(".edge-grip"),
      by = { ArrowUp: -STEP, ArrowDown: STEP, PageUp: -5 * STEP, PageDown: 5 * STEP }[event.key];
    if (!grip || !by) return;
    const edge = limit(Number.parseFloat(grip.getAttribute("y")) / 100 + by);
    move(grip, edge);
    clearTimeout(waiting);
    waiting = setTimeout(async () => {
      await settle(edge);
      frame.querySelector(".edge-grip")?.focus({ preventScroll: true });
    }, SETTLES_MS);
    event.preventDefault();
    event.stopPropagation();
  });
}
