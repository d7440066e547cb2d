// The stage: the sighting ring follows the pointer, the server says what it reads, a click pins the tone.
export function stage(desk, openTone) {
  const frame = document.getElementById("frame");
  if (!frame) return;
  const [ring, label] = [document.getElementById("ring"), document.getElementById("sighted")];
  const view = document.getElementById("view");
  frame.style.setProperty("--ratio", frame.dataset.width / frame.dataset.height);
  let at = null, waiting = false, again = false, shown = "grey";

  const text = (id, words) => { document.getElementById(id).textContent = words || ""; };

  function aim(x, y) {
    at = [Math.min(Math.max(x, 0), 1), Math.min(Math.max(y, 0), 1)];
    const size = frame.getBoundingClientRect(), diameter = 2 * desk.data().ring * size.width;
    Object.assign(ring.style, { left: `${at[0] * 100}%`, top: `${at[1] * 100}%`, width: `${diameter}px`, height: `${diameter}px` });
    ring.hidden = false;
    const right = at[0] > 0.7, low = at[1] > 0.8, gap = diameter / 2 + 12;
    Object.assign(label.style, {
      left: right ? "" : `calc(${at[0] * 100}% + ${gap}px)`, right: right ? `calc(${(1 - at[0]) * 100}% + ${gap}px)` : "",
      top: low ? "" : `calc(${at[1] * 100}% - 14px)`, bottom: low ? `calc(${(1 - at[1]) * 100}% - 14px)` : "",
    });
    ask();
  }

  // One question at a time; while one is under way only the last place is remembered.
  async function ask() {
    if (waiting) { again = true; return; }
    waiting = true;
    try {
      const answer = await fetch(`${desk.data().sight}?x=${at[0].toFixed(5)}&y=${at[1].toFixed(5)}`);
      if (answer.ok) tell(await answer.json());
    } catch { label.hidden = true; }
    waiting = false;
    if (again) { again = false; ask(); }
  }

  function tell(seen) {
    if (ring.hidden) return;
    text("sighted-ev", seen.ev);
    text("sighted-zone", seen.zone ? `on ${seen.zone}` : "");
    text("sighted-pair", [seen.pair, `spread ${seen.spread}`, seen.names[0] && `${seen.names[0]}?`].filter(Boolean).join(", "));
    text("sighted-mixed", seen.mixed ? `Mixed tones under the spot${seen.ends ? `: ${seen.ends}` : ""}` : seen.clipped ? "The picture is blank here" : "");
    label.hidden = false;
  }

  function hide() { ring.hidden = true; label.hidden = true; label.classList.remove("touched"); }

  async function pin() {
    if (!at) return;
    const before = desk.data().tones.length, [x, y] = at;
    await desk.act("pin", { x: x.toFixed(5), y: y.toFixed(5) });
    const tones = desk.data().tones;
    if (tones.length > before) openTone(tones[tones.length - 1].mark);
    hide();
  }

  const place = (event) => {
    const box = frame.getBoundingClientRect();
    return [(event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height];
  };
  frame.addEventListener("pointermove", (event) => { if (event.pointerType === "mouse" && !event.target.closest(".touched")) aim(...place(event)); });
  frame.addEventListener("pointerleave", (event) => { if (event.pointerType === "mouse" && document.activeElement !== frame) hide(); });
  frame.addEventListener("click", (event) => {
    const pinned = event.target.closest(".pin");
    if (pinned) { openTone(pinned.dataset.mark); return; }
    if (event.target.closest("#pin-here")) { pin(); return; }
    aim(...place(event));
    if (event.pointerType === "mouse") pin();
    else label.classList.add("touched");
  });
  frame.addEventListener("keydown", (event) => {
    const step = event.shiftKey ? 0.05 : 0.005;
    const moves = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] };
    if (moves[event.key]) { const [x, y] = at ?? [0.5, 0.5]; aim(x + moves[event.key][0], y + moves[event.key][1]); }
    else if (event.key === "Enter" && event.target === frame) pin();
    else if (event.key === "Escape") hide();
    else return;
    event.preventDefault();
  });

  function show(name) {
    shown = name;
    for (const button of document.querySelectorAll("[data-view]")) button.setAttribute("aria-pressed", String(button.dataset.view === name));
    const address = desk.data()[name];
    if (new URL(address, location.href).href === view.src) return;
    const next = new Image();
    next.onload = () => { if (shown === name) { view.src = next.src; view.alt = view.alt.replace(/seen in \w+$/, `seen in ${name}`); } };
    next.src = address;
  }
  for (const button of document.querySelectorAll("[data-view]")) button.addEventListener("click", () => show(button.dataset.view));
  document.addEventListener("keydown", (event) => {
    if (event.target.closest("input, textarea, select, dialog") || event.ctrlKey || event.metaKey) return;
    if (event.key === "c") show("colour");
    if (event.key === "g") show("grey");
  });
  document.addEventListener("desk:changed", () => show(shown));
}
