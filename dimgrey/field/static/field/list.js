// The page's first view: what was taken along, what can be, and what goes of itself.
import { changedSince, takeAlong } from "./along.js";
import { el, say } from "./page.js";
import { showOutings } from "./outings.js";
import * as store from "./store.js";
import { isNew } from "./sync.js";

const DAY_MS = 86400e3;
// Days by the clocks of where the phone is.
const day = (ahead) => new Date(Date.now() + ahead * DAY_MS).toLocaleDateString("sv");

export class List {
  // home: Home. hands: open(outing, scene), fresh(outing), atOnce(outing), left() before it is shown, told(), taken()
  // when an outing is here, isOpen() whether it is still looked at.
  constructor(home, hands) {
    Object.assign(this, { home, hands });
  }

  async show() {
    this.hands.left();
    history.replaceState(null, "", location.pathname);
    el("scene").hidden = el("hold").hidden = el("new").hidden = true;
    el("outings").hidden = false;
    el("scene-title").textContent = "In the field";
    el("where").textContent = "";
    if ((await store.outings()).length) await this.draw();
    await this.home.look();
    if (this.hands.isOpen()) await this.draw();
  }

  async draw() {
    const { known } = this.home,
      { open, fresh, atOnce, told } = this.hands;
    const changed = (each) => (known ? changedSince(each, known) : null);
    showOutings(await store.outings(), known, changed, {
      open,
      fresh,
      atOnce,
      take: (pk) => this.take(pk),
      drop: (pk) => this.drop(pk),
    });
    await told();
  }

  async take(pk) {
    try {
      await takeAlong(pk, (done, whole, bytes) => {
        el("progress").hidden = done === whole;
        el("progress").textContent = `Taking along: ${done} of ${whole} pictures, ${(bytes / 1e6).toFixed(1)} MB`;
      });
      await this.hands.taken();
      await this.show();
    } catch (failed) {
      el("progress").hidden = true;
      say(
        failed.name === "QuotaExceededError"
          ? "The phone has no room for it. Drop another outing first."
          : `That could not be taken along: ${failed.message}.`,
      );
    }
  }

  // An outing of today or tomorrow is taken along by itself, when the page is open and the server there.
  async takeNext() {
    const kept = new Map((await store.outings()).map((each) => [each.pk, each])),
      { known } = this.home;
    for (const { pk, date } of known?.outings ?? []) {
      if (date !== day(0) && date !== day(1)) continue;
      const mine = kept.get(pk);
      if (!mine || changedSince(mine, known)?.length) await this.take(pk);
    }
  }

  // Nothing goes that is not home.
  async drop(pk) {
    const here = await store.outing(pk),
      mine = (act) => act.state !== "kept" && here.scenes.some((scene) => scene.pk === act.scene);
    if ((await store.acts()).some(mine) || here.scenes.some(isNew)) {
      say("Something of this outing is not home yet. Let it come home, or save it as a file, before you drop it here.");
      return;
    }
    await store.dropOuting(pk);
    await store.sweepLight();
    await this.show();
  }
}

// Of an outing that is of today: its first planned scene that has no frame of this phone's yet, null for none.
export async function nextOfToday() {
  const logged = new Set((await store.acts()).filter(({ verb }) => verb === "log").map((each) => each.scene));
  for (const { pk, date, scenes } of await store.outings()) {
    const next = date === day(0) && scenes.find((each) => each.sheet.exposure?.shutter && !logged.has(each.pk));
    if (next) return [pk, next.pk];
  }
  return null;
}
