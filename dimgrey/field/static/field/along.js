// Taking along: an outing with its kit, its day's light and the light of its pictures, until all of it is here.
import { isNew } from "./sync.js";
import * as store from "./store.js";

const bytesOf = async (address) => {
  const answer = await fetch(address);
  if (!answer.ok) throw new Error(`${address}: ${answer.status}`);
  return answer.arrayBuffer();
};

// tell: (done, whole, bytes) while it goes on. Returns the outing as it is kept.
export async function takeAlong(pk, tell) {
  const answer = await fetch(`/field/outings/${pk}.json`, { cache: "no-store", redirect: "error" });
  if (!answer.ok) throw new Error(`server ${answer.status}`);
  const text = await answer.text(),
    outing = JSON.parse(text);
  const wanted = outing.scenes.flatMap((scene) => store.lightOf(scene));
  let bytes = text.length;
  for (const [k, address] of wanted.entries()) {
    tell(k, wanted.length, bytes);
    const known = await store.light(address),
      light = known ?? (await bytesOf(address));
    if (!known) await store.keepLight(address, light);
    bytes += light.byteLength;
  }
  // What began on this phone and is not home yet stays with its outing, and so does what acts here still stand on.
  const mine = (await store.outing(pk))?.scenes ?? [],
    standing = new Set((await store.acts()).filter(({ state }) => state === "waiting").map(({ scene }) => scene));
  const here = (pk) => (standing.has(pk) ? mine.find((each) => each.pk === pk) : null);
  outing.scenes = outing.scenes.map((scene) => here(scene.pk) ?? scene);
  outing.scenes.push(...mine.filter(isNew));
  const kept = { ...outing, takenAt: new Date().toISOString(), bytes };
  await store.keepOuting(kept);
  await store.sweepLight();
  await navigator.storage?.persist?.();
  tell(wanted.length, wanted.length, bytes);
  return kept;
}

// What the server has changed since: titles of scenes, "" for none.
export function changedSince(outing, known) {
  const there = known.outings.find((each) => each.pk === outing.pk);
  if (!there) return null;
  return there.scenes
    .filter(({ pk, stamp }) => outing.scenes.find((each) => each.pk === pk)?.stamp !== stamp)
    .map(({ title }) => title);
}
