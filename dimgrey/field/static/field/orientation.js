// Where the back of a phone looks, from its orientation angles, however it is held. Source: W3C, Device Orientation
// Event Specification, the device's frame turned by alpha about z, then beta about x, then gamma about y.
const RADIANS = Math.PI / 180;

// alpha, beta, gamma in degrees; absolute: alpha counts from north. Returns {heading_deg, tilt_deg}, each where known.
export function looksAlong({ alpha, beta, gamma, absolute } = {}) {
  if (beta === null || beta === undefined || gamma === null || gamma === undefined) return {};
  const [b, g] = [beta * RADIANS, gamma * RADIANS],
    tilt = Math.asin(Math.max(Math.min(-Math.cos(b) * Math.cos(g), 1), -1)) / RADIANS,
    found = { tilt_deg: Math.round(tilt) + 0 };
  if (!absolute || alpha === null || alpha === undefined) return found;
  const a = alpha * RADIANS,
    east = -(Math.cos(a) * Math.sin(g) + Math.sin(a) * Math.sin(b) * Math.cos(g)),
    north = -(Math.sin(a) * Math.sin(g) - Math.cos(a) * Math.sin(b) * Math.cos(g));
  // Straight up or down there is no heading.
  const heading = Math.round(Math.atan2(east, north) / RADIANS + 360) % 360;
  if (Math.hypot(east, north) > 1e-3) found.heading_deg = heading;
  return found;
}
