// Waiting for the light: what the day's table says comes next, a list to be ticked by hand, and interval plans. Ticks
// stay on the phone; the core says the sentences.
import * as store from "./store.js";

const el = (id) => document.getElementById(id),
  TELL_EVERY_MS = 30e3;

// The time of the place, by the clocks of its zone.
const clockOf = (zone) => {
  try {
    return new Date().toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit", timeZone: zone });
  } catch {
    return new Date().toTimeString().slice(0, 5);
  }
};

export class Waiting {
  // rules: () the core's worker. here: () the outing, the scene and its sheet. act: does an act.
  constructor(rules, here, act) {
    Object.assign(this, { rules, here, act });
    el("wait").addEventListener("toggle", () => this.tell());
    el("await").addEventListener("submit", (event) => {
      event.preventDefault();
      const words = event.target.elements.words.value.trim();
      if (words) this.change((list) => [...list, { words, done: false }]).then(() => event.target.reset());
    });
    el("interval").addEventListener("input", () => this.tell());
    el("lit-darker").addEventListener("click", () => act("shift", { stops: "-1/3", only: "lit" }));
    el("lit-brighter").addEventListener("click", () => act("shift", { stops: "1/3", only: "lit" }));
    setInterval(() => el("wait").open && this.tell(), TELL_EVERY_MS);
  }

  get key() {
    return `awaited:${this.here().scene.pk}`;
  }

  async list() {
    const { scene } = this.here();
    return (await store.meta(this.key)) ?? (scene.waits ?? []).map((words) => ({ words, done: false }));
  }

  async change(edit) {
    await store.keepMeta(this.key, edit(await this.list()));
    await this.draw();
  }

  async draw() {
    const list = await this.list();
    el("awaited").replaceChildren(
      ...list.map(({ words, done }, k) => {
        const tick = Object.assign(document.createElement("button"), { type: "button", textContent: words });
        tick.setAttribute("aria-pressed", String(done));
        tick.addEventListener("click", () =>
          this.change((all) => all.map((each, at) => (at === k ? { ...each, done: !each.done } : each))),
        );
        const line = document.createElement("li");
        line.append(tick);
        return line;
      }),
    );
  }

  async tell() {
    const { outing, scene, sheet } = this.here();
    if (!el("wait").open || !scene) return;
    await this.draw();
    el("lit-only").hidden = !sheet.tones.some(({ lit }) => lit);
    const { every, minutes, megabytes } = Object.fromEntries(new FormData(el("interval")));
    const asked = { rows: outing.day, clock: clockOf(outing.zone) };
    if (every && minutes)
      Object.assign(asked, { every_s: every, minutes, longest_s: sheet.seconds, frame_mb: megabytes || "0" });
    const told = JSON.parse(await this.rules().call("awaited", JSON.stringify(asked))),
      today = new Date().toISOString().slice(0, 10),
      other = outing.day.length && outing.date !== today ? [`Of ${outing.date}, at this time of day:`] : [];
    el("coming").replaceChildren(
      ...[...other, ...told.light].map((words) => Object.assign(document.createElement("li"), { textContent: words })),
    );
    el("interval-words").textContent = told.interval;
  }
}
