// The rules: Python in a worker, running the core as it lies on the server. It answers calls in their order.
// By a name of its own, or the store of static files takes it for a file of ours.
const ENTRY = "dimgrey.core.field.entry",
  HOME = "/home/pyodide";
let python = null,
  entry = null;

// --- memory: what stands in Python's memory once the core is loaded, kept so that the next start only reads it back --

const request = (made) =>
  new Promise((done, refuse) => {
    made.onsuccess = () => done(made.result);
    made.onerror = () => refuse(made.error);
  });

async function memories(mode) {
  const opening = indexedDB.open("dimgrey-rules", 1);
  opening.onupgradeneeded = () => opening.result.createObjectStore("memory");
  return (await request(opening)).transaction("memory", mode).objectStore("memory");
}

const recalled = async (version) => (await request((await memories("readonly")).get(version))) ?? null;
const forgotten = async () => request((await memories("readwrite")).clear());

// Only one stays: that of this version.
async function kept(version, memory) {
  const store = await memories("readwrite");
  store.clear();
  return request(store.put(memory, version));
}

async function loaded(runtime, core, more = {}) {
  const { loadPyodide } = await import(new URL("pyodide.mjs", runtime).href);
  python = await loadPyodide({ indexURL: runtime, ...more });
  const answer = await fetch(core);
  if (!answer.ok) throw new Error(`core ${answer.status}`);
  python.unpackArchive(await answer.arrayBuffer(), "zip", { extractDir: HOME });
}

// version: of runtime, core and this script, "" where no memory is wanted. make: keep one for the next start.
// Answers where it came from.
async function start({ runtime, core, version = "", make = false }) {
  const memory = version && !make ? await recalled(version).catch(() => null) : null;
  if (memory) {
    try {
      await loaded(runtime, core, { _loadSnapshot: memory });
      entry = python.pyimport(ENTRY);
      return "memory";
    } catch {
      await forgotten().catch(() => {}); // whatever is wrong with it, the files are there
    }
  }
  await loaded(runtime, core, { _makeSnapshot: make });
  if (make) {
    // Nothing of the page's may be held in it: the door is opened after it was taken.
    python.runPython(`import ${ENTRY}\n${ENTRY}.warm()`);
    await kept(version, python.makeMemorySnapshot());
  }
  entry = python.pyimport(ENTRY);
  return "files";
}

// Bytes go in and come out as they are; all else is text and numbers.
const plain = (value) => (value instanceof Uint8Array ? python.toPy(value) : value);
function bytesOf(proxy) {
  const bytes = proxy.toJs();
  proxy.destroy();
  return bytes;
}

// The last line of a traceback that says what went wrong.
const sentenceOf = (text) => {
  const lines = text.trim().split("\n");
  return lines.findLast((line) => /^[\w.]*(Error|Exception|NotCarried|Refused)\b/.test(line)) ?? lines.at(-1);
};

self.onmessage = async ({ data: { id, name, args } }) => {
  try {
    const value = name === "start" ? await start(...args) : entry[name](...args.map(plain));
    self.postMessage({ id, value: value?.toJs ? bytesOf(value) : value });
  } catch (failed) {
    self.postMessage({ id, failed: sentenceOf(String(failed.message ?? failed)) });
  }
};
