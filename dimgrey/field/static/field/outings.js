// The list of what was taken along, and of what the server has beside it.
import { el, made } from "./page.js";

const BYTES = 1e6;
const megabytes = (bytes) => `${(bytes / BYTES).toFixed(1)} MB`;
const day = (iso) =>
  new Date(iso).toLocaleString("en-GB", { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" });

// kept: outings on this phone. known: what the server has, or null without it. open: (pk, scene), take, fresh,
// atOnce, drop: (pk).
export function showOutings(kept, known, changed, { open, take, fresh, atOnce, drop }) {
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
    const read = made("button", { type: "button", className: "act", textContent: "Read at once" });
    read.title = "A new scene on what the last was taken on, and its first reading";
    read.addEventListener("click", () => atOnce(outing.pk));
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
      read,
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
