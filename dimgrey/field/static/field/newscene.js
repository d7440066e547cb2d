// A new scene is asked for in a few fields: what it is, a picture, what it is taken on.
import { begin } from "./begin.js";
import { Finder, canFind } from "./finder.js";
import * as store from "./store.js";

const KIT_KINDS = ["film", "camera", "lens", "meter"];
const form = document.getElementById("new");

export class NewScene {
  // say: a sentence. ready: (outing) the core, with that outing's kit. opened: (name) when the scene is there.
  constructor({ say, ready, opened }) {
    Object.assign(this, { say, ready, opened, frozen: {} });
    this.finder = new Finder(
      () => this.rules,
      () => this.kit(),
      () => ({ ...this.outing.kit.tables, field: null, rows: null }),
      (...seen) => this.freeze(...seen),
    );
    form.addEventListener("submit", (event) => {
      event.preventDefault();
      this.begin();
    });
    const look = document.getElementById("look-through");
    look.hidden = !canFind();
    look.addEventListener("click", () => this.look());
  }

  // What the last scene was taken on is taken again.
  async ask(pk) {
    this.outing = await store.outing(pk);
    this.frozen = {};
    const { items } = this.outing.kit,
      last = this.outing.scenes.at(-1)?.sheet.kit ?? {};
    form.reset();
    for (const select of form.querySelectorAll("select")) {
      const names = (items[select.name] ?? []).map(({ name }) => new Option(name, name));
      select.replaceChildren(new Option("not from the kit", ""), ...names);
      select.value = names.some(({ value }) => value === last[select.name]) ? last[select.name] : "";
    }
    document.getElementById("outings").hidden = true;
    form.hidden = false;
    this.rules = await this.ready(this.outing);
  }

  kit() {
    const chosen = new FormData(form);
    return Object.fromEntries(KIT_KINDS.map((kind) => [kind, chosen.get(kind)]).filter(([, name]) => name));
  }

  async look() {
    try {
      this.rules = await this.ready(this.outing);
      await this.finder.open();
    } catch (failed) {
      this.finder.close();
      this.say(`The phone's camera cannot be used: ${failed.message}. Take a picture instead.`);
    }
  }

  // What was frozen is the picture of the scene that begins, through the filter that it was seen with.
  freeze(file, choice, view) {
    const held = new DataTransfer();
    held.items.add(file);
    form.elements.picture.files = held.files;
    this.frozen = { choice, view };
  }

  // Answers whether the scene is there.
  async begin() {
    const chosen = new FormData(form),
      file = chosen.get("picture"),
      now = new Date().toTimeString().slice(0, 5);
    this.say("Making the scene ready …");
    try {
      const made = await begin(await this.ready(this.outing), this.outing, {
        title: chosen.get("title") || `Scene ${now}`,
        kit: this.kit(),
        file: file?.size ? file : null,
        ...this.frozen,
      });
      this.say("");
      form.hidden = true;
      await this.opened(made);
      return true;
    } catch (failed) {
      this.say(`That picture cannot be used here: ${failed.message}. Begin without one, or take another.`);
      return false;
    }
  }
}
