// The sighting ring over a picture, at the desk and in the field: it follows pointer, finger or keys, what lies under
// it is read, and its label stands beside it. Places are fractions of the picture.
import { within } from "./geometry.js";
import { loupe } from "./loupe.js";

const GAP_PX = 12,
  OVER_FINGER_PX = 44,
  STEP = 0.005,
  FAR_STEP = 0.05;
const MOVES = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

export class Ring {
  // radius: () of the ring, over the picture's width; 0 while nothing can be read. read: (x, y), promises what the core
  // says of the place. pin: (x, y), the tone under the ring is wanted.
  constructor({ radius, read, pin }) {
    Object.assign(this, { radius, read, pin, at: null });
    this.frame = document.getElementById("frame");
    [this.ring, this.label] = [document.getElementById("ring"), document.getElementById("sighted")];
    loupe(
      (x, y) => this.aim(x, y),
      () => this.rest(),
    );
    this.frame.addEventListener("keydown", (event) => this.key(event));
  }

  aim(x, y) {
    if (!this.radius()) return;
    this.at = [within(x, 0, 1), within(y, 0, 1)];
    const diameter = 2 * this.radius() * this.frame.clientWidth;
    Object.assign(this.ring.style, {
      left: `${this.at[0] * 100}%`,
      top: `${this.at[1] * 100}%`,
      width: `${diameter}px`,
      height: `${diameter}px`,
    });
    this.ring.hidden = false;
    this.placeLabel();
    this.ask();
  }

  // A finger was lifted: the reading stays, and can be pinned.
  rest() {
    this.label.classList.add("touched");
    this.placeLabel();
  }

  key(event) {
    if (event.target !== this.frame) return;
    const move = MOVES[event.key],
      step = event.shiftKey ? FAR_STEP : STEP;
    if (move) {
      const [x, y] = this.at ?? [0.5, 0.5];
      this.aim(x + move[0] * step, y + move[1] * step);
    } else if (event.key === "Enter") this.pinHere();
    else if (event.key === "Escape") this.hide();
    else return;
    event.preventDefault();
  }

  pinHere() {
    if (this.at) this.pin(...this.at);
  }

  // One question at a time; while one is under way only the last place is remembered.
  async ask() {
    this.wanted = this.at;
    if (this.asking) return;
    this.asking = true;
    while (this.wanted) {
      const [x, y] = this.wanted;
      this.wanted = null;
      try {
        const seen = await this.read(x, y);
        if (seen) this.tell(seen);
      } catch {
        this.label.hidden = true;
      }
    }
    this.asking = false;
  }

  tell(seen) {
    if (this.ring.hidden || seen.problem) return;
    const text = (id, words) => (document.getElementById(id).textContent = words || "");
    const mixed = `Mixed tones under the spot${seen.ends ? `: ${seen.ends}` : ""}`;
    text("sighted-ev", seen.ev);
    text("sighted-zone", seen.zone ? `on ${seen.zone}` : "");
    text("sighted-pair", [seen.pair, `spread ${seen.spread}`].filter(Boolean).join(", "));
    text("sighted-mixed", seen.mixed ? mixed : seen.clipped ? "The picture is blank here" : "");
    drawShares(seen.hill);
    this.label.hidden = false;
    this.placeLabel();
  }

  // Beside the ring; above a finger that was lifted, below it where there is no room. Never outside the picture.
  placeLabel() {
    if (!this.at) return;
    const { clientWidth: width, clientHeight: height } = this.frame,
      { offsetWidth: wide, offsetHeight: high } = this.label,
      [x, y] = [this.at[0] * width, this.at[1] * height],
      gap = this.radius() * width + GAP_PX;
    let [left, top] = [x + gap + wide > width ? x - gap - wide : x + gap, y - GAP_PX];
    if (this.label.classList.contains("touched")) {
      const above = y - high - OVER_FINGER_PX;
      [left, top] = [x - wide / 2, above >= 0 ? above : y + OVER_FINGER_PX];
    }
    Object.assign(this.label.style, {
      left: `${within(left, 0, Math.max(width - wide, 0))}px`,
      top: `${within(top, 0, Math.max(height - high, 0))}px`,
    });
  }

  hide() {
    this.ring.hidden = true;
    this.label.hidden = true;
    this.label.classList.remove("touched");
    this.at = null;
  }
}

// The tones under the ring, from black to white, where the page has room for them.
function drawShares(shares) {
  const path = document.querySelector("#sighted-hill path");
  if (!path) return;
  const most = Math.max(...shares),
    step = 100 / shares.length;
  const bars = shares.map((share, k) =>
    share ? `M${k * step} 24V${24 - (22 * share) / most}H${(k + 1) * step - 0.6}V24Z` : "",
  );
  path.setAttribute("d", bars.join(""));
}
