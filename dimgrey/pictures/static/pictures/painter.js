// The painter: turns a picture's light map into grey with the core's tables, on the graphics processor or on a plain
// canvas. It multiplies and looks up; every rule and every table comes from the server.

const cache = new Map();

function once(url, make) {
  if (!cache.has(url)) {
    const made = make(url);
    made.catch(() => cache.delete(url));
    cache.set(url, made);
  }
  return cache.get(url);
}

async function inflated(bytes) {
  const stream = new Blob([bytes]).stream().pipeThrough(new DecompressionStream("deflate"));
  return new Uint8Array(await new Response(stream).arrayBuffer());
}

const unwrapped = (text) => inflated(Uint8Array.from(atob(text), (c) => c.charCodeAt(0)));

// A map comes in pieces, small ones while the line is slow, and none is asked for while somebody waits for something
// else.
const FIRST_PIECE = 32 * 1024,
  QUICK_MS = 400,
  PAUSE_MS = 60;
let waiting = 0;

// The line belongs to what was asked for by hand until that is there.
export async function first(work) {
  waiting++;
  try {
    return await work();
  } finally {
    waiting--;
  }
}

async function fetchPieces(url) {
  const pieces = [];
  for (let from = 0, size = FIRST_PIECE, whole = Infinity; from < whole; ) {
    while (waiting) await new Promise((done) => setTimeout(done, PAUSE_MS));
    const start = performance.now(),
      answer = await fetch(url, { headers: { Range: `bytes=${from}-${from + size - 1}` } });
    if (!answer.ok) throw new Error(`map ${answer.status}`);
    const piece = new Uint8Array(await answer.arrayBuffer());
    pieces.push(piece);
    if (answer.status === 200) break; // the whole of it, from a cache or a server that knows no pieces
    whole = Number(answer.headers.get("Content-Range").split("/")[1]);
    from += piece.length;
    if (performance.now() - start < QUICK_MS) size *= 2;
  }
  return new Blob(pieces).arrayBuffer();
}

// A packed map: a head of version, width and height, then planes of differences.
const fetchMap = async (url) => mapFrom(await fetchPieces(url));

// A map as it is painted from, of its bytes.
export async function mapFrom(data) {
  const [, width, height] = new Uint16Array(data, 0, 3);
  const flat = await inflated(data.slice(6)),
    size = width * height,
    count = flat.length / size;
  const pixels = count === 4 ? new Uint8Array(size * 4) : new Uint8Array(size);
  for (let plane = 0; plane < count; plane++) {
    for (let k = 0, sum = 0, from = plane * size; k < size; k++) {
      sum = (sum + flat[from + k]) & 255;
      pixels[k * count + plane] = sum;
    }
  }
  return { width, height, pixels };
}

export const mapOf = (url) => once(url, fetchMap);

export async function stopsOf(text, steps) {
  const bytes = await unwrapped(text);
  return Float32Array.from(new Int16Array(bytes.buffer), (v) => v / steps);
}

async function fetchTables(url) {
  const answer = await fetch(url);
  if (!answer.ok) throw new Error(`tables ${answer.status}`);
  return tablesFrom(await answer.json());
}

// Tables as the painter looks them up, of plain values as the core sends them.
export async function tablesFrom(told) {
  const { chain, polarizer, graduated, tableSteps } = told;
  return {
    ...told,
    grey: await unwrapped(told.tones.grey),
    nodes: await stopsOf(chain.stops, tableSteps),
    field: polarizer && (await stopsOf(polarizer.stops, tableSteps)),
    rows: graduated && (await stopsOf(graduated.stops, tableSteps)),
  };
}

export const tablesOf = (url) => once(url, fetchTables);

const VERTEX = `#version 300 es
void main() { gl_Position = vec4(vec2((gl_VertexID << 1) & 2, gl_VertexID & 2) * 2.0 - 1.0, 0.0, 1.0); }`;

