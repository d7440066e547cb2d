// Drawing round the sky, or round an area that is a tone: a line while the hand moves (with Shift a rectangle), an
// outline for the server when it lets go.
const MOST_CORNERS = 48;

export function lasso(desk, openTone) {
  const frame = document.getElementById("frame");
  if (!frame) return;
  const svg = document.getElementById("lasso"),
    line = svg.querySelectorAll("polyline");
  let corners = null,
    verb = "sky";

  const place = (event) => {
    const box = frame.getBoundingClientRect();
    return [event.clientX - box.left, event.clientY - box.top].map((v, k) =>
      Math.min(Math.max(v / (k ? box.height : box.width), 0), 1),
    );
  };
  const draw = () => {
    const box = frame.getBoundingClientRect();
    for (const each of line)
      each.setAttribute("points", corners.map(([x, y]) => `${x * box.width},${y * box.height}`).join(" "));
  };
  const begin = (what) => {
    verb = what;
    corners = [];
    draw();
    svg.removeAttribute("hidden");
    frame.scrollIntoView({ block: "nearest" });
    frame.focus({ preventScroll: true });
  };
  const end = () => {
    svg.setAttribute("hidden", "");
    corners = null;
  };

  document.addEventListener("click", (event) => {
    const asked = event.target.closest("[data-lasso]");
    if (asked) begin(asked.dataset.lasso);
    else if (event.target.closest("[data-show-sky]")) document.dispatchEvent(new CustomEvent("sky:show"));
  });
  svg.addEventListener("pointerdown", (event) => {
    svg.setPointerCapture(event.pointerId);
    corners = [place(event)];
    event.preventDefault();
    event.stopPropagation();
  });
  svg.addEventListener("pointermove", (event) => {
    if (!corners?.length || !event.buttons) return;
    const [x, y] = place(event),
      [left, top] = corners[0];
    if (event.shiftKey)
      corners = [
        [left, top],
        [x, top],
        [x, y],
        [left, y],
      ];
    else corners.push([x, y]);
    draw();
  });
  svg.addEventListener("click", (event) => event.stopPropagation());
  svg.addEventListener("pointerup", async (event) => {
    event.stopPropagation();
    const found = simplified(corners ?? []);
    end();
    if (found.length < 3) return;
    const outline = found.map(([x, y]) => `${x.toFixed(3)} ${y.toFixed(3)}`).join(",");
    if (verb === "sky") await desk.act("sky", { area: "drawn", outline });
    else await pinArea(outline);
  });
  async function pinArea(outline) {
    const before = desk.data().tones.length;
    await desk.act("pin-area", { outline });
    const tones = desk.data().tones;
    if (tones.length > before) openTone(tones[tones.length - 1].mark);
  }
  document.addEventListener("keydown", (event) => {
    if (event.key === "Escape" && corners) end();
    else if (
      event.key === "a" &&
      !event.target.closest("input, textarea, select, dialog") &&
      !event.ctrlKey &&
      !event.metaKey &&
      !event.altKey
    )
      begin("pin-area");
  });
}

// Fewer corners: what lies nearest to the straight line between its neighbours goes first.
function simplified(points) {
  const kept = points.slice();
  const area = (k) => {
    const [a, b, c] = [kept[(k + kept.length - 1) % kept.length], kept[k], kept[(k + 1) % kept.length]];
    return Math.abs((b[0] - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (b[1] - a[1]));
  };
  while (kept.length > 3) {
    let least = 0;
    for (let k = 1; k < kept.length; k++) if (area(k) < area(least)) least = k;
    if (kept.length <= MOST_CORNERS && area(least) > 1e-4) break;
    kept.splice(least, 1);
  }
  return kept;
}
