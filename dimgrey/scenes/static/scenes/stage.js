import { placeIn, within } from "../pictures/geometry.js";
import { isView, partOf } from "../pictures/painted.js";
import { Painter, first, mapOf } from "../pictures/painter.js";
import { Ring } from "../pictures/ring.js";

// The stage: the sighting ring follows the pointer, the server says what it reads, a click pins the tone.
export function stage(desk, strip) {
  const frame = document.getElementById("frame");
  if (!frame) return;
  const view = document.getElementById("view");
  frame.style.setProperty("--ratio", frame.dataset.width / frame.dataset.height);
  let shown = "grey";

  const ring = new Ring({
    radius: () => desk.data().ring,
    read: async (x, y) => {
      const answer = await fetch(`${desk.data().sight}?x=${x.toFixed(5)}&y=${y.toFixed(5)}`);
      return answer.ok ? answer.json() : null;
    },
    pin: async (x, y) => {
      const before = desk.data().tones.length;
      await desk.act("pin", { x: x.toFixed(5), y: y.toFixed(5) });
      const tones = desk.data().tones;
      ring.hide();
      if (tones.length > before) strip.open(tones[tones.length - 1].mark);
    },
  });
  frame.addEventListener("pointermove", (event) => {
    if (event.target.closest(".strip, .ask-light")) return ring.hide();
    if (event.pointerType === "mouse" && !event.target.closest(".touched")) ring.aim(...placeIn(frame, event));
  });
  document.addEventListener("strip:open", () => ring.hide());
  frame.addEventListener("pointerleave", (event) => {
    if (event.pointerType === "mouse" && document.activeElement !== frame) ring.hide();
  });
  frame.addEventListener("click", (event) => {
    if (justDragged || event.target.closest("[data-handle], .edge-grip")) return;
    if (event.target.closest(".pin, .strip, .ask-light")) return; // they answer themselves
    if (event.target.closest("#pin-here")) {
      ring.pinHere();
      return;
    }
    ring.aim(...placeIn(frame, event));
    if (event.pointerType === "mouse") ring.pinHere();
    else ring.rest();
  });

  // A view is a base picture and what lies over it; every address comes from the server.
  const SQUEEZES = ["hard", "two", "three", "squint"];
  const names = { hard: "contrast to the end", two: "two tones", three: "three tones", squint: "a squint" };
  let squeeze = 0;
  const over = document.getElementById("over");

  function parts(name) {
    const state = desk.data();
    if (name === "colour") return [state.colour, ""];
    if (name === "squeeze") return [state.looks[SQUEEZES[squeeze]], ""];
    if (name === "contours") return [state.grey, state.contours];
    if (["twins", "eye", "sky"].includes(name))
      return [state.grey, `${state.over.replace("KIND", name)}?${state.stamp}`];
    return [state.grey, ""];
  }

  const other = document.getElementById("other"),
    choice = document.getElementById("compare");
  const divide = document.getElementById("divide"),
    divider = document.getElementById("divider");

  // The painter shows every grey view as soon as the picture's light is here; until then, and without it, the server's
  // pictures do.
  let canvas = document.getElementById("painted");
  const forced = new URLSearchParams(location.search).get("painter");
  // While the picture's light is on its way, small pictures of the server are enough, and there sooner.
  let expecting = Boolean(desk.data().light) && forced !== "none";
  let painter = null,
    light = null,
    painted = null,
    shift = 0,
    glass = {};
  const paintable = (address) => painter && isView(address);

  // Left and right of the divider, or one view over the whole width.
  async function paint(address, beside, done) {
    const wanted = (painted = { address, beside });
    try {
      const [main, second] = await Promise.all([
        partOf(address, light.side),
        beside ? partOf(beside, light.side) : null,
      ]);
      if (painted !== wanted) return;
      painted.main = main;
      painted.second = second;
      shift = 0;
      glass = {};
      drawFrame();
      canvas.hidden = false;
      done?.();
      if (choice.value && !beside) compare();
    } catch {
      // The tables did not come: the server's picture takes over.
      if (painted !== wanted) return;
      painted = null;
      canvas.hidden = true;
      serve(view, address, done ?? (() => {}));
    }
  }

  // What is to be seen, by its address, for whoever watches the page.
  function tellShown(address, beside) {
    frame.dataset.shown = address;
    frame.dataset.beside = beside ?? frame.dataset.beside ?? "";
  }

  function drawFrame(moving = false) {
    if (!painted?.main) return;
    const at = painted.second ? Number(divide.value) / 100 : 1,
      parts = [{ ...painted.main, shift, ...glass, from: 0, to: at }];
    if (painted.second) parts.push({ ...painted.second, shift, ...glass, from: at, to: 1 });
    painter.paint(parts, moving);
    canvas.dataset.kind = painter.kind;
    tellShown(painted.address, painted.beside);
  }

  // How polarizer and graduated glass stand while a hand moves them; the shift that follows draws the frame.
  document.addEventListener("picture:glass", (event) => {
    glass = event.detail;
  });
  let due = 0;
  document.addEventListener("picture:shift", (event) => {
    if (!painter || canvas.hidden) return;
    shift = event.detail;
    cancelAnimationFrame(due);
    due = requestAnimationFrame(() => drawFrame(true));
  });
  // A filter, mix or development that is chosen is seen at once; the server settles what follows from it.
  const viewOf = (field) => {
    if (field.dataset.views) return JSON.parse(field.dataset.views)[field.value];
    const is = field.matches("#edit-filter select[name=filter], #edit-camera select[name=channel_mix]");
    return is ? desk.data().choices[field.value || "none"] : null;
  };
  document.addEventListener("input", (event) => {
    const address = event.target.matches("select") && viewOf(event.target);
    if (address && shown === "grey" && !canvas.hidden && paintable(address)) paint(address, "");
  });

  async function begin() {
    if (!expecting) {
      render(shown);
      return;
    }
    const side = frame.getBoundingClientRect().width * devicePixelRatio > 1000 ? 1600 : 1000;
    try {
      await mapOf(desk.data().light.replace("SIDE", side));
      light = { side };
      painter = new Painter(canvas, forced === "plain", (next) => {
        canvas = next;
        canvas.dataset.kind = "plain";
      });
    } catch {
      painter = null;
    }
    expecting = false;
    render(shown);
  }
  if (view.complete) setTimeout(begin, 0);
  else view.addEventListener("load", begin, { once: true });

  function swap(image, address, done) {
    if (image === view) {
      if (paintable(address)) {
        paint(address, "", done);
        return;
      }
      painted = null;
      canvas.hidden = true;
    }
    serve(image, address, done);
  }

  function serve(image, address, done) {
    const told = () => {
      if (image === view) tellShown(address);
      if (image === other) tellShown(frame.dataset.shown, address);
      done();
    };
    const source = new URL(expecting && isView(address) ? `${address}?small=1` : address, location.href).href;
    if (source === image.src) {
      told();
      return;
    }
    const next = new Image();
    first(
      () =>
        new Promise((done) => {
          next.onload = next.onerror = done;
          next.src = source;
        }),
    ).then(() => {
      if (!next.naturalWidth) return;
      image.src = next.src;
      told();
    });
  }

  function show(name) {
    if (name === "squeeze" && shown === "squeeze") squeeze = (squeeze + 1) % SQUEEZES.length;
    desk.remember({ view: name === "grey" ? "" : name });
    render(name);
  }

  function render(name) {
    shown = name;
    for (const button of document.querySelectorAll("[data-view]"))
      button.setAttribute("aria-pressed", String(button.dataset.view === name));
    const [base, drawing] = parts(name);
    const words = name === "squeeze" ? names[SQUEEZES[squeeze]] : name;
    swap(view, base, () => {
      if (shown === name) view.alt = view.alt.replace(/seen in .+$/, `seen in ${words}`);
    });
    over.hidden = !drawing;
    if (drawing)
      swap(over, drawing, () => {
        over.alt = name === "contours" ? "borders of the zones" : name;
      });
    compare();
  }
  for (const button of document.querySelectorAll("[data-view]"))
    button.addEventListener("click", () => show(button.dataset.view));
  const viewKeys = { c: "colour", g: "grey", m: "contours", s: "squeeze", t: "twins", e: "eye" };
  document.addEventListener("keydown", (event) => {
    if (event.target.closest("input, textarea, select, dialog") || event.ctrlKey || event.metaKey || event.altKey)
      return;
    if (viewKeys[event.key]) show(viewKeys[event.key]);
  });

  const asked = new URLSearchParams(location.search).get("view");
  if (asked && document.querySelector(`[data-view="${CSS.escape(asked)}"]`)) show(asked);

  document.addEventListener("sky:show", () => show(shown === "sky" ? "grey" : "sky"));

  // Two choices under a divider: what is right of it is seen through the other one.
  function compare() {
    const address = desk.data().choices[choice.value];
    divider.hidden = !address;
    other.hidden = !address || !canvas.hidden;
    if (!address) frame.dataset.beside = "";
    if (!canvas.hidden && painted) {
      if (painted.beside !== (address ?? "")) paint(painted.address, address ?? "");
      else drawFrame(true);
    }
    if (!address) return;
    divider.style.setProperty("--at", `${divide.value}%`);
    if (!canvas.hidden) return;
    swap(other, address, () => {
      other.alt = `right of the divider: ${choice.value}`;
    });
    other.style.clipPath = `inset(0 0 0 ${divide.value}%)`;
    divider.style.setProperty("--at", `${divide.value}%`);
  }
  choice.addEventListener("change", compare);
  divide.addEventListener("input", compare);

  // The crop: drawn from its box, dragged by its handles, kept when the hand lets go.
  function drawCrop(box) {
    const svg = frame.querySelector(".crop");
    if (!svg) return;
    const [l, t, r, b] = box,
      size = frame.getBoundingClientRect();
    const x = (f) => (f * size.width).toFixed(1),
      y = (f) => (f * size.height).toFixed(1);
    svg
      .querySelector(".outside")
      .setAttribute("d", `M0 0H${x(1)}V${y(1)}H0ZM${x(l)} ${y(t)}H${x(r)}V${y(b)}H${x(l)}Z`);
    const inside = svg.querySelector(".inside");
    for (const [name, value] of [
      ["x", l],
      ["y", t],
      ["width", r - l],
      ["height", b - t],
    ])
      inside.setAttribute(name, `${(value * 100).toFixed(3)}%`);
  }
  const boxOf = () => frame.querySelector(".crop")?.dataset.box.split(",").map(Number);
  const redraw = () => {
    const box = boxOf();
    if (box) drawCrop(box);
  };
  let held = null;
  frame.addEventListener("pointerdown", (event) => {
    const handle = event.target.closest("[data-handle]");
    if (!handle) return;
    held = { sides: handle.dataset.handle, box: boxOf(), from: placeIn(frame, event), now: boxOf() };
    frame.setPointerCapture(event.pointerId);
    event.preventDefault();
  });
  frame.addEventListener("pointermove", (event) => {
    if (!held) return;
    const [x, y] = placeIn(frame, event),
      [l, t, r, b] = held.box;
    const dx = x - held.from[0],
      dy = y - held.from[1];
    if (held.sides === "move") {
      const mx = within(dx, -l, 1 - r),
        my = within(dy, -t, 1 - b);
      held.now = [l + mx, t + my, r + mx, b + my];
    } else {
      held.now = [
        held.sides.includes("left") ? within(l + dx, 0, r - 0.05) : l,
        held.sides.includes("top") ? within(t + dy, 0, b - 0.05) : t,
        held.sides.includes("right") ? within(r + dx, l + 0.05, 1) : r,
        held.sides.includes("bottom") ? within(b + dy, t + 0.05, 1) : b,
      ];
    }
    drawCrop(held.now);
  });
  frame.addEventListener("pointerup", () => {
    if (!held) return;
    const [left, top, right, bottom] = held.now.map((v) => v.toFixed(5)),
      crop = desk.data().crop,
      moved = held.sides === "move";
    held = null;
    justDragged = true;
    setTimeout(() => {
      justDragged = false;
    }, 0);
    desk.act("crop", {
      left,
      top,
      right,
      bottom,
      ratio: moved ? crop.ratio : "free",
      ...(crop.upright && moved ? { upright: "on" } : {}),
      guides: crop.guides || "none",
    });
  });
  let justDragged = false;
  new ResizeObserver(redraw).observe(frame);
  document.addEventListener("desk:changed", redraw);
  redraw();
  document.addEventListener("desk:changed", () => render(shown));
}
