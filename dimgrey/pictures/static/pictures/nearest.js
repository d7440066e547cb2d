// Of handles that lie close together the one whose middle is nearest answers; a touched name answers itself.
export const REACH_PX = 14;

// parts: elements, each with its handle. handleOf: (element), the part of it that is seen as a handle. Returns the
// element, or null.
export function nearestHandle(parts, event, handleOf, reach = REACH_PX) {
  let best = null,
    least = reach;
  for (const part of parts) {
    const box = handleOf(part).getBoundingClientRect(),
      away = Math.hypot(event.clientX - box.x - box.width / 2, event.clientY - box.y - box.height / 2);
    if (away <= least) [best, least] = [part, away];
  }
  return best;
}