const FRAGMENT = `#version 300 es
precision highp float; precision highp int; precision highp sampler2D;
uniform sampler2D light, sky, nodes, grey, field, rows;
uniform vec2 canvas; uniform vec3 luminance, weights, skyWeights; uniform int nodeCount; uniform ivec2 ends, fieldSize;
uniform float gain, floorShare, darkest, leastSky, crossed, slide; uniform bool mixes, hasSky, hasField, hasRows;
out vec4 colour;
float stopsAt(vec2 place) {
  vec2 at = place * float(nodeCount - 1); ivec2 k = min(ivec2(at), ivec2(nodeCount - 2)); vec2 u = at - vec2(k);
  float a = texelFetch(nodes, k.yx, 0).r, b = texelFetch(nodes, k.yx + ivec2(1, 0), 0).r;
  float c = texelFetch(nodes, k.yx + ivec2(0, 1), 0).r, d = texelFetch(nodes, k.yx + ivec2(1, 1), 0).r;
  return mix(mix(a, b, u.y), mix(c, d, u.y), u.x);
}
float fieldAt(vec2 at) {
  vec2 p = at * vec2(fieldSize) - 0.5; ivec2 k = clamp(ivec2(floor(p)), ivec2(0), fieldSize - 2);
  vec2 u = clamp(p - vec2(k), 0.0, 1.0);
  float a = texelFetch(field, k, 0).r, b = texelFetch(field, k + ivec2(1, 0), 0).r;
  float c = texelFetch(field, k + ivec2(0, 1), 0).r, d = texelFetch(field, k + ivec2(1, 1), 0).r;
  return mix(mix(a, b, u.x), mix(c, d, u.x), u.y);
}
vec3 hueAt(vec2 p) {
  p = clamp(p, 1e-4, 1.0 - 1e-4);
  vec3 c = vec3(p.x * (1.0 - p.y), (1.0 - p.x) * (1.0 - p.y), (1.0 - p.x) * p.y); float whole = 1.0 + 3.0 * floorShare;
  c *= whole / dot(c, luminance);
  return max(c - floorShare / whole * (c.r + c.g + c.b), 0.0);
}
void main() {
  vec2 at = vec2(gl_FragCoord.x, canvas.y - gl_FragCoord.y) / canvas;
  uvec4 p = uvec4(texelFetch(light, ivec2(at * vec2(textureSize(light, 0))), 0) * 255.0 + 0.5);
  float y = uintBitsToFloat((p.r << 24) | (p.g << 16) | 0x8000u);
  vec2 f = clamp((vec2(p.ba) - 128.0) / 128.0, -0.9999, 0.9999);
  vec2 ratio = exp2(4.0 * atanh(f)), place = ratio / (1.0 + ratio);
  float g = exp2(stopsAt(place));
  if (mixes) g *= max(dot(hueAt(place), weights), darkest);
  float share = texelFetch(sky, ivec2(at * vec2(textureSize(sky, 0))), 0).r;
  if (hasSky && !mixes) g = mix(g, max(dot(hueAt(place), skyWeights), leastSky), share);
  if (hasField) g *= 1.0 + share * crossed * (exp2(fieldAt(at)) - 1.0);
  int row = clamp(int(floor((at.y - slide) * float(textureSize(rows, 0).x))), 0, textureSize(rows, 0).x - 1);
  if (hasRows) g *= exp2(texelFetch(rows, ivec2(row, 0), 0).r);
  int k = clamp(int(floatBitsToUint(y * g * gain) >> 16) - ends.x, 0, ends.y - ends.x - 1);
  colour = vec4(vec3(texelFetch(grey, ivec2(k & 511, k >> 9), 0).r), 1.0);
}`;

function program(gl) {
  const made = gl.createProgram();
  for (const [kind, source] of [
    [gl.VERTEX_SHADER, VERTEX],
    [gl.FRAGMENT_SHADER, FRAGMENT],
  ]) {
    const shader = gl.createShader(kind);
    gl.shaderSource(shader, source);
    gl.compileShader(shader);
    if (!gl.getShaderParameter(shader, gl.COMPILE_STATUS)) throw new Error(gl.getShaderInfoLog(shader));
    gl.attachShader(made, shader);
  }
  gl.linkProgram(made);
  if (!gl.getProgramParameter(made, gl.LINK_STATUS)) throw new Error(gl.getProgramInfoLog(made));
  return made;
}

