import { loupe } from "./loupe.js";
import { isView, partOf } from "../pictures/painted.js";
import { Painter, first, mapOf } from "../pictures/painter.js";

// The stage: the sighting ring follows the pointer, the server says what it reads, a click pins the tone.
export function stage(desk, openTone) {
  const frame = document.getElementById("frame");
  if (!frame) return;
  const [ring, label] = [document.getElementById("ring"), document.getElementById("sighted")];
  const view = document.getElementById("view");
  frame.style.setProperty("--ratio", frame.dataset.width / frame.dataset.height);
  let at = null,
    waiting = false,
    again = false,
    shown = "grey";

  const text = (id, words) => {
    document.getElementById(id).textContent = words || "";
  };

  function aim(x, y) {
    at = [Math.min(Math.max(x, 0), 1), Math.min(Math.max(y, 0), 1)];
    const size = frame.getBoundingClientRect(),
      diameter = 2 * desk.data().ring * size.width;
    Object.assign(ring.style, {
      left: `${at[0] * 100}%`,
      top: `${at[1] * 100}%`,
      width: `${diameter}px`,
      height: `${diameter}px`,
    });
    ring.hidden = false;
    placeLabel();
    ask();
  }

  // The reading stands beside the ring and never outside the picture.
  function placeLabel() {
    const { width, height } = frame.getBoundingClientRect(),
      gap = desk.data().ring * width + 12,
      [x, y] = [at[0] * width, at[1] * height],
      [wide, high] = [label.offsetWidth, label.offsetHeight];
    const left = x + gap + wide > width ? x - gap - wide : x + gap;
    Object.assign(label.style, {
      left: `${Math.min(Math.max(left, 0), Math.max(width - wide, 0))}px`,
      top: `${Math.min(Math.max(y - 14, 0), Math.max(height - high, 0))}px`,
    });
  }

  // One question at a time; while one is under way only the last place is remembered.
  async function ask() {
    if (waiting) {
      again = true;
      return;
    }
    waiting = true;
    try {
      const answer = await fetch(`${desk.data().sight}?x=${at[0].toFixed(5)}&y=${at[1].toFixed(5)}`);
      if (answer.ok) tell(await answer.json());
    } catch {
      label.hidden = true;
    }
    waiting = false;
    if (again) {
      again = false;
      ask();
    }
  }

  function tell(seen) {
    if (ring.hidden) return;
    text("sighted-ev", seen.ev);
    text("sighted-zone", seen.zone ? `on ${seen.zone}` : "");
    text(
      "sighted-pair",
      [seen.pair, `spread ${seen.spread}`, seen.names[0] && `${seen.names[0]}?`].filter(Boolean).join(", "),
    );
    text(
      "sighted-mixed",
      seen.mixed
        ? `Mixed tones under the spot${seen.ends ? `: ${seen.ends}` : ""}`
        : seen.clipped
          ? "The picture is blank here"
          : "",
    );
    drawHill(seen.hill);
    label.hidden = false;
    placeLabel();
  }

  // The tones under the ring, from black to white.
  function drawHill(shares) {
    const most = Math.max(...shares),
      step = 100 / shares.length;
    const bars = shares.map((share, k) => {
      const height = (22 * share) / most;
      return share ? `M${k * step} 24V${24 - height}H${(k + 1) * step - 0.6}V24Z` : "";
    });
    document.querySelector("#sighted-hill path").setAttribute("d", bars.join(""));
  }

  function hide() {
    ring.hidden = true;
    label.hidden = true;
    label.classList.remove("touched");
  }

  async function pin() {
    if (!at) return;
    const before = desk.data().tones.length,
      [x, y] = at;
    await desk.act("pin", { x: x.toFixed(5), y: y.toFixed(5) });
    const tones = desk.data().tones;
    if (tones.length > before) openTone(tones[tones.length - 1].mark);
    hide();
  }

  const touch = () => {
    label.classList.add("touched");
    placeLabel();
  };
  loupe(aim, touch);

  const place = (event) => {
    const box = frame.getBoundingClientRect();
    return [(event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height];
  };
  frame.addEventListener("pointermove", (event) => {
    if (event.pointerType === "mouse" && !event.target.closest(".touched")) aim(...place(event));
  });
  frame.addEventListener("pointerleave", (event) => {
    if (event.pointerType === "mouse" && document.activeElement !== frame) hide();
  });
  frame.addEventListener("click", (event) => {
    if (justDragged || event.target.closest("[data-handle], .edge-grip")) return;
    if (event.target.closest(".pin")) return; // pins.js answers
    if (event.target.closest("#pin-here")) {
      pin();
      return;
    }
    aim(...place(event));
    if (event.pointerType === "mouse") pin();
    else touch();
  });
  frame.addEventListener("keydown", (event) => {
    const step = event.shiftKey ? 0.05 : 0.005;
    const moves = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] };
    if (moves[event.key]) {
      const [x, y] = at ?? [0.5, 0.5];
      aim(x + moves[event.key][0], y + moves[event.key][1]);
    } else if (event.key === "Enter" && event.target === frame) pin();
    else if (event.key === "Escape") hide();
    else return;
    event.preventDefault();
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
  const limit = (v, low, high) => Math.min(Math.max(v, low), high);
  frame.addEventListener("pointerdown", (event) => {
    const handle = event.target.closest("[data-handle]");
    if (!handle) return;
    held = { sides: handle.dataset.handle, box: boxOf(), from: place(event), now: boxOf() };
    frame.setPointerCapture(event.pointerId);
    event.preventDefault();
  });
  frame.addEventListener("pointermove", (event) => {
    if (!held) return;
    const [x, y] = place(event),
      [l, t, r, b] = held.box;
    const dx = x - held.from[0],
      dy = y - held.from[1];
    if (held.sides === "move") {
      const mx = limit(dx, -l, 1 - r),
        my = limit(dy, -t, 1 - b);
      held.now = [l + mx, t + my, r + mx, b + my];
    } else {
      held.now = [
        held.sides.includes("left") ? limit(l + dx, 0, r - 0.05) : l,
        held.sides.includes("top") ? limit(t + dy, 0, b - 0.05) : t,
        held.sides.includes("right") ? limit(r + dx, l + 0.05, 1) : r,
        held.sides.includes("bottom") ? limit(b + dy, t + 0.05, 1) : b,
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
