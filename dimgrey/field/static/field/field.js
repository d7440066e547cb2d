// The field page: one scene of an outing that was taken along, with or without a network. The core in its worker says
// what holds; every act is kept here first, and sent home when the server is there.
import { stamped } from "../scenes/stamped.js";
import { pad } from "../scenes/pad.js";
import { timer } from "../scenes/exposuretimer.js";
import { changedSince, takeAlong } from "./along.js";
import { Waiting } from "./await.js";
import { drawGround, dragGround } from "./ground.js";
import { HELD, sync, hello, isNew } from "./sync.js";
import { NewScene } from "./newscene.js";
import { Picture } from "./picture.js";
import { Ready } from "./ready.js";
import { Rules } from "./rules.js";
import * as store from "./store.js";
import {
  centreChoice,
  middleChoice,
  moved,
  showChoices,
  showExposure,
  showNearer,
  showOutings,
  showTones,
  showWaiting,
  showWords,
  standsAsPut,
} from "./shown.js";

const addresses = JSON.parse(document.getElementById("field-addresses").textContent),
  FIRST_RETRY_MS = 1e3,
  LAST_RETRY_MS = 30e3,
  DEFAULT_STEPS = 3,
  LOOK_MS = 160;
const el = (id) => document.getElementById(id);

let rules = null,
  outing = null,
  scene = null,
  sheet = null,
  waiting = [],
  known = null,
  problem = "",
  kitOf = 0,
  said = 0,
  done = 0;

function say(sentence) {
  el("said").textContent = sentence;
  el("said").hidden = !sentence;
  clearTimeout(said);
  if (sentence) said = setTimeout(() => say(""), 8000);
}

// --- the core ------------------------------------------------------------------------------------------------------

const key = () => String(scene.pk);
const question = (more = {}) => ({ acts: waiting, ...more });
const picture = new Picture(
  (name, more) => rules.ask(name, key(), question(more)),
  (values) => act(values.mark ? "move-pin" : "pin", values),
);

function begin() {
  if (rules) return;
  rules = new Rules(addresses);
  rules.ready
    .then(() => (document.body.dataset.rules = Math.round(rules.startedMs)))
    .catch((failed) => say(`The rules could not be started: ${failed.message}. What you do is kept all the same.`));
}

async function layIn() {
  if (kitOf === outing.pk) return;
  await rules.call("lay_in", JSON.stringify(outing.kit));
  kitOf = outing.pk;
}

// What is prepared is shown at once; the core says it anew as soon as it is ready.
async function openScene(outingPk, scenePk) {
  outing = await store.outing(outingPk);
  scene = outing?.scenes.find(({ pk }) => pk === scenePk);
  if (!scene) return showList();
  ready.giveWay();
  begin();
  waiting = await waitingHere();
  history.replaceState(null, "", `#${outing.pk}/${scene.pk}`);
  el("outings").hidden = el("new").hidden = true;
  el("scene").hidden = el("hold").hidden = false;
  el("scene-title").textContent = scene.title;
  place();
  const small = el("view");
  small.src = (navigator.onLine && scene.picture?.small) || "data:,";
  draw(await sheetAsLeft(), !waiting.length);
  centreChoice();
  picture.open(scene);
  await reckon(true);
  return undefined;
}

// The sheet with all that was done here: as prepared where nothing waits, else as the core said it last, with the same
// acts. Where neither is at hand no setting is shown until the core has it.
const leftAt = ({ head }, acts) => `${head}:${acts.at(-1)?.act ?? ""}`;
const sheetKey = () => `sheet:${scene.pk}`;
async function sheetAsLeft() {
  if (!waiting.length) return scene.sheet;
  const kept = await store.meta(sheetKey());
  if (kept?.at === leftAt(scene, waiting)) return kept.sheet;
  return { ...scene.sheet, exposure: {}, wait: "What you did here is being reckoned …" };
}

function place() {
  const at = outing.scenes.indexOf(scene);
  el("where").textContent = `${at + 1} of ${outing.scenes.length}`;
  el("previous").disabled = at === 0;
  el("next").disabled = at === outing.scenes.length - 1;
}

const waitingHere = async () =>
  (await store.actsOf(scene.pk)).filter(({ state }) => state === "waiting").sort((a, b) => a.seq - b.seq);

