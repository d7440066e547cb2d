// What was done to a scene, line by line: as the core told it, and what was done since.
const STRIKE = "strike-out";

// lines: of the sheet, oldest first. acts: that wait. counted: ids of those that the lines have already.
export function standing(lines, acts, counted) {
  const found = (lines ?? []).map((each) => ({ ...each }));
  for (const act of acts.filter((each) => !counted.includes(each.act))) {
    if (act.verb === STRIKE) strike(found, act.line, act.act);
    else found.push({ line: act.act, words: actWords(act), frame: act.verb === "log", struck: "" });
  }
  return found;
}

function strike(lines, target, by) {
  for (const each of lines)
    if (each.line === target || each.struck === target) each.struck = each.struck === target ? "" : each.struck || by;
}

// The newest of some that stands, undefined for none. own: ids of them.
export const newest = (lines, own) => lines.findLast(({ line, struck }) => !struck && own.has(line));

const ROMAN = ["0", "I", "II", "III", "IV", "V", "VI", "VII", "VIII", "IX", "X"];

// An act as one would say it, until the core does. name: of its tone, where it is known.
export function actWords(act, name = act.mark ?? "") {
  const at = Number(act.zone ?? act.print),
    zone = `${ROMAN[Math.round(at)] ?? at}${Number.isInteger(at) ? "" : " or near"}`;
  switch (act.verb) {
    case "place":
      return `${name} ${act.print ? "prints on" : "on"} ${zone}`;
    case "read":
      return `${name} reads ${act.reading}`;
    case "colour-choice":
      return `filter: ${act.choice}`;
    case "kit-filter":
      return `filter: ${act.filter}`;
    case "shift":
      return `light ${act.stops.replace("-", "−")}`;
    case "setting":
      return act.value;
    case "log":
      return ["frame", act.shutter, act.aperture].filter(Boolean).join(" ");
    default:
      return [act.verb.replaceAll("-", " "), name, act.name].filter(Boolean).join(" ");
  }
}
