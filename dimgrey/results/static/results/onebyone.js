import { noRoomFor } from "../pictures/room.js";

// Several files are sent one after another, with progress; without this script they go as one form.
const form = document.querySelector("form[data-one-by-one]");
form?.addEventListener("submit", async (event) => {
  const files = [...form.querySelector("input[type=file]").files];
  if (files.length < 2 || form.querySelector("[data-together]")) return;
  event.preventDefault();
  const told = form.querySelector("[data-progress]");
  told.hidden = false;
  const full = await noRoomFor(files);
  if (full) return void (told.textContent = full);
  const refused = [];
  for (const [k, file] of files.entries()) {
    told.textContent = `${k + 1} of ${files.length}: ${file.name}`;
    const data = new FormData(form);
    data.delete("files");
    data.append("files", file);
    data.append("group", "1");
    const answer = await fetch(form.action, { method: "POST", body: data, headers: { Accept: "application/json" } });
    if (!answer.ok) refused.push(await answer.text());
  }
  if (refused.length) told.textContent = refused.join(" ");
  else window.location.reload();
});