// The core does every act that waits on the scene as it was carried, and says what the page shows.
async function reckon(anew = false) {
  const here = scene,
    asked = waiting;
  try {
    await rules.ready;
    await layIn();
    if (anew) await rules.call("open_scene", key(), JSON.stringify(here));
    const answer = await rules.ask("told", key(), { acts: asked });
    if (scene !== here || waiting !== asked) return null;
    draw(answer.sheet, true);
    if (asked.length) store.keepMeta(sheetKey(), { at: leftAt(here, asked), sheet: answer.sheet }).catch(() => {});
    lookNearer(asked);
    document.body.dataset.reckoned = String(asked.length);
    return answer;
  } catch (failed) {
    if (scene === here) say(failed.message);
    return null;
  }
}

// Asked once the sheet stands and the hand rests; what came too late is let go.
const NEARER_MS = 120;
let nearerLater = 0;
function lookNearer(asked) {
  clearTimeout(nearerLater);
  const { line } = sheet,
    looks = sheet.exposure.shutter && line?.wanted && line.now !== "Now: as wanted.";
  el("nearer").replaceChildren();
  if (!looks) return;
  performance.mark("field-planned");
  nearerLater = setTimeout(async () => {
    const here = scene,
      found = await rules.ask("nearer", key(), { acts: asked }).catch(() => null);
    performance.measure("field-nearer", "field-planned");
    if (found && scene === here && waiting === asked) showNearer(found, (code) => act("take-proposal", { code }));
  }, NEARER_MS);
}

function draw(told, paint) {
  sheet = told;
  leaveLook();
  showExposure(sheet);
  showTones(sheet, (k) => openPad(k));
  showWords(sheet);
  showChoices(sheet, outing.kit, takeChoice);
  drawGround(el("ground"), outing.kit.ground, sheet);
  awaiting.tell();
  picture.drawPins(sheet.tones);
  picture.radius = sheet.ring;
  if (paint) picture.show(sheet.view, { acts: waiting });
}

const awaiting = new Waiting(
  () => rules,
  () => ({ outing, scene, sheet }),
  act,
);

// --- acts ----------------------------------------------------------------------------------------------------------

// Kept on the phone before anything is shown of it. What the core refuses at once is never sent; its sentence is shown.
// kept: is called as soon as it is.
async function act(verb, values = {}, kept = () => {}) {
  const made = { verb, scene: scene.pk, ...stamped(), ...values };
  let here;
  try {
    here = await store.keepAct(made);
  } catch (failed) {
    say(`The phone could not keep that (${failed.name}): its storage is full or refused. Nothing was changed.`);
    return false;
  }
  waiting = [...waiting, here];
  await kept();
  await tellWaiting();
  const answer = await reckon(),
    refused = answer?.refused[here.act];
  if (refused) {
    await store.dropAct(here.seq);
    waiting = waiting.filter((each) => each !== here);
    desk.doubt = answer.asked.includes(here.act) ? { sentence: refused, values } : null;
    if (!desk.doubt) say(refused);
    await reckon();
    await tellWaiting();
    return false;
  }
  done += 1;
  goHome();
  return true;
}

let previewing = false,
  nextPreview = null;
async function preview(made) {
  nextPreview = made;
  if (previewing) return;
  previewing = true;
  while (nextPreview) {
    const asked = question({ preview: { ...nextPreview, ...stamped() } });
    nextPreview = null;
    performance.mark("field-asked");
    try {
      const { sheet: told } = await rules.ask("told", key(), asked);
      showExposure(told);
      performance.measure("field-figures", "field-asked");
      showTones(told, openPad);
      drawGround(el("ground"), outing.kit.ground, told);
      await picture.show(told.view, asked, true);
      performance.measure("field-picture", "field-asked");
    } catch {
      nextPreview = null;
    }
  }
  previewing = false;
}

// Swiped to the middle of the row, a filter or setup is seen through; a tap takes it, swiping back leaves it.
let looking = 0,
  seenThrough = false;
function lookThrough() {
  const each = middleChoice();
  if (!each || !scene || standsAsPut()) return;
  moved();
  const taken = each.getAttribute("aria-pressed") === "true";
  if (taken && !seenThrough) return;
  seenThrough = !taken;
  el("seen").textContent = taken ? "" : `Seen through ${each.textContent}: tap it to take it.`;
  if (taken) reckon();
  else preview(JSON.parse(each.dataset.act));
}
el("choices").addEventListener("scroll", () => {
  clearTimeout(looking);
  looking = setTimeout(lookThrough, LOOK_MS);
});

