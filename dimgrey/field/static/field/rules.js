// Calls into the worker that runs the core. Until it is ready they wait; the page shows what was prepared meanwhile.
export class Rules {
  // addresses: of the worker's script, of the runtime and of the core. version: of the memory that it may start
  // from, "" for the files alone. make: such a memory is kept for later starts.
  constructor({ worker, runtime, core, version = "", make = false }) {
    this.calls = new Map();
    this.count = 0;
    this.begun = performance.now();
    this.worker = new Worker(worker, { type: "module" });
    this.worker.onmessage = ({ data }) => {
      const { done, refuse } = this.calls.get(data.id);
      this.calls.delete(data.id);
      if (data.failed) refuse(new Error(data.failed));
      else done(data.value);
    };
    this.ready = this.post("start", { runtime, core, version, make }).then((from) => {
      this.from = from;
      this.startedMs = performance.now() - this.begun;
    });
    this.worker.onerror = (event) => {
      for (const { refuse } of this.calls.values()) refuse(new Error(event.message || "the rules cannot be started"));
      this.calls.clear();
    };
  }

  stop() {
    this.worker.terminate();
    for (const { refuse } of this.calls.values()) refuse(new Error("the rules were stopped"));
    this.calls.clear();
  }

  post(name, ...args) {
    const id = ++this.count;
    return new Promise((done, refuse) => {
      this.calls.set(id, { done, refuse });
      this.worker.postMessage({ id, name, args });
    });
  }

  async call(name, ...args) {
    await this.ready;
    return this.post(name, ...args);
  }

  async ask(name, key, question) {
    return JSON.parse(await this.call(name, key, JSON.stringify(question)));
  }
}
