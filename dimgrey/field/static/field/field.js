// The field page: one scene of an outing that was taken along, with or without a network. Its parts are put together
// here: the session keeps and reckons, home sends, the list takes along, the rest shows.
import { pad } from "../scenes/pad.js";
import { timer } from "../scenes/exposuretimer.js";
import { stamped } from "../scenes/stamped.js";
import { Waiting } from "./await.js";
import { centreChoice, showChoices } from "./choices.js";
import { clearFrame, logFrame, offerPlace, offerWake } from "./frame.js";
import { drawGround, dragGround } from "./ground.js";
import { Home, redone, saved } from "./home.js";
import { List, nextOfToday } from "./list.js";
import { Look } from "./look.js";
import { NewScene } from "./newscene.js";
import { el, say } from "./page.js";
import { Picture } from "./picture.js";
import { Ready, versionOf } from "./ready.js";
import { Ribbon } from "./ribbon.js";
import { Rules } from "./rules.js";
import { Session } from "./session.js";
import { tellWaiting, weighed } from "./settle.js";
import { showExposure, showNearer, showTones, showWords } from "./shown.js";
import * as store from "./store.js";
import { isNew } from "./sync.js";

const addresses = JSON.parse(document.getElementById("field-addresses").textContent),
  DEFAULT_STEPS = 3,
  NEARER_MS = 120;

let rules = null;
function begun() {
  if (rules) return rules;
  rules = new Rules({ ...addresses, version: versionOf(addresses) });
  rules.ready
    .then(() => {
      document.body.dataset.rules = Math.round(rules.startedMs);
      document.body.dataset.rulesFrom = rules.from;
    })
    .catch((failed) => say(`The rules could not be started: ${failed.message}. What you do is kept all the same.`));
  return rules;
}

// --- the scene -----------------------------------------------------------------------------------------------------

const session = new Session(begun, {
  opened,
  drawn: draw,
  counted: () => {
    lookNearer();
    document.body.dataset.reckoned = String(session.waiting.length);
  },
  say,
  doubt: (found) => (desk.doubt = found),
  acted: () => {
    drawRibbon();
    return told();
  },
  home: goHome,
  ask: (line) => ribbon.ask(line),
});
const picture = new Picture(
  (name, more) => begun().ask(name, session.key, session.question(more)),
  (values) => session.act(values.mark ? "move-pin" : "pin", values),
);
const ribbon = new Ribbon((line) => session.strike(line));
const drawRibbon = () => ribbon.draw(session.lines);
const awaiting = new Waiting(begun, () => session, (...said) => session.act(...said));

async function openScene(outingPk, scenePk) {
  ready.giveWay();
  if (!(await session.open(outingPk, scenePk))) await list.show();
}

let isFresh = false;
function opened() {
  const { outing, scene } = session,
    at = outing.scenes.indexOf(scene);
  begun();
  history.replaceState(null, "", `#${outing.pk}/${scene.pk}`);
  el("outings").hidden = el("new").hidden = true;
  el("scene").hidden = el("hold").hidden = false;
  el("scene-title").textContent = scene.title;
  el("where").textContent = `${at + 1} of ${outing.scenes.length}`;
  el("previous").disabled = at === 0;
  el("next").disabled = at === outing.scenes.length - 1;
  el("view").src = (navigator.onLine && scene.picture?.small) || "data:,";
  picture.open(scene);
  isFresh = true;
}

function beside(by) {
  const { scenes, pk } = session.outing;
  return openScene(pk, scenes[scenes.indexOf(session.scene) + by].pk);
}

function draw(sheet, isSure) {
  const { outing } = session;
  look.leave();
  showExposure(sheet);
  showTones(sheet, openPad);
  showWords(sheet);
  showChoices(sheet, outing.kit, async (...said) => (await session.act(...said)) && centreChoice());
  if (isFresh) centreChoice();
  isFresh = false;
  drawGround(el("ground"), outing.kit.ground, sheet);
  drawRibbon();
  awaiting.tell();
  picture.drawPins(sheet.tones);
  picture.radius = sheet.ring;
  if (isSure) picture.show(sheet.view, session.question());
}

// Asked once the sheet stands and the hand rests; what came too late is let go.
let nearerLater = 0;
function lookNearer() {
  clearTimeout(nearerLater);
  el("nearer").replaceChildren();
  const { sheet, scene, waiting } = session,
    looks = sheet.exposure.shutter && sheet.line?.wanted && sheet.line.now !== "Now: as wanted.";
  if (!looks) return;
  performance.mark("field-planned");
  nearerLater = setTimeout(async () => {
    const found = await rules.ask("nearer", session.key, { acts: waiting }).catch(() => null);
    performance.measure("field-nearer", "field-planned");
    if (found && session.scene === scene && session.waiting === waiting)
      showNearer(found, (code) => session.act("take-proposal", { code }));
  }, NEARER_MS);
}

// An act that is tried while a finger moves, and not kept: only the newest counts.
let previewing = false,
  nextPreview = null;