// What has not left the phone never was; whatever may have arrived is taken back by an act that travels like
// the others.
// A step back that waits is no work to be dropped: the next one goes on from there.
async function undo() {
  waiting = await waitingHere();
  const last = waiting.at(-1);
  if (last && !last.left && last.verb !== "undo") {
    await store.dropAct(last.seq);
    waiting = waiting.slice(0, -1);
    await reckon();
    await tellWaiting();
  } else if ((await lastOfMine())?.verb === "log") say("The frame stands in the log: correct it at the desk.");
  else await act("undo");
}

// The newest act of this phone on the scene that was not taken back, null without one.
async function lastOfMine() {
  const standing = [],
    mine = (await store.actsOf(scene.pk)).filter(({ state }) => state === "kept" || state === "waiting");
  for (const each of mine.sort((a, b) => a.seq - b.seq)) {
    if (each.verb === "undo") standing.pop();
    else standing.push(each);
  }
  return standing.at(-1) ?? null;
}

async function takeChoice(verb, values) {
  if (await act(verb, values)) centreChoice();
}

function leaveLook() {
  seenThrough = false;
  el("seen").textContent = "";
}

// --- coming home ---------------------------------------------------------------------------------------------------

async function tellWaiting(came = null) {
  if (came) await renamed(came);
  const acts = await store.acts(),
    scenes = (await store.outings()).flatMap((each) => each.scenes);
  showWaiting({ acts, scenes, problem, held: (await store.meta(HELD)) ?? {} }, { leave, redo });
}

// Of acts that met what the desk did: the desk's stands.
async function leave(gone) {
  for (const each of gone) await store.dropAct(each.seq);
  await tellWaiting();
}

// Or they are done again, on the scene as it is now.
async function redo(again) {
  for (const { seq, act, at, state, sentence, theirs, keptAt, left, ...said } of again) {
    await store.keepAct({ ...said, ...stamped() });
    await store.dropAct(seq);
  }
  if (scene) {
    waiting = await waitingHere();
    await reckon();
  }
  await goHome();
}

// What a server that answered gives to think of.
function noted({ skew, page }) {
  el("sign-in").hidden = true;
  if (skew) return `The phone's clock is ${Math.round(Math.abs(skew) / 60e3)} min off; times were put right.`;
  return addresses.page === page
    ? ""
    : "The server has a newer page. Open this one anew while you have the network.";
}

const FAULT = /^server \d+$/;
function why({ message }) {
  el("sign-in").hidden = message !== "sign-in";
  if (message === "sign-in") return "This phone is no longer paired. What waits stays here and can be saved as a file.";
  if (FAULT.test(message)) return `The server could not take everything (${message}). It is kept here and tried again.`;
  return "No network. Everything is kept on this phone.";
}

let homing = 0,
  retryMs = FIRST_RETRY_MS;
async function goHome() {
  clearTimeout(homing);
  const before = waiting;
  let arrived = false;
  try {
    known = await sync(tellWaiting);
    arrived = before.length > 0 && !isNew(scene ?? {});
    retryMs = FIRST_RETRY_MS;
    problem = noted(known);
  } catch (failed) {
    problem = why(failed);
    if ((await store.acts()).some(({ state }) => state === "waiting")) homing = setTimeout(goHome, retryMs);
    retryMs = Math.min(2 * retryMs, LAST_RETRY_MS);
  }
  el("offline").hidden = !problem;
  await tellWaiting();
  if (scene && arrived) await refresh();
}

// The scene as the server has it now, with what still waits on top.
async function refresh() {
  outing = await store.outing(outing.pk);
  const here = outing.scenes.find(({ pk }) => pk === scene.pk);
  if (!here) return; // it was renamed on its way home
  scene = here;
  waiting = await waitingHere();
  await reckon(true);
  if (!seenThrough) centreChoice();
}

// A scene that came home has a number now; whoever looks at it goes along.
async function renamed({ from, to, problem: sentence }) {
  if (sentence) say(`The picture stays on this phone: ${sentence}`);
  if (scene?.pk === from) await openScene(outing.pk, to);
}

