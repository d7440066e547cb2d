// The sheet on the field page: words and figures that the core said, put in their places. Nothing is computed here.
const el = (id) => document.getElementById(id);

function made(name, properties = {}, ...children) {
  const node = Object.assign(document.createElement(name), properties);
  node.append(...children.filter((each) => each !== ""));
  return node;
}

export function showExposure(sheet) {
  const { exposure } = sheet,
    known = Boolean(exposure.shutter);
  el("shutter").textContent = known ? exposure.shutter : "";
  el("aperture").textContent = known ? exposure.aperture : "";
  el("iso").textContent = known ? exposure.iso : "";
  el("corrected").textContent = known && exposure.corrected ? `with reciprocity ${exposure.corrected}` : "";
  el("placed").textContent = known ? sheet.placed : sheet.wait;
  el("dial").textContent = known && exposure.dial ? `dial ${exposure.dial} on ${exposure.tone}` : "";
  el("exposed").disabled = !known;
  document.dispatchEvent(new CustomEvent("setting:shown"));
  el("exposure").classList.toggle("waits", !known);
  const timer = el("start-timer");
  timer.disabled = !sheet.timer;
  timer.dataset.seconds = sheet.timer ?? "";
}

// Filters or mixes, then filters of the kit, and its setups for a digital camera. take: (verb, values).
export function showChoices(sheet, { filters, setups }, take) {
  const row = el("choices"),
    names = sheet.choices ?? [];
  const button = (words, pressed, verb, values = {}) => {
    const each = made("button", { type: "button", textContent: words });
    each.setAttribute("aria-pressed", String(pressed));
    each.dataset.act = JSON.stringify({ verb, ...values });
    each.addEventListener("click", () => take(verb, values));
    return each;
  };
  const wanted = names.map((name) =>
    button(name === "none" ? "no filter" : name, name === sheet.choice, "colour-choice", { choice: name }),
  );
  const ofKit = filters.filter(({ name }) => sheet.offered.includes(name));
  wanted.push(...ofKit.map(({ name }) => button(name, false, "kit-filter", { filter: name })));
  if (sheet.grey_glass) wanted.push(button("all filters off", false, "filter"));
  if (!sheet.film)
    wanted.push(...setups.map(({ pk, name }) => button(name, name === sheet.setup, "setup", { setup: pk })));
  const left = row.scrollLeft,
    untouched = standsAsPut();
  row.replaceChildren(...wanted);
  row.scrollLeft = left;
  row.hidden = !wanted.length;
  if (untouched) centreChoice();
}

// The choice in the middle of the row, null for none.
export function middleChoice() {
  const row = el("choices"),
    { left, width } = row.getBoundingClientRect(),
    middle = left + width / 2;
  return [...row.children].find((each) => {
    const box = each.getBoundingClientRect();
    return box.left <= middle && box.right >= middle;
  });
}

// The choice that the page itself put in the middle: only a hand that swipes another one there looks through it.
let put = "";

export function centreChoice() {
  const chosen = el("choices").querySelector("[aria-pressed=true]");
  if (!chosen) return;
  put = chosen.dataset.act;
  el("choices").scrollLeft = chosen.offsetLeft - (el("choices").clientWidth - chosen.offsetWidth) / 2;
}

// Whether the row stands where the page put it, so that nobody is looking through anything.
export const standsAsPut = () => middleChoice()?.dataset.act === put;

// A hand moved the row: what it brings to the middle from now on is its own choice.
export function moved() {
  put = "";
}

// read: (mark) opens the pad at a tone.
const OLD_MINUTES = 12 * 60; // of another day: no longer called stale
const ageOf = (at) => (Date.now() - Date.parse(/Z|[+-]\d\d:\d\d$/.test(at) ? at : `${at}Z`)) / 60000;
const isStale = (at, most) => ageOf(at) > most && ageOf(at) < OLD_MINUTES;

