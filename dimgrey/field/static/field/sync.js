// Coming home: acts that wait are sent in their order, scene by scene, as often as it takes; the server does each once.
import * as store from "./store.js";

const MOST_AT_ONCE = 50,
  SKEW_MS = 120e3;

// Scenes of this phone's that the server did not take: {pk: {title, sentence}}.
export const HELD = "held";

const cookie = (name) =>
  document.cookie
    .split("; ")
    .find((each) => each.startsWith(`${name}=`))
    ?.slice(name.length + 1) ?? "";

async function post(address, body) {
  const answer = await fetch(address, {
    method: "POST",
    redirect: "manual",
    headers: { "Content-Type": "application/json", "X-CSRFToken": cookie("csrftoken") },
    body: JSON.stringify(body),
  });
  return said(answer);
}

// What a server said; whom it does not know it sends to its sign-in, or refuses.
async function said(answer) {
  if (answer.type === "opaqueredirect" || [401, 403].includes(answer.status)) throw new Error("sign-in");
  if (answer.status === 404) throw new Refused("It is no longer on the server.");
  if (answer.status === 422) throw new Refused((await answer.json()).problem);
  if (!answer.ok) throw new Faulty(`server ${answer.status}`);
  return answer.json();
}

// One scene that the server does not take, or falls over, does not hold up the others.
class Refused extends Error {}
class Faulty extends Error {}

const HELLO_MS = 3e3;
// What the server has of the outings around today, and of those that are here.
export async function hello() {
  const have = (await store.outings()).map(({ pk }) => pk),
    signal = AbortSignal.timeout(HELLO_MS);
  return said(await fetch(`/field/hello?have=${have}`, { cache: "no-store", redirect: "manual", signal }));
}

// What of an act travels: the piece of the light map that it was sighted in stays here, the server reads its own.
const sent = ({ seq, state, sentence, keptAt, spot, scene, left, ...act }) => act;

let running = null,
  next = null;
// tell: is called whenever something changed. What is asked while it runs is one more run after it, which takes what
// was done meanwhile.
export function sync(tell) {
  if (!running) return (running = all(tell).finally(() => (running = null)));
  return (next ??= running
    .catch(() => {})
    .then(() => {
      next = null;
      return sync(tell);
    }));
}

async function all(tell) {
  const there = await hello(),
    skew = Date.parse(there.now) - Date.now(),
    late = Math.abs(skew) > SKEW_MS ? skew : 0;
  const faults = [],
    held = {};
  for (const outing of await store.outings())
    for (const scene of outing.scenes.filter(isNew))
      await unlessRefused(
        () => sendNewScene(outing, scene, tell),
        (sentence) => (held[scene.pk] = { title: scene.title, sentence }),
        faults,
      );
  await followHome();
  const every = await store.acts();
  const scenes = [...new Set(every.map((act) => act.scene))].filter((pk) => !isNew({ pk }));
  for (const scene of scenes)
    await unlessRefused(
      () => ofScene(scene, late, tell),
      async (sentence) => {
        const refused = (await store.waitingOf(scene)).map((act) => ({ ...act, state: "refused", sentence }));
        await store.settle(refused, null);
        tell();
      },
      faults,
    );
  await store.keepMeta(HELD, held);
  await store.sweepActs();
  if (faults.length) throw faults[0];
  return { ...there, skew: late };
}

// Scenes that began on this phone have a name of their own until the server gives them a number.
export const isNew = ({ pk }) => typeof pk === "string";

// An act that was done while its scene was on its way goes after it.
async function followHome() {
  for (const act of (await store.acts()).filter((each) => isNew({ pk: each.scene }))) {
    const home = await store.meta(store.homeOf(act.scene));
    if (home) await store.changeAct({ ...act, scene: home });
  }
}

async function sendNewScene(outing, scene, tell) {
  const body = new FormData(),
    original = await store.light(store.originalOf(scene));
  body.append("id", scene.pk);
  body.append("document", JSON.stringify(scene.document));
  body.append("outing", outing.pk);
  if (original) body.append("picture", new File([original.bytes], original.name));
  const answer = await said(
    await fetch("/field/scenes/new", {
      method: "POST",
      redirect: "manual",
      headers: { "X-CSRFToken": cookie("csrftoken") },
      body,
    }),
  );
  const home = answer.scene;
  for (const address of store.lightOf(home)) {
    const light = await fetch(address);
    if (light.ok) await store.keepLight(address, await light.arrayBuffer());
  }
  await store.rename(scene.pk, home);
  tell({ from: scene.pk, to: home.pk, problem: answer.problem });
}

// faults: gathers what a server that fell over said; what waits there is tried again later.
async function unlessRefused(work, refused, faults) {
  try {
    await work();
  } catch (failed) {
    if (failed instanceof Faulty) faults.push(failed);
    else if (failed instanceof Refused) await refused(failed.message);
    else throw failed;
  }
}

const asked = new Set();

async function ofScene(scene, late, tell) {
  const mine = (await store.actsOf(scene)).sort((a, b) => a.seq - b.seq),
    kept = mine.filter((act) => act.state === "kept").map((act) => act.act);
  for (let waiting; (waiting = (await store.waitingOf(scene)).slice(0, MOST_AT_ONCE)).length;) {
    const answer = await post(`/field/scenes/${scene}/acts`, {
      base: await baseOf(scene),
      own: kept,
      acts: waiting.map((act) => ({ ...sent(act), at: moved(act, late) })),
    });
    const now = new Date().toISOString(),
      settled = answer.acts.map(({ act: id, state, sentence, theirs }) => ({
        ...waiting.find((each) => each.act === id),
        state,
        sentence,
        theirs,
        keptAt: state === "kept" ? now : null,
      }));
    // What was struck out since needs no settling.
    await store.settle(settled, answer.scene);
    for (const { line, state } of settled) if (line && state === "kept") await store.dropUnsettled(scene, line);
    kept.push(...settled.filter((act) => act.state === "kept").map((act) => act.act));
    tell();
  }
  // A server that came back from an older backup knows less than it once said it kept. Asked once for each page.
  if (kept.length && !asked.has(scene)) {
    asked.add(scene);
    const { missing } = await post(`/field/scenes/${scene}/known`, { acts: kept });
    for (const act of mine) if (missing.includes(act.act)) await store.changeAct({ ...act, state: "waiting" });
    if (missing.length) await ofScene(scene, late, tell);
  }
}

// A phone whose clock is off by more than two minutes is put right by the server's.
const moved = (act, late) => new Date(Date.parse(act.at) + late).toISOString();

async function baseOf(scene) {
  for (const outing of await store.outings()) {
    const found = outing.scenes.find((each) => each.pk === scene);
    if (found) return found.head;
  }
  return null;
}
