// Whether the page will open without a network, proved and not promised: every file is kept, and a second worker that
// gets nothing else reckons a scene as it stands.
import { Rules } from "./rules.js";
import * as store from "./store.js";

const ASK_MS = 10e3,
  REST_MS = 2e3,
  PROVED = "proved";

// What a start of the rules depends on.
export const versionOf = ({ worker, runtime, core }) => `${worker} ${core} ${runtime}`;

const PLAIN =
  "Plain address: keep this page open while you are out. It works without a network and loses nothing, but it " +
  "cannot be opened anew there.";
const UNABLE = "This browser does not keep the page: leave it open while you are out. It loses nothing.";

// The proof takes what a phone has of strength for some seconds: it waits until the hand rests, and gives way to it.
export class Ready {
  constructor(addresses, show) {
    this.addresses = addresses;
    this.show = show;
    this.running = null;
    if (!isSecureContext) return this.show(PLAIN, false);
    if (!navigator.serviceWorker) return this.show(UNABLE, false);
    this.show("Being kept: whether it opens without a network is not sure yet.", false);
    this.registered = navigator.serviceWorker
      .register(addresses.serviceWorker, { scope: "/field/" })
      .then(() => navigator.serviceWorker.ready)
      .then((registration) => {
        document.body.dataset.serviceWorker = "1";
        return registration;
      })
      .catch((failed) => {
        this.show(`${UNABLE} (${failed.message})`, false);
        return null;
      });
  }

  // until: to when the server knows this phone, ISO 8601, or "".
  check(until = "") {
    if (!this.registered) return null;
    this.asked = true; // what was taken along meanwhile is looked at, too
    return (this.running ??= this.#whileAsked(until).finally(() => (this.running = null)));
  }

  async #whileAsked(until) {
    while (this.asked) {
      this.asked = false;
      await this.#checked(until);
    }
  }

  async #checked(until) {
    const registration = await this.registered;
    if (!registration) return;
    try {
      const missing = await this.#missing(registration.active);
      if (missing.length) return this.show(`Not ready: ${missing.length} of its files are not here yet.`, false);
      if (!(await controlled())) return this.show("Not ready: open this page once more.", false);
      const outings = await store.outings(),
        scenes = outings.flatMap((each) => each.scenes.map((scene) => [each, scene]));
      if ((await store.meta(PROVED)) !== versionOf(this.addresses)) {
        this.show("Being checked: whether it opens without a network.", false);
        this.gaveWay = false;
        await new Promise((done) => setTimeout(done, REST_MS));
        if (this.gaveWay) return;
        await this.#prove(scenes.find(([, scene]) => typeof scene.pk === "number" && scene.sheet?.exposure?.shutter));
        if (scenes.length) await store.keepMeta(PROVED, versionOf(this.addresses));
      }
      const persists = await navigator.storage?.persisted?.();
      this.show(words(scenes.length, persists, until), true);
    } catch (failed) {
      if (!this.gaveWay) this.show(`Not ready: ${failed.message}.`, false);
    }
  }

  // Somebody works on a scene now.
  giveWay() {
    this.gaveWay = true;
    this.proving?.stop();
  }

  #missing(worker) {
    const { port1, port2 } = new MessageChannel();
    return new Promise((done, refuse) => {
      port1.onmessage = ({ data }) => done(data);
      setTimeout(() => refuse(new Error("what keeps the page does not answer")), ASK_MS);
      worker.postMessage("missing", [port2]);
    });
  }

  async #prove(found) {
    await this.#reckons(found, { make: true });
    await this.#reckons(found, {});
  }

  // Started twice: from the files, of which a memory is made, and as it will start from now on.
  async #reckons(found, more) {
    const rules = (this.proving = new Rules({
      ...this.addresses,
      ...more,
      worker: `${this.addresses.worker}?kept`,
      version: versionOf(this.addresses),
    }));
    try {
      await rules.ready;
      if (!found) return;
      const [outing, scene] = found,
        key = String(scene.pk);
      await rules.call("lay_in", JSON.stringify(outing.kit));
      await rules.call("open_scene", key, JSON.stringify(scene));
      const { sheet } = await rules.ask("told", key, { acts: [] });
      if (sheet.exposure.shutter !== scene.sheet.exposure.shutter) throw new Error("the rules here say something else");
    } finally {
      rules.stop();
      this.proving = null;
    }
  }
}

// A page that was opened before its service worker stood is taken over a moment later.
function controlled() {
  if (navigator.serviceWorker.controller) return true;
  return new Promise((done) => {
    navigator.serviceWorker.addEventListener("controllerchange", () => done(true), { once: true });
    setTimeout(done, REST_MS, false);
  });
}

function words(scenes, persists, until) {
  const day = until && new Date(until).toLocaleDateString("en-GB", { day: "numeric", month: "long" });
  const count = `${scenes} scene${scenes === 1 ? "" : "s"}`,
    what = day ? `${count}, signed in until ${day}` : count;
  return persists
    ? `Ready: works without a network, ${what}.`
    : `Ready: works without a network, ${what}; this browser may clear it when space runs short.`;
}
