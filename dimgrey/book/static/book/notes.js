// Words of the job explained in place: the first use of each on a page opens a short note, as the book has it.
const book = document.querySelector("[data-terms]");
const PLAIN = "a, button, summary, select, option, textarea, input, svg, script, style, code, pre, dialog, h1, output";
const FIELDS = "label, legend, td, tbody th";
const SKIPPED = `${PLAIN}, ${FIELDS}, [x-text], [data-unmarked], [aria-live], [role=status], [role=img], .hidden-text`;

const forms = new Map(),
  marked = new Set();
let pattern = null;

const escaped = (text) => text.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");

// One pattern of all forms, the longest first, each between what is no letter.
function patternOf(terms) {
  const all = terms.flatMap((term) => term.forms.map((form) => [form, term]));
  for (const [form, term] of all) forms.set(form.toLowerCase(), term);
  const words = all.map(([form]) => escaped(form)).sort((a, b) => b.length - a.length);
  return new RegExp(`(?<![\\p{L}\\p{N}-])(?:${words.join("|")})(?![\\p{L}\\p{N}-])`, "giu");
}

// The first place in a text where a term stands that is not marked yet.
function firstIn(text) {
  for (const found of text.matchAll(pattern)) {
    const term = forms.get(found[0].toLowerCase());
    const isMeant = !term.exact || term.forms.includes(found[0]);
    if (isMeant && !marked.has(term.name)) return { term, at: found.index, word: found[0] };
  }
  return null;
}

function mark(node) {
  for (let found = firstIn(node.data); found; found = firstIn(node.data)) {
    const { term, at, word } = found,
      made = document.createElement("span");
    marked.add(term.name);
    const isAlone = node.parentElement.textContent.trim().length === word.length;
    made.className = isAlone ? "word word-alone" : "word";
    made.tabIndex = 0;
    made.setAttribute("role", "button");
    made.dataset.term = term.name;
    const rest = node.splitText(at);
    made.append(word);
    rest.data = rest.data.slice(word.length);
    rest.before(made);
    node = rest;
  }
}

const isShown = (element) => element.checkVisibility?.({ visibilityProperty: true }) ?? true;

function markAll() {
  marked.clear();
  for (const made of document.querySelectorAll(".word")) marked.add(made.dataset.term);
  const main = document.getElementById("main") ?? document.body,
    walker = document.createTreeWalker(main, NodeFilter.SHOW_TEXT),
    nodes = [];
  while (walker.nextNode()) nodes.push(walker.currentNode);
  for (const node of nodes) {
    if (!node.data.trim() || node.parentElement.closest(SKIPPED) || node.parentElement.closest(".word")) continue;
    if (firstIn(node.data) && isShown(node.parentElement)) mark(node);
  }
}

// --- the note
const note = document.createElement("div");
note.id = "word-note";
note.popover = "auto";
note.setAttribute("role", "dialog");
note.setAttribute("aria-labelledby", "word-note-title");

function tell(made) {
  const term = [...forms.values()].find(({ name }) => name === made.dataset.term),
    title = document.createElement("strong"),
    text = document.createElement("p"),
    link = document.createElement("a");
  title.id = "word-note-title";
  title.textContent = term.name[0].toUpperCase() + term.name.slice(1);
  text.textContent = term.text;
  link.href = `${book.dataset.glossary}#${term.anchor}`;
  link.textContent = "In the book";
  note.replaceChildren(title, text, ...(book.dataset.glossary ? [link] : []));
  note.showPopover();
  const word = made.getBoundingClientRect(),
    { width, height } = note.getBoundingClientRect(),
    isBelow = word.bottom + height + 12 < window.innerHeight;
  note.style.left = `${Math.max(8, Math.min(word.left, window.innerWidth - width - 8))}px`;
  note.style.top = `${isBelow ? word.bottom + 6 : Math.max(8, word.top - height - 6)}px`;
}

function asked(event) {
  if (event.key === "Escape" && note.matches(":popover-open")) {
    note.hidePopover();
    event.stopPropagation();
    return;
  }
  const made = event.target.closest?.(".word");
  if (!made || (event.type === "keydown" && !["Enter", " "].includes(event.key))) return;
  event.preventDefault();
  event.stopPropagation();
  tell(made);
}

export function explain(terms) {
  pattern = patternOf(terms);
  document.body.append(note);
  markAll();
  document.addEventListener("click", asked, true);
  document.addEventListener("keydown", asked, true);
  document.addEventListener("htmx:afterSettle", markAll);
  document.addEventListener("toggle", (event) => event.target.matches("details") && markAll(), true);
}

if (book) {
  try {
    const answer = await fetch(book.dataset.terms);
    if (answer.ok) explain(await answer.json());
  } catch {
    // No network: the page says the same without notes.
  }
}