async function take(pk) {
  try {
    await takeAlong(pk, (done, whole, bytes) => {
      el("progress").hidden = done === whole;
      el("progress").textContent = `Taking along: ${done} of ${whole} pictures, ${(bytes / 1e6).toFixed(1)} MB`;
    });
    kitOf = 0;
    begin();
    await rules.ready;
    await showList();
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
async function takeNext() {
  const day = (ahead) => new Date(Date.now() + ahead * 86400e3).toLocaleDateString("sv"),
    kept = new Map((await store.outings()).map((each) => [each.pk, each]));
  for (const { pk, date } of known?.outings ?? []) {
    if (date !== day(0) && date !== day(1)) continue;
    const mine = kept.get(pk);
    if (!mine || changedSince(mine, known)?.length) await take(pk);
  }
}

// Nothing goes that is not home.
async function drop(pk) {
  const here = await store.outing(pk),
    waits = (await store.acts()).some((each) => each.state !== "kept" && here.scenes.some((s) => s.pk === each.scene));
  if (waits || here.scenes.some(isNew)) {
    say("Something of this outing is not home yet. Let it come home, or save it as a file, before you drop it here.");
    return;
  }
  await store.dropOuting(pk);
  await store.sweepLight();
  await showList();
}

async function showList() {
  scene = null;
  history.replaceState(null, "", location.pathname);
  el("scene").hidden = el("hold").hidden = el("new").hidden = true;
  el("outings").hidden = false;
  el("scene-title").textContent = "In the field";
  el("where").textContent = "";
  const changed = (each) => (known ? changedSince(each, known) : null),
    hands = { open: openScene, take, fresh: (pk) => newScene.ask(pk), drop },
    show = async () => {
      showOutings(await store.outings(), known, changed, hands);
      el("offline").hidden = !problem;
      await tellWaiting();
    };
  if ((await store.outings()).length) await show();
  try {
    known = await hello();
    problem = noted(known);
  } catch (failed) {
    known = null;
    problem = why(failed);
  }
  if (!scene) await show();
  if (!scene && known) ready.check(known.until);
}

const newScene = new NewScene({
  say,
  // The core with the kit of that outing laid in.
  ready: async (here) => {
    begin();
    outing = here;
    await rules.ready;
    await layIn();
    return rules;
  },
  opened: async (pk) => {
    await openScene(outing.pk, pk);
    goHome();
  },
});

// What waits, as a file: for a phone that was dropped, or a server that is gone.
async function save() {
  const acts = (await store.acts()).filter(({ state }) => state !== "kept"),
    link = document.createElement("a");
  link.href = URL.createObjectURL(
    new Blob([JSON.stringify({ format: "dimgrey-acts", version: 1, acts }, null, 1)], { type: "application/json" }),
  );
  link.download = "acts.json";
  link.click();
  URL.revokeObjectURL(link.href);
}

// --- the hand ------------------------------------------------------------------------------------------------------

const setting = () => [el("shutter"), el("aperture")].map((each) => each.textContent).join(" ");
const desk = { doubt: null, setting, data: () => ({ tones: sheet?.tones ?? [], stamp: done }), act };
const openPad = (at) => document.dispatchEvent(new CustomEvent("pad:open", { detail: { at } }));

document.addEventListener("alpine:init", () => {
  window.Alpine.data("pad", () => pad(desk));
  window.Alpine.data("timer", timer);
});

dragGround(el("ground"), {
  steps: () => sheet?.steps ?? DEFAULT_STEPS,
  moving: (mark, print) => preview({ verb: "place", mark, print: print.toFixed(4) }),
  placed: (mark, print) =>
    act("place", { mark, print: print.toFixed(4) }).then(() =>
      el("ground").querySelector(`[data-mark="${mark}"]`)?.focus(),
    ),
  freed: () => reckon(),
});

const presses = {
  previous: () => openScene(outing.pk, outing.scenes[outing.scenes.indexOf(scene) - 1].pk),
  next: () => openScene(outing.pk, outing.scenes[outing.scenes.indexOf(scene) + 1].pk),
  list: showList,
  undo,
  read: () => openPad(0),
  save,
  darker: () => act("shift", { stops: "-1/3" }),
  brighter: () => act("shift", { stops: "1/3" }),
  exposed: logFrame,
  keep: async () => {
    await logFrame();
    for (const id of ["log-note", "log-shutter", "log-aperture", "log-ago"]) el(id).value = "";
    el("log").open = false;
  },
};
el("add").addEventListener("submit", async (event) => {
  event.preventDefault();
  const form = new FormData(el("add"));
  if (await act("add-tone", { name: form.get("name"), reading: form.get("reading") })) el("add").reset();
});
for (const [id, press] of Object.entries(presses)) el(id).addEventListener("click", press);
el("pairs").addEventListener("click", (event) => {
  const { aperture } = event.target.dataset;
  if (aperture) act("setting", { lead: "aperture", value: aperture });
});

// A frame that is written down later was made then.
const madeAgo = (minutes) => (minutes > 0 ? { at: new Date(Date.now() - minutes * 60e3).toISOString() } : {});

// What was really set is written down with the frame, so that a plan that moves later does not change it.
async function logFrame() {
  if (seenThrough) {
    say("What is seen through is not on the lens yet: tap it to take it, or swipe back.");
    return;
  }
  const { shutter, aperture, iso } = sheet.exposure,
    typed = (id, planned) => el(id).value.trim() || planned;
  const values = {
    shutter: typed("log-shutter", shutter),
    aperture: typed("log-aperture", aperture),
    iso: iso.replace("ISO ", ""),
    note: el("log-note").value.trim(),
    ...madeAgo(Number(el("log-ago").value)),
  };
  await act("log", values, async () => {
    navigator.vibrate?.(60);
    const frames = (await store.acts()).filter((each) => each.verb === "log").length;
    say(`Frame kept: ${values.shutter} ${values.aperture} ISO ${values.iso}. ${frames} from this phone.`);
  });
}

// The place stands in the note, and only where its button was pressed and the phone was asked.
el("log-place").hidden = !(isSecureContext && navigator.geolocation);
el("log-place").addEventListener("click", () =>
  navigator.geolocation.getCurrentPosition(
    ({ coords: { latitude, longitude } }) => {
      const place = `${latitude.toFixed(5)}, ${longitude.toFixed(5)}`;
      el("log-note").value = [el("log-note").value.trim(), `at ${place}`].filter(Boolean).join(" ");
    },
    (failed) => say(`The phone does not say where it is: ${failed.message}.`),
  ),
);

// A screen that stays awake on demand; a plain address has no such thing, and the button says so.
let awake = null;
const canWake = "wakeLock" in navigator;
el("awake").hidden = !canWake;
el("awake").addEventListener("click", async () => {
  if (awake) await awake.release();
  awake = awake ? null : await navigator.wakeLock.request("screen").catch(() => null);
  el("awake").setAttribute("aria-pressed", String(Boolean(awake)));
});

// --- start ---------------------------------------------------------------------------------------------------------

const ready = new Ready(addresses, (words, isReady) => {
  el("reach").textContent = words;
  document.body.dataset.ready = isReady ? "1" : "";
});
addEventListener("online", () => {
  retryMs = FIRST_RETRY_MS;
  goHome();
});
addEventListener("hashchange", start);
document.addEventListener("visibilitychange", () => document.visibilityState === "visible" && goHome());

// Of an outing that is of today: its first planned scene that has no frame of this phone's yet.
async function nextOfToday() {
  const today = new Date().toLocaleDateString("sv"),
    logged = new Set((await store.acts()).filter(({ verb }) => verb === "log").map((each) => each.scene));
  for (const { pk, date, scenes } of await store.outings()) {
    const next = date === today && scenes.find((each) => each.sheet.exposure?.shutter && !logged.has(each.pk));
    if (next) return [pk, next.pk];
  }
  return null;
}

const asked = new URLSearchParams(location.search).get("take");
async function start() {
  const [, outingPk, scenePk] = location.hash.match(/^#(\d+)\/([\w-]+)$/) ?? [],
    next = outingPk || asked ? null : await nextOfToday();
  if (outingPk) await openScene(Number(outingPk), /^\d+$/.test(scenePk) ? Number(scenePk) : scenePk);
  else if (next) await openScene(...next);
  else await showList();
  // What waits goes home first: what is taken along anew then has it already.
  await goHome();
  if (asked && !(await store.outing(Number(asked)))) await take(Number(asked));
  else if (!outingPk) await takeNext();
}
start();