// One surface to paint on. A part says what is painted where: { light, sky, tables, shift, from, to }, of the width;
// top, bottom: of the height, all of it when they are not said.
// Where a hand moves glass, crossed: how much of a crossed polarizer's effect; slide: how far graduated edges go down.
class Glass {
  constructor(canvas) {
    const gl = canvas.getContext("webgl2", { alpha: false, antialias: false, preserveDrawingBuffer: true });
    if (!gl) throw new Error("no WebGL 2");
    this.gl = gl;
    this.made = program(gl);
    gl.useProgram(this.made);
    gl.bindVertexArray(gl.createVertexArray());
    gl.pixelStorei(gl.UNPACK_ALIGNMENT, 1);
    this.textures = new Map();
    this.bound = [];
    this.at = new Map();
  }

  uniform(name) {
    if (!this.at.has(name)) this.at.set(name, this.gl.getUniformLocation(this.made, name));
    return this.at.get(name);
  }

  // A texture stays until other data come for its unit.
  texture(unit, name, width, height, kind, data) {
    const { gl } = this;
    gl.activeTexture(gl.TEXTURE0 + unit);
    if (this.textures.get(unit) === data) return;
    const [inner, format, type] = {
      rgba: [gl.RGBA8, gl.RGBA, gl.UNSIGNED_BYTE],
      byte: [gl.R8, gl.RED, gl.UNSIGNED_BYTE],
      float: [gl.R32F, gl.RED, gl.FLOAT],
    }[kind];
    gl.deleteTexture(this.bound[unit]);
    gl.bindTexture(gl.TEXTURE_2D, (this.bound[unit] = gl.createTexture()));
    gl.texImage2D(gl.TEXTURE_2D, 0, inner, width, height, 0, format, type, data);
    gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MIN_FILTER, gl.NEAREST);
    gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MAG_FILTER, gl.NEAREST);
    this.textures.set(unit, data);
    gl.uniform1i(this.uniform(name), unit);
  }

  paint(parts, width, height) {
    const { gl } = this;
    if (gl.canvas.width !== width || gl.canvas.height !== height) Object.assign(gl.canvas, { width, height });
    gl.viewport(0, 0, width, height);
    gl.enable(gl.SCISSOR_TEST);
    for (const part of parts) {
      const left = Math.round(part.from * width),
        [top, bottom] = rowsOf(part, height);
      gl.scissor(left, height - bottom, Math.round(part.to * width) - left, bottom - top);
      this.set(part, width, height);
      gl.drawArrays(gl.TRIANGLES, 0, 3);
    }
  }

  set({ light, sky, tables, shift, crossed, slide }, width, height) {
    const { gl } = this,
      { chain, tones, polarizer, graduated } = tables,
      set = (kind, name, ...values) => gl[`uniform${kind}`](this.uniform(name), ...values);
    this.texture(0, "light", light.width, light.height, "rgba", light.pixels);
    this.texture(1, "sky", sky.width, sky.height, "byte", sky.pixels);
    this.texture(2, "nodes", chain.nodes, chain.nodes, "float", tables.nodes);
    this.texture(3, "grey", 512, tables.grey.length / 512, "byte", tables.grey);
    this.texture(4, "field", polarizer?.columns ?? 1, polarizer?.rows ?? 1, "float", tables.field ?? NONE);
    this.texture(5, "rows", graduated?.steps ?? 1, 1, "float", tables.rows ?? NONE);
    set("2f", "canvas", width, height);
    set("3f", "luminance", ...tables.luminance);
    set("3f", "weights", ...(chain.weights ?? [0, 0, 0]));
    set("3f", "skyWeights", ...(chain.sky ?? [0, 0, 0]));
    set("1i", "nodeCount", chain.nodes);
    set("2i", "ends", tones.first, tones.last);
    set("2i", "fieldSize", polarizer?.columns ?? 2, polarizer?.rows ?? 2);
    set("1f", "gain", 2 ** (shift / tables.slope));
    set("1f", "floorShare", tables.floor);
    set("1f", "crossed", crossed ?? polarizer?.crossed ?? 0);
    set("1f", "slide", slide ?? 0);
    set("1f", "darkest", tables.darkest);
    set("1f", "leastSky", tables.leastSky);
    set("1i", "mixes", chain.weights ? 1 : 0);
    set("1i", "hasSky", sky.width > 1 ? 1 : 0);
    set("1i", "hasField", polarizer && sky.width > 1 ? 1 : 0);
    set("1i", "hasRows", graduated ? 1 : 0);
  }

  // Calls back when the frame is really there: the processor draws on its own time.
  finished(call) {
    const { gl } = this,
      sync = gl.fenceSync(gl.SYNC_GPU_COMMANDS_COMPLETE, 0);
    gl.flush();
    const ask = () => {
      if (gl.clientWaitSync(sync, 0, 0) === gl.TIMEOUT_EXPIRED) {
        setTimeout(ask, 1);
        return;
      }
      gl.deleteSync(sync);
      call();
    };
    ask();
  }
}
const NONE = new Float32Array(1);

