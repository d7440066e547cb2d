// What waits, and what is to be settled: scenes that were not taken, acts that met what the desk did.
import { actWords } from "./lines.js";
import { el, key, made } from "./page.js";
import * as store from "./store.js";
import { HELD } from "./sync.js";

const APART = 0.05, // zones by which two prints differ to the eye
  MOST_GREYS = 2;

// acts: all of this phone. outings: that it carries. held: scenes that the server did not take. leave, redo: (acts).
// weigh: (outing, scene, acts) promises both settings, as `weighed` does, or null.
export function showWaiting({ acts, outings, problem, held }, { leave, redo, weigh }) {
  const waiting = acts.filter(({ state }) => state === "waiting").length,
    open = acts.filter(({ state }) => state === "stale" || state === "refused"),
    kept = Object.values(held);
  const unsettled = open.length + kept.length,
    words = [waiting ? `${waiting} waiting` : "", unsettled ? `${unsettled} to settle` : ""];
  el("waiting").textContent = words.filter(Boolean).join(", ") || (problem ? "" : "all kept");
  el("line").textContent = problem;
  const lines = kept.map(({ title, sentence }) =>
    made("li", {}, made("strong", { textContent: title }), ` is only on this phone: ${sentence}`),
  );
  for (const pk of new Set(open.map(({ scene }) => scene))) {
    const outing = outings.find((each) => each.scenes.some((scene) => scene.pk === pk)),
      scene = outing?.scenes.find((each) => each.pk === pk);
    const of = open.filter((each) => each.scene === pk);
    const onTop = acts.filter((act) => act.scene === pk && act.state === "waiting").map(({ act }) => act);
    lines.push(settling(scene, of, leave, redo, scene && (() => weigh(outing, scene, of)), onTop));
  }
  el("unsettled").replaceChildren(...lines);
}

const weighedAs = new Map();
const isStale = ({ state }) => state === "stale";

// One scene's acts that are to be settled, all at once or each alone. onTop: ids of those that wait on it.
function settling(scene, acts, leave, redo, weigh, onTop) {
  const stale = acts.filter(isStale),
    toneOf = ({ mark }) => scene?.sheet?.tones?.find((each) => each.mark === mark)?.name;
  const keys = (some, all) => [
    ...(scene && some.some(isStale) ? [key(all ? "Do all of mine" : "Do mine", () => redo(some.filter(isStale)))] : []),
    key(all ? "Leave all as the desk has it" : "Leave it as the desk has it", () => leave(some)),
  ];
  const lines = acts.map((act) =>
    made(
      "li",
      {},
      made("strong", { textContent: actWords(act, toneOf(act)) }),
      made("span", { textContent: ` ${act.sentence ?? ""}` }),
      ...(acts.length > 1 ? keys([act], false) : []),
    ),
  );
  const both = made("div", { className: "weighed" }),
    title = made("b", { textContent: scene?.title ?? "A scene that is gone" });
  if (scene && stale.length) {
    const name = JSON.stringify([scene.pk, scene.head, onTop, stale.map(({ act }) => act)]),
      show = (found) => found && both.replaceChildren(...rows(weighedAs.set(name, found).get(name)));
    // What was weighed once is shown at once: the list is told anew whenever anything changes.
    if (weighedAs.has(name)) show(weighedAs.get(name));
    else weigh().then(show);
  }
  return made("li", {}, title, made("ul", {}, ...lines), both, ...keys(acts, acts.length > 1));
}

// "yours 1/15 f/16" and "desk 1/30 f/16", each with the greys that differ.
function rows({ yours, desk, greys }) {
  const marks = differing(yours, desk),
    row = (name, sheet) =>
      made(
        "p",
        {},
        made("span", { textContent: name }),
        made("b", { textContent: settingOf(sheet) }),
        ...marks.map((mark) => patch(sheet.tones.find((tone) => tone.mark === mark), greys)),
      );
  return [row("yours", yours), row("desk", desk)];
}

const settingOf = ({ exposure: { shutter, aperture }, wait }) => (shutter ? `${shutter} ${aperture}` : wait);

function differing(yours, desk) {
  const print = (sheet, mark) => sheet.tones.find((tone) => tone.mark === mark)?.print ?? null,
    marks = [...new Set([...yours.tones, ...desk.tones].map(({ mark }) => mark))];
  const apart = marks.filter((mark) => {
    const [mine, theirs] = [print(yours, mark), print(desk, mark)];
    return (mine === null) !== (theirs === null) || Math.abs(mine - theirs) > APART;
  });
  return apart.slice(0, MOST_GREYS);
}

function patch(tone, greys) {
  if (!tone || tone.print === null) return "";
  const grey = greys[Math.round(((tone.print + 0.5) / 11) * (greys.length - 1))],
    node = made("i", { className: "patch" });
  node.style.background = `rgb(${grey},${grey},${grey})`;
  return made("span", { className: "patched" }, node, `${tone.mark} ${tone.printed}`);
}

// Both settings of a scene, as the desk has it and with what was done here, or null where the core is at other work.
export async function weighed(session, outing, scene, acts) {
  if (session.scene && session.outing.pk !== outing.pk) return null;
  const rules = session.rules(),
    name = `both:${scene.pk}`;
  try {
    await rules.ready;
    await session.layIn(outing);
    await rules.call("open_scene", name, JSON.stringify(scene));
    const waiting = await store.waitingOf(scene.pk),
      told = async (some) => (await rules.ask("told", name, { acts: some })).sheet;
    return {
      desk: await told(waiting),
      yours: await told([...waiting, ...acts.filter(isStale)]),
      greys: outing.kit.ground,
    };
  } catch {
    return null;
  }
}

// Told anew whenever something changed.
let turn = 0;
export async function tellWaiting(problem, hands) {
  const mine = ++turn,
    [acts, outings, held] = [await store.acts(), await store.outings(), (await store.meta(HELD)) ?? {}];
  // What was read before something else changed is not shown after it.
  if (mine === turn) showWaiting({ acts, outings, problem: problem(), held }, hands);
}
