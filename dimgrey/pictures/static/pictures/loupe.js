import { placeIn, within } from "./geometry.js";

// Sighting with a finger: press and hold, and a loupe over the finger shows what lies under it; moving sights along.
const HOLD_MS = 220,
  STILL_PX = 8,
  TIMES = 3,
  LIFT_PX = 96;

// aim: (x, y) as fractions, sets the ring and asks for its reading. rest: the finger is lifted, the reading stays.
export function loupe(aim, rest) {
  const frame = document.getElementById("frame"),
    glass = document.getElementById("loupe"),
    pen = glass.getContext("2d");
  let press = null;

  function look(event) {
    const [x, y] = placeIn(frame, event).map((v) => within(v, 0, 1)),
      box = frame.getBoundingClientRect(),
      painted = document.getElementById("painted"),
      source = painted.hidden ? document.getElementById("view") : painted,
      [wide, high] = source === painted ? [painted.width, painted.height] : [source.naturalWidth, source.naturalHeight];
    // As many pixels of the picture as make the loupe TIMES as large as the picture on the screen.
    const across = (glass.clientWidth || 128) / TIMES / box.width,
      size = Math.max(across * wide, 8);
    pen.imageSmoothingEnabled = false;
    pen.fillStyle = "#696969";
    pen.fillRect(0, 0, glass.width, glass.height);
    pen.drawImage(source, x * wide - size / 2, y * high - size / 2, size, size, 0, 0, glass.width, glass.height);
    // Above the finger, and never outside the picture.
    const left = within(x * box.width - 64, 0, Math.max(box.width - 128, 0)),
      above = y * box.height - LIFT_PX - 64,
      top = above >= 0 ? above : Math.min(y * box.height + 40, box.height - 128);
    Object.assign(glass.style, { left: `${left}px`, top: `${Math.max(top, 0)}px` });
    glass.hidden = false;
    aim(x, y);
  }

  frame.addEventListener("pointerdown", (event) => {
    const taken = ".pin, [data-handle], .edge-grip, .lasso, button"; // these answer a finger otherwise
    if (event.pointerType === "mouse" || event.target.closest(taken)) return;
    press = { id: event.pointerId, x: event.clientX, y: event.clientY, last: event, held: false };
    press.timer = setTimeout(() => {
      press.held = true;
      frame.setPointerCapture(press.id);
      look(press.last);
    }, HOLD_MS);
  });
  frame.addEventListener("pointermove", (event) => {
    if (!press || event.pointerId !== press.id) return;
    press.last = event;
    if (press.held) look(event);
    else if (Math.hypot(event.clientX - press.x, event.clientY - press.y) > STILL_PX) end();
  });
  const end = () => {
    if (!press) return;
    clearTimeout(press.timer);
    const { held } = press;
    press = null;
    glass.hidden = true;
    if (held) rest();
  };
  frame.addEventListener("pointerup", end);
  frame.addEventListener("pointercancel", end);
  // A finger that sights does not scroll the page.
  frame.addEventListener("touchmove", (event) => press?.held && event.preventDefault(), { passive: false });
  frame.addEventListener("contextmenu", (event) => press && event.preventDefault());
}
