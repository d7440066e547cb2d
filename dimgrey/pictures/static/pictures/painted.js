// Pictures of a page painted from their light: an image marked data-painted keeps the server's picture until its light
// is here, and is then painted over, and painted anew when something moves. One painter serves them all.
import { Painter, mapOf, tablesOf } from "./painter.js";

const SIDES = [500, 1000, 1600];
const VIEW = /^(.*)\/grey-(.*)\.jpg$/;
const forced = new URLSearchParams(location.search).get("painter");

export const isView = (address) => /\/grey-.*_[0-3]_s[^_]*\.jpg$/.test(address);

// The smallest map that a picture so wide on the screen needs.
export const sideFor = (width) => SIDES.find((side) => side >= width * devicePixelRatio) ?? SIDES.at(-1);

const skyOf = (key) => key.split("_").pop().match(/^s[fno][0-9a-f]*/)[0];

// What a view is painted with. tables: of a view that is not at this address yet, or null to fetch its own.
export async function partOf(address, side, tables = null) {
  const [, folder, key] = new URL(address, location.href).pathname.match(VIEW);
  const [light, sky, found] = await Promise.all([
    mapOf(`${folder}/light-${side}.bin`),
    mapOf(`${folder}/sky-${side}-${skyOf(key)}.bin`),
    tables ?? tablesOf(`/pictures/paint-${key}.json`),
  ]);
  return { light, sky, tables: found, shift: 0, from: 0, to: 1 };
}

let shared = null;
function painter() {
  if (!shared) {
    const canvas = document.createElement("canvas");
    shared = new Painter(canvas, forced === "plain", () => {});
  }
  return shared;
}

// Paints parts and copies them to a canvas of the page, at the size of their light.
export function draw(canvas, parts, moving = false) {
  const made = painter();
  made.paint(parts, moving);
  Object.assign(canvas, { width: made.canvas.width, height: made.canvas.height });
  canvas.getContext("2d").drawImage(made.canvas, 0, 0);
  canvas.dataset.kind = made.kind;
  canvas.hidden = false;
}

function over(image) {
  const canvas = image.nextElementSibling;
  if (canvas?.matches?.("canvas.painted")) return canvas;
  const made = document.createElement("canvas");
  Object.assign(made, { className: "painted", hidden: true, ariaHidden: "true" });
  image.after(made);
  return made;
}

// Paints over an image from its light. how: what a hand moves. Returns the part, or null where the server's picture
// stays.
export async function paintOver(image, { address = image.getAttribute("src"), tables = null, how = {} } = {}) {
  if (forced === "none" || !isView(address)) return null;
  const canvas = over(image);
  try {
    const part = await partOf(address, sideFor(image.clientWidth || 500), tables);
    draw(canvas, [{ ...part, ...how }], Object.keys(how).length > 0);
    return part;
  } catch {
    canvas.hidden = true;
    return null;
  }
}

// Every marked image under an element, one after another.
export async function paintAll(root, how = {}) {
  for (const image of root.querySelectorAll("img[data-painted]")) await paintOver(image, { how });
}
