// The sequence of one print, counted down. Dodges run within the base; each burn waits for the lamp to be switched on.
const timer = document.querySelector("[data-timer]");
if (timer) {
  const steps = JSON.parse(document.getElementById("sequence").textContent);
  const exposures = steps.filter((step) => step.kind !== "dodge");
  const dodges = steps.filter((step) => step.kind === "dodge");
  const name = timer.querySelector("[data-name]");
  const seconds = timer.querySelector("[data-seconds]");
  const next = timer.querySelector("[data-next]");
  const go = timer.querySelector("[data-go]");
  let at = 0;
  let left = exposures[0].seconds;
  let since = null;
  let ticking = 0;

  const words = (step) => (step.kind === "base" ? "Base: whole sheet" : `Burn: ${step.name}`);
  const show = (now) => {
    const step = exposures[at];
    if (!step) {
      name.textContent = "Done";
      seconds.textContent = "0.0";
      next.textContent = "Into the developer.";
      go.disabled = true;
      return;
    }
    seconds.textContent = Math.max(now, 0).toFixed(1);
    const gone = step.seconds - now;
    const isHeld = (d) => gone >= d.begins && gone < d.begins + d.seconds;
    const held = step.kind === "base" && since !== null && dodges.find(isHeld);
    const told = held ? `Hold back: ${held.name}` : words(step);
    if (name.textContent !== told) name.textContent = told;
    const coming = step.kind === "base" && dodges.filter((d) => d.begins > gone).sort((a, b) => a.begins - b.begins)[0];
    const after = exposures[at + 1];
    next.textContent = coming
      ? `then hold back ${coming.name} from second ${coming.begins.toFixed(1)}`
      : after
        ? `then ${words(after)}, ${after.seconds.toFixed(1)} s`
        : "then the developer";
  };
  const stop = () => {
    clearInterval(ticking);
    since = null;
    go.textContent = "Lamp on";
  };
  const tick = () => {
    const now = left - (performance.now() - since) / 1000;
    if (now <= 0) {
      stop();
      at += 1;
      left = exposures[at]?.seconds ?? 0;
      show(left);
    } else show(now);
  };
  const turn = () => {
    if (go.disabled) return;
    if (since === null) {
      since = performance.now();
      go.textContent = "Lamp off";
      ticking = setInterval(tick, 50);
    } else {
      left -= (performance.now() - since) / 1000;
      stop();
    }
    show(left);
  };
  go.addEventListener("click", turn);
  timer.querySelector("[data-back]").addEventListener("click", () => {
    stop();
    at = 0;
    left = exposures[0].seconds;
    go.disabled = false;
    show(left);
  });
  document.addEventListener("keydown", (event) => {
    if (event.key !== " " || event.target.closest("button, input, select, textarea")) return;
    event.preventDefault();
    turn();
  });
  show(left);
}
