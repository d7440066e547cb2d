// A slider on compensation shows the grey that a metered tone gets; the core says which.
const figure = document.querySelector("[data-patch]");
const range = figure?.querySelector("input");
range?.addEventListener("input", async () => {
  const answer = await fetch(`${figure.dataset.patch}?compensation=${range.value}`);
  if (!answer.ok) return;
  const told = await answer.json();
  figure.querySelector("[data-grey]").setAttribute("fill", told.grey);
  figure.querySelector("output").textContent = `${told.stops}: zone ${told.zone}`;
});