// The same sums without a graphics processor. Chromaticity has 65,536 codes: their gains are tabulated once a view.
class Plain {
  constructor(canvas) {
    this.canvas = canvas;
    this.context = canvas.getContext("2d", { alpha: false });
    this.gains = new WeakMap();
  }

  gainsOf(tables, ofSky) {
    const known = this.gains.get(tables) ?? {};
    this.gains.set(tables, known);
    return (known[ofSky] ??= codes(tables, ofSky));
  }

  paint(parts, width, height) {
    if (this.canvas.width !== width || this.canvas.height !== height) Object.assign(this.canvas, { width, height });
    const image = this.context.createImageData(width, height),
      out = new Uint32Array(image.data.buffer);
    for (const part of parts) this.part(part, out, width, height);
    this.context.putImageData(image, 0, 0);
  }

  part(part, out, width, height) {
    const { light, sky, tables, shift, crossed, slide, from, to } = part,
      [top, bottom] = rowsOf(part, height);
    const gains = this.gainsOf(tables, false),
      skies = sky.width > 1 && !tables.chain.weights ? this.gainsOf(tables, true) : null,
      { first, last } = tables.tones,
      whole = 2 ** (shift / tables.slope),
      turned = crossed ?? tables.polarizer?.crossed ?? 0,
      bits = new Uint32Array(1),
      value = new Float32Array(bits.buffer);
    const [left, right] = [Math.round(from * width), Math.round(to * width)];
    for (let row = top; row < bottom; row++) {
      const y = Math.floor(((row + 0.5) / height) * light.height),
        sy = Math.floor(((row + 0.5) / height) * sky.height),
        across = whole * (tables.rows ? 2 ** rowAt(tables.rows, (row + 0.5) / height - (slide ?? 0)) : 1);
      for (let column = left; column < right; column++) {
        const k = 4 * (y * light.width + Math.floor(((column + 0.5) / width) * light.width)),
          p = light.pixels;
        const code = (p[k + 2] << 8) | p[k + 3];
        bits[0] = (p[k] << 24) | (p[k + 1] << 16) | 0x8000;
        let gain = gains[code];
        if (sky.width > 1) {
          const share = sky.pixels[sy * sky.width + Math.floor(((column + 0.5) / width) * sky.width)] / 255;
          if (share && skies) gain += share * (skies[code] - gain);
          if (share && tables.field)
            gain *= 1 + share * turned * (2 ** fieldAt(tables, (column + 0.5) / width, (row + 0.5) / height) - 1);
        }
        value[0] *= gain * across;
        const grey = tables.grey[Math.min(Math.max((bits[0] >>> 16) - first, 0), last - first - 1)];
        out[row * width + column] = 0xff000000 | (grey << 16) | (grey << 8) | grey;
      }
    }
  }

  finished(call) {
    call();
  }
}

const rowsOf = ({ top = 0, bottom = 1 }, height) => [Math.round(top * height), Math.round(bottom * height)];

const rowAt = (rows, y) => rows[Math.min(Math.max(Math.floor(y * rows.length), 0), rows.length - 1)];

