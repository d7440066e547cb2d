// A note that a room above lays over the desk stands beside what it speaks of: nothing moves to make room for it.
const GAP = 10;

const target = (note) =>
  [...document.querySelectorAll(note.dataset.at)].find((each) => !each.hidden && each.getClientRects().length);

function place() {
  const note = document.querySelector(".beside-note");
  if (!note) return;
  const at = target(note)?.getBoundingClientRect(),
    own = note.getBoundingClientRect();
  if (!at) {
    note.style.visibility = "hidden";
    return;
  }
  const inside = at.width > 2 * own.width && at.height > 3 * own.height,
    isSmall = at.height < own.height,
    beside = !inside && !isSmall && at.left > own.width + GAP,
    left = inside ? at.left + GAP : beside ? at.left - own.width - GAP : at.left,
    over = at.top - own.height - GAP,
    under = at.bottom + GAP / 2,
    top = inside ? at.top + GAP : beside ? at.top : isSmall || over < GAP ? under : over,
    foot = document.getElementById("foot").getBoundingClientRect(),
    lowest = foot.height ? Math.min(foot.top, innerHeight) : innerHeight,
    held = (value, most) => Math.max(GAP, Math.min(value, most - GAP));
  note.style.left = `${held(left, innerWidth - own.width)}px`;
  note.style.top = `${held(top, lowest - own.height)}px`;
  note.style.visibility = "visible";
}

export function beside() {
  // The greys at the pin open and close without an act; every act brings the note anew.
  new MutationObserver(place).observe(document.getElementById("beside"), { childList: true });
  const strip = document.getElementById("strip");
  if (strip) new MutationObserver(place).observe(strip, { attributes: true });
  for (const event of ["scroll", "load", "resize"]) addEventListener(event, place, true);
  place();
}
