// A frame is logged with what was really set, so that a plan that moves later does not change it.
import { el, say } from "./page.js";
import * as store from "./store.js";

const MINUTE_MS = 60e3,
  BUZZ_MS = 60;

const typed = (id) => el(id).value.trim();
// A frame that is written down later was made then.
const madeAgo = (minutes) => (minutes > 0 ? { at: new Date(Date.now() - minutes * MINUTE_MS).toISOString() } : {});

export async function logFrame(session) {
  const { shutter, aperture, iso } = session.sheet.exposure,
    values = {
      shutter: typed("log-shutter") || shutter,
      aperture: typed("log-aperture") || aperture,
      iso: iso.replace("ISO ", ""),
      note: typed("log-note"),
      ...madeAgo(Number(typed("log-ago"))),
    };
  return session.act("log", values, async () => {
    navigator.vibrate?.(BUZZ_MS);
    const frames = (await store.acts()).filter(({ verb }) => verb === "log").length;
    say(`Frame kept: ${values.shutter} ${values.aperture} ISO ${values.iso}. ${frames} from this phone.`);
  });
}

export function clearFrame() {
  for (const id of ["log-note", "log-shutter", "log-aperture", "log-ago"]) el(id).value = "";
  el("log").open = false;
}

// The place stands in the note, and only where its button was pressed and the phone was asked.
export function offerPlace() {
  el("log-place").hidden = !(isSecureContext && navigator.geolocation);
  el("log-place").addEventListener("click", () =>
    navigator.geolocation.getCurrentPosition(
      ({ coords: { latitude, longitude } }) => {
        const place = `${latitude.toFixed(5)}, ${longitude.toFixed(5)}`;
        el("log-note").value = [typed("log-note"), `at ${place}`].filter(Boolean).join(" ");
      },
      (failed) => say(`The phone does not say where it is: ${failed.message}.`),
    ),
  );
}

// A screen that stays awake on demand; a plain address has no such thing, and there is no button.
export function offerWake() {
  let awake = null;
  el("awake").hidden = !("wakeLock" in navigator);
  el("awake").addEventListener("click", async () => {
    if (awake) await awake.release();
    awake = awake ? null : await navigator.wakeLock.request("screen").catch(() => null);
    el("awake").setAttribute("aria-pressed", String(Boolean(awake)));
  });
}