export function showTones(sheet, read) {
  el("tones").replaceChildren(
    ...sheet.tones.map((tone, k) => {
      const line = made("button", { type: "button", className: "tone" });
      line.append(
        made("b", { textContent: tone.mark }),
        made("span", { className: "name", textContent: tone.name }),
        made("span", {
          className: "ev",
          textContent: `EV ${tone.ev}${tone.read_at.some((at) => isStale(at, sheet.stale_minutes)) ? " old" : ""}`,
        }),
        made("span", {
          className: "zone",
          textContent: tone.printed ? `${tone.printed}${tone.fall ? ` (falls ${tone.fall})` : ""}` : "",
        }),
        made("span", { className: "texture", textContent: tone.texture }),
      );
      line.classList.toggle("placed", tone.placed);
      line.addEventListener("click", () => read(k));
      return made("li", {}, line);
    }),
  );
}

// What brings the scene nearer to what is wanted, each with the act that does it.
export function showNearer({ line, proposals }, take) {
  el("nearer").replaceChildren(
    ...proposals.map((each) => {
      const press = made("button", { type: "button", className: "plain", textContent: "Do it" });
      press.setAttribute("aria-label", `Do it: ${each.what}`);
      press.addEventListener("click", () => take(each.code));
      const words = made("span", { textContent: `${each.what}. ${each.setting}. ${each.serves.join("; ")}` });
      return made("li", {}, words, press);
    }),
    ...(line && !proposals.length ? [made("li", { textContent: line })] : []),
  );
}

export function showWords(sheet) {
  el("cautions").replaceChildren(
    ...sheet.cautions.map(({ text, grave }) => made("li", { textContent: text, className: grave ? "grave" : "" })),
  );
  const facts = [
    ["Intent", sheet.intent],
    ["Wanted", [sheet.line?.wanted, sheet.line?.now].filter(Boolean).join(" ")],
    ["Asked", (sheet.line?.asked ?? []).join(" ")],
    ["Means", sheet.means],
    ["Range", sheet.range],
    ["Bracket", (sheet.bracket ?? []).join(", ")],
    ["Notes", sheet.notes],
  ];
  el("facts").replaceChildren(
    ...facts
      .filter(([, words]) => words)
      .flatMap(([name, words]) => [made("dt", { textContent: name }), made("dd", { textContent: words })]),
  );
  el("why").replaceChildren(...(sheet.why ?? []).map((words) => made("p", { textContent: words })));
  el("pairs").replaceChildren(
    ...(sheet.pairs ?? []).map(({ aperture, shutter, chosen }) => {
      const each = made("button", { type: "button", textContent: `${aperture} ${shutter}` });
      each.dataset.aperture = aperture;
      each.setAttribute("aria-pressed", String(chosen));
      return each;
    }),
  );
}

