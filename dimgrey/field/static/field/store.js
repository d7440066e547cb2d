// What the phone keeps: outings that were taken along, their pictures' light, and every act, sent or not.
import { openDB } from "../vendor/idb.js";

const NAME = "dimgrey-field",
  VERSION = 1,
  KEPT_DAYS = 30;

// Only one connection; what is written is on the disk before the promise is kept.
let opened = null;
const database = () =>
  (opened ??= openDB(NAME, VERSION, {
    upgrade(db) {
      db.createObjectStore("outings", { keyPath: "pk" });
      db.createObjectStore("light");
      const acts = db.createObjectStore("acts", { keyPath: "seq", autoIncrement: true });
      acts.createIndex("scene", "scene");
      acts.createIndex("act", "act", { unique: true });
      db.createObjectStore("meta");
    },
    terminated() {
      opened = null;
    },
  }).catch((failed) => {
    opened = null;
    throw failed;
  }));

const strict = { durability: "strict" };

export const outings = async () => (await database()).getAll("outings");
export const outing = async (pk) => (await database()).get("outings", pk);
export const keepOuting = async (data) => (await database()).put("outings", data);
export const dropOuting = async (pk) => (await database()).delete("outings", pk);

export const light = async (address) => (await database()).get("light", address);
export const keepLight = async (address, bytes) => (await database()).put("light", bytes, address);

// Light that no outing needs any more makes room.
export async function sweepLight() {
  const db = await database(),
    wanted = new Set((await outings()).flatMap((each) => each.scenes.flatMap((s) => lightOf(s)))),
    keys = await db.getAllKeys("light"),
    isOriginal = (key) => key.startsWith("original:");
  await Promise.all(keys.filter((key) => !wanted.has(key) && !isOriginal(key)).map((key) => db.delete("light", key)));
}
export const lightOf = ({ picture }) => (picture ? [picture.light, picture.sky].filter(Boolean) : []);

// A scene that begins here: with its outing, its light and its original, all or nothing.
export async function keepNew(outingPk, scene, light, original) {
  const db = await database(),
    tx = db.transaction(["outings", "light"], "readwrite", strict),
    outing = await tx.objectStore("outings").get(outingPk);
  outing.scenes.push(scene);
  await tx.objectStore("outings").put(outing);
  if (light) await tx.objectStore("light").put(light, scene.picture.light);
  if (original) await tx.objectStore("light").put(original, originalOf(scene));
  await tx.done;
}
export const originalOf = ({ pk }) => `original:${pk}`;

// Where the number is kept that a scene of this phone's has now.
export const homeOf = (pk) => `home:${pk}`;

// It came home: the server's scene takes its place, and its acts are that one's from now on. The original can go then.
export async function rename(pk, scene) {
  const db = await database(),
    tx = db.transaction(["outings", "acts", "light", "meta"], "readwrite", strict);
  await tx.objectStore("meta").put(scene.pk, homeOf(pk));
  for (const outing of await tx.objectStore("outings").getAll()) {
    const at = outing.scenes.findIndex((each) => each.pk === pk);
    if (at < 0) continue;
    outing.scenes[at] = scene;
    await tx.objectStore("outings").put(outing);
  }
  for (const act of await tx.objectStore("acts").index("scene").getAll(pk))
    await tx.objectStore("acts").put({ ...act, scene: scene.pk });
  if (scene.picture) await tx.objectStore("light").delete(`original:${pk}`);
  await tx.done;
}

export const meta = async (key) => (await database()).get("meta", key);
export const keepMeta = async (key, value) => (await database()).put("meta", value, key);

export async function keepAct(act) {
  const db = await database(),
    tx = db.transaction("acts", "readwrite", strict);
  const seq = await tx.store.add({ ...act, state: "waiting" });
  await tx.done;
  return { ...act, seq, state: "waiting" };
}
export async function changeAct(act) {
  const db = await database(),
    tx = db.transaction("acts", "readwrite", strict);
  await tx.store.put(act);
  await tx.done;
}
// What a server said of acts, and the scene as it has it now: both or neither.
export async function settle(acts, scene) {
  const db = await database(),
    tx = db.transaction(["acts", "outings"], "readwrite", strict);
  for (const act of acts) await tx.objectStore("acts").put(act);
  for (const outing of scene ? await tx.objectStore("outings").getAll() : []) {
    const at = outing.scenes.findIndex((each) => each.pk === scene.pk);
    if (at < 0) continue;
    outing.scenes[at] = scene;
    await tx.objectStore("outings").put(outing);
  }
  await tx.done;
}
// id: of an act that was struck out since. What came of it needs no settling.
export async function dropUnsettled(scene, id) {
  const act = (await actsOf(scene)).find((each) => each.act === id);
  if (act && ["stale", "refused"].includes(act.state)) await dropAct(act.seq);
}
export const dropAct = async (seq) => (await database()).delete("acts", seq);
export const actsOf = async (scene) => (await database()).getAllFromIndex("acts", "scene", scene);
export const waitingOf = async (scene) =>
  (await actsOf(scene)).filter(({ state }) => state === "waiting").sort((a, b) => a.seq - b.seq);
export const acts = async () => (await database()).getAll("acts");

// Sent acts stay for a month: should the server come back from an older backup, it asks for them again.
export async function sweepActs(now = Date.now()) {
  const oldest = now - KEPT_DAYS * 86400e3;
  for (const act of await acts())
    if (act.state === "kept" && new Date(act.keptAt ?? act.at).getTime() < oldest) await dropAct(act.seq);
}
