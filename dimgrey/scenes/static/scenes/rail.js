import { nearestHandle } from "../pictures/nearest.js";
import { live } from "./dragging.js";

// The tone rail: a drag moves the print under the finger, an arrow key the zone that is kept, by a step of the camera.
// All tones move together; on release the server places the tone and answers.
export function rail(desk) {
  const answer = live(desk);
  const host = document.getElementById("rail");
  const zonesAcross = 11;
  let drag = null;

  const clampZone = (zone) => Math.min(Math.max(zone, 0), 10);
  const snapped = (zone) => Math.round(clampZone(zone) * desk.data().steps) / desk.data().steps;

  host.addEventListener("pointerdown", (event) => {
    const ring = (each) => each.querySelector(".ring-mark"),
      flag = nearestHandle(host.querySelectorAll(".flag"), event, ring) ?? event.target.closest(".flag");
    if (!flag || event.button !== 0) return;
    const svg = host.querySelector("svg.rail");
    drag = {
      flag,
      mark: flag.dataset.mark,
      print: Number(flag.dataset.print),
      x: event.clientX,
      unit: svg.getBoundingClientRect().width / zonesAcross,
      moved: false,
    };
    flag.focus({ preventScroll: true });
    svg.setPointerCapture(event.pointerId);
    event.preventDefault();
  });
  host.addEventListener("pointermove", (event) => {
    if (!drag) return;
    const print = snapped(drag.print + (event.clientX - drag.x) / drag.unit);
    if (Math.abs(event.clientX - drag.x) > 3) drag.moved = true;
    if (!drag.moved) return;
    drag.target = print;
    if (answer.ready()) answer.show(answer.stopsFor(drag.mark, print));
  });
  const drop = async () => {
    if (!drag) return;
    const { mark, moved, target } = drag;
    drag = null;
    if (!moved) return;
    await desk.act("place", { mark, print: target.toFixed(4) });
    document.getElementById(`flag-${mark}`)?.focus({ preventScroll: true });
  };
  host.addEventListener("pointerup", drop);
  host.addEventListener("pointercancel", () => {
    if (drag?.moved && answer.ready()) answer.show(0);
    drag = null;
  });

  host.addEventListener("keydown", (event) => {
    const flag = event.target.closest(".flag");
    const steps = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1, PageDown: -3, PageUp: 3 };
    if (!flag || !(event.key in steps)) return;
    event.preventDefault();
    const mark = flag.dataset.mark;
    nudge(mark, steps[event.key]);
  });

  // Presses that come faster than the answers add up and go out as one placing.
  let pending = null;
  async function nudge(mark, steps) {
    if (pending && pending.mark === mark) {
      pending.steps += steps;
      return;
    }
    pending = { mark, steps };
    while (pending && pending.steps) {
      const { steps: now } = pending;
      pending.steps = 0;
      const flag = document.getElementById(`flag-${mark}`);
      if (!flag) break;
      await desk.act("place", {
        mark,
        zone: snapped(Number(flag.dataset.zone) + now / desk.data().steps).toFixed(4),
      });
      document.getElementById(`flag-${mark}`)?.focus({ preventScroll: true });
    }
    pending = null;
  }
}
