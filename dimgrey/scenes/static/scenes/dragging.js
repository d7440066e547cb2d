// Answers a hand that moves a tone: rail, figures and picture in the next frame, by the tables that the core made.
// What it shows is settled by the server when the hand lets go.
const EDGE = 0.01;

export function live(desk) {
  const told = () => desk.data().live;

  const printOf = (fall) => {
    const { falls, perZone } = told();
    if (fall <= falls[0]) return 0;
    for (let k = 1; k < falls.length; k++)
      if (fall <= falls[k]) return (k - (falls[k] - fall) / (falls[k] - falls[k - 1] || 1)) / perZone;
    return 10;
  };
  const fallOf = (print) => {
    const { falls, perZone } = told(),
      at = Math.min(Math.max(print * perZone, 0), falls.length - 1),
      k = Math.min(Math.floor(at), falls.length - 2);
    return falls[k] + (at - k) * (falls[k + 1] - falls[k]);
  };
  const wordsOf = (print) => {
    const { words } = told();
    return words[Math.floor((print / 10) * (words.length - 1) + 1e-6)];
  };

  const isLost = (mark, fall) => {
    const { holds, textured } = told();
    return textured.includes(mark) && (fall < holds[0] - EDGE || fall > holds[1] + EDGE);
  };

  // The stops of more light that bring a tone to a print.
  const stopsFor = (mark, print) => fallOf(print) - told().tones[mark];

  // own: mark -> stops that this tone gains besides, from glass that moves.
  function show(stops, own = {}) {
    for (const [mark, fall] of Object.entries(told().tones)) {
      const flag = document.getElementById(`flag-${mark}`),
        now = fall + stops + (own[mark] ?? 0),
        print = printOf(now);
      if (!flag) continue;
      flag.setAttribute("x", `${((print + 0.5) / 11) * 100}%`);
      flag.querySelector(".zone").textContent = wordsOf(print) + (isLost(mark, now) ? " lost" : "");
      const cell = document.querySelector(`#tone-${mark} .zone`);
      if (cell) cell.textContent = wordsOf(print);
    }
    document.querySelector(".falls")?.setAttribute("visibility", "hidden");
    hill(stops);
    figures(stops);
    // What is told in words waits for the server, and does not contradict the figures meanwhile.
    document.body.toggleAttribute("data-moving", stops !== 0 || Object.keys(own).length > 0);
    document.dispatchEvent(new CustomEvent("picture:shift", { detail: stops }));
  }

  // The hill moves with the falls: each share goes to the print that its fall has now.
  function hill(stops) {
    const path = document.getElementById("hill"),
      { hill: shares, hillFrom, hillPer } = told();
    if (!path || !shares.length) return;
    const steps = 10 * hillPer,
      raw = new Float64Array(steps + 1);
    shares.forEach((share, k) => {
      raw[Math.round(printOf(hillFrom + (k + 0.5) / hillPer + stops) * hillPer)] += share;
    });
    const at = (k) => raw[Math.min(Math.max(k, 0), steps)],
      smooth = Array.from(raw, (_, k) => (at(k - 1) + 2 * at(k) + at(k + 1)) / 4),
      most = Math.max(...smooth, 1e-9);
    const points = smooth.map(
      (v, k) => `${Math.round((k / hillPer + 0.5) * 100)} ${(100 - Math.sqrt(v / most) * 100).toFixed(1)}`,
    );
    path.setAttribute("d", `M50 100L${points.join("L")}L1050 100Z`);
  }

  function figures(stops) {
    const { side } = told();
    if (!side) return;
    const wanted = side.now + side.way * stops;
    let best = side.marked[0];
    for (const each of side.marked) if (Math.abs(each[0] - wanted) < Math.abs(best[0] - wanted)) best = each;
    for (const shown of document.querySelectorAll(`[data-side="${side.name}"]`)) shown.textContent = best[1];
    document.querySelector(".give")?.setAttribute("hidden", "");
  }

  document.addEventListener("desk:changed", () => document.body.removeAttribute("data-moving"));
  return { ready: () => Boolean(told().tones), stopsFor, show };
}
