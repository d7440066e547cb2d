// One scene in the hand: every act is kept on the phone first, then reckoned by the core, and shown.
import { stamped } from "../scenes/stamped.js";
import { newest, standing } from "./lines.js";
import * as store from "./store.js";

const unkept = ({ name }) =>
  `The phone could not keep that (${name}): its storage is full or refused. Nothing was changed.`;
const UNREADY = "What you did here is being reckoned …";

export class Session {
  // rules: () the core's worker. shows: what is told of it: opened(), drawn(sheet, whether it is sure), counted(),
  // say(sentence), doubt({sentence, values} or null), acted() when one is kept, home() when the core took it, ask(line)
  // before a frame is struck out.
  constructor(rules, shows) {
    Object.assign(this, { rules, shows });
    this.outing = null;
    this.scene = null;
    this.sheet = null;
    this.waiting = [];
    this.counted = []; // ids of the acts that the sheet has behind it
    this.done = 0;
    this.kitOf = 0;
  }

  get key() {
    return String(this.scene.pk);
  }

  question(more = {}) {
    return { acts: this.waiting, ...more };
  }

  // What is prepared is shown at once; the core says it anew as soon as it is ready. False where it is not here.
  async open(outingPk, scenePk) {
    const outing = await store.outing(outingPk),
      scene = outing?.scenes.find(({ pk }) => pk === scenePk);
    if (!scene) return false;
    Object.assign(this, { outing, scene, waiting: await store.waitingOf(scenePk) });
    this.shows.opened();
    await this.#drawAsLeft();
    await this.reckon(true);
    return true;
  }

  get lines() {
    return standing(this.sheet.lines, this.waiting, this.counted);
  }

  close() {
    this.scene = null;
  }

  // With all that was done here: as prepared where nothing waits, else as the core said it last, with the same acts.
  // Where neither is at hand no setting is shown until the core has it.
  async #drawAsLeft() {
    const { scene, waiting } = this,
      kept = waiting.length ? await store.meta(sheetKey(scene)) : null,
      known = !waiting.length || kept?.at === leftAt(scene, waiting);
    if (known) this.#draw(kept?.sheet ?? scene.sheet, waiting, !waiting.length);
    else this.#draw({ ...scene.sheet, exposure: {}, wait: UNREADY }, [], false);
  }

  #draw(sheet, acts, isSure) {
    this.sheet = sheet;
    this.counted = acts.map(({ act }) => act);
    this.shows.drawn(sheet, isSure);
  }

  async layIn(outing = this.outing) {
    if (this.kitOf === outing.pk) return;
    await this.rules().call("lay_in", JSON.stringify(outing.kit));
    this.kitOf = outing.pk;
  }

  // The core does every act that waits on the scene as it was carried, and says what the page shows.
  async reckon(anew = false) {
    const { scene, waiting } = this;
    try {
      await this.rules().ready;
      await this.layIn();
      if (anew) await this.rules().call("open_scene", this.key, JSON.stringify(scene));
      const answer = await this.rules().ask("told", String(scene.pk), { acts: waiting });
      if (this.scene !== scene || this.waiting !== waiting) return null;
      if (waiting.length)
        store.keepMeta(sheetKey(scene), { at: leftAt(scene, waiting), sheet: answer.sheet }).catch(() => {});
      this.#draw(answer.sheet, waiting, true);
      this.shows.counted();
      return answer;
    } catch (failed) {
      if (this.scene === scene) this.shows.say(failed.message);
      return null;
    }
  }

  // Kept on the phone before anything is shown of it. What the core refuses at once is never sent; its sentence is
  // shown. kept: is called as soon as it is.
  async act(verb, values = {}, kept = () => {}) {
    const { scene } = this;
    let here;
    try {
      here = await store.keepAct({ verb, scene: scene.pk, ...stamped(), ...values });
    } catch (failed) {
      this.shows.say(unkept(failed));
      return false;
    }
    this.waiting = [...this.waiting, here];
    await kept();
    await this.shows.acted();
    const answer = await this.reckon(),
      refused = answer?.refused[here.act];
    if (refused) {
      await this.#withdraw(here, refused, answer.asked.includes(here.act) && values);
      return false;
    }
    this.done += 1;
    this.shows.home();
    return true;
  }

  // An act that the core refused never was. asked: its values, where the refusal is a question.
  async #withdraw(here, sentence, asked) {
    await store.dropAct(here.seq);
    this.waiting = this.waiting.filter((each) => each !== here);
    this.shows.doubt(asked ? { sentence, values: asked } : null);
    await this.shows.acted();
    if (!asked) this.shows.say(sentence);
    await this.reckon();
  }

  // The newest line of this phone's that stands is struck out; before a frame goes it is asked.
  async undo() {
    const own = new Set((await store.actsOf(this.scene.pk)).map(({ act }) => act)),
      line = newest(this.lines, own);
    if (!line) this.shows.say("Nothing of this phone's is left to take back. Each line over the bar has its own key.");
    else if (line.frame) this.shows.ask(line.line);
    else await this.strike(line.line);
  }

  strike(line) {
    return this.act("strike-out", { line });
  }

  // The scene as the server has it now, with what still waits on top.
  async refresh() {
    const outing = await store.outing(this.outing.pk),
      scene = outing?.scenes.find(({ pk }) => pk === this.scene?.pk);
    if (!scene) return; // it was renamed on its way home, or left
    Object.assign(this, { outing, scene, waiting: await store.waitingOf(scene.pk) });
    await this.reckon(true);
  }
}

const leftAt = ({ head }, acts) => `${head}:${acts.at(-1)?.act ?? ""}`;
const sheetKey = ({ pk }) => `sheet:${pk}`;
