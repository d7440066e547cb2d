// The simulated camera: what is set is seen at once, as on a screen on its back. The camera sends its frames, one at a
// time.
document.addEventListener("alpine:init", () => {
  window.Alpine.data("camera", () => ({
    waiting: false,
    again: false,
    async ask() {
      for (const range of this.$root.querySelectorAll("input[type=range]"))
        range.parentElement.querySelector("output").textContent = range.value;
      if (this.waiting) {
        this.again = true;
        return;
      }
      this.waiting = true;
      try {
        const answer = await fetch(`${this.$root.dataset.live}?${new URLSearchParams(new FormData(this.$root))}`);
        if (answer.ok)
          window.htmx.swap(document.getElementById("finder"), await answer.text(), { swapStyle: "innerHTML" });
      } catch {
        /* the last frame stays; the button asks again and says that the server is away */
      }
      this.waiting = false;
      if (this.again) {
        this.again = false;
        this.ask();
      }
    },
  }));
});
