// The sheet on the field page: words and figures that the core said, put in their places. Nothing is computed here.
import { el, made } from "./page.js";

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
