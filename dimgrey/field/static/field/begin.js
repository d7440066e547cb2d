// A new scene without a network: a picture of the phone's own, or none, on a film or camera of the kit. The core reads
// its exposure data and makes its light map; the original waits here until the server has it.
import { newId } from "../scenes/stamped.js";
import * as store from "./store.js";

const LONG_SIDE = 640;

// Pixels of a picture file as sRGB, small enough for the core to work through them.
async function pixelsOf(file) {
  const image = await createImageBitmap(file),
    share = Math.min(LONG_SIDE / Math.max(image.width, image.height), 1),
    [width, height] = [image.width, image.height].map((side) => Math.max(Math.round(side * share), 1)),
    canvas = Object.assign(document.createElement("canvas"), { width, height }),
    pen = canvas.getContext("2d");
  pen.imageSmoothingQuality = "high";
  pen.drawImage(image, 0, 0, width, height);
  image.close();
  return { width, height, data: new Uint8Array(pen.getImageData(0, 0, width, height).data.buffer) };
}

// Returns the new scene's name.
export async function begin(rules, outing, { title, kit, file, choice = "none", view = null }) {
  const pk = newId();
  let picture = null,
    light = null,
    shot = null,
    original = null;
  if (file) {
    const bytes = new Uint8Array(await file.arrayBuffer()),
      { width, height, data } = await pixelsOf(file);
    shot = JSON.parse(await rules.call("shot_of", bytes));
    light = { width, height, pixels: await rules.call("light_of_pixels", data, width, height) };
    picture = { width, height, light: `own:${pk}`, sky: null, small: null, tables: outing.kit.tables };
    original = { bytes, name: file.name };
  }
  const size = picture && [picture.width, picture.height],
    made = JSON.parse(await rules.call("fresh", JSON.stringify({ title, kit, size, shot, choice, view })));
  const scene = { ...made, pk, stamp: 0, head: null, outing: outing.pk, zone: outing.zone, picture };
  await store.keepNew(outing.pk, scene, light, original);
  return pk;
}
