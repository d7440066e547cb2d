// Places and limits that every page with a picture reckons with.

export const within = (v, low, high) => Math.min(Math.max(v, low), high);

// Where in an element a pointer is, as fractions.
export function placeIn(element, event) {
  const box = element.getBoundingClientRect();
  return [(event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height];
}
