// The light plan: lamps are dragged or moved by keys; every change is an act, and the page that comes back takes the
// place of this one without a jump. The rules are the server's: here things only move.
const CM = 100,
  STEP_DEG = 5,
  STEP_M = 0.1,
  SETTLE_MS = 450;
const place = () => document.getElementById("light-plan");

// --- acts
const said = (words) => {
  const line = document.createElement("p");
  line.className = "studio-busy";
  line.setAttribute("role", "status");
  line.textContent = words;
  place().append(line);
};

// One act after the other, each on the state that the one before left: quick hands do not outrun the page.
let before = Promise.resolve();
function sent(url, body) {
  before = before.then(() => done(url, body)).catch(() => said("The server does not answer. Try again."));
  return before;
}

async function done(url, body) {
  body.set("stamp", place().dataset.stamp);
  const answer = await fetch(url, { method: "POST", body });
  const page = new DOMParser().parseFromString(await answer.text(), "text/html"),
    fresh = page.getElementById("light-plan");
  if (!fresh) {
    window.location.assign(answer.url);
    return;
  }
  const focused = document.activeElement,
    kept = focused?.dataset?.lamp
      ? `#${focused.closest("svg").id} [data-lamp="${focused.dataset.lamp}"]`
      : focused?.id && `#${CSS.escape(focused.id)}`,
    open = [...document.querySelectorAll("#light-plan details[open]")].map((each) => each.id).filter(Boolean),
    shown = place().querySelector("#studio-picture img"),
    scrolled = place().querySelector(".studio-sheet").scrollTop;
  for (const id of open) fresh.querySelector(`#${id}`)?.setAttribute("open", "");
  // The old picture stays until the new one is there.
  const next = fresh.querySelector("#studio-picture img"),
    address = next.src;
  if (shown && shown.src !== address) {
    next.src = shown.src;
    const loading = new Image();
    loading.addEventListener("load", () => (next.src = address));
    loading.src = address;
  }
  place().replaceWith(document.adoptNode(fresh));
  place().querySelector(".studio-sheet").scrollTop = scrolled;
  if (kept) place().querySelector(kept)?.focus({ preventScroll: true });
}

document.addEventListener("submit", (event) => {
  const form = event.target;
  if (form.dataset.slow) said(form.dataset.slow);
  if (!form.matches("[data-quiet], [data-slow]") || form.action.endsWith("/picture")) return;
  event.preventDefault();
  sent(form.action, new FormData(form, event.submitter));
});

// --- moving
const token = () => document.querySelector("[name=csrfmiddlewaretoken]").value;

function move(lamp, { angle, away, height }) {
  const body = new FormData();
  body.append("csrfmiddlewaretoken", token());
  body.append("page", "light-plan");
  body.append("index", lamp.dataset.lamp - 1);
  body.append("angle_deg", angle.toFixed(1));
  body.append("away_m", away.toFixed(3));
  body.append("height_m", height.toFixed(3));
  return sent(place().dataset.act, body);
}

const where = (lamp) => ({
  angle: Number(lamp.dataset.angle),
  away: Number(lamp.dataset.away),
  height: Number(lamp.dataset.height),
});

const turned = (degrees) => ((((degrees + 180) % 360) + 360) % 360) - 180;

// A place of the drawing, in centimetres, under the pointer.
function under(event, svg) {
  const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM().inverse());
  return { x, y };
}

let dragged = null;

document.addEventListener("pointerdown", (event) => {
  const lamp = event.target.closest?.("#light-plan .lamp");
  if (!lamp) return;
  event.preventDefault();
  lamp.focus({ preventScroll: true });
  lamp.setPointerCapture(event.pointerId);
  dragged = { lamp, svg: lamp.ownerSVGElement, to: where(lamp), has: false };
});

document.addEventListener("pointermove", (event) => {
  if (!dragged) return;
  const { lamp, svg, to } = dragged,
    { x, y } = under(event, svg);
  dragged.has = true;
  if ("side" in lamp.dataset) to.height = Math.max(-y / CM, 0);
  else {
    to.angle = (Math.atan2(x, y) * 180) / Math.PI;
    to.away = Math.hypot(x, y) / CM;
  }
  const head = lamp.querySelector("g"),
    beam = lamp.querySelector(".beam"),
    end = beam.getAttribute("d").split("L")[1],
    at = "side" in lamp.dataset ? [head.transform.baseVal[0].matrix.e, y] : [x, y];
  head.setAttribute("transform", `translate(${at[0]} ${at[1]})`);
  beam.setAttribute("d", `M${at[0]} ${at[1]}L${end}`);
});

document.addEventListener("pointerup", () => {
  if (dragged?.has) move(dragged.lamp, dragged.to);
  dragged = null;
});

let settling = null;

document.addEventListener("keydown", (event) => {
  const lamp = event.target.closest?.("#light-plan .lamp");
  if (!lamp || !event.key.startsWith("Arrow")) return;
  event.preventDefault();
  const to = where(lamp),
    isSide = "side" in lamp.dataset,
    up = { ArrowUp: 1, ArrowDown: -1 }[event.key] ?? 0,
    right = { ArrowRight: 1, ArrowLeft: -1 }[event.key] ?? 0;
  if (isSide) to.height = Math.max(to.height + up * STEP_M, 0);
  else {
    to.angle = turned(to.angle + right * STEP_DEG);
    to.away = Math.max(to.away + up * STEP_M, 0);
  }
  lamp.dataset.angle = to.angle;
  lamp.dataset.away = to.away;
  lamp.dataset.height = to.height;
  // Several presses are one move.
  clearTimeout(settling);
  settling = setTimeout(() => move(lamp, where(lamp)), SETTLE_MS);
});
