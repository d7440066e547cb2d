// Pins are dragged, or moved by the arrow keys; the picture under them is read anew when the hand lets go.
import { within } from "../pictures/geometry.js";

const FAR_PX = 5,
  STEP = 0.004,
  SETTLES_MS = 500;

export function pins(desk, strip) {
  const frame = document.getElementById("frame");
  if (!frame) return;
  let held = null;

  // A press on a pin is the pin's own: the click that follows goes to whoever holds the pointer.
  let pressed = false;
  frame.addEventListener(
    "click",
    (event) => {
      if (!pressed) return;
      pressed = false;
      event.stopImmediatePropagation();
    },
    true,
  );

  const placeOf = (pin) => ["x", "y"].map((axis) => Number.parseFloat(pin.getAttribute(axis)) / 100);
  const put = (pin, [x, y]) => {
    const area = frame.querySelector(`[data-area="${pin.dataset.mark}"]`);
    if (area) {
      area.start ??= placeOf(pin);
      area.setAttribute("transform", `translate(${(x - area.start[0]) * 1000} ${(y - area.start[1]) * 1000})`);
    }
    pin.setAttribute("x", `${(x * 100).toFixed(3)}%`);
    pin.setAttribute("y", `${(y * 100).toFixed(3)}%`);
  };
  const keep = (mark, [x, y]) => desk.act("move-pin", { mark, x: x.toFixed(5), y: y.toFixed(5) });

  frame.addEventListener("pointerdown", (event) => {
    const pin = event.target.closest(".pin");
    pressed = Boolean(pin);
    if (!pin || event.button !== 0) return;
    held = { pin, mark: pin.dataset.mark, from: placeOf(pin), x: event.clientX, y: event.clientY, moved: false };
    frame.setPointerCapture(event.pointerId);
    event.preventDefault();
  });
  frame.addEventListener("pointermove", (event) => {
    if (!held) return;
    const box = frame.getBoundingClientRect(),
      [dx, dy] = [event.clientX - held.x, event.clientY - held.y];
    if (Math.hypot(dx, dy) > FAR_PX) held.moved = true;
    if (!held.moved) return;
    held.now = [within(held.from[0] + dx / box.width, 0, 1), within(held.from[1] + dy / box.height, 0, 1)];
    put(held.pin, held.now);
  });
  const drop = async () => {
    if (!held) return;
    const { pin, mark, moved, from, now } = held;
    held = null;
    if (!moved) {
      strip.isOpenAt?.(mark) ? strip.close() : strip.open(mark);
      return;
    }
    const before = desk.data().stamp;
    await keep(mark, now);
    if (desk.data().stamp === before) put(pin, from); // it was not kept: back, with the word that the desk says
  };
  frame.addEventListener("pointerup", drop);
  frame.addEventListener("pointercancel", () => {
    if (held) put(held.pin, held.from);
    held = null;
  });

  // Presses add up and are read once when they rest.
  let waiting = 0;
  frame.addEventListener("keydown", (event) => {
    const pin = event.target.closest?.(".pin");
    if (!pin) return;
    const step = STEP * (event.shiftKey ? 5 : 1),
      moves = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] };
    if (event.key === "Enter" || event.key === " ") strip.open(pin.dataset.mark);
    else if (moves[event.key]) {
      const [x, y] = placeOf(pin),
        now = [within(x + moves[event.key][0], 0, 1), within(y + moves[event.key][1], 0, 1)],
        mark = pin.dataset.mark;
      put(pin, now);
      clearTimeout(waiting);
      waiting = setTimeout(async () => {
        await keep(mark, now);
        document.querySelector(`.pin[data-mark="${mark}"]`)?.focus({ preventScroll: true });
      }, SETTLES_MS);
    } else return;
    event.preventDefault();
    event.stopImmediatePropagation();
  });
}
