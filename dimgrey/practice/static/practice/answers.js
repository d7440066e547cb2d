// Answers wait in the page until the server has them, each person's by themselves, so a lost network loses none.
const MOST_AT_ONCE = 100;
const place = document.querySelector("[data-answers-to]");
const KEY = `dimgrey-answers-${place?.dataset.person}`;

export const waiting = () => JSON.parse(localStorage.getItem(KEY) || "[]");
const keep = (answers) => localStorage.setItem(KEY, JSON.stringify(answers));

async function sent(answers) {
  const body = new FormData();
  body.append("csrfmiddlewaretoken", place.querySelector("[name=csrfmiddlewaretoken]").value);
  body.append("answers", JSON.stringify(answers));
  const answer = await fetch(place.dataset.answersTo, { method: "POST", body, redirect: "error" });
  // What the server cannot take will not get better by waiting.
  return answer.ok || answer.status === 422;
}

// Sends what waits, the oldest first; resolves when there is nothing left or no network.
let going = null;
const sendAll = async () => {
  try {
    for (let first = waiting().slice(0, MOST_AT_ONCE); first.length; first = waiting().slice(0, MOST_AT_ONCE)) {
      if (!navigator.onLine || !(await sent(first))) return;
      const acts = new Set(first.map(({ act }) => act));
      keep(waiting().filter(({ act }) => !acts.has(act)));
    }
  } catch {
    // No network: they wait.
  }
};
export function send() {
  going ??= sendAll().finally(() => (going = null));
  return going;
}

export function add(answer) {
  keep([...waiting(), answer]);
  send();
}

if (place) {
  window.addEventListener("online", send);
  send();
}
