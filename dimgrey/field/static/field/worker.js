// The rules: Python in a worker, running the core as it lies on the server. It answers calls in their order.
// By a name of its own, or the store of static files takes it for a file of ours.
const ENTRY = "dimgrey.core.field.entry";
let python = null,
  entry = null;

async function start({ runtime, core }) {
  const { loadPyodide } = await import(new URL("pyodide.mjs", runtime).href);
  python = await loadPyodide({ indexURL: runtime });
  const answer = await fetch(core);
  if (!answer.ok) throw new Error(`core ${answer.status}`);
  python.unpackArchive(await answer.arrayBuffer(), "zip", { extractDir: "/home/pyodide" });
  entry = python.pyimport(ENTRY);
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