const BYTES = 1e6;
const megabytes = (bytes) => `${(bytes / BYTES).toFixed(1)} MB`;
const day = (iso) =>
  new Date(iso).toLocaleString("en-GB", { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" });

// kept: outings on this phone. known: what the server has, or null without it. open: (pk, scene), take, fresh,
// drop: (pk).
export function showOutings(kept, known, changed, { open, take, fresh, drop }) {
  const mine = kept.map((outing) => {
    const scenes = outing.scenes.map((scene) => {
      const each = made("button", { type: "button", className: "scene-line" });
      const { exposure } = scene.sheet;
      each.append(
        made("b", { textContent: scene.title }),
        made("span", {
          textContent: exposure.shutter ? `${exposure.shutter} ${exposure.aperture}` : "not planned yet",
        }),
      );
      each.addEventListener("click", () => open(outing.pk, scene.pk));
      return made("li", {}, each);
    });
    const since = changed(outing),
      words =
        since === null
          ? ""
          : since.length
            ? ` Changed at the desk since: ${since.join(", ")}.`
            : " Nothing changed at the desk since.";
    const again = made("button", {
      type: "button",
      className: "act",
      textContent: "Take along again",
      disabled: !known,
    });
    again.addEventListener("click", () => take(outing.pk));
    const gone = made("button", { type: "button", className: "act", textContent: "Drop here" });
    gone.addEventListener("click", () => drop(outing.pk));
    const begin = made("button", { type: "button", className: "act main-act", textContent: "New scene" });
    begin.addEventListener("click", () => fresh(outing.pk));
    return made(
      "article",
      { className: "outing" },
      made("h2", { textContent: outing.title }),
      made("p", {
        className: "taken",
        textContent: `Taken along ${day(outing.takenAt)}, ${megabytes(outing.bytes)}.${words}`,
      }),
      made("ol", {}, ...scenes),
      begin,
      " ",
      again,
      " ",
      gone,
    );
  });
  const here = new Set(kept.map(({ pk }) => pk));
  const others = (known?.outings ?? [])
    .filter(({ pk }) => !here.has(pk))
    .map(({ pk, title, date, scenes }) => {
      const each = made("button", { type: "button", className: "act main-act", textContent: "Take along" });
      each.dataset.outing = pk;
      each.addEventListener("click", () => take(pk));
      return made(
        "article",
        { className: "outing" },
        made("h2", { textContent: title }),
        made("p", {
          textContent: `${date || "No date yet"}, ${scenes.length} scene${scenes.length === 1 ? "" : "s"}.`,
        }),
        each,
      );
    });
  const empty = made("p", {
    textContent: "Nothing is taken along, and the server does not answer. Come here once with the network.",
  });
  el("outings").replaceChildren(...(mine.length || others.length ? [...mine, ...others] : [empty]));
}

// acts: all of this phone. scenes: that it carries. held: scenes that the server did not take. leave, redo: (acts).
export function showWaiting({ acts, scenes, problem, held }, { leave, redo }) {
  const waiting = acts.filter(({ state }) => state === "waiting").length,
    open = acts.filter(({ state }) => state === "stale" || state === "refused"),
    kept = Object.values(held);
  const unsettled = open.length + kept.length,
    words = [waiting ? `${waiting} waiting` : "", unsettled ? `${unsettled} to settle` : ""]
    .filter(Boolean)
    .join(", ");
  el("waiting").textContent = words || (problem ? "" : "all kept");
  el("line").textContent = problem;
  const lines = kept.map(({ title, sentence }) =>
    made("li", {}, made("strong", { textContent: title }), ` is only on this phone: ${sentence}`),
  );
  for (const pk of new Set(open.map(({ scene }) => scene))) {
    const scene = scenes.find((each) => each.pk === pk);
    lines.push(settling(scene, open.filter((each) => each.scene === pk), leave, redo));
  }
  el("unsettled").replaceChildren(...lines);
}

// One scene's acts that are to be settled, each alone and all at once.
function settling(scene, acts, leave, redo) {
  const keys = (some) => [
    key(some.length > 1 ? "Leave all as the desk has it" : "Leave it as the desk has it", () => leave(some)),
    ...(scene && some.some(({ state }) => state === "stale")
      ? [key(some.length > 1 ? "Do all of mine" : "Do mine", () => redo(some.filter(({ state }) => state === "stale")))]
      : []),
  ];
  const lines = acts.map((act) =>
    made(
      "li",
      {},
      made("strong", { textContent: actWords(act, scene) }),
      made("span", { textContent: ` ${act.sentence ?? ""}` }),
      ...(acts.length > 1 ? [] : keys([act])),
    ),
  );
  const all = acts.length > 1 ? keys(acts) : [],
    title = made("b", { textContent: scene?.title ?? "A scene that is gone" });
  return made("li", {}, title, made("ul", {}, ...lines), ...all);
}

function key(words, press) {
  const each = made("button", { type: "button", className: "act", textContent: words });
  each.addEventListener("click", press);
  return each;
}

// An act as one would say it. scene: that it was done on, where it is still carried.
function actWords(act, scene) {
  const tone = scene?.sheet?.tones?.find(({ mark }) => mark === act.mark)?.name ?? act.mark ?? "",
    at = Number(act.zone ?? act.print),
    zone = `${ROMAN[Math.round(at)] ?? at}${Number.isInteger(at) ? "" : " or near"}`;
  switch (act.verb) {
    case "place":
      return `${tone} ${act.print ? "prints on" : "on"} ${zone}`;
    case "read":
      return `${tone} reads ${act.reading}`;
    case "colour-choice":
      return act.choice === "none" ? "no filter" : act.choice;
    case "kit-filter":
      return act.filter;
    case "shift":
      return `light ${act.stops}`;
    case "setting":
      return `${act.lead} ${act.value}`;
    case "log":
      return `frame ${act.shutter ?? ""} ${act.aperture ?? ""}`;
    default:
      return [act.verb.replaceAll("-", " "), tone, act.name].filter(Boolean).join(" ");
  }
}
const ROMAN = ["0", "I", "II", "III", "IV", "V", "VI", "VII", "VIII", "IX", "X"];
