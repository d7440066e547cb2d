// At the pin: eleven greys beside the tone that was touched. The one that is touched is where the tone prints; a hand
// that slides along them moves picture, ramp and exposure with it. Nothing is placed by opening it.
import { within } from "../pictures/geometry.js";
import { live } from "./dragging.js";

const GAP_PX = 22,
  FAR_PX = 4,
  TOP = 10;

export function strip(desk, openTone) {
  const part = document.getElementById("strip"),
    frame = document.getElementById("frame");
  if (!part) return null;
  const greys = document.getElementById("strip-greys"),
    pencil = document.getElementById("strip-pencil"),
    reading = part.querySelector("[name=reading]"),
    answer = live(desk);
  let mark = "",
    held = null;

  const pin = () => frame.querySelector(`.pin[data-mark="${mark}"]`);
  const tone = () => desk.data().tones.find((each) => each.mark === mark);
  const flag = () => document.getElementById(`flag-${mark}`);
  const printed = () => (flag() ? Number(flag().dataset.print) : null);
  const snapped = (print) => Math.round(within(print, 0, TOP) * desk.data().steps) / desk.data().steps;

  function open(next) {
    mark = next;
    if (!tone() || !pin()) return openTone(next);
    part.hidden = false;
    document.dispatchEvent(new CustomEvent("strip:open"));
    tell();
    place();
    (tone().blind ? reading : nearest()).focus({ preventScroll: true });
  }
  function close() {
    if (part.hidden) return;
    part.hidden = true;
    if (part.contains(document.activeElement) || document.activeElement === document.body)
      (pin() ?? frame).focus({ preventScroll: true });
    mark = "";
  }

  // Which greys the medium gives, which of them without texture, and where the tone prints now.
  function tell() {
    const { reach, outer } = desk.data().greys;
    document.getElementById("strip-mark").textContent = mark;
    document.getElementById("strip-name").textContent = tone().name === `tone ${mark}` ? "" : tone().name;
    const blind = document.getElementById("strip-blind");
    blind.textContent = tone().blind;
    blind.hidden = !tone().blind;
    greys.toggleAttribute("inert", Boolean(tone().blind));
    if (document.activeElement !== reading) reading.value = tone().ev === "—" ? "" : tone().ev;
    for (const each of greys.querySelectorAll("button")) {
      const zone = Number(each.dataset.print);
      each.classList.toggle("dark", zone < outer[0] - 0.5);
      each.classList.toggle("light", zone > outer[1] + 0.5);
      each.classList.toggle("out", zone < reach[0] - 0.5 || zone > reach[1] + 0.5);
      each.setAttribute("aria-pressed", String(printed() !== null && Math.round(printed()) === zone));
    }
    ring(printed());
  }
  function ring(print) {
    pencil.toggleAttribute("hidden", print === null);
    if (print === null) return;
    pencil.style.top = `${((TOP - within(print, 0, TOP) + 0.5) / (TOP + 1)) * 100}%`;
  }
  const nearest = () => greys.querySelector(`[data-print="${Math.round(printed() ?? 5)}"]`);

  // Beside the pin, where there is room; never under it.
  function place() {
    const at = ["x", "y"].map((axis) => Number.parseFloat(pin().getAttribute(axis)) / 100),
      { clientWidth: width, clientHeight: height } = frame,
      { offsetWidth: wide, offsetHeight: high } = part,
      x = at[0] * width,
      right = x + GAP_PX + wide <= width;
    part.style.left = `${right ? x + GAP_PX : Math.max(x - GAP_PX - wide, 0)}px`;
    part.style.top = `${within(at[1] * height - high / 2, 0, Math.max(height - high, 0))}px`;
  }

  const put = (print) => desk.act("place", { mark, print: print.toFixed(4) });

  const printAt = (event) => {
    const box = greys.getBoundingClientRect();
    return TOP + 0.5 - ((event.clientY - box.top) / box.height) * (TOP + 1);
  };
  greys.addEventListener("pointerdown", (event) => {
    if (event.button !== 0) return;
    held = { y: event.clientY, moved: false, print: Number(event.target.closest("button")?.dataset.print ?? 5) };
    greys.setPointerCapture(event.pointerId);
    event.preventDefault();
  });
  greys.addEventListener("pointermove", (event) => {
    if (!held) return;
    if (Math.abs(event.clientY - held.y) > FAR_PX) held.moved = true;
    if (!held.moved) return;
    held.print = snapped(printAt(event));
    ring(held.print);
    if (answer.ready() && mark in desk.data().live.tones) answer.show(answer.stopsFor(mark, held.print));
  });
  greys.addEventListener("pointerup", () => {
    const done = held;
    held = null;
    if (done) put(done.print);
  });
  greys.addEventListener("pointercancel", () => {
    if (held?.moved && answer.ready()) answer.show(0);
    held = null;
    tell();
  });
  // What a screen reader presses comes without a pointer.
  greys.addEventListener("click", (event) => {
    const grey = event.target.closest("button");
    if (grey && event.detail === 0) put(Number(grey.dataset.print));
  });

  // 0 to 9 and x say the grey; the arrows move it by a step of the camera.
  function key(event) {
    if (event.target === reading && event.key !== "Escape") return;
    const digit = /^\d$/.test(event.key) ? Number(event.key) : event.key === "x" ? TOP : null,
      step = { ArrowUp: 1, ArrowDown: -1, PageUp: 3, PageDown: -3 }[event.key];
    if (event.key === "Escape") close();
    else if (tone().blind) return;
    else if (digit !== null) put(digit);
    else if (step) nudge(step);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }
  part.addEventListener("keydown", key);

  // Presses that come faster than the answers go out as one placing.
  let wanted = null;
  async function nudge(steps) {
    const from = wanted ?? snapped(printed() ?? 5),
      waits = wanted !== null;
    wanted = within(from + steps / desk.data().steps, 0, TOP);
    ring(wanted);
    if (waits) return;
    await Promise.resolve();
    while (wanted !== null) {
      const now = wanted;
      await put(now);
      if (wanted === now) wanted = null;
    }
  }

  document.getElementById("strip-read").addEventListener("submit", (event) => {
    event.preventDefault();
    keepReading(reading.value.trim());
  });
  // One that is asked about is settled on the sheet.
  async function keepReading(text) {
    const one = mark;
    if (!text || text === tone().ev) return;
    await desk.act("read", { mark: one, reading: text });
    if (document.querySelector(`#tone-${one} .problem`)) {
      close();
      openTone(one);
    }
  }
  document.getElementById("strip-close").addEventListener("click", close);
  document.getElementById("strip-more").addEventListener("click", () => {
    const one = mark;
    close();
    openTone(one);
  });

  document.addEventListener("desk:changed", () => {
    if (part.hidden) return;
    if (!tone() || !pin()) return close();
    tell();
    place();
  });
  document.addEventListener("pointerdown", (event) => {
    if (part.hidden || part.contains(event.target)) return;
    // A finger beside it closes it; a pointer goes on to the next tone.
    const byFinger = event.pointerType !== "mouse" && !event.target.closest(".pin");
    if (byFinger || event.target.closest("#sheet, .views")) close();
  });
  return { open, close, isOpenAt: (one) => !part.hidden && mark === one };
}
