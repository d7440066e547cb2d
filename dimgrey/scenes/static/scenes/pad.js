// The reading pad for cold hands: whole stops on big keys, thirds on their own row, one tone after another.
const THIRDS = ["", "⅓", "⅔"];

export function pad(desk) {
  return {
    shown: false,
    digits: "",
    typed: "",
    minus: false,
    third: 0,
    at: 0,
    last: "",
    changed: false,
    doubt: "",
    asked: null,
    beat: 0,
    get tones() {
      return desk.data().tones;
    },
    get tone() {
      return this.tones[this.at];
    },
    get next() {
      return this.tones[this.at + 1];
    },
    get title() {
      if (!this.shown) return "";
      return this.tone ? `${this.tone.mark}  ${this.tone.name}` : "A new tone";
    },
    get hint() {
      if (!this.shown) return "";
      if (!this.tone) return "Hold the spot on what matters; its name can wait.";
      const usual = this.tone.usual ? `; ${this.tone.usual}` : "";
      return `${this.at + 1} of ${this.tones.length}: hold the spot on it, now EV ${this.tone.ev}${usual}`;
    },
    // The setting as it stands, live while readings are kept.
    get setting() {
      return this.shown && this.beat >= 0 ? (desk.setting?.() ?? "") : "";
    },
    get value() {
      if (this.typed) return this.typed;
      return this.digits ? `${this.minus ? "-" : ""}${this.digits}${THIRDS[this.third]}` : "";
    },
    get shownValue() {
      if (this.typed) return this.typed;
      return this.digits ? `EV ${this.minus ? "−" : ""}${this.digits}${THIRDS[this.third]}` : "EV –";
    },
    get keepLabel() {
      if (!this.shown) return "Keep";
      if (!this.tone) return "Keep, next one";
      return this.next ? `Keep, next: ${this.next.mark}` : "Keep";
    },
    init() {
      document.addEventListener("pad:open", (event) => this.open(event.detail?.at ?? 0));
      for (const name of ["setting:shown", "desk:changed"]) document.addEventListener(name, () => (this.beat += 1));
    },
    // at: the place of the tone to begin with. A scene without tones gets one with each reading.
    open(at) {
      this.at = at;
      this.clear();
      this.shown = true;
    },
    close() {
      this.shown = false;
    },
    clear() {
      this.digits = "";
      this.typed = "";
      this.minus = false;
      this.third = 0;
    },
    press(button) {
      const key = button.dataset.key;
      if (key === "back") {
        if (this.digits) this.digits = this.digits.slice(0, -1);
        else this.minus = false;
      } else if (key === "-") this.minus = !this.minus;
      else if (this.digits.length < 2) this.digits += key;
    },
    write(field) {
      this.typed = field.value.trim();
    },
    setThird(button) {
      this.third = Number(button.dataset.third);
    },
    isThird(button) {
      return String(Number(button.dataset.third) === this.third);
    },
    toggleLight() {
      this.changed = !this.changed;
    },
    get lightChanged() {
      return String(this.changed);
    },
    // The question that a reading raised is answered before anything counts.
    async answer(button) {
      const values = this.asked,
        how = button.dataset.answer;
      this.doubt = "";
      this.asked = null;
      if (how === "part") await desk.act("add-tone", { name: "", reading: values.reading });
      else if (how) await desk.act("read", { ...values, [how]: "on" });
      if (how) this.skip();
      else this.clear();
    },
    async same() {
      if (this.last) {
        await this.send(this.last);
      }
    },
    skip() {
      this.clear();
      if (this.next) this.at += 1;
      else this.close();
    },
    async keep() {
      if (this.value) await this.send(this.value);
    },
    async send(value) {
      const before = desk.data().stamp,
        isNew = !this.tone;
      const others = this.changed ? { others: "on" } : {};
      if (this.tone) await desk.act("read", { mark: this.tone.mark, reading: value, ...others });
      else await desk.act("add-tone", { name: "", reading: value });
      this.changed = false;
      if (desk.doubt) {
        this.doubt = desk.doubt.sentence;
        this.asked = desk.doubt.values;
        desk.doubt = null;
        return undefined;
      }
      if (desk.data().stamp === before) {
        return this.close();
      }
      this.last = value;
      if (!isNew) return this.skip();
      this.clear();
      this.at = this.tones.length;
      return undefined;
    },
  };
}
