// What is half typed when the answer to another act brings the sheet anew goes over into the field in its place.

const TYPED = "textarea, input:not([type=hidden], [type=checkbox], [type=radio], [type=file], [type=submit])";
const CHANGING = ["stamp", "csrfmiddlewaretoken"];

// The same form before and after a swap: what it asks for, and of what.
export const sameForm = (form) =>
  [
    form.getAttribute("hx-post"),
    ...[...form.querySelectorAll("input[type=hidden]")]
      .filter((hidden) => !CHANGING.includes(hidden.name))
      .map((hidden) => `${hidden.name}=${hidden.value}`),
  ].join(" ");

// A browser reports no change of what a script wrote: leaving the field does, where nothing else has sent it.
function sendOnLeaving(field) {
  let sent = false;
  const told = () => (sent = true);
  field.addEventListener("change", told, { once: true });
  field.form.addEventListener("submit", told, { once: true });
  field.addEventListener(
    "blur",
    () => sent || !field.isConnected || field.dispatchEvent(new Event("change", { bubbles: true })),
    { once: true },
  );
}

export function halfTyped() {
  let held = [];
  return {
    // done: the act that was just kept, {form, values}, whose words are typed no longer; none for one that was refused.
    hold(sheet, done) {
      const form = done?.form && sameForm(done.form);
      for (const field of sheet.querySelectorAll(TYPED)) {
        if (!field.form || field.value === field.defaultValue) continue;
        const of = sameForm(field.form);
        if (of === form && done.values.get(field.name) === field.value) continue;
        const caret = document.activeElement === field && [field.selectionStart, field.selectionEnd];
        held.push({ of, name: field.name, value: field.value, caret });
      }
    },
    // An editor that is fetched after the swap finds its words later.
    giveBack(part) {
      held = held.filter(({ of, name, value, caret }) => {
        const field = [...part.querySelectorAll(TYPED)].find(
          (each) => each.name === name && each.form && sameForm(each.form) === of,
        );
        if (!field) return true;
        field.value = value;
        if (caret) sendOnLeaving(field);
        if (caret && caret[0] !== null) {
          field.focus({ preventScroll: true });
          field.setSelectionRange(...caret);
        }
        return false;
      });
    },
  };
}