function codes(tables, ofSky) {
  const { nodes: n, weights, sky } = tables.chain,
    made = new Float32Array(65536),
    side = Float64Array.from({ length: 256 }, (_, k) => {
      const ratio = 2 ** (4 * Math.atanh(Math.min(Math.max((k - 128) / 128, -0.9999), 0.9999)));
      return ratio / (1 + ratio);
    });
  for (let a = 0; a < 256; a++)
    for (let b = 0; b < 256; b++) {
      const hue = ofSky || weights ? hueAt(tables, side[a], side[b]) : null,
        dot = (w) => hue[0] * w[0] + hue[1] * w[1] + hue[2] * w[2];
      made[(a << 8) | b] = ofSky
        ? Math.max(dot(sky), tables.leastSky)
        : 2 ** bilinear(tables.nodes, n, side[a] * (n - 1), side[b] * (n - 1)) *
          (weights ? Math.max(dot(weights), tables.darkest) : 1);
    }
  return made;
}

function bilinear(table, n, x, y) {
  const i = Math.min(Math.floor(x), n - 2),
    j = Math.min(Math.floor(y), n - 2),
    [u, v] = [x - i, y - j],
    at = (a, b) => table[a * n + b];
  return (1 - u) * ((1 - v) * at(i, j) + v * at(i, j + 1)) + u * ((1 - v) * at(i + 1, j) + v * at(i + 1, j + 1));
}

function hueAt({ luminance, floor }, x, y) {
  const held = (v) => Math.min(Math.max(v, 1e-4), 1 - 1e-4),
    [p, q] = [held(x), held(y)],
    c = [p * (1 - q), (1 - p) * (1 - q), (1 - p) * q],
    whole = 1 + 3 * floor,
    scale = whole / (c[0] * luminance[0] + c[1] * luminance[1] + c[2] * luminance[2]),
    sum = (c[0] + c[1] + c[2]) * scale;
  return c.map((v) => Math.max(v * scale - (floor / whole) * sum, 0));
}

function fieldAt({ field, polarizer: { rows, columns } }, x, y) {
  const axis = (v, n) => {
    const p = v * n - 0.5,
      k = Math.min(Math.max(Math.floor(p), 0), n - 2);
    return [k, Math.min(Math.max(p - k, 0), 1)];
  };
  const [i, u] = axis(y, rows),
    [j, v] = axis(x, columns),
    at = (a, b) => field[a * columns + b];
  return (1 - u) * ((1 - v) * at(i, j) + v * at(i, j + 1)) + u * ((1 - v) * at(i + 1, j) + v * at(i + 1, j + 1));
}

// How long a frame of the whole picture may take before a smaller one is painted while something moves.
const FRAME_MS = 24;

// A frame that takes longer is drawn by a processor that only plays at graphics; a plain canvas is quicker there.
const PLAYED_MS = 100;

export class Painter {
  // moved: is told of the canvas that takes the first one's place when the plain one is quicker.
  constructor(canvas, plain = false, moved = null) {
    this.canvas = canvas;
    this.moved = moved;
    try {
      if (plain) throw new Error("plain canvas wanted");
      this.surface = new Glass(canvas);
      this.kind = "glass";
    } catch {
      this.surface = new Plain(canvas);
      this.kind = "plain";
    }
    this.cost = 0;
    this.frames = 0;
  }

  // parts: see Glass. moving: something is under the hand, so the frame must not be late.
  paint(parts, moving = false) {
    const { width, height } = parts[0].light,
      share = moving && this.cost > FRAME_MS ? Math.max(Math.sqrt(FRAME_MS / this.cost), 0.2) : 1,
      start = performance.now();
    this.surface.paint(parts, Math.max(Math.round(width * share), 1), Math.max(Math.round(height * share), 1));
    // The first frame also makes ready what the later ones find.
    if (share < 1 || !this.frames++) return;
    this.surface.finished(() => {
      this.cost = performance.now() - start;
      this.canvas.dataset.cost = this.cost.toFixed(1);
      if (this.kind === "glass" && this.cost > PLAYED_MS && this.moved) this.goPlain(parts);
    });
  }

  goPlain(parts) {
    const next = this.canvas.cloneNode(),
      was = this.cost;
    this.canvas.replaceWith(next);
    Object.assign(this, { canvas: next, surface: new Plain(next), kind: "plain", frames: 0, cost: was });
    this.moved(next);
    this.paint(parts);
    this.paint(parts);
  }
}
