// A sign-in that ended in the middle of the work: asked for in place, and what was under way is done then.
const dialog = document.getElementById("sign-in-again");

let waiting = null;
// Resolves with true when somebody signed in again, false when they closed the dialog or there is none.
export function signInAgain() {
  if (!dialog) return Promise.resolve(false);
  return (waiting ??= ask().finally(() => (waiting = null)));
}

function ask() {
  const form = dialog.querySelector("form"),
    problem = form.querySelector(".problem");
  return new Promise((done) => {
    const send = async (event) => {
      event.preventDefault();
      const answer = await fetch(form.action, {
        method: "POST",
        headers: { "HX-Request": "true", "X-CSRFToken": token() },
        body: new URLSearchParams(new FormData(form)),
      }).catch(() => null);
      const said = await answer?.json().catch(() => null);
      if (answer?.ok && said?.token) {
        document.body.setAttribute("hx-headers", JSON.stringify({ "X-CSRFToken": said.token }));
        for (const each of document.querySelectorAll("[name=csrfmiddlewaretoken]")) each.value = said.token;
        close(true);
      } else {
        problem.textContent = said?.problem ?? "The server does not answer. Try again.";
        problem.hidden = false;
      }
    };
    const left = () => close(false);
    function close(is) {
      form.removeEventListener("submit", send);
      dialog.removeEventListener("close", left);
      form.querySelector("[name=password]").value = "";
      problem.hidden = true;
      if (dialog.open) dialog.close();
      done(is);
    }
    form.addEventListener("submit", send);
    dialog.addEventListener("close", left);
    dialog.showModal();
    form.querySelector("[name=password]").focus();
  });
}

const token = () => JSON.parse(document.body.getAttribute("hx-headers"))["X-CSRFToken"];

// A part of a page that its own script sends: sent again once somebody is signed in.
document.addEventListener("htmx:responseError", async (event) => {
  if (event.detail.xhr?.status !== 401) return;
  const form = event.detail.elt?.closest("form") ?? event.detail.elt;
  if (await signInAgain()) window.htmx.trigger(form, form.tagName === "FORM" ? "submit" : "click");
});
