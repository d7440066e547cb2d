// Coming home, and what of it is to be settled: tried again until the server has everything, and said in one line.
import { stamped } from "../scenes/stamped.js";
import * as store from "./store.js";
import { hello, sync } from "./sync.js";

const FIRST_RETRY_MS = 1e3,
  LAST_RETRY_MS = 30e3,
  MINUTE_MS = 60e3;
const NEWER = "The server has a newer page. Open this one anew while you have the network.",
  UNPAIRED = "This phone is no longer paired. What waits stays here and can be saved as a file.";
const minutes = (ms) => Math.round(Math.abs(ms) / MINUTE_MS);
const FAULT = /^server \d+$/;

export class Home {
  // page: version of this one. told: (what came, or null) whenever something changed. Its `problem` says what is wrong,
  // "" for nothing; `signedOut`: whether this phone is no longer known; `known`: what the server has.
  constructor(page, told) {
    Object.assign(this, { page, told, problem: "", signedOut: false, known: null });
    this.retryMs = FIRST_RETRY_MS;
    this.timer = 0;
  }

  // Everything that waits goes home. Answers whether the server took it.
  async go() {
    clearTimeout(this.timer);
    let arrived = true;
    try {
      this.#met(await sync(this.told));
      this.retryMs = FIRST_RETRY_MS;
    } catch (failed) {
      arrived = false;
      this.#failed(failed);
      if ((await store.acts()).some(({ state }) => state === "waiting"))
        this.timer = setTimeout(() => this.again?.(), this.retryMs);
      this.retryMs = Math.min(2 * this.retryMs, LAST_RETRY_MS);
    }
    await this.told();
    return arrived;
  }

  // Only asks what the server has.
  async look() {
    try {
      this.#met(await hello());
    } catch (failed) {
      this.known = null;
      this.#failed(failed);
    }
  }

  soon() {
    this.retryMs = FIRST_RETRY_MS;
  }

  #met(known) {
    const { skew, page } = known;
    Object.assign(this, { known, signedOut: false, problem: "" });
    if (skew) this.problem = `The phone's clock is ${minutes(skew)} min off; times were put right.`;
    else if (page !== this.page) this.problem = NEWER;
  }

  #failed({ message }) {
    this.signedOut = message === "sign-in";
    if (this.signedOut) this.problem = UNPAIRED;
    else if (FAULT.test(message))
      this.problem = `The server could not take everything (${message}). It is kept here and tried again.`;
    else this.problem = "No network. Everything is kept on this phone.";
  }

  // Of acts that met what the desk did: the desk's stands.
  async leave(gone) {
    for (const each of gone) await store.dropAct(each.seq);
    await this.told();
  }
}

// Acts that met what the desk did, done again on the scene as it is now.
export async function redone(again) {
  for (const { seq, act, at, state, sentence, theirs, keptAt, left, ...said } of again) {
    await store.keepAct({ ...said, ...stamped() });
    await store.dropAct(seq);
  }
}

// What waits, as a file: for a phone that was dropped, or a server that is gone.
export async function saved() {
  const acts = (await store.acts()).filter(({ state }) => state !== "kept"),
    link = document.createElement("a");
  link.href = URL.createObjectURL(
    new Blob([JSON.stringify({ format: "dimgrey-acts", version: 1, acts }, null, 1)], { type: "application/json" }),
  );
  link.download = "acts.json";
  link.click();
  URL.revokeObjectURL(link.href);
}