async function preview(act) {
  nextPreview = act;
  if (previewing) return;
  previewing = true;
  while (nextPreview) {
    const asked = session.question({ preview: { ...nextPreview, ...stamped() } });
    nextPreview = null;
    performance.mark("field-asked");
    try {
      const { sheet } = await begun().ask("told", session.key, asked);
      showExposure(sheet);
      performance.measure("field-figures", "field-asked");
      showTones(sheet, openPad);
      drawGround(el("ground"), session.outing.kit.ground, sheet);
      await picture.show(sheet.view, asked, true);
      performance.measure("field-picture", "field-asked");
    } catch {
      nextPreview = null;
    }
  }
  previewing = false;
}
const look = new Look({ may: () => session.scene, preview, left: () => session.reckon() });

// --- coming home ---------------------------------------------------------------------------------------------------

const home = new Home(addresses.page, told);
home.again = goHome;
const list = new List(home, {
  open: openScene,
  fresh: (pk) => newScene.ask(pk),
  atOnce: async (pk) => {
    await newScene.ask(pk);
    if (await newScene.begin()) openPad(0);
  },
  left: () => session.close(),
  isOpen: () => !session.scene,
  told: async () => {
    await told();
    if (home.known) ready.check(home.known.until);
  },
  taken: () => {
    session.kitOf = 0;
    return begun().ready;
  },
});

async function goHome() {
  const { scene, waiting } = session,
    arrived = await home.go();
  if (arrived && waiting.length && scene && session.scene && !isNew(scene)) {
    await session.refresh();
    if (!look.through) centreChoice();
  }
}

// came: a scene that has a number now; whoever looks at it goes along.
async function told(came = null) {
  if (came?.problem) say(`The picture stays on this phone: ${came.problem}`);
  if (came && session.scene?.pk === came.from) await openScene(session.outing.pk, came.to);
  el("offline").hidden = !home.problem;
  el("sign-in").hidden = !home.signedOut;
  await tellWaiting(() => home.problem, {
    leave: (acts) => home.leave(acts),
    redo: async (acts) => {
      await redone(acts);
      if (session.scene) await session.refresh();
      await goHome();
    },
    weigh: (...both) => weighed(session, ...both),
  });
}

const newScene = new NewScene({
  say,
  // The core with the kit of that outing laid in.
  ready: async (outing) => {
    session.outing = outing;
    await begun().ready;
    await session.layIn();
    return rules;
  },
  opened: async (pk) => {
    await openScene(session.outing.pk, pk);
    goHome();
  },
});

// --- the hand ------------------------------------------------------------------------------------------------------

const setting = () => [el("shutter"), el("aperture")].map((each) => each.textContent).join(" ");
const desk = {
  doubt: null,
  setting,
  data: () => ({ tones: session.sheet?.tones ?? [], stamp: session.done }),
  act: (...said) => session.act(...said),
};
function openPad(at) {
  document.dispatchEvent(new CustomEvent("pad:open", { detail: { at } }));
}

document.addEventListener("alpine:init", () => {
  window.Alpine.data("pad", () => pad(desk));
  window.Alpine.data("timer", timer);
});

dragGround(el("ground"), {
  steps: () => session.sheet?.steps ?? DEFAULT_STEPS,
  moving: (mark, print) => preview({ verb: "place", mark, print: print.toFixed(4) }),
  placed: async (mark, print) => {
    await session.act("place", { mark, print: print.toFixed(4) });
    el("ground").querySelector(`[data-mark="${mark}"]`)?.focus();
  },
  freed: () => session.reckon(),
});

async function expose() {
  if (look.through) say("What is seen through is not on the lens yet: tap it to take it, or swipe back.");
  else await logFrame(session);
}

const presses = {
  previous: () => beside(-1),
  next: () => beside(1),
  list: () => list.show(),
  undo: () => session.undo(),
  read: () => openPad(0),
  save: saved,
  darker: () => session.act("shift", { stops: "-1/3" }),
  brighter: () => session.act("shift", { stops: "1/3" }),
  exposed: expose,
  keep: async () => {
    await expose();
    clearFrame();
  },
};
for (const [id, press] of Object.entries(presses)) el(id).addEventListener("click", press);
el("add").addEventListener("submit", async (event) => {
  event.preventDefault();
  if (await session.act("add-tone", Object.fromEntries(new FormData(el("add"))))) el("add").reset();
});
el("pairs").addEventListener("click", (event) => {
  const { aperture } = event.target.dataset;
  if (aperture) session.act("setting", { lead: "aperture", value: aperture });
});
offerPlace();
offerWake();

// --- start ---------------------------------------------------------------------------------------------------------

const ready = new Ready(addresses, (words, isReady) => {
  el("reach").textContent = words;
  document.body.dataset.ready = isReady ? "1" : "";
});
addEventListener("online", () => {
  home.soon();
  goHome();
});
addEventListener("hashchange", start);
document.addEventListener("visibilitychange", () => document.visibilityState === "visible" && goHome());

const PLACE = /^#(\d+)\/([\w-]+)$/;
async function start() {
  const asked = Number(new URLSearchParams(location.search).get("take")),
    [, outingPk, scenePk] = location.hash.match(PLACE) ?? [],
    next = outingPk || asked ? null : await nextOfToday();
  if (outingPk) await openScene(Number(outingPk), /^\d+$/.test(scenePk) ? Number(scenePk) : scenePk);
  else if (next) await openScene(...next);
  else await list.show();
  // What waits goes home first: what is taken along anew then has it already.
  await goHome();
  if (asked && !(await store.outing(asked))) await list.take(asked);
  else if (!outingPk) await list.takeNext();
}
start();
