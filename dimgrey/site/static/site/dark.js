// Runs before anything is drawn: a person who chose no look gets the one that the device is set to.
const root = document.documentElement;
if (root.dataset.mode === "auto") {
  const dark = matchMedia("(prefers-color-scheme: dark)");
  const follow = () => (root.dataset.mode = dark.matches ? "dark" : "plain");
  dark.addEventListener("change", follow);
  follow();
}
